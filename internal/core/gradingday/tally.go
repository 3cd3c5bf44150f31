package gradingday

import (
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
)

// Pace is where a count stands against what is aimed at.
type Pace struct {
	Aim     int   // the count aimed at within Seconds
	Seconds int   // of the whole
	EachMS  int64 // ms for each: seconds ÷ aim, rounded down
	Due     int   // the count that keeps pace by now, rounded down
	Ahead   int   // count less due; below 0 behind
}

// PaceOf holds a count after some ms against an aim within seconds. Without an aim or a time
// it is the zero Pace.
func PaceOf(count, aim, seconds int, ms int64) Pace {
	if aim <= 0 || seconds <= 0 {
		return Pace{}
	}
	whole := int64(seconds) * 1000
	p := Pace{Aim: aim, Seconds: seconds, EachMS: whole / int64(aim), Due: int(int64(aim) * min(max(ms, 0), whole) / whole)}
	p.Ahead = count - p.Due
	return p
}

// MarkOf is the mark of a fitness table for a count: that of the highest row reached. found is
// false where the table is empty or its lowest row is not reached; next is the row above, if any.
func MarkOf(table []curriculum.TableMark, count int) (mark scoring.Decimal, found bool, next *curriculum.TableMark) {
	for i := range table {
		if table[i].Count > count {
			return mark, found, &table[i]
		}
		mark, found = table[i].Mark, true
	}
	return mark, found, nil
}
