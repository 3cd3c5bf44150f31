// Package exchange reads and writes Velvet Ladder's open formats, one file per format.
// docs/formats.md describes them.
package exchange

import (
	"errors"
	"fmt"
	"io"
	"strings"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

// TallyError says which place of a tally document is wrong, as a JSON path such as
// "$.sheets[0].marks.bow".
type TallyError struct {
	Path, Problem string
}

// Error gives path and problem.
func (e *TallyError) Error() string { return e.Path + ": " + e.Problem }

type tallyScale struct {
	Lowest  scoring.Decimal  `json:"lowest"`
	Highest scoring.Decimal  `json:"highest"`
	Step    scoring.Decimal  `json:"step"`
	Labels  []scoring.Label  `json:"labels"`
	Failing *scoring.Decimal `json:"failing"`
	Honours *scoring.Decimal `json:"honours"`
	Double  bool             `json:"double"`
}

type tallyRules struct {
	Threshold      *scoring.Decimal         `json:"threshold"`
	SectionMinima  []scoring.SectionMinimum `json:"section_minima"`
	AllowedFailing *int                     `json:"allowed_failing"`
	MustPass       *bool                    `json:"must_pass"`
	MinimumSeen    *scoring.Decimal         `json:"minimum_seen"`
}

type tallyPanel struct {
	Rule      scoring.PanelRule `json:"rule"`
	Tie       scoring.TieRule   `json:"tie"`
	Quorum    *int              `json:"quorum"`
	Examiners []string          `json:"examiners"`
	Chief     *string           `json:"chief"`
}

type tallyItem struct {
	ID       string `json:"id"`
	Label    string `json:"label"`
	Section  string `json:"section"`
	Weight   *int   `json:"weight"`
	Bonus    bool   `json:"bonus"`
	MustPass bool   `json:"must_pass"`
}

type tallySheet struct {
	Examiner   string                      `json:"examiner"`
	Marks      map[string]*scoring.Decimal `json:"marks"`
	Deductions []scoring.Decimal           `json:"deductions"`
}

type tallyIn struct {
	Scale       tallyScale   `json:"scale"`
	Rules       tallyRules   `json:"rules"`
	Panel       tallyPanel   `json:"panel"`
	Items       []tallyItem  `json:"items"`
	Sheets      []tallySheet `json:"sheets"`
	EndingFault bool         `json:"ending_fault"`
}

type tallyExaminer struct {
	Examiner string          `json:"examiner"`
	Points   string          `json:"points"`
	Possible string          `json:"possible"`
	Full     string          `json:"full"`
	Seen     int             `json:"seen"`
	Counted  int             `json:"counted"`
	Verdict  scoring.Verdict `json:"verdict"`
	Failing  []string        `json:"failing"`
	Reasons  []tallyReason   `json:"reasons"`
}

// tallyReason is a reason in the file: its figures, and the sentence.
type tallyReason struct {
	Rule      scoring.Rule `json:"rule"`
	Holds     bool         `json:"holds"`
	Examiner  string       `json:"examiner,omitempty"`
	Section   string       `json:"section,omitempty"`
	Items     []string     `json:"items,omitempty"`
	Figure    string       `json:"figure,omitempty"`
	Threshold string       `json:"threshold,omitempty"`
	Margin    string       `json:"margin,omitempty"`
	Text      string       `json:"text"`
}

func tallyReasons(all []scoring.Reason) (out []tallyReason) {
	for _, r := range all {
		out = append(out, tallyReason{r.Rule, r.Holds, r.Examiner, r.Section, r.Items, r.Figure, r.Threshold, r.Margin, words.Reason(r)})
	}
	return out
}

type tallyMove struct {
	Examiner string `json:"examiner"`
	Item     string `json:"item"`
	From     string `json:"from"`
	To       string `json:"to"`
	Steps    int    `json:"steps"`
}

type tallyChange struct {
	Towards    string      `json:"towards"`
	Steps      int         `json:"steps"`
	Exact      bool        `json:"exact"`
	Moves      []tallyMove `json:"moves"`
	Impossible string      `json:"impossible,omitempty"`
	Text       string      `json:"text"`
}

type tallyResult struct {
	Outcome        scoring.Outcome `json:"outcome"`
	Unseen         []string        `json:"unseen"`
	Reasons        []tallyReason   `json:"reasons"`
	SmallestChange *tallyChange    `json:"smallest_change"`
}

type tallyOut struct {
	Examiners []tallyExaminer `json:"examiners"`
	Panel     tallyResult     `json:"panel"`
}

// maxTally bounds a tally document: 99 examiners × 1,000 items fit many times over.
const maxTally = 16 << 20

// ReadTally reads one candidate's marks with their policy. Whatever is wrong is a
// *TallyError with the JSON path of the place; nothing is guessed or left out.
func ReadTally(r io.Reader) (scoring.Policy, scoring.Test, error) {
	fail := func(path, format string, args ...any) (scoring.Policy, scoring.Test, error) {
		return scoring.Policy{}, scoring.Test{}, &TallyError{path, fmt.Sprintf(format, args...)}
	}
	data, err := io.ReadAll(io.LimitReader(r, maxTally+1))
	if err != nil {
		return scoring.Policy{}, scoring.Test{}, err
	}
	if len(data) > maxTally {
		return fail("$", "is larger than %d MiB", maxTally>>20)
	}
	var in tallyIn
	if err := json.Unmarshal(data, &in, json.RejectUnknownMembers(true)); err != nil {
		return scoring.Policy{}, scoring.Test{}, jsonProblem(data, err)
	}
	p := scoring.Policy{
		Scale: scoring.Scale{Lowest: in.Scale.Lowest, Highest: in.Scale.Highest, Step: in.Scale.Step, Labels: in.Scale.Labels,
			Failing: in.Scale.Failing, Honours: in.Scale.Honours, Double: in.Scale.Double},
		Rules: scoring.Rules{Threshold: in.Rules.Threshold, SectionMinima: in.Rules.SectionMinima, AllowedFailing: in.Rules.AllowedFailing,
			IgnoreMustPass: in.Rules.MustPass != nil && !*in.Rules.MustPass, MinimumSeen: in.Rules.MinimumSeen},
		Panel: in.Panel.Rule, Tie: in.Panel.Tie,
	}
	if p.Panel == "" {
		p.Panel = scoring.Majority
	}
	if p.Tie == "" {
		p.Tie = scoring.TieChief
	}
	if in.Panel.Quorum != nil {
		if p.Quorum = *in.Panel.Quorum; p.Quorum < 1 {
			return fail("$.panel.quorum", "is %d; it must be 1 or more, or left out for more than half of the panel", p.Quorum)
		}
	}
	if err := p.Check(); err != nil {
		return scoring.Policy{}, scoring.Test{}, atPath(err)
	}

	t := scoring.Test{EndingFault: in.EndingFault}
	at := map[string]int{}
	for i, it := range in.Items {
		weight := 1
		if it.Weight != nil {
			weight = *it.Weight
		}
		t.Items = append(t.Items, scoring.Item{ID: it.ID, Label: it.Label, Section: it.Section, Weight: weight, Bonus: it.Bonus, MustPass: it.MustPass})
		if _, twice := at[it.ID]; twice {
			return fail(fmt.Sprintf("$.items[%d].id", i), "%q stands twice", it.ID)
		}
		at[it.ID] = i
	}
	rows := map[string]int{}
	for i, e := range in.Panel.Examiners {
		if e == "" {
			return fail(fmt.Sprintf("$.panel.examiners[%d]", i), "is empty")
		}
		if _, twice := rows[e]; twice {
			return fail(fmt.Sprintf("$.panel.examiners[%d]", i), "%q stands twice", e)
		}
		rows[e] = i
		t.Sheets = append(t.Sheets, scoring.Sheet{Examiner: e, Marks: make([]scoring.Mark, len(t.Items))})
	}
	if in.Panel.Chief != nil {
		if _, known := rows[*in.Panel.Chief]; !known {
			return fail("$.panel.chief", "%q is not among the panel's examiners", *in.Panel.Chief)
		}
		t.Chief = *in.Panel.Chief
	}
	given := map[string]bool{}
	for i, s := range in.Sheets {
		path := fmt.Sprintf("$.sheets[%d]", i)
		row, known := rows[s.Examiner]
		if !known {
			return fail(path+".examiner", "%q is not among the panel's examiners", s.Examiner)
		}
		if given[s.Examiner] {
			return fail(path+".examiner", "%q has a sheet already", s.Examiner)
		}
		given[s.Examiner] = true
		for id, m := range s.Marks {
			k, known := at[id]
			if !known {
				return fail(member(path+".marks", id), "no item has this id")
			}
			if m == nil {
				continue
			}
			if !p.Scale.Holds(*m) {
				return fail(member(path+".marks", id), "is %s; the scale is %s", *m, p.Scale.Describe())
			}
			t.Sheets[row].Marks[k] = scoring.Seen(*m)
		}
		for _, it := range in.Items {
			if _, there := s.Marks[it.ID]; !there {
				return fail(member(path+".marks", it.ID), "is missing; give a mark, or null where it was not seen")
			}
		}
		for k, d := range s.Deductions {
			if d < 0 || d > scoring.Whole(1_000_000) {
				return fail(fmt.Sprintf("%s.deductions[%d]", path, k), "is %s; it must be from 0 to 1000000", d)
			}
			t.Sheets[row].Deductions += d
		}
	}
	if err := t.Check(p); err != nil {
		return scoring.Policy{}, scoring.Test{}, atPath(err)
	}
	return p, t, nil
}

// WriteTally writes what a test came to. Figures are exact numbers as text.
func WriteTally(w io.Writer, t scoring.Test, r scoring.Result) error {
	ids := func(list []int) []string {
		out := []string{}
		for _, k := range list {
			out = append(out, t.Items[k].ID)
		}
		return out
	}
	out := tallyOut{Examiners: []tallyExaminer{}}
	for _, y := range r.Tallies {
		out.Examiners = append(out.Examiners, tallyExaminer{
			Examiner: y.Examiner, Points: y.Points.String(), Possible: y.Possible.String(), Full: y.Full.String(),
			Seen: y.Seen, Counted: y.Counted, Verdict: y.Verdict, Failing: ids(y.Failing), Reasons: tallyReasons(y.Reasons),
		})
	}
	out.Panel = tallyResult{Outcome: r.Outcome, Unseen: ids(r.Unseen), Reasons: tallyReasons(r.Reasons)}
	if c := r.Change; c != nil {
		change := tallyChange{Towards: string(c.Towards), Steps: c.Steps, Exact: c.Exact, Moves: []tallyMove{}, Text: words.Change(*c, t)}
		if c.Impossible != nil {
			change.Impossible = words.Never(*c.Impossible)
		}
		for _, m := range c.Moves {
			change.Moves = append(change.Moves, tallyMove{t.Sheets[m.Sheet].Examiner, t.Items[m.Item].ID, m.From.String(), m.To.String(), m.Steps})
		}
		out.Panel.SmallestChange = &change
	}
	return writeJSON(w, out)
}

func atPath(err error) error {
	var f *scoring.FieldError
	if errors.As(err, &f) {
		return &TallyError{"$." + f.Path, f.Problem}
	}
	return err
}

// member writes a path to an object's member, quoted where a plain name would mislead.
func member(path, name string) string {
	if name != "" && strings.Trim(name, "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-") == "" {
		return path + "." + name
	}
	return fmt.Sprintf("%s[%q]", path, name)
}

// jsonProblem turns the decoder's error into a path and a plain sentence.
func jsonProblem(data []byte, err error) error {
	var syntax *jsontext.SyntacticError
	if errors.As(err, &syntax) {
		line := 1 + strings.Count(string(data[:min(int(syntax.ByteOffset), len(data))]), "\n")
		problem := syntax.Err.Error()
		if errors.Is(err, jsontext.ErrDuplicateName) {
			problem = "this name stands twice"
		}
		return &TallyError{pointerPath(syntax.JSONPointer), fmt.Sprintf("%s (line %d)", problem, line)}
	}
	var meaning *json.SemanticError
	if errors.As(err, &meaning) {
		problem := "does not fit: " + string(meaning.JSONKind.String()) + " where another kind of value belongs"
		switch {
		case errors.Is(err, json.ErrUnknownName):
			problem = "is not a field of this format"
		case errors.Is(err, scoring.ErrDecimal):
			problem = meaning.Err.Error()
		case meaning.Err != nil:
			problem += " (" + meaning.Err.Error() + ")"
		}
		return &TallyError{pointerPath(meaning.JSONPointer), problem}
	}
	return &TallyError{"$", err.Error()}
}

func pointerPath(p jsontext.Pointer) string {
	path := "$"
	for token := range p.Tokens() {
		if strings.Trim(token, "0123456789") == "" && token != "" {
			path += "[" + token + "]"
		} else {
			path = member(path, token)
		}
	}
	return path
}
