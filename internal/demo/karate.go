package demo

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/starter"
)

const karateTechniques = `
courtesy | Standing and kneeling bow | ritsurei, zarei
	script: 立礼・座礼
	look: back straight; unhurried
stance | Long front stance | zenkutsu dachi
	script: 前屈立ち
	measures: 1 wide, 1.75 long, out 0 20, on 60, bend - 10, look trunk upright and square
	look: one shoulder wide; front knee over the toes; rear leg straight but soft
	faults: rear heel lifts
stance | Back stance | kokutsu dachi
	script: 後屈立ち
	measures: 0 wide, 1.5 long, out 0 90, on 30, bend - 60, hips 45, look trunk upright
	look: heels on a line; most weight behind
	faults: hips turn square
stance | Riding stance | kiba dachi
	script: 騎馬立ち
	also: horse stance
	level: yes
	measures: 2 wide, out 0 0, on 50, bend 55 55, look trunk upright
	look: two shoulders wide; knees out
	sides: none
stance | Cat stance | neko ashi dachi
	script: 猫足立ち
	measures: .25 wide, .9 long, out 0 30, on 10, bend - 50, hips 30, up
	look: front foot light
strike | Lunge punch | oi zuki
	apart: Reverse punch=fist and front foot are of one side and land together
	drills: Step alone=half-moon step ten times, hands on the belt; Late fist=step, stop, then punch; Together=step and fist land as one
	cues: foot and fist, one drum
	script: 追い突き
	look: fist turns last; shoulder down
	faults: leans in
	also: stepping punch
strike | Reverse punch | gyaku zuki
	script: 逆突き
	look: hip before hand; rear heel down
	faults: shoulder lifts
strike | Snap punch | kizami zuki
	script: 刻み突き
	look: guard stays; no reach
strike | Knife hand | shuto uchi
	script: 手刀打ち
	look: edge of the hand; wrist firm
strike | Back fist strike | uraken uchi
	script: 裏拳打ち
	look: snaps back
strike | Elbow strike | empi uchi
	script: 猿臂打ち
	look: close; hip leads
kick | Snap front kick | mae geri
	script: 前蹴り
	look: chamber: knee first; extend: ball of the foot; recoil: before it falls
	faults: foot drops without recoil
	surface: basics=ball of the foot, sparring=ball of the foot
kick | Sweeping round kick | mawashi geri
	script: 回し蹴り
	look: pivot: standing foot turns; recoil: comes back
	faults: hand drops
	surface: basics=ball of the foot, sparring=instep
	care: surface: never the toes on a pad
kick | Edge kick | yoko geri
	script: 横蹴り
	look: knee across; edge of the foot
kick | Rear thrust kick | ushiro geri
	script: 後ろ蹴り
	look: looks first; heel
kick | Leaping front kick | tobi mae geri
	script: 飛び前蹴り
	look: other knee first; soft landing
	on: Snap front kick
	is: jumping
	care: jump: legs strengthened first; clear landing
block | Rising block | age uke
	script: 上げ受け
	look: fist a hand above the brow
	faults: elbow wide
block | Outer forearm block | soto uke
	script: 外受け
	look: elbow a fist from the ribs
	faults: swings past
block | Inner forearm block | uchi uke
	script: 内受け
	look: thumb side; elbow in
block | Sweeping block | gedan barai
	script: 下段払い
	look: from the shoulder to the knee
block | Knife hand block | shuto uke
	script: 手刀受け
	look: rear hand at the chest
form | First Millstone | hitotsu no usu
	script: 一つの臼
	part: from ready stance: turn ccw 90 left sweeping block in left long front stance, step through right lunge punch mid / turn cw 90 left rising block in left long front stance, step through right rising block! / turn ccw 180 left lunge punch mid in left long front stance, step through right sweeping block / turn ccw 90 left inner forearm block in left long front stance, step through right inner forearm block! / left step turn ccw 90 in ready stance
	returns: yes
	look: looks first; same length of stance
	faults: hurries
form | Second Millstone | futatsu no usu
	script: 二つの臼
	part: from ready stance: turn ccw 90 left inner forearm block in left back stance, right reverse punch mid, step through right inner forearm block, left reverse punch mid / turn ccw 90 left edge kick mid, left knife hand high in left back stance / step through right edge kick mid, right knife hand high / turn ccw 180 left outer forearm block in left back stance, step through right outer forearm block / turn cw 90 left knife hand block in left back stance, step through right knife hand block! / left step turn ccw 90 in ready stance
	returns: yes
	look: turns on the heel
	faults: loses balance in the turn
	on: First Millstone
form | Third Millstone | mittsu no usu
	script: 三つの臼
	part: left knife hand block in left back stance, right snap front kick mid / right knife hand block in right back stance, left snap front kick mid / turn cw 180 right elbow strike in right front stance, left elbow strike / turn ccw 90 left back fist strike high, right back fist strike high~ / right rear thrust kick, left rear thrust kick!
	look: breath on the slow moves
	on: Second Millstone
combination | River set 1 | kawa ichi
	part: step through rear lunge punch mid, rear reverse punch mid
	look: the second punch without a pause
combination | River set 2 | kawa ni
	part: step back lead rising block, rear reverse punch mid
	look: block ends before the hip turns
combination | River set 3 | kawa san
	part: step back lead outer forearm block, lead elbow strike
	look: the same arm, no pause
combination | River set 4 | kawa yon
	part: rear snap front kick mid, step through lead lunge punch mid / rear reverse punch mid!
	look: foot lands in stance
combination | River set 5 | kawa go
	part: lead snap punch high, rear reverse punch mid, rear sweeping round kick mid
	look: hands stay up in the kick
combination | River set 6 | kawa roku
	part: step back lead sweeping block, rear reverse punch mid / lead snap front kick low
	look: the front leg is light
combination | River set 7 | kawa nana
	part: lead edge kick mid, rear reverse punch mid / lead back fist strike high
	look: recoil before the hand
combination | River set 8 | kawa hachi
	part: rear sweeping round kick mid, rear thrust kick turn cw 180 / rear reverse punch mid!
	look: looks before the turn
	also: the long river
combination | River set 9 | kawa kyu
	part: step back lead knife hand block, lead snap front kick mid / rear reverse punch mid
	look: weight behind, then forward
combination | River set 10 | kawa ju
	part: slide lead snap punch high, rear reverse punch mid / rear snap front kick mid, lead sweeping round kick high!
	look: three distances
partner_set | Three steps by the river | sanbon kumite | Attack announced three times; the third is answered
	script: 三本組手
	look: distance; control; answer at once
	faults: steps too short
	care: sparring: contact none
partner_set | One step by the river | ippon kumite | One announced attack
	script: 一本組手
	look: off the line; answer at once
	care: sparring: contact none
self_defence | Mooring Post | | Against a wrist grab
	attack: right wrist grab, static, front
	attacker: step right sweeping block
	watch: grips firmly, stands still
	part: step back left sweeping block; the grip / right reverse punch mid
	look: turns the forearm to the thumb
	care: joint: slowly; let go on the word
	ends: outside
	range: middle
self_defence | Lifted Anchor | | Against a lapel grab
	attack: right lapel grab, static, front
	watch: grips cloth only
	part: left inner forearm block (over), right elbow strike
	look: stays upright
	ends: inside
	range: inside
self_defence | Turned Tide | | Against a push
	attack: push, mid, lunge, front
	watch: pushes through
	part: turn cw 90 left outer forearm block, right reverse punch mid
	look: goes with it
	ends: outside
	range: middle
self_defence | Two Currents | | Against a punch and a kick
	attack: right straight punch, high, step-through, front; left front kick, mid, static, front
	attacker: step through right lunge punch high, left snap front kick mid
	watch: both are meant to reach
	part: step back left rising block; the punch / left sweeping block; the kick / slide right reverse punch mid
	look: one arm, two answers
	ends: inside
	range: inside
sparring | Free sparring, no contact | jiyu kumite | Contact none
	script: 自由組手
	look: control; moves off the line
	faults: too far to reach; touches
	care: sparring: kit checked; contact none; stop word
character | Fighting spirit | kiai | Shown throughout the test
	look: voice from the belly; does not stop
	faults: gives up early
`

const karateRungs = `
White belt | belt | #f5f1e8
	Courtesy
	Standing and kneeling bow
Red belt | belt | #b8322c
	@rule months_since 2
	@rule classes 10
	Stances
	Long front stance
	Strikes
	Lunge punch, 10 a side
	Kicks
	Snap front kick
	Blocks
	Rising block
	Sweeping block
	Forms
	First Millstone
	Sparring
	Mooring Post, 2 a side, as defender, slowly
	Character
	Fighting spirit, always
Yellow belt | belt | #efc231
	@rule months_since 3
	@rule classes 15
	@rule signed_off_each 1
	Stances
	Long front stance
	Back stance
	Strikes
	Lunge punch, 10 a side
	Reverse punch, 10 a side
	River set 1
	Kicks
	Snap front kick, 10 a side
	Blocks
	Rising block
	Outer forearm block
	Forms
	First Millstone
	Sparring
	Three steps by the river, 3 a side, as attacker
	Three steps by the river, 3 a side, as defender
Yellow belt, second | rank_stripe | #efc231 | 1 #b8322c
	@rule months_since 3
	@rule classes 15
	@rule signed_off_each 1
	Stances
	Back stance
	Strikes
	Reverse punch, 20 a side
	River set 2
	River set 3
	Kicks
	Sweeping round kick, 10 a side
	Blocks
	Outer forearm block, 10 a side
	Inner forearm block
	Forms
	First Millstone
	Sparring
	Three steps by the river, 3 a side, as defender
	Mooring Post, 2 a side, as attacker
	Turned Tide, 2 a side, as defender
Green belt | belt | #2e7d4f | | core_line #f5f1e8
	@rule months_since 4
	@rule classes 20
	@kit gloves; shin guards; gum shield
	@sparring hands and feet | shown above the belt | none | a technique stopped a hand before the target
	Stances
	Back stance, 60 s
	Riding stance, 60 s
	Strikes
	Reverse punch, 20 a side
	River set 4
	Kicks
	Sweeping round kick, 20 a side
	Blocks
	Rising block, 10 a side
	Inner forearm block
	Forms
	Second Millstone
	Sparring
	Free sparring, no contact, 2 x 120 s, 60 s rest
Green belt, second | rank_stripe | #2e7d4f | 1 #27548f | core_line #f5f1e8
	@rule months_since 4
	@rule classes 20
	Stances
	Riding stance, 60 s
	Strikes
	Knife hand, 10 a side
	River set 5
	River set 6
	Kicks
	Edge kick, 10 a side
	Blocks
	Knife hand block, 10 a side
	Forms
	Second Millstone
	Sparring
	One step by the river, 3 a side, as attacker
	One step by the river, 3 a side, as defender
	Lifted Anchor, 2 a side, as defender
	Free sparring, no contact, 2 x 120 s, 60 s rest
Blue belt | belt | #27548f
	@rule months_since 5
	@rule classes 25
	@rule classes:Forms 5
	Stances
	Cat stance
	Strikes
	Snap punch, 20 a side
	River set 7
	Kicks
	Edge kick, 20 a side
	Rear thrust kick
	Blocks
	Knife hand block, 10 a side
	Forms
	Second Millstone
	First Millstone
	Sparring
	One step by the river, 5 a side, as defender
	Free sparring, no contact, 3 x 120 s, 60 s rest
Brown belt | belt | #6b4423
	@rule months_since 6
	@rule classes 30
	Stances
	Cat stance, 60 s
	Strikes
	Back fist strike, 10 a side
	River set 8
	Kicks
	Rear thrust kick, 10 a side
	Leaping front kick
	Blocks
	Inner forearm block, 10 a side
	Forms
	Third Millstone
	Sparring
	Two Currents, 2 a side, as defender
	Two Currents, 2 a side, as attacker
	Free sparring, no contact, 3 x 120 s, 60 s rest
Brown belt, second | rank_stripe | #6b4423 | 1 #1b1a1c
	@rule months_since 6
	@rule classes 30
	Stances
	Back stance, 60 s
	Strikes
	Elbow strike, 10 a side
	River set 9
	Kicks
	Leaping front kick, 10 a side
	Blocks
	Knife hand block, 20 a side
	Forms
	Third Millstone, 2
	Sparring
	Lifted Anchor, 2 a side, as defender
	Turned Tide, 2 a side, as attacker
	Free sparring, no contact, 4 x 120 s, 60 s rest
Black belt | belt | #1b1a1c
	@rule months_since 12
	@rule classes 40
	Stances
	Long front stance, 60 s
	Strikes
	River set 10
	River set 8, 10 a side
	Kicks
	Sweeping round kick, 20 a side
	Leaping front kick, 10 a side
	Blocks
	Rising block, 20 a side
	Forms
	Third Millstone
	Second Millstone
	First Millstone
	Sparring
	Two Currents, 4 a side, as defender
	Free sparring, no contact, 5 x 120 s, 60 s rest
`

const karateStudents = `
Noor Wexcombe, 15, 14, White belt, 76
Alaric Sandoval, 17, 13, White belt, 71
Thomasin Greaves, 19, 12, White belt, 66
Bodil Amankwah, 23, 12, White belt, 88
Corentin Hale, 29, 11, White belt, 62
Mirela Fothergill, 34, 10, White belt, 73
Ottoline Zhang-Webb, 14, 9, White belt, 68
Caspian Rourke, 45, 9, White belt, 58
Leofric Adair, 22, 25, Red belt, 92
Salome Tindall, 31, 25, Yellow belt, 90
Evander Pryce, 18, 24, Yellow belt, 82
Ottavia Grenville, 38, 24, Green belt, 93
Ambrose Kilbride, 27, 23, Red belt, 79
Rosamund Achebe, 16, 22, White belt, 90
Lucian Farrow, 52, 24, Brown belt, 77
Tamsin Oduya, 20, 20, White belt, 84
`

func karate(today civil.Date) Program {
	policy := scoring.CategoryPoints(scoring.Whole(49))
	p := Program{Story: "Rank stripes and category points: 49 of 70 pass.",
		Curriculum: starter.Written{Name: "Karate", Language: "Japanese", Techniques: karateTechniques, Rungs: karateRungs, Details: curriculum.ProgramDetails{
			Commands: []curriculum.Command{{Word: "yoi", Meaning: "ready"}, {Word: "hajime", Meaning: "begin"}, {Word: "yame", Meaning: "stop"}, {Word: "rei", Meaning: "bow"}},
			Counting: []string{"ichi", "ni", "san", "shi", "go", "roku", "shichi", "hachi", "ku", "ju"},
			Opening:  []string{"Line up by rank", "Kneel", "Silence", "Bow to the front, to the teacher, to each other"}, Closing: []string{"Kneel", "Silence", "Bow", "Thank the partner"},
			Marking: curriculum.CategoryPoints, Policy: &policy, Brackets: curriculum.BracketTerms,
			Meanings: []curriculum.Meaning{{Word: "jodan", Means: "high"}, {Word: "chudan", Means: "mid"}, {Word: "gedan", Means: "low"}, {Word: "tobi", Means: "jumping"}, {Word: "geri", Means: "kick"}, {Word: "uke", Means: "block"}, {Word: "zuki", Means: "strike"}, {Word: "dachi", Means: "stance"}},
		}}.Curriculum(), Students: students(karateStudents, today)}
	add := func(days int, stage Stage, rungs ...string) {
		p.Gradings = append(p.Gradings, Grading{gradingday.Grading{Place: "Lower mill floor", On: today.AddDays(days), Marking: gradingday.CategoryPoints,
			Policy: scoring.CategoryPoints(scoring.Whole(49)), GroupSize: 4, RetestDays: 60, RetestScope: scoring.ScopeItems, CarryDays: 365, Examiners: panel("Rosalind Castellane", "Dorothea Duvall", "Marek Moriarty")}, stage, rungs, 0})
	}
	upper := []string{"Red belt", "Yellow belt", "Yellow belt, second", "Green belt", "Green belt, second", "Blue belt"}
	add(-500, Announced, upper...)
	add(-380, Announced, upper...)
	add(-250, Announced, upper...)
	add(-130, Announced, upper...)
	add(-3, Signed, "Red belt", "Yellow belt")
	return p
}
