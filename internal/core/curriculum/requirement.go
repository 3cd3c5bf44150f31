package curriculum

import (
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
)

// Role is the part the candidate plays.
type Role string

// Roles are the choices; performer is the usual one.
var Roles = []Role{"performer", "attacker", "defender", "holder"}

// Measure says in what a requirement is counted.
type Measure string

// The measures.
const (
	RepsPerSide Measure = "reps_per_side"
	RepsInAll   Measure = "reps"
	Timed       Measure = "seconds"
	RoundsTimed Measure = "rounds" // rounds × seconds with rests between
)

// Measures are the choices, in the order screens offer them.
var Measures = []Measure{RepsPerSide, RepsInAll, Timed, RoundsTimed}

// Words is the measure as people say it.
func (m Measure) Words() string {
	return map[Measure]string{RepsPerSide: "reps a side", RepsInAll: "reps in all", Timed: "seconds", RoundsTimed: "rounds"}[m]
}

// Quantity is how much is asked. Fields that the measure does not use are 0.
type Quantity struct {
	Measure Measure `json:"measure"`
	Reps    int     `json:"reps,omitempty"`    // 1 to 200, of both reps measures
	Seconds int     `json:"seconds,omitempty"` // 1 to 3600, of timed work or of one round
	Rounds  int     `json:"rounds,omitempty"`  // 1 to 20
	Rest    int     `json:"rest,omitempty"`    // seconds between rounds, 0 to 600
}

// Check notes what is wrong with a quantity.
func (q Quantity) Check(p *check.Problems) {
	check.OneOf(p, "measure", q.Measure, Measures)
	between := func(field string, n, least, most int) {
		if n < least || n > most {
			p.Add(field, "is %d; it must be from %d to %d", n, least, most)
		}
	}
	switch q.Measure {
	case RepsPerSide, RepsInAll:
		between("reps", q.Reps, 1, 200)
	case RoundsTimed:
		between("rounds", q.Rounds, 1, 20)
		between("rest", q.Rest, 0, 600)
		between("seconds", q.Seconds, 1, 3600)
	case Timed:
		between("seconds", q.Seconds, 1, 3600)
	}
}

// String is the quantity as it stands on a sheet: "5 a side", "3 × 60 s, 30 s rest".
func (q Quantity) String() string {
	switch q.Measure {
	case RepsPerSide:
		return fmt.Sprintf("%d a side", q.Reps)
	case RepsInAll:
		if q.Reps == 1 {
			return "once"
		}
		return fmt.Sprintf("%d times", q.Reps)
	case Timed:
		return fmt.Sprintf("%d s", q.Seconds)
	}
	if q.Rest > 0 && q.Rounds > 1 {
		return fmt.Sprintf("%d × %d s, %d s rest", q.Rounds, q.Seconds, q.Rest)
	}
	return fmt.Sprintf("%d × %d s", q.Rounds, q.Seconds)
}

// Requirement asks for a technique at a rung. A rung may ask for one technique more than once.
type Requirement struct {
	ID, RungID, SectionID, TechniqueID string
	Position                           int
	Role                               Role
	Quantity                           Quantity
	MustPass, Bonus                    bool
	Weight                             int // 1 to 100
	Note                               string
}

// Check notes what is wrong with a requirement.
func (r Requirement) Check() check.Problems {
	var p check.Problems
	check.OneOf(&p, "role", r.Role, Roles)
	r.Quantity.Check(&p)
	if r.Weight < 1 || r.Weight > 100 {
		p.Add("weight", "is %d; it must be from 1 to 100", r.Weight)
	}
	if r.MustPass && r.Bonus {
		p.Add("bonus", "a bonus line cannot fail anybody; take away either bonus or must pass")
	}
	p.Line("note", r.Note, check.LineLength)
	return p
}

// ErrQuantity is wrapped by every error of ParseQuantity.
var ErrQuantity = errors.New("not an amount")

var (
	sidesPattern  = regexp.MustCompile(`^(\d{1,4}) ?(?:x |× ?|times )?(?:a|per|each|/) ?side$`)
	repsPattern   = regexp.MustCompile(`^(\d{1,4}) ?(?:x|×|times|reps?)?$`)
	timedPattern  = regexp.MustCompile(`^(\d{1,4}) ?(s|sec|secs|seconds?|m|min|mins|minutes?)$`)
	roundsPattern = regexp.MustCompile(`^(\d{1,3}) ?(?:x|×|rounds of|rounds) ?(\d{1,4}) ?(s|sec|secs|seconds?|m|min|mins|minutes?)(?:,? (\d{1,4}) ?(s|sec|secs|seconds?|m|min|mins|minutes?) rest)?$`)
)

// ParseQuantity reads an amount as people write it: "5 a side", "10", "once", "60 s",
// "2 min", "2 x 90 s", "3 x 60 s, 30 s rest". It reads what Quantity.String prints.
func ParseQuantity(text string) (Quantity, error) {
	said := strings.ToLower(check.Tidy(text))
	number := func(s string) int {
		n, _ := strconv.Atoi(s) // the patterns hold at most four digits
		return n
	}
	seconds := func(n, unit string) int {
		if unit[0] == 'm' {
			return 60 * number(n)
		}
		return number(n)
	}
	var q Quantity
	if m := sidesPattern.FindStringSubmatch(said); m != nil {
		q = Quantity{Measure: RepsPerSide, Reps: number(m[1])}
	} else if m := repsPattern.FindStringSubmatch(said); m != nil {
		q = Quantity{Measure: RepsInAll, Reps: number(m[1])}
	} else if said == "once" {
		q = Quantity{Measure: RepsInAll, Reps: 1}
	} else if said == "twice" {
		q = Quantity{Measure: RepsInAll, Reps: 2}
	} else if m := timedPattern.FindStringSubmatch(said); m != nil {
		q = Quantity{Measure: Timed, Seconds: seconds(m[1], m[2])}
	} else if m := roundsPattern.FindStringSubmatch(said); m != nil {
		q = Quantity{Measure: RoundsTimed, Rounds: number(m[1]), Seconds: seconds(m[2], m[3])}
		if m[4] != "" {
			q.Rest = seconds(m[4], m[5])
		}
	} else {
		return q, fmt.Errorf("%w: %q; write for example 5 a side, 10, once, 60 s, or 2 x 90 s, 30 s rest", ErrQuantity, text)
	}
	var p check.Problems
	q.Check(&p)
	if len(p) > 0 {
		return q, fmt.Errorf("%w: %s %s", ErrQuantity, p[0].Field, p[0].Text)
	}
	return q, nil
}
