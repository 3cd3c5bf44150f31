package curriculum

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/timetable"
)

// RuleKind says what a rule of eligibility looks at.
type RuleKind string

// The kinds of rule. RetestWait is never set: it follows from an announced retest.
const (
	MonthsSince   RuleKind = "months_since"    // months since the last promotion
	DaysSince     RuleKind = "days_since"      // days since the last promotion
	ClassesSince  RuleKind = "classes"         // classes attended since, all or of a kind
	ClassShare    RuleKind = "class_share"     // percent of the classes held since
	LeastAge      RuleKind = "least_age"       // years
	AllStripes    RuleKind = "section_stripes" // every section stripe of the rung
	AllSignedOff  RuleKind = "signed_off"      // every line of the own sheet that is no bonus was shown at what it asks
	EachSignedOff RuleKind = "signed_off_each" // so many of them in each section
	KitOwned      RuleKind = "kit"
	Membership    RuleKind = "membership" // valid on the day
	Insurance     RuleKind = "insurance"  // valid on the day
	Disclaimer    RuleKind = "disclaimer" // a signed waiver of liability, valid on the day
	CharacterTask RuleKind = "character"  // the family gives examples
	Word          RuleKind = "word"       // an instructor says that the student is ready
	RetestWait    RuleKind = "retest_wait"
)

// RuleKinds are those a rung may set, in the order screens list them.
var RuleKinds = []RuleKind{MonthsSince, DaysSince, ClassesSince, ClassShare, LeastAge, AllStripes, AllSignedOff, EachSignedOff, KitOwned, Membership, Insurance, Disclaimer, CharacterTask, Word}

var ruleWords = map[RuleKind]string{MonthsSince: "months since the last promotion", DaysSince: "days since the last promotion", ClassesSince: "classes attended since",
	ClassShare: "percent of the classes held since", LeastAge: "years of age", AllStripes: "every section stripe", AllSignedOff: "every requirement signed off",
	EachSignedOff: "requirements signed off in each section", KitOwned: "the kit for the rung", Membership: "membership valid on the day", Insurance: "insurance valid on the day",
	Disclaimer: "a signed disclaimer valid on the day", CharacterTask: "the character task, with examples from the family", Word: "an instructor’s word", RetestWait: "waiting time after a retest"}

// Words is the rule as people say it. Of a key it names the kind of class too.
func (k RuleKind) Words() string {
	if kind, of, cut := strings.Cut(string(k), ":"); cut {
		return of + " " + ruleWords[RuleKind(kind)]
	}
	return ruleWords[k]
}

// Counted reports whether a rule has an amount; the others are on or off.
func (k RuleKind) Counted() bool { return most[k] > 1 }

// Paper reports whether a rule asks for a paper that is valid on the day.
func (k RuleKind) Paper() bool { return k == Membership || k == Insurance || k == Disclaimer }

// most is the largest amount a rule may ask, by kind; a rule without an amount is on at 1.
var most = map[RuleKind]int{MonthsSince: 240, DaysSince: 3650, ClassesSince: 2000, ClassShare: 100, LeastAge: 100, EachSignedOff: 100,
	AllStripes: 1, AllSignedOff: 1, KitOwned: 1, Membership: 1, Insurance: 1, Disclaimer: 1, CharacterTask: 1}

// Rule is a condition for being tested for a rung. All that are set must hold.
type Rule struct {
	Kind    RuleKind `json:"kind"`
	Amount  int      `json:"amount,omitzero"`      // months, days, classes, percent, years or requirements; 1 of a rule that is on or off; 0 of a word
	Of      string   `json:"class_kind,omitempty"` // of classes: the kind of class that counts; "" every kind
	Modes   string   `json:"modes,omitempty"`      // of classes and their share: those that count, a space between them; "" in the hall and live online
	TrackID string   `json:"track,omitempty"`      // it holds for this track in the place of the rule for everybody; "" everybody
}

// Key tells the rules of one rung and track apart: the kind, and of classes of a kind that
// kind too: "classes:sparring".
func (r Rule) Key() RuleKind {
	if r.Of != "" {
		return r.Kind + ":" + RuleKind(r.Of)
	}
	return r.Kind
}

// Words is the rule as it is asked: "6 months since the last promotion", "the kit for the rung".
func (r Rule) Words() string {
	if !r.Kind.Counted() {
		return r.Kind.Words()
	}
	what, rest, _ := strings.Cut(r.Kind.Words(), " ")
	if r.Amount == 1 && what != "percent" {
		if what = strings.TrimSuffix(what, "s"); r.Kind == ClassesSince {
			what = strings.TrimSuffix(what, "e")
		}
	}
	if r.Of != "" {
		what = r.Of + " " + what
	}
	return fmt.Sprintf("%d %s %s", r.Amount, what, rest)
}

// Counts reports whether a class taken part in so counts.
func (r Rule) Counts(m timetable.Mode) bool {
	if r.Modes == "" {
		return m != timetable.Recorded
	}
	return slices.Contains(strings.Fields(r.Modes), string(m))
}

func checkRules(p *check.Problems, rules []Rule) {
	seen := map[Rule]bool{}
	for _, r := range rules {
		check.OneOf(p, "rules", r.Kind, RuleKinds)
		if limit := most[r.Kind]; r.Amount < 0 || r.Amount > limit {
			p.Add("rules", "%d %s; write a number up to %d", r.Amount, r.Kind.Words(), limit)
		}
		if r.Of != "" && r.Kind != ClassesSince {
			p.Add("rules", "%s: only classes attended can be of a kind", r.Kind.Words())
		}
		p.Line("rules", r.Of, check.NameLength)
		for _, m := range strings.Fields(r.Modes) {
			check.OneOf(p, "rules", timetable.Mode(m), timetable.Modes)
		}
		key := Rule{Kind: r.Kind, Of: check.Key(r.Of), TrackID: r.TrackID}
		if seen[key] {
			p.Add("rules", "%s stands twice for the same students", r.Key().Words())
		}
		seen[key] = true
	}
}

// RulesOf are the rules that hold for a track at a rung: of each kind the track's own, else
// the one for everybody. An amount of 0 lets a track off.
func (b *Book) RulesOf(rung, track string) (out []Rule) {
	g := b.Rung(rung)
	if g == nil {
		return nil
	}
	for i, r := range g.Rules {
		own := slices.ContainsFunc(g.Rules, func(x Rule) bool { return x.Key() == r.Key() && x.TrackID == track && track != "" })
		if (r.TrackID == track || r.TrackID == "" && !own) && (r.Amount > 0 || r.Kind == Word) {
			out = append(out, g.Rules[i])
		}
	}
	slices.SortStableFunc(out, func(x, y Rule) int {
		return cmp.Or(cmp.Compare(slices.Index(RuleKinds, x.Kind), slices.Index(RuleKinds, y.Kind)), cmp.Compare(x.Of, y.Of))
	})
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
