package demo

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

const karateTechniques = `
courtesy | Standing and kneeling bow | ritsurei, zarei | | back straight; unhurried
stance | Long front stance | zenkutsu dachi | | one shoulder wide; front knee over the toes; rear leg straight but soft | rear heel lifts
stance | Back stance | kokutsu dachi | | heels on a line; most weight behind | hips turn square
strike | Lunge punch | oi zuki | | fist turns last; shoulder down | leans in
strike | Reverse punch | gyaku zuki | | hip before hand; rear heel down | shoulder lifts
kick | Snap front kick | mae geri | | knee first; ball of the foot; recoil | foot drops without recoil
kick | Sweeping round kick | mawashi geri | | standing foot turns | hand drops
block | Rising block | age uke | | fist a hand above the brow | elbow wide
block | Outer forearm block | soto uke | | elbow a fist from the ribs | swings past
form | First Millstone | hitotsu no usu | 20 moves; two shouts | looks first; same length of stance | hurries
form | Second Millstone | futatsu no usu | 22 moves; one side step | turns on the heel | loses balance in the turn
partner_set | Three steps by the river | sanbon kumite | Attack announced three times; the third is answered | distance; control; answer at once | steps too short | Contact none
sparring | Free sparring, no contact | jiyu kumite | Two minutes | control; moves off the line | too far to reach | Kit checked; contact none
character | Fighting spirit | kiai | Shown throughout the test | voice from the belly; does not stop | gives up early
`

const karateRungs = `
White belt | belt | #f5f1e8
	Courtesy: Standing and kneeling bow = once
Red belt | belt | #b8322c
	Courtesy: Standing and kneeling bow = once
	Stances: Long front stance = 5 a side
	Strikes: Lunge punch = 10 a side
	Kicks: Snap front kick = 5 a side
	Blocks: Rising block = 5 a side
	Forms: First Millstone = once
	Character: Fighting spirit = once
Yellow belt | belt | #efc231
	Stances: Long front stance = 5 a side
	Stances: Back stance = 5 a side
	Strikes: Lunge punch = 10 a side
	Strikes: Reverse punch = 10 a side
	Kicks: Snap front kick = 10 a side
	Blocks: Rising block = 5 a side
	Blocks: Outer forearm block = 5 a side
	Forms: First Millstone = once
	Sparring: Three steps by the river as attacker = 3 a side
	Sparring: Three steps by the river as defender = 3 a side
	Character: Fighting spirit = once
Yellow belt, second | rank_stripe | #efc231 | 1 #b8322c
	Stances: Back stance = 5 a side
	Strikes: Reverse punch = 20 a side
	Kicks: Sweeping round kick = 10 a side
	Blocks: Outer forearm block = 10 a side
	Forms: Second Millstone = once
	Sparring: Three steps by the river as defender = 3 a side
	Character: Fighting spirit = once
Green belt | belt | #2e7d4f | | core_line #f5f1e8
	Stances: Back stance = 60 s
	Strikes: Reverse punch = 20 a side
	Kicks: Sweeping round kick = 20 a side
	Blocks: Rising block = 10 a side
	Forms: Second Millstone = once
	Sparring: Free sparring, no contact = 2 x 120 s, 60 s rest
	Character: Fighting spirit = once
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
`

func karate(today civil.Date) Program {
	p := Program{Name: "Karate", SecondLanguage: "Japanese", Rungs: rungs(karateRungs), Techniques: techniques(karateTechniques), Students: students(karateStudents, today)}
	add := func(days int, stage Stage, rungs ...string) {
		p.Gradings = append(p.Gradings, Grading{gradingday.Grading{Place: "Lower mill floor", On: today.AddDays(days), Marking: gradingday.CategoryPoints,
			Policy: scoring.CategoryPoints(scoring.Whole(49)), GroupSize: 4, RetestDays: 60, Examiners: panel("Rosalind Castellane", "Dorothea Duvall", "Marek Moriarty")}, stage, rungs, 0})
	}
	add(-130, Announced, "Red belt")
	add(-3, Signed, "Red belt", "Yellow belt")
	return p
}
