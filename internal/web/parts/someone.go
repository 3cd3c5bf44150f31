package parts

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/words"
)

// Someone is whom something is drawn for: a student, or anybody of a height.
type Someone struct {
	Typed   string // as it was chosen
	Student progress.Student
	Body    body.Parts
	Words   string // "Teodor, 142 cm", "170 cm"
	Note    string // what the drawing guesses at
	Problem string // nobody of that name: what would be right
}

// The heights that may be typed, in centimetres.
const leastHeight, mostHeight = 40, 260

// Someone finds whom something is drawn for by what was typed: a height in centimetres, the number or the name of a student,
// or part of a name that one alone has. Nothing is the usual height.
func (ps *Parts) Someone(ctx context.Context, typed string) (Someone, error) {
	typed = check.Tidy(typed)
	out := Someone{Typed: typed, Body: body.PartsOf(body.Measured{}), Words: fmt.Sprintf("%d cm", body.UsualHeight)}
	number := strings.TrimSpace(strings.TrimSuffix(strings.ToLower(typed), "cm"))
	if typed == "" {
		return out, nil
	}
	if cm, err := strconv.Atoi(number); err == nil {
		if cm < leastHeight || cm > mostHeight {
			out.Problem = fmt.Sprintf("%d cm is no height; write one from %d to %d, or the name of a student", cm, leastHeight, mostHeight)
			return out, nil
		}
		out.Body, out.Words = body.PartsOf(body.Measured{HeightCM: float64(cm)}), fmt.Sprintf("%d cm", cm)
		return out, nil
	}
	rows, _, err := ps.records.Students(ctx, "", typed, 20, 0)
	if err != nil {
		return out, err
	}
	found := map[string]progress.Student{}
	for _, x := range rows {
		if x.ID == typed || check.Key(x.Name) == check.Key(typed) {
			found = map[string]progress.Student{x.ID: x.Student}
			break
		}
		if strings.Contains(check.Key(x.Name), check.Key(typed)) {
			found[x.ID] = x.Student
		}
	}
	switch len(found) {
	case 0:
		out.Problem = fmt.Sprintf("no student is called %q; write a name as it is on record, or a height in cm", typed)
	case 1:
		for _, s := range found {
			return ps.Drawn(s), nil
		}
	default:
		var names []string
		for _, x := range rows {
			if s, there := found[x.ID]; there {
				names = append(names, s.Name)
				delete(found, x.ID)
			}
		}
		out.Problem = fmt.Sprintf("%q may be %s; write the whole name", typed, words.Either(names[:min(len(names), 5)]))
	}
	return out, nil
}

// Drawn is a student as they are drawn.
func (ps *Parts) Drawn(s progress.Student) Someone {
	out := Someone{Typed: s.Name, Student: s, Body: s.Body(), Words: fmt.Sprintf("%s, %.0f cm", s.Name, s.Body().Height/10)}
	out.Note = words.Estimate(s.Estimated(ps.records.Today()))
	return out
}

// Hall is how large the school's hall is.
func (ps *Parts) Hall(ctx context.Context) (gradingday.Hall, error) {
	s, err := ps.records.Settings(ctx)
	return s.Hall, err
}
