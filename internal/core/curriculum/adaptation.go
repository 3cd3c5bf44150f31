package curriculum

import (
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
)

// AdaptationKind says what an adaptation does.
type AdaptationKind string

// What an adaptation does.
const (
	Excuse  AdaptationKind = "excuse"
	Replace AdaptationKind = "replace"
	Change  AdaptationKind = "change"
)

// Adaptation is a recorded reason to ask one student for something else. It is about one
// technique, or about all of a kind.
type Adaptation struct {
	ID            string         `json:"id"`
	TechniqueID   string         `json:"technique,omitempty"`
	Kind          Kind           `json:"kind,omitempty"` // where no technique is named
	Modifier      Modifier       `json:"modifier,omitempty"`
	Does          AdaptationKind `json:"does"`
	ReplacementID string         `json:"replacement,omitempty"`
	Quantity      *Quantity      `json:"quantity,omitempty"`
	Reason        string         `json:"reason"`
	From, To      civil.Date     `json:"-"` // zero: open
}

// nearness says how closely an adaptation is about a technique: by name 3, by a modifier 2, by
// its kind 1; 0 where it is about something else.
func (a Adaptation) nearness(t *Technique) int {
	switch {
	case a.TechniqueID != "":
		if a.TechniqueID == t.ID {
			return 3
		}
	case a.Modifier != "":
		if slices.Contains(t.Modifiers, a.Modifier) {
			return 2
		}
	case a.Kind != "" && a.Kind == t.Kind:
		return 1
	}
	return 0
}

// fitting is the adaptation that holds for a technique, of several the one most closely about
// it, of those the newest. They are given oldest first.
func fitting(all []Adaptation, t *Technique) (out Adaptation, found bool) {
	nearest := 1
	for _, a := range all {
		if n := a.nearness(t); n >= nearest {
			out, nearest, found = a, n, true
		}
	}
	return out, found
}

// HoldsOn reports whether an adaptation holds on a day; both ends are included.
func (a Adaptation) HoldsOn(day civil.Date) bool {
	return (a.From.IsZero() || !day.Before(a.From)) && (a.To.IsZero() || !a.To.Before(day))
}

// CheckAdaptation notes what is wrong with an adaptation.
func (b *Book) CheckAdaptation(a Adaptation) check.Problems {
	var p check.Problems
	check.OneOf(&p, "does", a.Does, []AdaptationKind{Excuse, Replace, Change})
	if a.TechniqueID == "" && a.Kind == "" && a.Modifier == "" {
		p.Add("what", "is empty; name a technique, or choose a kind")
	}
	if a.TechniqueID != "" && b.Technique(a.TechniqueID) == nil {
		p.Add("what", "is no technique of this program")
	}
	if a.Kind != "" {
		check.OneOf(&p, "kind", a.Kind, Kinds)
	}
	if a.Does == Replace && b.Technique(a.ReplacementID) == nil {
		p.Add("replacement", "is no technique of this program; write the name of one")
	}
	if a.Does == Change && a.Quantity == nil {
		p.Add("amount", "is empty; write for example 5 a side")
	}
	if a.Quantity != nil {
		a.Quantity.Check(&p)
	}
	if a.Reason == "" {
		p.Add("reason", "is empty; say why, it stands on the sheet")
	}
	p.Line("reason", a.Reason, check.LineLength)
	if !a.From.IsZero() && !a.To.IsZero() && a.To.Before(a.From) {
		p.Add("to", "lies before the first day")
	}
	return p
}
