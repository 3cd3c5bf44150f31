package starter

import (
	"sync"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// Ladder is a general ladder to begin with.
type Ladder struct {
	Key     string // in addresses and forms
	Name    string
	Says    string // what it brings, for whoever chooses
	written Written
}

// Ladders are those there are, in the order in which they are offered.
func Ladders() []Ladder {
	return []Ladder{
		{"karate", "Karate", "White to black; stances, hand techniques, kicks and blocks, a mark for each line.", karate},
		{"kenpo", "Kenpo", "White to black, with a belt of a core line after the first; evasions, and tracks for children and adults.", kenpo},
		{"taekwondo", "Taekwondo", "White to black with a coloured bar between the belts; kicks on pads, a mark for each line.", taekwondo},
		{"children", "Small children", "White to green with section stripes on each belt, for ages 4 to 7; shown or not yet, nothing fails.", children},
	}
}

// made are the curricula of the ladders, by key, each made when it is first asked for.
var made = map[string]func() curriculum.Curriculum{}

func init() {
	for _, l := range Ladders() {
		made[l.Key] = sync.OnceValue(l.written.Curriculum)
	}
}

// Curriculum is the ladder of a key; found is false where there is none. It is shared: whoever begins with it
// takes a copy under ids of its own.
func Curriculum(key string) (c curriculum.Curriculum, found bool) {
	make, found := made[key]
	if !found {
		return c, false
	}
	return make(), true
}

func policy(p scoring.Policy) *scoring.Policy { return &p }

// The stances that most schools have, each measured: widths and lengths in shoulders, angles in degrees.
const stances = `
stance | Ready stance
	measures: 1 wide, out 0 0, on 50, bend 5 5
	look: feet a shoulder apart; hands still
	sides: none
stance | Front stance
	measures: 1 wide, 1.5 long, out 0 30, on 60, bend - 0, look trunk upright and square
	look: front knee over the toes; rear leg straight; hips square
	faults: rear heel lifts → press it down
stance | Horse stance
	level: yes
	measures: 2 wide, out 0 0, on 50, bend 55 55, look trunk upright
	look: two shoulders wide; knees out; back straight
	faults: leans forward → look at the wall
	sides: none
stance | Back stance
	measures: 0 wide, 1.4 long, out 0 90, on 30, bend - 60, hips 45, look trunk upright
	look: heels on a line; most weight behind
	faults: sinks to the front → lift the front heel to feel it
stance | Cat stance
	measures: .25 wide, .9 long, out 0 30, on 10, bend - 50, hips 30, up
	look: front foot light; could lift it
	faults: sways back to lift → settle first
stance | Fighting stance
	measures: 1 wide, 1.25 long, out 10 45, on 50, bend - 30, hips 45, look guard up
	look: guard up; weight even; rear heel light
	faults: guard drops → glue the hand to the cheek
`

// The strikes, blocks and kicks that most schools have.
const basics = `
strike | Jab
	look: shoulder behind it; comes straight back
	faults: elbow flies out → brush the ribs
strike | Front punch
	look: first two knuckles; other hand back
	faults: shoulder lifts → drop it as you breathe out
strike | Reverse punch
	look: hip before hand; rear heel down
	faults: leans in → stay over the belt
strike | Back fist
	look: elbow first; snaps back
	faults: wrist bends → one line from elbow to knuckles
strike | Hammer fist
	look: falls with the weight; little-finger side
	faults: elbow locked → keep it soft
strike | Palm heel strike
	look: fingers back; heel of the hand
	faults: fingers lead → pull them back
strike | Knife hand strike
	look: edge of the hand; wrist straight
	faults: thumb out → tuck it
strike | Elbow strike
	look: close; hip leads
	faults: shoulder lifts → turn the hip more
kick | Front kick
	look: knee first; ball of the foot; comes back before it falls
	faults: foot drops without recoil → touch the knee again
	surface: basics=ball of the foot, pads=ball of the foot
kick | Round kick
	look: standing foot turns; knee points; folds back
	faults: ! standing foot stays → the knee twists → turn the heel first
	surface: basics=ball of the foot, pads=instep
kick | Side kick
	look: knee across; heel first; hips over
	faults: toes up → turn the heel higher than the toes
	surface: basics=edge of the foot, pads=heel
kick | Back kick
	look: looks first; heel; knees brush
	faults: kicks blind → look over the shoulder
	surface: basics=heel, pads=heel
kick | Knee strike
	look: hip forward; foot pulled back
	faults: leans away → pull the hips in
block | Downward block
	look: from the shoulder to above the knee
	faults: swings past → stop at the leg
block | Rising block
	look: a fist above the brow; forearm turned
	faults: elbow wide → lift it along the middle
block | Inward block
	look: elbow a fist from the ribs; ends at the middle
	faults: swings past → stop at the nose line
block | Outward block
	look: elbow in; ends at the shoulder
	faults: elbow leaves the body → pin it
block | Knife hand block
	look: other hand at the chest; edge of the hand
	faults: wrist bends → one line
`

// What is common to the ladders beside technique.
const others = `
courtesy | Bow on entering and leaving
	look: stands still first; unhurried
courtesy | Line up by rank
	look: quick and quiet
footwork | Step forward and back
	look: same height; feet brush the floor
	faults: bobs up → knees stay bent
footwork | Slide and shuffle
	look: feet never cross; weight even
evasion | Side step
	look: off the line; guard stays
evasion | Lean and cover
	look: eyes stay open; hands up
sparring | Light sparring
	care: sparring: kit checked; contact none until the school states its rule; stop word
	look: control; moves off the line
	faults: too far to reach; touches
fitness | Press-ups
	look: body one board
fitness | Sit-ups
	look: chin off the chest
fitness | Squats
	look: knees over the toes
character | Effort and respect
	look: tries again when it is hard; helps others
`
