package exchange

import (
	"bytes"
	"fmt"
	"io"

	"github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// GradingFormat and GradingVersion stand at the head of a grading's file.
const (
	GradingFormat  = "velvetladder/grading"
	GradingVersion = 1
)

// GradingFile is a whole grading as people see it, with every mark. Names stand for people; ids are
// those of the records.
type GradingFile struct {
	Format     string             `json:"format"`
	Version    int                `json:"version"`
	School     string             `json:"school"`
	ID         string             `json:"id"`
	Title      string             `json:"title"`
	Program    string             `json:"program"`
	On         civil.Date         `json:"on"`
	Place      string             `json:"place"`
	Marking    gradingday.Marking `json:"marking"`
	Rungs      []string           `json:"rungs"`
	Rings      []GradingRing      `json:"rings"`
	Candidates []GradingCandidate `json:"candidates"`
}

// GradingRing is a ring with its panel and its part of the day plan.
type GradingRing struct {
	Name  string          `json:"name"`
	Panel []GradingSeat   `json:"panel"`
	Plan  []GradingPlaced `json:"plan,omitempty"`
}

// GradingSeat is an examiner of a panel.
type GradingSeat struct {
	Name  string `json:"name"`
	Chief bool   `json:"chief,omitzero"`
}

// GradingPlaced is a part of a group in the day plan, with times of day as "10:05".
type GradingPlaced struct {
	Group string `json:"group"`
	Part  int    `json:"part"` // 1, or 2 after the rest
	From  string `json:"from"`
	To    string `json:"to"`
}

// GradingCandidate is one candidate. Tally is a document the tally command reads; it is left out while a panel
// has not signed, as are Outcome, Faults and Decision.
type GradingCandidate struct {
	ID        string           `json:"id"`
	Name      string           `json:"name"`
	Number    int              `json:"number"`
	Group     string           `json:"group"`
	Ring      string           `json:"ring"`
	From      string           `json:"from"` // the rank in the words of the day
	To        string           `json:"to"`
	Reason    string           `json:"reason,omitempty"` // why somebody was entered who might not have been
	Sealed    bool             `json:"sealed,omitzero"`  // somebody of the panel has not signed
	Outcome   scoring.Outcome  `json:"outcome,omitempty"`
	Tally     *tallyIn         `json:"tally,omitempty"`
	Faults    []GradingFault   `json:"faults,omitempty"`
	Decision  *GradingDecision `json:"decision,omitempty"`
	Announced bool             `json:"announced,omitzero"`
}

// GradingFault is conduct that was noted.
type GradingFault struct {
	Examiner string          `json:"examiner"`
	Kind     string          `json:"kind"`
	Points   scoring.Decimal `json:"points,omitzero"`
	Text     string          `json:"text"`
}

// GradingDecision is what the committee decided.
type GradingDecision struct {
	Outcome    scoring.Outcome `json:"outcome"`
	By         string          `json:"by"`
	Reason     string          `json:"reason,omitempty"`
	RetestFrom civil.Date      `json:"retest_from,omitzero"`
}

// SetTally puts a candidate's marks into the file.
func (c *GradingCandidate) SetTally(p scoring.Policy, t scoring.Test) {
	must := !p.Rules.IgnoreMustPass
	in := tallyIn{
		Scale: tallyScale{p.Scale.Lowest, p.Scale.Highest, p.Scale.Step, p.Scale.Labels, p.Scale.Failing, p.Scale.Honours, p.Scale.Double},
		Rules: tallyRules{p.Rules.Threshold, p.Rules.SectionMinima, p.Rules.AllowedFailing, &must, p.Rules.MinimumSeen},
		Panel: tallyPanel{Rule: p.Panel, Tie: p.Tie}, EndingFault: t.EndingFault,
	}
	if p.Quorum > 0 {
		in.Panel.Quorum = &p.Quorum
	}
	if t.Chief != "" {
		in.Panel.Chief = &t.Chief
	}
	for _, it := range t.Items {
		weight := it.Weight
		in.Items = append(in.Items, tallyItem{it.ID, it.Label, it.Section, &weight, it.Bonus, it.MustPass})
	}
	for _, s := range t.Sheets {
		in.Panel.Examiners = append(in.Panel.Examiners, s.Examiner)
		out := tallySheet{Examiner: s.Examiner, Marks: map[string]*scoring.Decimal{}, Deductions: []scoring.Decimal{}}
		if s.Deductions > 0 {
			out.Deductions = append(out.Deductions, s.Deductions)
		}
		for k, m := range s.Marks {
			var v *scoring.Decimal
			if m.Seen {
				value := m.Value
				v = &value
			}
			out.Marks[t.Items[k].ID] = v
		}
		in.Sheets = append(in.Sheets, out)
	}
	c.Tally = &in
}

// Recompute adds a candidate's marks up again and reports whether the outcome is the one that
// stands in the file. It fails where the marks cannot be read.
func (c GradingCandidate) Recompute() (outcome scoring.Outcome, same bool, err error) {
	if c.Tally == nil {
		return "", c.Outcome == "", nil
	}
	text, err := json.Marshal(c.Tally)
	if err != nil {
		return "", false, err
	}
	p, t, err := ReadTally(bytes.NewReader(text))
	if err != nil {
		return "", false, err
	}
	r, err := p.Decide(t)
	return r.Outcome, r.Outcome == c.Outcome, err
}

// WriteGrading writes a grading's file, indented, the same bytes each time.
func WriteGrading(w io.Writer, g GradingFile) error {
	g.Format, g.Version = GradingFormat, GradingVersion
	return json.MarshalWrite(w, g, json.Deterministic(true), jsontext.WithIndent("  "))
}

// maxGrading bounds a grading's file: 500 candidates with 5 examiners and 100 items.
const maxGrading = 64 << 20

// ReadGrading reads what WriteGrading writes. Whatever is wrong is a *TallyError with its place.
func ReadGrading(r io.Reader) (g GradingFile, err error) {
	data, err := io.ReadAll(io.LimitReader(r, maxGrading+1))
	if err != nil {
		return g, err
	}
	if len(data) > maxGrading {
		return g, &TallyError{"$", fmt.Sprintf("is larger than %d MiB", maxGrading>>20)}
	}
	if err := json.Unmarshal(data, &g, json.RejectUnknownMembers(true)); err != nil {
		return g, jsonProblem(data, err)
	}
	switch {
	case g.Format != GradingFormat:
		return g, &TallyError{"$.format", fmt.Sprintf("is %q; a grading's file has %q", g.Format, GradingFormat)}
	case g.Version != GradingVersion:
		return g, &TallyError{"$.version", fmt.Sprintf("is %d; this program reads %d", g.Version, GradingVersion)}
	}
	return g, nil
}
