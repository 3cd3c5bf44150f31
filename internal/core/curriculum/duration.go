package curriculum

import (
	"cmp"
	"slices"
)

// Durations in seconds. They are estimates from the floor, stated here so that a sheet's
// minutes can be followed by hand.
const (
	callOverhead  = 12 // naming the line, taking the position
	looksEach     = 2  // times an examiner must see each candidate, where the line does not say
	otherRep      = 5
	defaultWeight = 1
)

var secondsPerRep = map[Kind]int{
	"strike": 2, "kick": 3, "block": 2, "evasion": 2, "stance": 4, "footwork": 3, "lock": 10, "throw": 12, "breakfall": 6,
	"form": 60, "combination": 6, "self_defence": 10, "partner_set": 15, "balance": 20, "knowledge": 20, "courtesy": 15,
	"board_break": 30, "character": 30,
}

// duration is how long a line takes for a group of g:
//
//	seconds = call overhead + sets × reps called × seconds per rep of the kind,
//	          or the timed seconds and the rests between rounds
//
// all of it but the overhead once for each turn, where only some can work at once. A measure a
// side has two sets where the technique is trained on both; alternating and in all have one. A
// question, a courtesy, a character task or a board break, of a kick or a strike too, takes each
// candidate's turn.
func (l Line) duration(t *Technique, g int) int {
	work := 0
	per := SecondsPerRep(l.Kind)
	if l.breaksBoards() {
		per = SecondsPerRep("board_break")
	}
	for _, s := range l.Sets(t, l.Called(g)) {
		work += s.Reps*per + s.Seconds + s.Rest
	}
	times := l.turns(g)
	if own := []Kind{"knowledge", "courtesy", "character"}; l.Quantity.Seconds == 0 && (slices.Contains(own, l.Kind) || l.breaksBoards()) {
		times = g
	}
	return callOverhead + times*work
}

// SecondsPerRep is how many seconds a rep of a kind takes.
func SecondsPerRep(k Kind) int { return cmp.Or(secondsPerRep[k], otherRep) }
