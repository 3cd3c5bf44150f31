package demo

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

const kenpoTechniques = `
courtesy | Bow and introduction | | Name, rank, the day's promise to the partner | heels together; eyes on the examiner; clear voice | looks at the floor; mumbles the rank |
courtesy | Opening of the hall | | Leads the class into line | waits for silence; bows first |
knowledge | Three rules of the mill | | Listen, look, let go | all three in order |
knowledge | When to walk away | | Two answers in own words | a safe answer first |
stance | Ready stance | | Feet level, hands open | feet a shoulder apart; knees soft | knees locked → let them give |
stance | Fighting stance | | Rear foot at an angle | a shoulder wide; guard up; weight even | rear heel flat; guard drops |
stance | Horse stance | | Two shoulders wide | weight even; back straight; knees over feet | leans forward; feet turn out |
stance | Cat step | | Weight on the rear leg | front foot light; could lift it | sways back to lift |
strike | Lead jab | | To the face, with return | hand returns the way it went; chin behind shoulder | hand drops on return; reaches | | jab
strike | Rear cross | | Hip turns the hand | rear heel turns; other hand guards | no hip; guard drops
strike | Palm strike | | Heel of the hand | fingers back; elbow down | fingers bend forward → risk to the wrist
strike | Hammer fist | | Bottom of the fist, downwards | wrist firm; shoulder loose | thumb inside the fist → it breaks
strike | Rear elbow | | Across, hand to own chest | elbow level; stays close | wide swing
strike | Back fist | | Snap and return | wrist turns late | arm stays out
strike | Spear hand | | Straight line | wrist firm; fingers together | wrist bends | Shown to soft targets, never struck
kick | Front kick | | Knee first | knee high; ball of the foot; recoil before the step | no chamber; leans back → weight over the standing foot
kick | Round kick | | Over the pivoting foot | standing foot turns; hip over; recoil | standing foot stays; drops the guard
kick | Side kick | | Heel, edge level | knee across; heel leads; look along the leg | toes lead; falls after it
kick | Back kick | | Look first | looks; knees pass close; heel straight back | turns too far
kick | Jumping front kick | | Other knee first | first knee high; lands soft | stiff landing | Legs strengthened first; clear landing; low before high
block | Low block | | Sweeps past the knee | shoulder stays low; fist a hand from the knee | leans to it
block | High block | | Above the brow | forearm slants; wrist turns late | covers the eyes
block | Inward parry | | Palm, past the shoulder | small; elbow in | chases the hand
block | Double forearm block | | Both arms, one side | elbows close | arms apart
evasion | Slip and fade | | Head off the line, then back | eyes forward; a hand's width | looks away
evasion | Duck under the sack | | Bob and weave | knees bend, not the back; eyes up | bends at the waist
combination | Combination 1 | | lead jab, rear cross | each hand returns; ends in guard
combination | Combination 2 | | lead jab, rear cross, lead round kick low | kick follows without a pause; guard stays
combination | Combination 3 | | slide back lead low block, rear cross | the slide keeps the stance's length
combination | Combination 5 | | rear front kick, lead jab, rear elbow | lands forward; close enough for the elbow
combination | Combination 7 | | slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs, lead hammer fist! | the slide keeps the stance's length; knee high before the kick goes out; checking hand stays on | rear foot crosses too far; leaning away from the kick; check dropped for the last strike
combination | Combination 8 | | lead jab, rear elbow, lead round kick low | no step between; ends able to leave
form | Lower Weir | | 18 moves, a shout on the last | looks before each turn; ends where it began | hurries the turns
form | Upper Weir | | 24 moves, both sides | stances as long at the end as at the start | stances shrink
form | Long Race | | 36 moves with two kicks high | breath marked; recoil on both kicks | kicks drop when tired
self_defence | Ferryman's Hand | | Answers a straight wrist grab | turn to the thumb; step as the hand comes free; strike, then leave | pulls against the fingers | Slow first; agree a tap
self_defence | Bent Reed | | Answers a right front kick | step off the line first; catch nothing; both hands up | grabs at the foot
self_defence | Mill Wheel | | Answers a right step-through punch | inward parry; the wheel of both arms; elbow; step away | elbow called too early; stands in front | Control to light touch; stop on the tap
self_defence | Two Oars | | Answers a two-hand lapel grab | both arms over; elbows down; knee shown, not struck | elbows open | Knee shown, not struck
self_defence | Closing the Sluice | | Answers a left hook | cover; close; turn the shoulder | covers late
self_defence | Falling Sack | | Answers a rear hug | drop the weight; stamp beside the foot; turn out | lifts the shoulders | Breakfalls first; mats
self_defence | Parting the Rushes | | Answers a front choke | chin down; arms through; step and strike | steps straight back | No pressure on the neck in training
breakfall | Back breakfall | | Chin to chest | chin tucked; arms at an angle; breathes out | reaches back with the hand | On mats, from low before high
throw | Low Bridge | | Sweep over the near foot | partner's weight on that foot; holds the sleeve down | sweeps the standing leg
fitness | Press-ups in 60 s | | 18 is sound, 26 is strong | chest a fist from the floor; back straight | hips sag
fitness | Rope, 90 s | | At most three misses | light feet | looks down
sparring | Light sparring | | Touch only, hands and feet above the belt | control; distance; answers after a defence | turns away; too hard | Kit checked before each round
`

const kenpoRungs = `
White belt | belt | #f5f1e8
	Courtesy: Bow and introduction = once
	Stances: Ready stance = 5
	Knowledge: Three rules of the mill = once
Yellow stripe | stage_stripe | #f5f1e8 | 1 #efc231
	Courtesy: Bow and introduction = once; must
	Stances: Ready stance = 5
	Strikes: Lead jab = 5 a side
	Kicks: Front kick = 5 a side
	Blocks: Low block = 5 a side
	Self-defence: Ferryman's Hand as defender = 2 a side
	Fitness: Rope, 90 s = 90 s
Yellow belt | belt | #efc231
	Courtesy: Bow and introduction = once; must
	Stances: Fighting stance = 5 a side
	Strikes: Lead jab = 10 a side
	Strikes: Rear cross = 10 a side
	Kicks: Front kick = 10 a side
	Blocks: High block = 5 a side
	Combinations: Combination 1 = 4 a side
	Self-defence: Ferryman's Hand as defender = 2 a side; must
	Self-defence: Ferryman's Hand as attacker = 2 a side
	Fitness: Press-ups in 60 s = 60 s; (12 is sound)
Orange stripe | stage_stripe | #efc231 | 1 #d9772b
	Stances: Horse stance = 60 s
	Strikes: Palm strike = 10 a side
	Kicks: Round kick = 5 a side
	Blocks: Inward parry = 10 a side
	Combinations: Combination 2 = 4 a side
	Combinations: Combination 3 = 4 a side
	Self-defence: Bent Reed as defender = 2 a side
	Knowledge: When to walk away = once
	Fitness: Rope, 90 s = 90 s
Orange belt | belt | #d9772b
	Courtesy: Bow and introduction = once
	Strikes: Hammer fist = 10 a side
	Strikes: Spear hand = 10 a side
	Kicks: Front kick = 10 a side; lead and rear
	Kicks: Round kick = 10 a side
	Blocks: Low block = 10 a side
	Combinations: Combination 7 = 2 a side; weight 2
	Combinations: Combination 8 = 2 a side
	Forms: Lower Weir = once; must; weight 2
	Self-defence: Mill Wheel as defender = 2 a side; must
	Self-defence: Mill Wheel as attacker = 2 a side
	Self-defence: Two Oars as defender = 2 a side
	Self-defence: Bent Reed as defender = 2 a side
	Sparring: Light sparring = 2 x 60 s, 30 s rest
	Fitness: Press-ups in 60 s = 60 s; bonus
Green stripe | stage_stripe | #d9772b | 1 #2e7d4f
	Strikes: Back fist = 10 a side
	Kicks: Side kick = 5 a side
	Evasions: Slip and fade = 10
	Combinations: Combination 5 = 4 a side
	Self-defence: Closing the Sluice as defender = 2 a side
	Self-defence: Two Oars as attacker = 2 a side
	Self-defence: Back breakfall = 5
	Sparring: Light sparring = 2 x 60 s, 30 s rest
Green belt | belt | #2e7d4f
	Strikes: Rear elbow = 10 a side
	Kicks: Side kick = 10 a side; must
	Evasions: Duck under the sack = 10
	Combinations: Combination 7 = 4 a side
	Forms: Upper Weir = once; must; weight 2
	Self-defence: Falling Sack as defender = 2; must
	Self-defence: Closing the Sluice as attacker = 2 a side
	Sparring: Light sparring = 3 x 60 s, 30 s rest
	Fitness: Press-ups in 60 s = 60 s
Blue belt | belt | #27548f
	Stances: Cat step = 5 a side
	Kicks: Back kick = 10 a side
	Blocks: Double forearm block = 10 a side
	Forms: Upper Weir = once; must; weight 2
	Self-defence: Parting the Rushes as defender = 2 a side; must
	Self-defence: Low Bridge = 3 a side
	Sparring: Light sparring = 3 x 90 s, 30 s rest
	Character: Opening of the hall = once
Brown stripe | rank_stripe | #27548f | 2 #6b4423
	Kicks: Jumping front kick = 5 a side
	Combinations: Combination 8 = 6 a side
	Forms: Long Race = once; weight 2
	Self-defence: Low Bridge = 5 a side
	Sparring: Light sparring = 3 x 90 s, 30 s rest
Brown belt | belt | #6b4423
	Kicks: Jumping front kick = 10 a side
	Forms: Long Race = once; must; weight 3
	Self-defence: Parting the Rushes as attacker = 2 a side
	Self-defence: Falling Sack as defender = 4
	Sparring: Light sparring = 4 x 90 s, 30 s rest
	Fitness: Press-ups in 60 s = 60 s
Black belt | belt | #1b1a1c
	Forms: Long Race = 2; must; weight 3
	Forms: Upper Weir = once; weight 2
	Self-defence: Mill Wheel as defender = 4 a side; must
	Self-defence: Low Bridge = 5 a side; must
	Sparring: Light sparring = 5 x 120 s, 30 s rest
	Knowledge: When to walk away = 3
	Character: Opening of the hall = once
`

const kenpoStudents = `
Ines Okonedo, 11, 26, White belt, 84
Teodor Vance, 10, 25, White belt, 66
Priya Lindqvist, 12, 24, White belt, 70
Malachi Brandt, 9, 22, White belt, 43
Sunniva Aldous, 14, 26, Yellow belt, 93
Osei Farrant, 13, 23, White belt, 64
Juniper Castell, 8, 14, White belt, 60
Rafe Delacroix-Boon, 9, 13, White belt, 72
Wilhelmina Ottaway, 7, 9, White belt, 63
Tobias Nkemelu, 8, 10, White belt, 48
Saskia Brightwater, 10, 18, White belt, 77
Anselm Pikeford, 11, 17, White belt, 46
Leocadia Marsh, 15, 26, Orange belt, 80
Idris Quillfeather, 16, 26, Green belt, 74
Marguerite Stonehouse, 17, 26, Green belt, 88
Kasimir Wold, 24, 26, Blue belt, 79
Philippa Ashdown-Reyes, 31, 26, Brown belt, 90
Bartholomew Finch, 42, 26, Brown stripe, 76
Yusra Hallam, 28, 25, Green belt, 82
Emeric Thorne, 19, 20, White belt, 83
Delphine Okafor-Lund, 22, 16, White belt, 75
Gideon Marlowe, 36, 15, White belt, 50
Zuzanna Petrov, 13, 12, White belt, 69
Hamish Oyelaran, 12, 11, White belt, 45
Beatrix Solheim, 6, 6, White belt, 57
Cosmo Varga, 6, 5, White belt, 62
Fenella Abernathy-Cruz, 7, 4, White belt, 65
Ptolemy Grange, 8, 3, White belt, 59
Odalys Rhee, 9, 2, White belt, 70
Lysander Moss, 33, 1, White belt, 68
`

func kenpo(today civil.Date) Program {
	p := Program{Name: "Kenpo", Rungs: rungs(kenpoRungs), Techniques: techniques(kenpoTechniques), Students: students(kenpoStudents, today)}
	low := []string{"Yellow stripe", "Yellow belt", "Orange stripe", "Orange belt"}
	high := []string{"Green stripe", "Green belt", "Blue belt", "Brown stripe", "Brown belt", "Black belt"}
	three := func() []gradingday.Examiner { return panel("Rosalind Castellane", "Dorothea Duvall", "Marek Moriarty") }
	add := func(name string, days int, stage Stage, rungs []string, most int) {
		p.Gradings = append(p.Gradings, Grading{gradingday.Grading{Name: name, Place: "Upper mill floor", On: today.AddDays(days), Marking: gradingday.MovementScale,
			Policy: scoring.MovementScale(), GroupSize: 3, RetestDays: 28, Examiners: three()}, stage, rungs, most})
	}
	for _, days := range []int{-655, -560, -470, -380, -285, -190, -98} {
		add("", days, Announced, append(append([]string{}, low...), high...), 0)
	}
	add("Autumn grading", -14, Announced, low, 4)
	add("Stripe evening", 0, HalfDone, low, 6)
	add("Winter grading", 18, Prepared, append(append([]string{}, low...), high...), 0)
	return p
}
