package starter

import (
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

const karateRungs = `
White belt | belt | #f5f1e8
	Courtesy
	Bow on entering and leaving
	Line up by rank
	Stances
	Ready stance
	Front stance
	Strikes
	Front punch
Yellow belt | belt | #efc231
	@rule months_since 3
	@rule classes 20
	Courtesy
	Line up by rank
	Stances
	Front stance
	Horse stance
	Strikes
	Front punch, 10 a side
	Reverse punch
	Kicks
	Front kick
	Blocks
	Downward block
	Rising block
	Character
	Effort and respect, always
Orange belt | belt | #df7b2b
	@rule months_since 3
	@rule classes 25
	Stances
	Horse stance
	Step forward and back
	Strikes
	Reverse punch, 10 a side
	Hammer fist
	Kicks
	Front kick, 10 a side
	Blocks
	Rising block
	Inward block
	Fitness
	Press-ups, 10
	Squats, 20
Green belt | belt | #2e7d4f
	@rule months_since 4
	@rule classes 30
	Stances
	Back stance
	Strikes
	Jab, 10 a side
	Back fist
	Kicks
	Front kick, 10 a side
	Round kick
	Blocks
	Inward block
	Outward block
	Evasions
	Side step
Blue belt | belt | #27548f
	@rule months_since 4
	@rule classes 35
	@kit gloves; shin guards; gum shield
	@sparring hands and feet | shown above the belt, no head | none | a technique stopped a hand before the target
	Stances
	Back stance
	Fighting stance
	Strikes
	Back fist, 10 a side
	Knife hand strike
	Kicks
	Round kick, 10 a side
	Side kick
	Blocks
	Outward block
	Sparring
	Light sparring, 2 x 60 s, 60 s rest
Purple belt | belt | #5d3a78
	@rule months_since 5
	@rule classes 40
	Stances
	Cat stance
	Slide and shuffle
	Strikes
	Knife hand strike, 10 a side
	Palm heel strike
	Kicks
	Side kick, 10 a side
	Blocks
	Knife hand block
	Sparring
	Light sparring, 2 x 90 s, 60 s rest
	Fitness
	Press-ups, 20
	Sit-ups, 30
Brown belt | belt | #6b4423
	@rule months_since 6
	@rule classes 50
	Stances
	Cat stance
	Strikes
	Palm heel strike, 10 a side
	Elbow strike
	Kicks
	Side kick, 10 a side
	Back kick
	Blocks
	Knife hand block, 10 a side
	Sparring
	Light sparring, 3 x 90 s, 60 s rest
Black belt | belt | #1b1a1c
	@rule months_since 12
	@rule classes 90
	@rule least_age 16
	@rule word
	Stances
	Front stance, 60 s
	Cat stance
	Strikes
	Reverse punch, 20 a side
	Elbow strike, 10 a side
	Kicks
	Round kick, 20 a side
	Back kick, 10 a side
	Blocks
	Rising block, 10 a side
	Knife hand block, 10 a side
	Sparring
	Light sparring, 4 x 120 s, 60 s rest
	Fitness
	Press-ups, 30
`

var karate = Written{Name: "Karate", Language: "Japanese", Techniques: stances + basics + others, Rungs: karateRungs,
	Details: curriculum.ProgramDetails{Marking: curriculum.MovementScale, Policy: policy(scoring.MovementScale()),
		Opening: []string{"Line up by rank", "Bow to the front", "Bow to the teacher"}, Closing: []string{"Line up by rank", "Bow", "Thank the partner"}}}

const kenpoRungs = `
White belt | belt | #f5f1e8
	Courtesy
	Bow on entering and leaving
	Stances
	Ready stance
	Fighting stance
	Strikes
	Front punch
Yellow belt | belt | #efc231
	@rule months_since 3
	@rule classes 20
	Stances
	Fighting stance
	Horse stance
	Strikes
	Jab, 10 a side
	Front punch, 10 a side, always
	Kicks
	Front kick
	Blocks
	Inward block
	Outward block
	Character
	Effort and respect, always
Yellow belt, orange core | rank_stripe | #efc231 | | core_line #df7b2b
	@rule months_since 2
	@rule classes 15
	Stances
	Horse stance
	Step forward and back
	Strikes
	Reverse punch
	Kicks
	Front kick, 10 a side
	Blocks
	Rising block
	Downward block
Orange belt | belt | #df7b2b
	@rule months_since 3
	@rule classes 25
	Stances
	Front stance
	Strikes
	Reverse punch, 10 a side
	Back fist
	Hammer fist
	Kicks
	Front kick, 10 a side
	Round kick
	Blocks
	Rising block, 10 a side
	Fitness
	Press-ups, 10
Purple belt | belt | #5d3a78
	@rule months_since 4
	@rule classes 30
	@kit gloves; shin guards; gum shield
	@sparring hands and feet | shown above the belt, no head | none | a technique stopped a hand before the target
	Stances
	Front stance
	Slide and shuffle
	Strikes
	Hammer fist, 10 a side
	Palm heel strike
	Kicks
	Round kick, 10 a side
	Blocks
	Downward block, 10 a side
	Evasions
	Side step
	Sparring
	Light sparring, 2 x 60 s, 60 s rest
Blue belt | belt | #27548f
	@rule months_since 4
	@rule classes 35
	Stances
	Cat stance
	Strikes
	Palm heel strike, 10 a side
	Knife hand strike
	Elbow strike
	Kicks
	Side kick
	Evasions
	Lean and cover
	Sparring
	Light sparring, 2 x 90 s, 60 s rest
	Fitness
	Press-ups, 20
Green belt | belt | #2e7d4f
	@rule months_since 5
	@rule classes 40
	Stances
	Cat stance
	Strikes
	Knife hand strike, 10 a side
	Elbow strike, 10 a side
	Kicks
	Side kick, 10 a side
	Knee strike
	Blocks
	Knife hand block
	Evasions
	Lean and cover
	Sparring
	Light sparring, 3 x 90 s, 60 s rest
Brown belt | belt | #6b4423
	@rule months_since 6
	@rule classes 50
	Stances
	Back stance
	Strikes
	Back fist, 10 a side
	Elbow strike, 10 a side
	Kicks
	Knee strike, 10 a side
	Back kick
	Blocks
	Knife hand block, 10 a side
	Sparring
	Light sparring, 3 x 120 s, 60 s rest
Black belt | belt | #1b1a1c
	@rule months_since 12
	@rule classes 90
	@rule least_age 16
	@rule word
	Stances
	Horse stance, 60 s
	Back stance
	Strikes
	Reverse punch, 20 a side
	Knife hand strike, 10 a side
	Kicks
	Round kick, 20 a side
	Back kick, 10 a side
	Blocks
	Outward block, 10 a side
	Knife hand block, 10 a side
	Sparring
	Light sparring, 4 x 120 s, 60 s rest
`

var kenpo = Written{Name: "Kenpo", Techniques: stances + basics + others, Rungs: kenpoRungs,
	Details: curriculum.ProgramDetails{Marking: curriculum.MovementScale, Policy: policy(scoring.MovementScale()),
		Tracks: []curriculum.Track{{Name: "Children", To: 12, Young: true}, {Name: "Adults", From: 13}}}}

const taekwondoRungs = `
White belt | belt | #f5f1e8
	Courtesy
	Bow on entering and leaving
	Stances
	Ready stance
	Kicks
	Front kick
White belt, yellow bar | rank_stripe | #f5f1e8 | 1 #efc231
	@rule months_since 2
	@rule classes 15
	Stances
	Front stance
	Strikes
	Front punch, 10 a side
	Kicks
	Front kick, 10 a side, always
	Blocks
	Downward block
	Character
	Effort and respect, always
Yellow belt | belt | #efc231
	@rule months_since 3
	@rule classes 20
	Stances
	Front stance
	Step forward and back
	Strikes
	Front punch, 10 a side
	Kicks
	Round kick
	Blocks
	Downward block
	Rising block
Yellow belt, green bar | rank_stripe | #efc231 | 1 #2e7d4f
	@rule months_since 3
	@rule classes 20
	Stances
	Horse stance
	Strikes
	Reverse punch
	Kicks
	Round kick, 10 a side
	Blocks
	Rising block
	Inward block
	Fitness
	Squats, 20
Green belt | belt | #2e7d4f
	@rule months_since 3
	@rule classes 25
	@kit trunk protector; shin guards; gum shield
	@sparring feet and hands | shown above the belt, no head | none | a technique stopped a hand before the target
	Stances
	Fighting stance
	Strikes
	Reverse punch, 10 a side
	Kicks
	Round kick, 10 a side, on pads
	Side kick
	Blocks
	Inward block
	Sparring
	Light sparring, 2 x 60 s, 60 s rest
Green belt, blue bar | rank_stripe | #2e7d4f | 1 #27548f
	@rule months_since 4
	@rule classes 30
	Stances
	Fighting stance
	Slide and shuffle
	Strikes
	Back fist
	Kicks
	Side kick, 10 a side
	Blocks
	Outward block
	Sparring
	Light sparring, 2 x 60 s, 60 s rest
Blue belt | belt | #27548f
	@rule months_since 4
	@rule classes 35
	Stances
	Back stance
	Strikes
	Back fist, 10 a side
	Kicks
	Side kick, 10 a side
	Back kick
	Blocks
	Outward block, 10 a side
	Evasions
	Side step
	Sparring
	Light sparring, 2 x 90 s, 60 s rest
Blue belt, red bar | rank_stripe | #27548f | 1 #b8322c
	@rule months_since 5
	@rule classes 40
	Stances
	Back stance
	Strikes
	Knife hand strike
	Kicks
	Back kick, 10 a side
	Knee strike
	Blocks
	Knife hand block
	Sparring
	Light sparring, 3 x 90 s, 60 s rest
Red belt | belt | #b8322c
	@rule months_since 6
	@rule classes 50
	Stances
	Cat stance
	Strikes
	Knife hand strike, 10 a side
	Kicks
	Round kick, 20 a side
	Side kick, 20 a side
	Blocks
	Knife hand block, 10 a side
	Sparring
	Light sparring, 3 x 90 s, 60 s rest
Red belt, black bar | rank_stripe | #b8322c | 1 #1b1a1c
	@rule months_since 6
	@rule classes 50
	Stances
	Cat stance
	Strikes
	Palm heel strike
	Elbow strike
	Kicks
	Back kick, 10 a side, on pads
	Knee strike, 10 a side
	Blocks
	Rising block, 10 a side
	Sparring
	Light sparring, 3 x 120 s, 60 s rest
Black belt | belt | #1b1a1c
	@rule months_since 12
	@rule classes 90
	@rule least_age 15
	@rule word
	Stances
	Front stance, 60 s
	Cat stance
	Strikes
	Reverse punch, 20 a side
	Knife hand strike, 10 a side
	Kicks
	Round kick, 20 a side
	Back kick, 20 a side
	Blocks
	Outward block, 10 a side
	Knife hand block, 10 a side
	Sparring
	Light sparring, 4 x 120 s, 60 s rest
`

var taekwondo = Written{Name: "Taekwondo", Language: "Korean", Techniques: stances + basics + others, Rungs: taekwondoRungs,
	Details: curriculum.ProgramDetails{Marking: curriculum.MovementScale, Policy: policy(scoring.MovementScale())}}

const childrenTechniques = `
courtesy | Bow and say good evening
	look: looks up first; a clear voice
courtesy | Sit still for a minute
	look: hands on the knees
courtesy | Listen with eyes and ears
	look: feet still; looks at whoever speaks
stance | Ready stance
	measures: 1 wide, out 0 0, on 50, bend 5 5
	look: feet a shoulder apart; hands still
	sides: none
stance | Front stance
	measures: 1 wide, 1.5 long, out 0 30, on 60, bend - 0, look trunk upright and square
	look: front knee bent; back leg long
stance | Horse stance
	level: yes
	measures: 2 wide, out 0 0, on 50, bend 45 45, look trunk upright
	look: feet wide; back like a wall
	sides: none
strike | Front punch
	look: other hand back; a straight wrist
strike | Hammer fist
	look: falls like a hammer
strike | Palm heel strike
	look: fingers back
kick | Front kick
	look: knee up first; comes back
	surface: basics=ball of the foot
kick | Round kick
	look: standing foot turns; knee points
	surface: basics=instep
block | Rising block
	look: a roof over the head
block | Downward block
	look: sweeps the floor in front
evasion | Side step
	look: out of the way; still in balance
balance | Stand on one leg
	look: knee high; eyes on one spot
fitness | Star jumps
	look: soft landing
fitness | Bear crawl
	look: knees off the floor
knowledge | Say your address
	answers: the child’s own address
knowledge | Whom to tell when something is wrong
	answers: a grown-up you trust
character | Help at home without being asked
	look: the family tells of three times
`

const childrenRungs = `
White belt | belt | #f5f1e8
	Courtesy
	Bow and say good evening
	Stances
	Ready stance
	Strikes
	Front punch
Yellow belt | belt | #efc231
	@rule section_stripes 1
	@stripe Courtesy #f5f1e8
	@stripe Strikes #b8322c
	@stripe Kicks #27548f
	Courtesy
	Bow and say good evening
	Stances
	Ready stance
	Strikes
	Front punch, 5 a side
	Kicks
	Front kick, 5 a side
	Character
	Help at home without being asked
Orange belt | belt | #df7b2b
	@rule section_stripes 1
	@stripe Courtesy #f5f1e8
	@stripe Strikes #b8322c
	@stripe Kicks #27548f
	Courtesy
	Sit still for a minute
	Stances
	Horse stance
	Strikes
	Hammer fist, 5 a side
	Kicks
	Front kick, 5 a side
	Blocks
	Rising block, 5 a side
	Knowledge
	Say your address
Green belt, half | rank_stripe | #f5f1e8 | | halves #2e7d4f
	@rule section_stripes 1
	@stripe Strikes #b8322c
	@stripe Kicks #27548f
	@stripe Fitness #efc231
	Courtesy
	Listen with eyes and ears
	Stances
	Front stance
	Strikes
	Palm heel strike, 5 a side
	Kicks
	Round kick, 5 a side
	Blocks
	Downward block, 5 a side
	Fitness
	Star jumps, 10
	Evasions
	Side step, 5 a side
Green belt | belt | #2e7d4f
	@rule section_stripes 1
	@stripe Strikes #b8322c
	@stripe Kicks #27548f
	@stripe Fitness #efc231
	Courtesy
	Listen with eyes and ears
	Stances
	Front stance
	Stand on one leg
	Strikes
	Palm heel strike, 5 a side
	Kicks
	Round kick, 5 a side
	Fitness
	Bear crawl, 20 s
	Knowledge
	Whom to tell when something is wrong
`

var children = Written{Name: "Small children", Techniques: childrenTechniques, Rungs: childrenRungs,
	Details: curriculum.ProgramDetails{Marking: curriculum.SignOff, Policy: policy(scoring.SignOff()),
		Tracks: []curriculum.Track{{Name: "Small children", From: 4, To: 7, Young: true}}}}
