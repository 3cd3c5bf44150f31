package curriculum

import (
	"fmt"
	"slices"

	"velvetladder/internal/core/check"
)

// RuleKind says what a rule of eligibility looks at.
type RuleKind string

// The kinds of rule. RetestWait is never set: it follows from an announced retest.
const (
	MonthsSince RuleKind = "months_since" // months since the last promotion
	DaysSince   RuleKind = "days_since"   // days since the last promotion
	LeastAge    RuleKind = "least_age"    // years
	Word        RuleKind = "word"         // an instructor says that the student is ready
	RetestWait  RuleKind = "retest_wait"
)

// RuleKinds are those a rung may set, in the order screens list them.
var RuleKinds = []RuleKind{MonthsSince, DaysSince, LeastAge, Word}

// Words is the rule as people say it.
func (k RuleKind) Words() string {
	return map[RuleKind]string{MonthsSince: "months since the last promotion", DaysSince: "days since the last promotion", LeastAge: "years of age", Word: "an instructor’s word", RetestWait: "waiting time after a retest"}[k]
}

// most is the largest amount a rule may ask, by kind; 0 where the kind has none.
var most = map[RuleKind]int{MonthsSince: 240, DaysSince: 3650, LeastAge: 100}

// Rule is a condition for being tested for a rung. All that are set must hold.
type Rule struct {
	Kind    RuleKind `json:"kind"`
	Amount  int      `json:"amount,omitzero"` // months, days or years; 0 of a word
	TrackID string   `json:"track,omitempty"` // it holds for this track in the place of the rule for everybody; "" everybody
}

func checkRules(p *check.Problems, rules []Rule) {
	seen := map[Rule]bool{}
	for _, r := range rules {
		check.OneOf(p, "rules", r.Kind, RuleKinds)
		if limit := most[r.Kind]; r.Amount < 0 || r.Amount > limit {
			p.Add("rules", "%d %s; write a number up to %d", r.Amount, r.Kind.Words(), limit)
		}
		if seen[Rule{Kind: r.Kind, TrackID: r.TrackID}] {
			p.Add("rules", "%s stands twice for the same students", r.Kind.Words())
		}
		seen[Rule{Kind: r.Kind, TrackID: r.TrackID}] = true
	}
}

// RulesOf are the rules that hold for a track at a rung: of each kind the track's own, else
// the one for everybody. An amount of 0 lets a track off.
func (b *Book) RulesOf(rung, track string) (out []Rule) {
	g := b.Rung(rung)
	if g == nil {
		return nil
	}
	for _, k := range RuleKinds {
		of := func(id string) int {
			return slices.IndexFunc(g.Rules, func(r Rule) bool { return r.Kind == k && r.TrackID == id })
		}
		at := of(track)
		if at < 0 {
			at = of("")
		}
		if at >= 0 && (g.Rules[at].Amount > 0 || k == Word) {
			out = append(out, g.Rules[at])
		}
	}
	return out
}

// Above is the rung that whoever stands on a rung climbs to; nil at the top.
func (b *Book) Above(rung string) *Rung {
	if at := b.Place(rung); at >= 0 && at+1 < len(b.Rungs) {
		return &b.Rungs[at+1]
	}
	return nil
}

func (v *validator) rules(path string, rules []Rule) {
	for i, r := range rules {
		if r.TrackID != "" && v.Track(r.TrackID) == nil {
			v.add(fmt.Sprintf("%s.rules[%d].track", path, i), "%q is no track of this program", r.TrackID)
		}
	}
}
