package gradingday

import (
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// Step is a part of a count from which on something else holds: the mark the table gives, and what is
// aimed at. A device without network looks up the step a count has reached, and reckons nothing.
type Step struct {
	From  int                   // the count from which on it holds; the first is 0
	Mark  *scoring.Decimal      // that of the highest row reached; nil: below the table's lowest
	Next  *curriculum.TableMark // the row above; nil: none
	Aim   int                   // the count aimed at; 0: none
	Beats []int64               // ms after which each count of the aim falls due, rounded up; nil without a time, or above MaxBeats
}

// MaxBeats is the highest aim whose beats are told.
const MaxBeats = 1000

// Steps are the steps of a count, from 0 up: by a fitness table, whose rows rise, and by what is asked
// within seconds. Where no count is asked, the next row of the table is aimed at, and at last the highest.
func Steps(table []curriculum.TableMark, asked, seconds int) (out []Step) {
	at := func(from int, reached int) {
		s := Step{From: from, Aim: asked}
		if reached > 0 {
			s.Mark = &table[reached-1].Mark
		}
		if reached < len(table) {
			s.Next = &table[reached]
		}
		if s.Aim == 0 && len(table) > 0 {
			s.Aim = table[min(reached, len(table)-1)].Count
		}
		s.Beats = beats(s.Aim, seconds)
		out = append(out, s)
	}
	if len(table) == 0 || table[0].Count > 0 {
		at(0, 0)
	}
	for i, row := range table {
		at(row.Count, i+1)
	}
	return out
}

// beats are the ms after which each of an aim falls due within seconds: the k-th at k × seconds ÷ aim.
func beats(aim, seconds int) (out []int64) {
	if aim <= 0 || aim > MaxBeats || seconds <= 0 {
		return nil
	}
	whole := int64(seconds) * 1000
	for k := int64(1); k <= int64(aim); k++ {
		out = append(out, (k*whole+int64(aim)-1)/int64(aim))
	}
	return out
}

// StepOf is the step a count has reached.
func StepOf(steps []Step, count int) Step {
	reached := Step{}
	for _, s := range steps {
		if s.From <= count {
			reached = s
		}
	}
	return reached
}

// Ahead is a count less what is due after some ms; below 0 it is behind.
func (s Step) Ahead(count int, ms int64) int {
	due := 0
	for due < len(s.Beats) && s.Beats[due] <= ms {
		due++
	}
	return count - due
}
