package curriculum

import "cmp"

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

// duration says how many reps are called and how long a line takes for a group of g.
//
//	reps called = max(reps asked, looks × g)
//	seconds     = call overhead + sides × reps × seconds per rep of the kind,
//	              or the timed seconds and the rests between rounds
//	all of it but the overhead once for each turn, where only some can work at once
//
// A form, a question, a courtesy or a character task is shown as often as it is asked: one
// long showing, or a turn for each candidate.
func duration(x *asked, g int) (reps, seconds int) {
	q := x.q
	turns := 1
	if x.r.AtOnce > 0 {
		turns = (g + x.r.AtOnce - 1) / x.r.AtOnce
	}
	sides := 1
	if q.Measure == RepsPerSide || q.Measure == NoTouchDown {
		sides = x.t.Sides.Sides()
	}
	switch q.Measure {
	case Timed, CountWithin:
		return 0, callOverhead + turns*q.Seconds
	case RoundsTimed:
		return 0, callOverhead + turns*(q.Rounds*q.Seconds+(q.Rounds-1)*q.Rest)
	case Holds:
		return q.Reps, callOverhead + turns*q.Reps*q.Seconds
	}
	per, known := secondsPerRep[x.t.Kind]
	if !known {
		per = otherRep
	}
	switch x.t.Kind {
	case "form":
		return q.Reps, callOverhead + turns*sides*q.Reps*per
	case "knowledge", "courtesy", "character", "board_break": // one after the other
		return q.Reps, callOverhead + sides*q.Reps*per*g
	}
	reps = max(q.Reps, cmp.Or(x.r.Looks, looksEach)*((g+turns-1)/turns))
	return reps, callOverhead + turns*sides*reps*per
}

// PaceOf is how many seconds a rep of a kind takes.
func PaceOf(k Kind) int { return cmp.Or(secondsPerRep[k], otherRep) }
