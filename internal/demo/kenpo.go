package demo

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/starter"
)

const kenpoRungs = `
White belt | belt | #f5f1e8
	Courtesy
	Bow and introduction, always
	Stances
	Ready stance, 5, until Orange stripe
	Knowledge
	Three rules of the mill, from Questions
	What a tap means, from Questions
	Where a fist may not go, from Questions
Yellow stripe | stage_stripe | #f5f1e8 | 1 #efc231
	@rule months_since 1
	@rule classes 6
	Courtesy
	Bow and introduction, once, must
	Strikes
	Jab, 5 a side, until Green belt
	Palm strike, 5 a side
	Kicks
	Front kick, 5 a side, until Green belt
	Blocks
	Low block, 5 a side
	Self-defence
	Ferryman's Hand, 2 a side, as defender
	Turning the Stone, 2 a side, as defender
	Fitness
	Rope, 60 s
Yellow belt | belt | #efc231
	@rule months_since 1
	@rule classes 6
	@stripe Strikes #b8322c
	@stripe Kicks #27548f
	@stripe Self-defence #1b1a1c
	Stances
	Fighting stance, 5 a side, until Green belt
	Strikes
	Jab, 10 a side
	Cross, 10 a side, until Green belt
	Kicks
	Front kick, 10 a side, 5 a side for Cubs
	Blocks
	High block, 5 a side
	Combinations
	Combination 1, 4 a side, from Old combinations
	Self-defence
	Ferryman's Hand, 2 a side, as defender, must
	Ferryman's Hand, 2 a side, as attacker
	Mill Wheel, 2 a side, as defender
	Knowledge
	When to walk away, from Questions
	Fitness
	Press-ups, 60 s, marks 6=1 12=2 18=3 26=4, 30 s for Cubs (counted with the chest a fist from the floor)
Orange stripe | stage_stripe | #efc231 | 1 #d9772b
	@rule months_since 1
	@rule classes 6
	Stances
	Horse stance, 60 s, 30 s for Cubs
	Strikes
	Palm strike, 10 a side
	Kicks
	Round kick, 5 a side
	Blocks
	Inward parry, 10 a side
	Combinations
	Combination 2, 4 a side, from Old combinations
	Combination 3, 4 a side, from Old combinations
	Self-defence
	Mill Wheel, 2 a side, as defender
	Bent Reed, 2 a side, as defender
	Turning the Stone, 2 a side, as attacker
	Fitness
	Rope, 90 s
Orange belt | belt | #d9772b
	@rule months_since 2
	@rule classes 12
	@rule kit 1
	@rule months_since 3 Cubs
	@kit gloves; shin guards; gum shield
	@sparring hands and feet | front of the body above the belt | touch | clean touches, answered at once
	Strikes
	Hammer fist, 10 a side
	Spear hand, 10 a side
	Kicks
	Round kick, 10 a side
	Blocks
	Low block, 10 a side
	Combinations
	Combination 7, 2 a side, weight 2, not for Cubs, from Old combinations
	Combination 4, 4 a side, from Old combinations
	Forms
	Lower Weir, once, must, weight 2
	Self-defence
	Mill Wheel, 2 a side, as defender, must, stage 2 for Cubs
	Mill Wheel, 2 a side, as attacker
	Two Oars, 2 a side, as defender
	Bent Reed, 2 a side, as defender
	Sparring
	Light sparring, 2 x 60 s, 30 s rest
	Knowledge
	Colours of the ladder, from Questions
	Fitness
	Press-ups, 60 s, bonus, marks 10=1 18=2 26=3 34=4
Green stripe | stage_stripe | #d9772b | 1 #2e7d4f
	@rule months_since 2
	@rule classes 12
	Strikes
	Back fist, 10 a side
	Kicks
	Side kick, 5 a side
	Push kick, 5 a side
	Evasions
	Slip and fade, 10
	Combinations
	Combination 5, 4 a side, from Old combinations
	Forms
	Lower Weir, once
	Self-defence
	Closing the Sluice, 2 a side, as defender
	Two Oars, 2 a side, as attacker
	Two Oars, 2 a side, as defender
	Grain Door, 2 a side, as defender
	Back breakfall, 5
	Sparring
	Light sparring, 2 x 60 s, 30 s rest
Green belt | belt | #2e7d4f
	@rule months_since 2
	@rule classes 12
	@sparring hands and feet | front and sides above the belt, light to the guard | touch | clean touches, combinations
	Stances
	Crane hold, 3 holds of 10 s
	Strikes
	Elbow, 10 a side
	Kicks
	Side kick, 10 a side, must
	Evasions
	Duck under the sack, 10
	Combinations
	Combination 7, 4 a side
	Combination 6, 4 a side, from Old combinations
	Combination 8, 4 a side, from Old combinations
	Forms
	Upper Weir, once, must, weight 2
	Self-defence
	Falling Sack, 2, as defender, must
	Falling Sack, 2, as attacker
	Closing the Sluice, 2 a side, as defender
	Closing the Sluice, 2 a side, as attacker
	Drawn Bucket, 2 a side, as defender, not for Cubs
	Side breakfall, 5 a side
	Sparring
	Light sparring, 3 x 60 s, 30 s rest
	Knowledge
	Before a throw, from Questions
	Fitness
	Press-ups, 60 s
Blue belt | belt | #27548f
	@rule months_since 3
	@rule classes 18
	@rule signed_off 1
	@rule kit 1
	Stances
	Cat step, 5 a side
	Strikes
	Uppercut, 10 a side
	Kicks
	Back kick, 10 a side
	Round kick, 10 a side, on pads, level mid
	Blocks
	Double forearm block, 10 a side
	Outward block, 10 a side
	Combinations
	Combination 9, 4 a side, from Old combinations
	Combination 10, 4 a side, from Old combinations
	Forms
	Upper Weir, once, must, weight 2
	Self-defence
	Parting the Rushes, 2 a side, as defender, must, not for Cubs
	Parting the Rushes, 2 a side, as attacker, not for Cubs
	Heron at the Weir, 2 a side, as defender
	Kicked Gate, 2 a side, as defender
	Low Bridge, 3 a side, not for Cubs
	Sparring
	Light sparring, 3 x 90 s, 30 s rest
	Character
	Helping task, once
Brown stripe | rank_stripe | #27548f | 2 #6b4423
	@rule months_since 4
	@rule classes 24
	@rule classes:Sparring 4
	@rule signed_off 1
	@rule kit 1
	Strikes
	Ridge hand, 10 a side
	Kicks
	Crescent kick, 10 a side
	Jumping front kick, 5 a side, not for Cubs
	Combinations
	Combination 11, 6 a side, from Old combinations
	Forms
	Long Race, once, weight 2
	Self-defence
	Crossing Planks, 2 a side, as defender
	Crossing Planks, 2 a side, as attacker
	Wet Rope, 2 a side, as defender, not for Cubs
	Side Channel, 2 a side, as defender
	Low Bridge, 5 a side, not for Cubs
	Under the Bridge, 2, as defender
	Sparring
	Light sparring, 3 x 90 s, 30 s rest
Brown belt | belt | #6b4423
	@rule months_since 4
	@rule classes 24
	@rule classes:Sparring 4
	@rule signed_off 1
	@rule kit 1
	Strikes
	Knee strike, 10 a side, on pads
	Kicks
	Jumping front kick, 10 a side, not for Cubs
	Jumping round kick, 5 a side, not for Cubs
	Spinning back kick, 5 a side, not for Cubs
	Combinations
	Combination 12, 6 a side, from Old combinations
	Own combinations, 2, free choice
	Forms
	Long Race, once, must, weight 3
	Self-defence
	Falling Sack, 4, as defender
	Miller's Gate, 2 a side, as defender, not for Cubs, not for Juniors
	Miller's Gate, 2 a side, as attacker, not for Cubs, not for Juniors
	Rolling Barrel, 2, as defender
	Gate arm bar, 3 a side, slowly, entry By a counter-grip, entry After redirecting a push, not for Cubs, not for Juniors
	Tilted Sack, 3 a side, not for Cubs
	Sparring
	Light sparring, 4 x 90 s, 30 s rest
	Fitness
	Press-ups, 26 in 60 s
Black belt | belt | #1b1a1c
	@rule months_since 6
	@rule classes 36
	@rule class_share 25
	@rule membership 1
	@rule signed_off 1
	@rule least_age 14
	Combinations
	Combination 14, 6 a side
	Combination 15, 6 a side
	Combination 16, 6 a side
	Own combinations, 4, free choice
	Forms
	Long Race, 2, must, weight 3
	Upper Weir, once, weight 2
	Self-defence
	Mill Wheel, 4 a side, as defender, must
	Ferryman's Hand, 4 a side, as defender, must
	Parting the Rushes, 2 a side, as defender, not for Cubs
	Silent Ferry, 2 a side, as defender, not for Cubs, not for Juniors
	Silent Ferry, 2 a side, as attacker, not for Cubs, not for Juniors
	Broken Thatch, 2 a side, as defender, not for Cubs, not for Juniors
	Low Bridge, 5 a side, must, not for Cubs
	Sparring
	Light sparring, 5 x 120 s, 30 s rest
	Knowledge
	When to walk away, 3, again
	Character
	Opening of the hall, once
	Helping task, once
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
	policy := scoring.MovementScale()
	p := Program{Story: "Children and adults: staged techniques, extensions, stage stripes. Two holes are left for the ladder check to find: the combinations skip number 13, and no rung asks for an answer to a rear choke.",
		Curriculum: starter.Written{Name: "Kenpo", Techniques: kenpoTechniques, Rungs: kenpoRungs, Details: curriculum.ProgramDetails{
			Tracks:   []curriculum.Track{{Name: "Cubs", To: 6, Young: true}, {Name: "Juniors", From: 7, To: 12, Young: true, AllowsRisk: true}, {Name: "Adults", From: 13}},
			Groups:   []curriculum.SampleGroup{{Name: "Old combinations", Draw: 2, Outright: true}, {Name: "Questions", Draw: 1}},
			Commands: []curriculum.Command{{Word: "Line", Meaning: "stand by rank, an arm's length apart"}, {Word: "Guard", Meaning: "fighting stance, hands up"}, {Word: "Mill", Meaning: "begin"}, {Word: "Still", Meaning: "stop where you are"}},
			Counting: []string{"one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"},
			Opening:  []string{"Line up by rank", "The senior bows in", "One breath"}, Closing: []string{"Line up by rank", "Thank the partner", "The senior bows out"},
			Marking: curriculum.MovementScale, Policy: &policy,
		}}.Curriculum(), Students: students(kenpoStudents, today)}
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
	add("Stripe evening", 0, HalfDone, low[1:3], 7)
	evening := &p.Gradings[len(p.Gradings)-1]
	evening.Rings = []gradingday.Ring{{Name: "Mill floor"}, {Name: "Wheel room"}}
	evening.Examiners = rings([]string{"Rosalind Castellane", "Dorothea Duvall", "Marek Moriarty"}, []string{"Ottilie Brannigan", "Imke Sandford", "Ferris Loxley"})
	add("Winter grading", 18, Prepared, append(append([]string{}, low...), high...), 0)
	winter := &p.Gradings[len(p.Gradings)-1]
	winter.Rings, winter.Examiners = evening.Rings, evening.Examiners
	return p
}
