package demo

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/starter"
)

const taekwondoTechniques = `
courtesy | Bow to the hall | gyeongnye
	script: 경례
	look: heels together; eyes down, then up
knowledge | Count to ten | hana … yeol | Count to ten aloud
	look: all ten in order
	answers: hana, dul, set, net, daseot, yeoseot, ilgop, yeodeol, ahop, yeol
knowledge | Five words of the millrace | | Say the five words
	look: all five
	answers: Courtesy, honesty, patience, self-control, courage
stance | Walking stance | ap seogi
	script: 앞서기
	measures: .5 wide, 1.2 long, out 0 20, on 50, bend - 10
	look: a step long; weight even
stance | Long stance | ap gubi
	script: 앞굽이
	measures: 1 wide, 1.5 long, out 0 30, on 67, bend - 0, look rear leg straight; trunk upright
	look: front knee bent; rear leg soft
stance | Rider's stance | juchum seogi
	script: 주춤서기
	also: horse stance
	level: yes
	measures: 2 wide, out 0 0, on 50, bend 60 60
	look: two shoulders wide
	sides: none
stance | Rear stance | dwit gubi
	script: 뒷굽이
	also: back stance
	measures: .1 wide, 1.3 long, out 0 90, on 35, bend - 55, hips 45
	look: feet at a right angle; weight behind
strike | Middle punch | momtong jireugi
	script: 몸통 지르기
	look: other hand back; shoulder down
strike | Double punch | dubeon jireugi
	script: 두번 지르기
	look: no pause between
	on: Middle punch
	is: double
strike | Hand edge | sonnal chigi
	script: 손날 치기
	look: edge of the hand
strike | Back fist drop | deungjumeok chigi
	script: 등주먹 치기
	look: elbow first
strike | Palm heel | batangson
	script: 바탕손
	look: fingers back
strike | Fingertip thrust | pyeonsonkkeut
	script: 편손끝
	look: fingers together
	care: target: shown, not struck
kick | Front snap kick | ap chagi
	drills: At the rail=ten knees, ten snaps; Paper=kick a sheet that is held up==partner
	cues: knee, snap, knee, down
	script: 앞차기
	look: chamber: knee to the chest; extend: ball of the foot; recoil: knee stays up
	faults: leg swings
	surface: basics=ball of the foot, sparring=ball of the foot
kick | Turning kick | dollyeo chagi
	apart: Hook kick=it strikes on the way in, with the instep
	cues: turn the heel, knee points
	script: 돌려차기
	look: pivot: heel turns forward; extend: instep; recoil: folds back
	faults: ! standing foot stays → the knee twists → turn the heel first
	surface: basics=ball of the foot, sparring=instep
	care: surface: instep on pads; never the toes
kick | Side thrust kick | yeop chagi
	script: 옆차기
	look: chamber: knee across; extend: heel
kick | Axe kick | naeryeo chagi
	script: 내려차기
	look: leg long; falls with control
kick | Backward kick | dwi chagi
	script: 뒤차기
	look: looks over the shoulder; heel
kick | Hook kick | huryeo chagi
	script: 후려차기
	look: past the target, then folds
kick | Skipping side kick | | Rear foot replaces the front
	look: no hop upwards
	on: Side thrust kick
	is: skipping
kick | Jumping snap kick | twieo ap chagi
	script: 뛰어 앞차기
	look: other knee first; soft landing
	on: Front snap kick
	is: jumping
	care: jump: low before high; clear landing
	youngest: Youth
kick | Jumping side kick | twieo yeop chagi
	script: 뛰어 옆차기
	look: both knees up; soft landing
	on: Side thrust kick
	is: jumping
	care: jump: legs strengthened first; clear landing
	youngest: Youth
kick | Spinning hook kick | | A full turn
	look: looks before the leg rises
	on: Hook kick
	is: spinning
	care: jump: slowly first; clear space all round
	youngest: Youth
block | Lower block | arae makgi
	script: 아래 막기
	look: fist two hands above the knee
block | Upper block | eolgul makgi
	script: 얼굴 막기
	look: a fist from the brow
block | Inner block | momtong makgi
	script: 몸통 막기
	look: elbow in
block | Hand edge block | sonnal makgi
	script: 손날 막기
	look: rear hand at the chest
block | Wedge block | hecho makgi
	script: 헤쳐 막기
	look: both at once
footwork | Quick slide | | Both feet, one sound
	look: stance keeps its length
combination | Race 1
	part: lead front snap kick mid, rear middle punch
	look: lands in stance
combination | Race 2
	part: rear front snap kick mid, lead double punch
	look: hands after the foot is down
combination | Race 3
	part: right step back, left lower block, right middle punch
	look: hip behind the punch
combination | Race 4
	part: right turning kick mid, left turning kick mid
	look: guard stays
combination | Race 5
	part: slide lead side thrust kick mid, rear middle punch
	look: knee across first
combination | Race 6
	part: step back lead upper block, rear front snap kick mid / lead middle punch
	look: block and kick are two beats
combination | Race 7
	part: rear turning kick mid, switch, rear turning kick high
	look: switch is small
combination | Race 8
	part: lead axe kick high, rear turning kick mid
	look: control on the way down
combination | Race 9
	part: slide back lead inner block, turn cw 180 lead backward kick
	look: looks before the kick
combination | Race 10
	part: skip lead side thrust kick mid, rear turning kick high / slide back
	look: leaves at once
combination | Race 11
	part: rear axe kick high, lead hook kick high / rear middle punch!
	look: balance between the kicks
combination | Race 12
	part: lead turning kick mid, rear backward kick, lead turning kick high!
	look: three kicks, one rhythm
combination | Race 13
	part: lead hand edge block, rear fingertip thrust high / rear turning kick mid, lead double punch
	look: hand work first
combination | Race 14
	part: switch lead turning kick mid, jump rear front snap kick high / lead hook kick high!
	look: lands soft
	care: jump: clear landing
form | First Channel | cheot mulgil
	script: 첫 물길
	part: from ready stance: turn ccw 90 left lower block in left walking stance, step through right middle punch / turn ccw 180 left middle punch in left walking stance, step through right lower block / turn ccw 180 left inner block in left walking stance, step through right inner block / turn ccw 180 right front snap kick mid in left walking stance, left front snap kick mid, step through right middle punch! / left step turn ccw 90, left middle punch in ready stance
	returns: yes
	look: looks before each turn
form | Second Channel | dul mulgil
	script: 둘 물길
	part: from ready stance: turn ccw 90 left upper block in left rear stance, right front snap kick mid, step through right upper block, left front snap kick mid / turn cw 90 left hand edge block in left rear stance, right middle punch / step through right hand edge block, left middle punch! / turn ccw 180 left side thrust kick mid in left rear stance, step through right side thrust kick mid / turn ccw 90 left middle punch in left rear stance, step through right middle punch! / left step turn ccw 90 in ready stance
	returns: yes
	look: stances change cleanly
	on: First Channel
form | Third Channel | set mulgil
	script: 셋 물길
	part: left wedge block in left long stance, right hand edge high / turn cw 180 right wedge block in right long stance, left hand edge high / turn ccw 90 left turning kick high, right turning kick high~ / left back fist drop, right back fist drop / left backward kick, right backward kick!
	look: breath on the wedge
	on: Second Channel
self_defence | Reeds Part | | Against a wrist grab
	attack: right wrist grab, static, front
	watch: stands still
	part: step back left lower block / right middle punch
	look: forearm to the thumb
	care: joint: slowly; let go on the word
	ends: outside
	range: middle
self_defence | Falling Water | | Against a shoulder grab
	attack: right shoulder grab, static, front
	watch: grips cloth
	part: left inner block, right palm heel high
	look: one beat
	ends: outside
	range: middle
self_defence | Stone in the Stream | | Against a step-through punch
	attack: right straight punch, high, step-through, front
	attacker: step through right middle punch high
	watch: reaches; recovers
	part: circle to the left + left upper block; the punch
	part Blue belt: right turning kick mid, left side thrust kick low
	look: the arm rises late
	ends: outside
	range: middle
self_defence | Bend of the River | | Against a front kick
	attack: right front kick, mid, step-through, front
	watch: stops where it would meet
	part: slide back left lower block, right turning kick mid
	look: off the line
	ends: outside
	range: middle
self_defence | Opened Lock | | Against a hug from behind
	attack: hug, static, rear
	watch: holds, does not lift
	part: drop both wedge block, turn cw 180 right hand edge mid
	look: weight down first
	care: throw: mats
	ends: inside
	range: inside
self_defence | Split Current | | Against two punches
	attack: left straight punch, high, static, front; right straight punch, high, static, front
	watch: both reach
	part: both wedge block; both punches / rear front snap kick mid
	look: elbows in
	ends: inside
	range: inside
board_break | Board with the side kick | | One board, held by two
	look: distance measured once; heel
	care: surface: the heel; an adult holds
	youngest: Youth
partner_set | Three steps by the race | sebeon gyeorugi
	script: 세번 겨루기
	look: distance; control
	care: sparring: contact none
sparring | Free bout | gyeorugi | Light touch on the guard
	script: 겨루기
	look: control; distance; answers
	care: sparring: guards on; stop word; no head contact
fitness | Squats | | 40 in a minute is sound
	look: heels down
	care: fitness: stop on pain
`

const taekwondoRungs = `
White belt | belt | #f5f1e8
	Courtesy
	Bow to the hall, always
	Knowledge
	Count to ten, from Questions
	Five words of the millrace, from Questions
Yellow belt | belt | #efc231
	@rule months_since 2
	@rule section_stripes 1
	@rule classes 10
	@stripe Strikes #b8322c
	@stripe Kicks #27548f
	@stripe Blocks #2e7d4f
	@stripe Forms #1b1a1c
	Stances
	Walking stance
	Strikes
	Middle punch, 10 a side, until Blue belt
	Kicks
	Front snap kick, 10 a side, until Red belt
	Blocks
	Lower block
	Upper block
	Combinations
	Race 1, 4 a side
	Race 3, 4 a side
	Forms
	First Channel, must
	Self-defence
	Reeds Part, 2 a side, as defender
	Reeds Part, 2 a side, as attacker
Green belt | belt | #2e7d4f
	@rule months_since 3
	@rule section_stripes 1
	@rule classes 15
	@stripe Strikes #b8322c
	@stripe Kicks #27548f
	@stripe Forms #1b1a1c
	Stances
	Long stance
	Strikes
	Double punch, 10 a side
	Palm heel
	Kicks
	Turning kick, 10 a side, until Red belt, level low for Small ones
	Side thrust kick
	Blocks
	Inner block
	Combinations
	Race 2, 4 a side
	Race 4, 4 a side
	Race 6, 4 a side
	Forms
	First Channel, must
	Self-defence
	Falling Water, 2 a side, as defender
	Stone in the Stream, 2 a side, as defender
	Sparring
	Three steps by the race, 3 a side, as attacker
	Three steps by the race, 3 a side, as defender
Blue belt | belt | #27548f
	@rule months_since 3
	@rule section_stripes 1
	@rule classes 15
	@kit trunk guard; head guard; shin guards; gloves; gum shield
	@sparring hands and feet | the trunk guard; no head | touch | clean touches
	@stripe Kicks #b8322c
	@stripe Combinations #efc231
	@stripe Sparring #1b1a1c
	Stances
	Rider's stance, 60 s
	Strikes
	Hand edge, 10 a side
	Kicks
	Turning kick, 10 a side, on pads, covers settings
	Axe kick
	Skipping side kick
	Blocks
	Hand edge block
	Combinations
	Race 5, 4 a side
	Race 7, 4 a side
	Race 8, 4 a side
	Forms
	Second Channel, must
	Self-defence
	Stone in the Stream, 2 a side, as defender
	Stone in the Stream, 2 a side, as attacker
	Bend of the River, 2 a side, as defender
	Sparring
	Free bout, 2 x 60 s, 30 s rest
Red belt | belt | #b8322c
	@rule months_since 4
	@rule section_stripes 1
	@rule classes 20
	@stripe Kicks #27548f
	@stripe Forms #efc231
	@stripe Sparring #1b1a1c
	Stances
	Rear stance
	Strikes
	Back fist drop, 10 a side
	Kicks
	Backward kick, 10 a side
	Hook kick
	Jumping snap kick, 5 a side, not for Small ones
	Blocks
	Wedge block
	Combinations
	Race 9, 4 a side
	Race 10, 4 a side
	Race 11, 4 a side
	Forms
	Second Channel, must
	First Channel
	Self-defence
	Opened Lock, 2, as defender
	Bend of the River, 2 a side, as attacker
	Sparring
	Free bout, 3 x 60 s, 30 s rest
	Fitness
	Squats, 40 in 60 s
Red belt, black tip | rank_stripe | #b8322c | 1 #1b1a1c
	@rule months_since 6
	@rule classes 30
	Strikes
	Fingertip thrust
	Double punch, 20 a side
	Kicks
	Hook kick, 10 a side
	Jumping side kick, 5 a side, not for Small ones
	Spinning hook kick, 3 a side, not for Small ones
	Blocks
	Hand edge block, 10 a side
	Combinations
	Race 12, 4 a side
	Race 13, 4 a side
	Forms
	Third Channel, must
	Second Channel
	Self-defence
	Split Current, 2 a side, as defender
	Split Current, 2 a side, as attacker
	Sparring
	Free bout, 4 x 60 s, 30 s rest
	Fitness
	Squats, 40 in 60 s
Black belt | belt | #1b1a1c
	@rule months_since 12
	@rule classes 40
	@rule least_age 12
	@rule classes:Sparring 6
	@rule membership 1
	@rule word
	Strikes
	Hand edge, 20 a side
	Kicks
	Turning kick, 20 a side, level high, level mid for Small ones
	Jumping side kick, 10 a side, not for Small ones
	Board with the side kick, not for Small ones
	Blocks
	Wedge block, 10 a side
	Combinations
	Race 14, 6 a side
	Race 12, 6 a side
	Forms
	Third Channel, 2, must
	Second Channel
	First Channel
	Self-defence
	Stone in the Stream, 4 a side, as defender
	Split Current, 4 a side, as defender
	Sparring
	Free bout, 5 x 90 s, 30 s rest
	Knowledge
	Five words of the millrace, once, again
`

const taekwondoStudents = `
Aurelio Santander, 9, 20, White belt, 78
Hyacinth Barlow, 10, 20, White belt, 70
Nikolai Featherstone, 12, 19, White belt, 64
Odette Vanderbeek, 13, 20, White belt, 86
Rufus Calloway, 7, 14, White belt, 61
Seraphine Duplessis, 8, 13, White belt, 74
Thaddeus Moorcroft, 15, 18, White belt, 68
Ursula Kvist, 16, 18, White belt, 90
Valentin Osgood, 19, 17, White belt, 72
Winifred Sato-Price, 24, 17, White belt, 81
Xavier Lindgren, 28, 15, White belt, 55
Yolanda Pemberly, 33, 14, White belt, 76
Zachary Holloway, 6, 8, White belt, 63
Amaryllis Voss, 7, 7, White belt, 66
Benedikt Shaw, 9, 6, White belt, 71
Clementine Ruiz, 11, 6, White belt, 59
Dashiell Obi, 14, 5, White belt, 80
Eudora Fjellman, 17, 5, White belt, 69
Florian Adeyemi, 21, 4, White belt, 73
Gwendolyn Marchetti, 40, 4, White belt, 65
Horatio Blum, 44, 3, White belt, 58
Isolde Tran, 10, 3, White belt, 77
Jasper Quennell, 8, 2, White belt, 62
Keziah Norström, 12, 2, White belt, 75
Leopold Achterberg, 13, 1, White belt, 67
Marigold Ferreira, 18, 1, White belt, 70
`

func taekwondo(today civil.Date) Program {
	policy := scoring.MovementScale()
	p := Program{Story: "Section stripes, provisional grades below the red belt, merit stripes.",
		Curriculum: starter.Written{Name: "Taekwondo", Language: "Korean", Techniques: taekwondoTechniques, Rungs: taekwondoRungs, Details: curriculum.ProgramDetails{
			Tracks:   []curriculum.Track{{Name: "Small ones", To: 7, Young: true, AllowsRisk: true}, {Name: "Youth", From: 8, To: 14}, {Name: "Adults", From: 15}},
			Groups:   []curriculum.SampleGroup{{Name: "Questions", Draw: 1}},
			Commands: []curriculum.Command{{Word: "charyeot", Meaning: "attention"}, {Word: "gyeongnye", Meaning: "bow"}, {Word: "junbi", Meaning: "ready"}, {Word: "sijak", Meaning: "begin"}, {Word: "geuman", Meaning: "stop"}},
			Counting: []string{"hana", "dul", "set", "net", "daseot", "yeoseot", "ilgop", "yeodeol", "ahop", "yeol"},
			Opening:  []string{"Line up by rank", "Bow to the hall", "Bow to the teacher"}, Closing: []string{"Line up by rank", "Bow to the teacher", "Bow to each other"},
			PermanentFrom: "Red belt", SideMeans: curriculum.ByLimb, Voice: curriculum.ShoutLast, Marking: curriculum.MovementScale, Policy: &policy,
		}}.Curriculum(), Students: students(taekwondoStudents, today)}
	add := func(days int, stage Stage, rungs ...string) {
		p.Gradings = append(p.Gradings, Grading{gradingday.Grading{Place: "Wheel house", On: today.AddDays(days), Marking: gradingday.MovementScale,
			Policy: policy, GroupSize: 3, RetestDays: 42, Examiners: panel("Ottilie Brannigan", "Dorothea Duvall", "Marek Moriarty")}, stage, rungs, 0})
	}
	all := []string{"Yellow belt", "Green belt", "Blue belt", "Red belt"}
	add(-370, Announced, all...)
	add(-240, Announced, all...)
	add(-110, Announced, all...)
	add(-5, Signed, all...)
	return p
}
