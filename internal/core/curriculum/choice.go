package curriculum

import "fmt"

// mostSlots bounds how many of the candidate's own are ticked one by one.
const mostSlots = 20

// Slots is how many combinations of their own a free-choice line asks of a candidate; 0 where it is a
// round or a time that is worked freely, and of other lines.
func (l Line) Slots() int {
	if !l.Free {
		return 0
	}
	switch l.Quantity.Measure {
	case RepsInAll, RepsPerSide, Alternating:
		return min(l.Quantity.Reps, mostSlots)
	}
	return 0
}

// TickList is what an examiner ticks on a free-choice line when it is seen: what was chosen ahead, and a
// place for each that was not; of a round that is worked freely its checkpoints, or, where it has none,
// one of each kind that the sheet asks. Nothing of other lines.
func (l Line) TickList(chosen []string, sheet []Line) (out []string) {
	if !l.Free {
		return nil
	}
	out = append(out, chosen...)
	if n := l.Slots(); n > 0 {
		for i := len(chosen); i < n; i++ {
			out = append(out, fmt.Sprintf("%s %d", freely(l.Kind), i+1))
		}
		return out
	}
	if len(l.Checkpoints) > 0 {
		return append(out, l.Checkpoints...)
	}
	for _, k := range Kinds {
		if word, ticked := freeKinds[k]; ticked {
			for _, x := range sheet {
				if x.Kind == k {
					out = append(out, word)
					break
				}
			}
		}
	}
	return out
}

// freeKinds are the kinds that are looked for in work of one's own.
var freeKinds = map[Kind]string{"strike": "a strike", "kick": "a kick", "block": "a block or parry", "evasion": "an evasion", "footwork": "footwork", "combination": "a combination", "throw": "a throw or takedown", "lock": "a lock"}

// freely is what one of a candidate's own is called.
func freely(k Kind) string {
	if k == "combination" {
		return "combination"
	}
	return "choice"
}
