package gradingday

import "velvetladder/internal/core/scoring"

// Assemble makes a candidate's test from what is on record: the items of their sheet, the panel in the
// order of its sheets, the marks and the faults that stand. What stands from an earlier attempt is on
// the sheet of everybody who marked the rest. A deduction counts on the sheet of who noted it; a fault
// that was confirmed to end the test ends it.
func Assemble(items []Item, panel []Examiner, marks []Mark, faults []Fault) scoring.Test {
	var t scoring.Test
	row, column := map[string]int{}, map[string]int{}
	for k, it := range items {
		t.Items = append(t.Items, it.Item)
		column[it.ID] = k
	}
	for n, e := range panel {
		t.Sheets = append(t.Sheets, scoring.Sheet{Examiner: e.Name, Marks: make([]scoring.Mark, len(items))})
		row[e.ID] = n
		if e.Chief {
			t.Chief = e.Name
		}
	}
	marked := make([]bool, len(panel))
	for _, m := range marks {
		n, sits := row[m.ExaminerID]
		k, asked := column[m.ItemID]
		if m.Kind == MarkGiven && sits && asked {
			t.Sheets[n].Marks[k] = scoring.Seen(m.Value)
			marked[n] = true
		}
	}
	for k, it := range items {
		for n := range panel {
			if it.Carried != nil && marked[n] {
				t.Sheets[n].Marks[k] = scoring.Seen(*it.Carried)
			}
		}
	}
	for _, f := range faults {
		if n, sits := row[f.ExaminerID]; sits && f.Kind == FaultDeduction {
			t.Sheets[n].Deductions += f.Points
		}
		t.EndingFault = t.EndingFault || f.Kind == FaultConfirmed
	}
	return t
}
