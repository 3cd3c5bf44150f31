package gradingday

import (
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// CheckItem is one thing a candidate brings, or that is missing about them.
type CheckItem struct {
	Kind   string // kit, paper, evidence, measure, contact
	What   string
	State  progress.State
	Answer *progress.Answer // of a paper or evidence: the rule held against it
	On     civil.Date       // the day it was held for
}

// Bringing is what is known of a candidate before the day.
type Bringing struct {
	Kit      []string  // asked for the rung
	Owned    *[]string // nil: nobody looked
	Verdict  progress.Verdict
	Spars    bool
	HeightCM int
	WeightKG int
	Contact  string
}

// Checklist is what a candidate must bring and what is missing, kit first. What is not known is
// unknown, never missing.
func Checklist(b Bringing) (out []CheckItem) {
	for _, k := range b.Kit {
		item := CheckItem{Kind: "kit", What: k, State: progress.Unknown}
		if b.Owned != nil {
			item.State = progress.NotMet
			if slices.ContainsFunc(*b.Owned, func(o string) bool { return check.Key(o) == check.Key(k) }) {
				item.State = progress.Met
			}
		}
		out = append(out, item)
	}
	for _, a := range b.Verdict.Answers {
		if a.Kind == curriculum.KitOwned || a.Waived != "" {
			continue
		}
		if a.Kind.Paper() {
			out = append(out, CheckItem{"paper", string(a.Kind), a.State, &a, b.Verdict.On})
		} else if a.State != progress.Met {
			out = append(out, CheckItem{"evidence", a.Words(), a.State, &a, b.Verdict.On})
		}
	}
	if b.Spars {
		for _, m := range []struct {
			what string
			n    int
		}{{"height", b.HeightCM}, {"weight", b.WeightKG}} {
			if m.n == 0 {
				out = append(out, CheckItem{Kind: "measure", What: m.what, State: progress.Unknown})
			}
		}
	}
	if b.Contact == "" {
		out = append(out, CheckItem{Kind: "contact", What: "an address to write to", State: progress.Unknown})
	}
	return out
}
