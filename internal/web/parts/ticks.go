package parts

import (
	"context"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/store"
	"velvetladder/internal/words"
)

// LinesOf are the lines that are called for a group.
func LinesOf(items []gradingday.GroupItem) (out []curriculum.Line) {
	for _, it := range items {
		out = append(out, it.Lines...)
	}
	return out
}

// Tick is one thing of a free choice, with what is to be said of it.
type Tick struct {
	Text string `json:"text"`
	Note string `json:"note,omitempty"`
}

// Ticks are what an examiner ticks of the free-choice lines of a group: item → candidate → list.
func (ps *Parts) Ticks(ctx context.Context, b *curriculum.Book, group []store.Candidate, items []gradingday.GroupItem) (map[string]map[string][]Tick, error) {
	out := map[string]map[string][]Tick{}
	var climbs []string
	for _, c := range group {
		climbs = append(climbs, c.EnrolmentID)
	}
	choices, err := ps.records.Choices(ctx, climbs...)
	if err != nil {
		return nil, err
	}
	lines := LinesOf(items)
	for _, it := range items {
		for _, l := range it.Lines {
			if !l.Free {
				continue
			}
			if out[it.ID] == nil {
				out[it.ID] = map[string][]Tick{}
			}
			for _, c := range group {
				chosen := practice.Noted(b, l.Kind, c.To.ID, "", choices[c.EnrolmentID][l.TechniqueID])
				for k, text := range l.TickList(choices[c.EnrolmentID][l.TechniqueID], lines) {
					x := Tick{Text: text}
					if k < len(chosen) {
						x.Note = words.ChoiceNotes(chosen[k].Notes)
					}
					if len(it.Lines) > 1 {
						x.Text = l.Call + ": " + x.Text
					}
					out[it.ID][c.ID] = append(out[it.ID][c.ID], x)
				}
			}
		}
	}
	return out, nil
}
