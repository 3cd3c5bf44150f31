package exchange

import (
	"bytes"
	"encoding/csv"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/golden"
	"velvetladder/internal/words"
)

var noon = time.Date(2026, 12, 12, 12, 0, 0, 0, time.UTC)

func TestPrintable(t *testing.T) {
	for _, r := range "Aé ŁĐß Ωж あア漢風車六級 김물레 №½–“”◆…" {
		assert.True(t, Printable(r), "%c", r)
	}
	for _, r := range "🥋🎉\u200b\ufe0f\x07" {
		assert.False(t, Printable(r), "%U", r)
	}
	assert.Equal(t, []run{{serif, "Ada "}, {kanji, "風車"}, {serif, " x"}, {hangul, "물레"}}, runs(serif, "Ada 風車 x물레"))
	assert.Equal(t, "□", runs(sans, "🥋")[0].text, "what has no letter is seen to be missing")
}

func somePapers() (c []Certificate, s []Scoresheet, r []RunSheet, l []ResultLetter) {
	cloth := curriculum.Cloth{Weave: curriculum.Halves, Colour: "#ffffff", Second: "#b8322c", Marks: &curriculum.BeltMarks{Colour: "#efc231", Count: 2, Place: curriculum.Tip}}
	for _, name := range []string{"Ada Rill", "=SUM(1) & <b>Łucja</b>", strings.Repeat("Wilhelmina ", 12)} {
		c = append(c, Certificate{School: name, Seal: "MM", Colour: "#3a1a33", Title: name, Name: name, Rank: "Orange belt", Lines: []string{"This certifies that", name, strings.Repeat("a very long line ", 20), "Orange belt"}, Rungs: []curriculum.Rung{{Cloth: cloth}, {Cloth: cloth}, {Cloth: cloth}}, At: 1, Signs: []Sign{{name, "Examiner"}, {"B", "C"}}, Preview: true})
		sheet := Scoresheet{School: "Mill", Grading: name, For: name, Group: "Group 1", Examiner: name, ExaminerTitle: "Examiner", Candidates: []string{name, "Bo"}, Numbers: []int{1, 2}, Cloths: []curriculum.Cloth{cloth, cloth}, Scale: []string{"0 no"}, Cautions: []string{"slowly"}}
		sheet.After = "Earliest retest, where the panel comes to one: 9 January 2027."
		for i := range 9 {
			sheet.Sums = append(sheet.Sums, PaperSum{Label: fmt.Sprint("Sum ", i, strings.Repeat(" of what was marked", i)), Boxes: []string{"≥ 1234.5 of 2468", "up to 2"}, Given: i == 4})
		}
		for i := range 26 {
			sheet.Items = append(sheet.Items, PaperItem{Label: fmt.Sprint("Line ", i), Section: fmt.Sprint("Section ", i/7), Detail: name, MustPass: i%3 == 0, Bonus: i%5 == 0, Weight: i % 4, Stands: []bool{i == 4, false}, NotFor: []bool{false, i == 9}, Own: []string{"", "slower"}, Prompts: []string{"a prompt"}})
		}
		s = append(s, sheet)
		sheetR := RunSheet{School: "Mill", Ring: "Ring A", Panel: []string{name}, Bouts: []string{"1 A – B"}, Cautions: []string{name}}
		for i := range 14 {
			sheetR.Rows = append(sheetR.Rows, RunRow{When: "10:05–10:43", What: fmt.Sprint("Group ", i), Cloth: &cloth, People: []string{name}, Notes: []string{name}})
		}
		r = append(r, sheetR)
		l = append(l, ResultLetter{School: "Mill", Colour: "#3a1a33", Name: name, Lead: "Promoted.", Parts: []LetterPart{{"Strong", strings.Split(strings.Repeat("row,", 45), ",")}}, Closing: "Ask.", Sign: Sign{"R", "Head"}})
	}
	return c, s, r, l
}

// TestPapers: every paper is written the same each time, on both sizes, over as many pages as it takes, and its preview is
// sound SVG without anything a page would run.
// TestNewCertificate says what the settings say, in the place of the grading or of the school; who
// examined signs, or the head.
func TestNewCertificate(t *testing.T) {
	set := office.Usual
	b := curriculum.Open(curriculum.Curriculum{Program: curriculum.Program{Name: "Kenpo"}, Rungs: []curriculum.Rung{{ID: "w"}, {ID: "y"}}})
	c := NewCertificate("Mill", set, b, Promoted{Name: "Ada Rillington", Rung: "y", Rank: "Yellow belt", On: civil.MustParse("2026-12-05"), Panel: []gradingday.Examiner{{Name: "Vane", Chief: true}, {Name: "Weir"}}})
	text := strings.Join(c.Lines, " ")
	for _, said := range []string{"Ada Rillington", "Yellow belt", "5 December 2026", "Mill"} {
		assert.Contains(t, text, said)
	}
	assert.Equal(t, 1, c.At)
	assert.Equal(t, []Sign{{"Vane", "Chief " + strings.ToLower(set.Examiner)}, {"Weir", set.Examiner}}, c.Signs)
	alone := NewCertificate("Mill", set, b, Promoted{Name: "Ada", Rank: "Yellow belt", Place: "Harbour hall"})
	assert.Contains(t, strings.Join(alone.Lines, " "), "Harbour hall")
	assert.Equal(t, []Sign{{Title: set.Head}}, alone.Signs)
	assert.Equal(t, -1, alone.At)

	// What was earned stands on it, where the school's own wording has no place for it; the head instructor signs.
	set.HeadName = "Rosa Castell"
	earned := NewCertificate("Mill", set, b, Promoted{Name: "Ada", Rung: "y", Rank: "Green belt", First: "Yellow belt", Honours: true, Grade: "permanent", Panel: []gradingday.Examiner{{Name: "Vane"}}})
	assert.Equal(t, "with honours, permanent rank, by double promotion, with Yellow belt", earned.Lines[len(earned.Lines)-1])
	assert.Equal(t, []Sign{{"Vane", set.Examiner}, {"Rosa Castell", set.Head}}, earned.Signs)
	set.Wording = "{name}\n{rank} {honours} ({grade})"
	own := NewCertificate("Mill", set, b, Promoted{Name: "Ada", Rank: "Green belt", Honours: true, Grade: "permanent"})
	assert.Equal(t, []string{"Ada", "Green belt with honours (permanent)"}, own.Lines)
	full := NewCertificate("Mill", set, b, Promoted{Name: "Ada", Rank: "x", Panel: make([]gradingday.Examiner, 5)})
	assert.Len(t, full.Signs, 5, "of a large panel the panel signs")
}

func TestPapers(t *testing.T) {
	golden.Alone(t)
	c, s, r, l := somePapers()
	for _, paper := range office.Papers {
		for name, x := range map[string]struct {
			write   func(io.Writer) error
			preview func(int) []string
			pages   int
		}{
			"certificates": {func(w io.Writer) error { return WriteCertificates(w, c, paper, noon) }, func(n int) []string { return PreviewCertificates(c, paper, n) }, 3},
			"scoresheets":  {func(w io.Writer) error { return WriteScoresheets(w, s, paper, noon) }, func(n int) []string { return PreviewScoresheets(s, paper, n) }, 6},
			"run sheets":   {func(w io.Writer) error { return WriteRunSheets(w, r, paper, noon) }, func(n int) []string { return PreviewRunSheets(r, paper, n) }, 4},
			"letters":      {func(w io.Writer) error { return WriteLetters(w, l, paper, noon) }, func(n int) []string { return PreviewLetters(l, paper, n) }, 4},
		} {
			var a, b bytes.Buffer
			require.NoError(t, x.write(&a))
			require.NoError(t, x.write(&b))
			assert.True(t, bytes.Equal(a.Bytes(), b.Bytes()), "%s are the same each time", name)
			assert.True(t, bytes.HasPrefix(a.Bytes(), []byte("%PDF-1.")) && bytes.HasSuffix(bytes.TrimSpace(a.Bytes()), []byte("%%EOF")))
			pages := x.preview(100)
			assert.GreaterOrEqual(t, len(pages), x.pages, name)
			assert.Len(t, x.preview(2), 2)
			for _, svg := range pages {
				dec := xml.NewDecoder(strings.NewReader(svg))
				for {
					_, err := dec.Token()
					if err == io.EOF {
						break
					}
					require.NoError(t, err, name)
				}
				assert.NotContains(t, svg, "<b>")
				assert.NotContains(t, svg, "style=")
			}
		}
	}
}

func someResults(rng interface{ IntN(int) int }, candidates, examiners, items int) (p scoring.Policy, rows []ResultRow) {
	p = scoring.MovementScale()
	threshold := scoring.Whole(items * 2)
	p.Rules.Threshold = &threshold
	for i := range candidates {
		test := scoring.Test{}
		for k := range items {
			test.Items = append(test.Items, scoring.Item{ID: fmt.Sprint(k), Label: "=HYPERLINK(\"x\")", Section: "-1+1", Weight: 1 + rng.IntN(3), Bonus: k > 0 && rng.IntN(6) == 0, MustPass: rng.IntN(5) == 0})
		}
		for e := range examiners {
			s := scoring.Sheet{Examiner: fmt.Sprint("@Examiner ", e), Deductions: scoring.Decimal(rng.IntN(3)) * scoring.Whole(1) / 2}
			for range items {
				m := scoring.Mark{}
				if rng.IntN(8) > 0 {
					m = scoring.Seen(scoring.Whole(rng.IntN(5)))
				}
				s.Marks = append(s.Marks, m)
			}
			test.Sheets = append(test.Sheets, s)
		}
		r, err := p.Decide(test)
		if err != nil {
			panic(err)
		}
		rows = append(rows, ResultRow{Number: i + 1, Name: "=2+5+cmd|' /C calc'!A0", From: "+White", To: "@Yellow", Group: "Group 1", Test: test, Result: r, Outcome: string(r.Outcome)})
	}
	return p, rows
}

type draws struct{ t *rapid.T }

func (d draws) IntN(n int) int { return rapid.IntRange(0, n-1).Draw(d.t, "n") }

// anyResults are candidates under any rules a policy can have: every panel rule and tie, minima, quorums, ending faults, marks
// few enough that votes come out even and honours come up.
func anyResults(rng interface{ IntN(int) int }) (p scoring.Policy, rows []ResultRow) {
	panel, split := 1+rng.IntN(6), rng.IntN(4) == 0
	if split {
		panel = 2 + 2*rng.IntN(2)
	}
	p, rows = someResults(rng, 2, panel, 2+rng.IntN(4))
	p.Panel = []scoring.PanelRule{scoring.Majority, scoring.Mean, scoring.Median, scoring.TrimmedMean}[rng.IntN(4)]
	p.Tie = []scoring.TieRule{scoring.TieChief, scoring.TieRetest, scoring.TieCommittee}[rng.IntN(3)]
	p.Quorum = rng.IntN(panel + 1)
	if split {
		p.Panel = scoring.Majority
	}
	p.Scale.Double = rng.IntN(2) == 0
	if rng.IntN(4) == 0 {
		p.Scale.Failing = nil
	}
	if p.Scale.Failing != nil && rng.IntN(2) == 0 {
		p.Rules.AllowedFailing = new(rng.IntN(3))
	}
	if rng.IntN(4) == 0 {
		p.Rules.Threshold = nil
	}
	if rng.IntN(3) == 0 {
		p.Rules.SectionMinima = []scoring.SectionMinimum{{Section: "-1+1", Ratio: scoring.Whole(rng.IntN(5)) / 4}}
		if rng.IntN(2) == 0 {
			p.Rules.SectionMinima = append(p.Rules.SectionMinima, scoring.SectionMinimum{Section: "Forms*", Ratio: scoring.Whole(1) / 2})
		}
	}
	p.Rules.IgnoreMustPass = rng.IntN(4) == 0
	for i := range rows {
		test := &rows[i].Test
		top := rng.IntN(3) == 0
		if rng.IntN(4) > 0 {
			test.Chief = test.Sheets[rng.IntN(panel)].Examiner
		}
		test.EndingFault = rng.IntN(12) == 0
		for k := range test.Items {
			if k%2 == 1 {
				test.Items[k].Section = "Forms*"
			}
			for e := range test.Sheets {
				if split { // half of the panel gives the highest mark, half the lowest
					test.Sheets[e].Marks[k] = scoring.Seen(scoring.Whole(e % 2 * 4))
				} else if top {
					test.Sheets[e].Marks[k] = scoring.Seen(scoring.Whole(3 + min(1, rng.IntN(9))))
				}
			}
		}
	}
	return p, rows
}

// decided is what the program's own arithmetic makes of the rows.
func decided(t *testing.T, p scoring.Policy, rows []ResultRow) {
	t.Helper()
	for i := range rows {
		r, err := p.Decide(rows[i].Test)
		require.NoError(t, err)
		rows[i].Result, rows[i].Outcome = r, words.Outcome(r.Outcome)
	}
}

// follows holds the figures and outcomes of an open workbook against the rows.
func follows(t *testing.T, f *excelize.File, rows []ResultRow) {
	t.Helper()
	reads := func(sheet, at string) string {
		got, err := f.CalcCellValue(sheet, at, excelize.Options{RawCellValue: true})
		require.NoError(t, err)
		return got
	}
	row := 1
	for i, r := range rows {
		for k, tally := range r.Result.Tallies {
			row++
			want := map[string]string{"E": tally.Possible.String(), "F": tally.Points.String(), "G": tally.Full.String(), "H": fmt.Sprint(len(tally.Failing)), "J": fmt.Sprint(tally.Counted), "K": fmt.Sprint(tally.Seen), "N": string(tally.Verdict)}
			for column, want := range want {
				require.Equal(t, want, reads("Sheets", fmt.Sprint(column, row)), "candidate %d, examiner %d, column %s", i, k, column)
			}
		}
		require.Equal(t, r.Outcome, reads("Results", fmt.Sprint("P", i+2)), "candidate %d: %v", i, r.Result.Reasons)
	}
}

// TestResultsAddUpByThemselves: the workbook's formulas, worked out by another program's engine, come to our figures and
// outcomes under any rules, and go on doing so when a mark is changed; texts that look like formulas are none.
func TestResultsAddUpByThemselves(t *testing.T) {
	golden.Alone(t)
	outcomes := map[string]int{}
	for seed := range uint64(20) {
		rng := rand.New(rand.NewPCG(seed, 1))
		p, rows := anyResults(rng)
		if p.Check() != nil {
			continue
		}
		decided(t, p, rows)
		var out bytes.Buffer
		require.NoError(t, WriteResults(&out, "Winter", p, rows))
		f, err := excelize.OpenReader(&out)
		require.NoError(t, err)
		follows(t, f, rows)
		for i, r := range rows {
			outcomes[r.Outcome]++
			for column, want := range map[string]string{"P": r.Outcome, "S": "yes"} {
				stored, err := f.GetCellValue("Results", fmt.Sprint(column, i+2))
				require.NoError(t, err)
				require.Equal(t, want, stored, "the value is stored beside the formula")
			}
		}
		sheet, item := rng.IntN(len(rows[0].Test.Sheets)), rng.IntN(len(rows[0].Test.Items))
		rows[0].Test.Sheets[sheet].Marks[item] = scoring.Seen(scoring.Whole(rng.IntN(5)))
		require.NoError(t, f.SetCellFloat("Marks", fmt.Sprint("I", 2+sheet*len(rows[0].Test.Items)+item), float64(rows[0].Test.Sheets[sheet].Marks[item].Value)/float64(scoring.Whole(1)), 1, 64))
		decided(t, p, rows)
		follows(t, f, rows)
		for _, cell := range []string{"Results!B2", "Sheets!C2", "Marks!D2", "Marks!E2"} {
			sheet, at, _ := strings.Cut(cell, "!")
			formula, err := f.GetCellFormula(sheet, at)
			require.NoError(t, err)
			require.Empty(t, formula, "%s is text", cell)
			kind, err := f.GetCellType(sheet, at)
			require.NoError(t, err)
			require.Equal(t, excelize.CellTypeInlineString, kind)
		}
	}
	require.Len(t, outcomes, 6, "%v: every outcome came up", outcomes)
}

// TestResultsAsTheyWereLookedAt: every cell and formula of a workbook, in testdata.
func TestResultsAsTheyWereLookedAt(t *testing.T) {
	var out []string
	for name, n := range map[string]int{"two candidates": 2, "nobody": 0} {
		p, rows := someResults(rand.New(rand.NewPCG(4, 1)), n, 3, 4)
		p.Rules.AllowedFailing = new(int)
		var file bytes.Buffer
		require.NoError(t, WriteResults(&file, "Winter", p, rows))
		f, err := excelize.OpenReader(&file)
		require.NoError(t, err)
		for _, sheet := range f.GetSheetList() {
			all, err := f.GetRows(sheet)
			require.NoError(t, err)
			for y, row := range all {
				for x := range max(len(row), 20) {
					cell, err := excelize.CoordinatesToCellName(x+1, y+1)
					require.NoError(t, err)
					value, _ := f.GetCellValue(sheet, cell)
					formula, _ := f.GetCellFormula(sheet, cell)
					style, _ := f.GetCellStyle(sheet, cell)
					if value+formula != "" || style > 0 {
						out = append(out, fmt.Sprintf("%s, %s!%s: %q %s style %d", name, sheet, cell, value, formula, style))
					}
				}
			}
			width, _ := f.GetColWidth(sheet, "B")
			panes, _ := f.GetPanes(sheet)
			out = append(out, fmt.Sprintf("%s, %s: %.1f wide, %+v", name, sheet, width, panes))
		}
	}
	slices.Sort(out)
	golden.Hold(t, "testdata/results.txt", out, nil)
}

func TestPurchaseList(t *testing.T) {
	orders := []gradingday.BeltOrder{{BeltKey: gradingday.BeltKey{RungID: "o", Size: "=1+1"}, Rung: "+Orange, belt", Names: []string{"a", "b"}, Likely: 1755, Cover: 2, Stock: 1, Order: 1, Enough: 999}, {Rung: "Green"}, {Rung: "Blue", Likely: 2000, Enough: 10}, {Rung: "Red", Likely: 11, Enough: 1000}}
	var out bytes.Buffer
	require.NoError(t, WriteBelts(&out, orders))
	require.Equal(t, "\uFEFF", string(out.Next(3)), "spreadsheet programs know the letters by it")
	rows, err := csv.NewReader(&out).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, [][]string{BeltColumns, {"'+Orange, belt", "'=1+1", "1", "2", "1.75", "2", "1", "99"}, {"Green", "not known", "0", "0", "0.00", "0", "0", "0"}, {"Blue", "not known", "0", "0", "2.00", "0", "0", "1"}, {"Red", "not known", "0", "0", "0.01", "0", "0", "100"}}, rows)
}

// TestCalendars: what is written is read back the same; lines are folded by octets, never within a letter.
func TestCalendars(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		title := rapid.StringMatching(`[A-Za-zÀ-ž가-힣漢字;,\\: ]{1,160}x`).Draw(t, "title")
		e := Event{ID: "a", Title: title, Place: "Mühlenstraße 4, Größenwahn; " + title, Text: title, From: noon, To: noon.Add(time.Hour)}
		day := Event{ID: "b", Title: "Grading", Day: civil.MustParse("2028-02-29")}
		var out bytes.Buffer
		require.NoError(t, WriteCalendar(&out, "Marrowby "+title, []Event{e, day}, noon))
		for line := range strings.Lines(out.String()) {
			require.True(t, strings.HasSuffix(line, "\r\n"))
			require.LessOrEqual(t, len(strings.TrimSuffix(line, "\r\n")), 75, line)
			require.True(t, len(line) == len(strings.ToValidUTF8(line, "")), "no letter is cut in two")
		}
		cal, err := ics.ParseCalendar(bytes.NewReader(out.Bytes()))
		require.NoError(t, err)
		require.Len(t, cal.Events(), 2)
		back := cal.Events()[0]
		require.Equal(t, title, back.GetProperty(ics.ComponentPropertySummary).Value)
		require.Equal(t, e.Place, back.GetProperty(ics.ComponentPropertyLocation).Value)
		from, err := back.GetStartAt()
		require.NoError(t, err)
		require.True(t, from.Equal(noon))
		require.Equal(t, "20280301", cal.Events()[1].GetProperty(ics.ComponentPropertyDtEnd).Value)
	})
}

// TestGradingFiles: a grading's file is read back the same, its outcomes follow from its marks, and whatever is wrong has
// a place.
func TestGradingFiles(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, rows := someResults(draws{t}, 2, 3, 4)
		g := GradingFile{School: "Mill", ID: "x", Title: "Winter", On: civil.MustParse("2026-12-12"), Rungs: []string{"Yellow"}, Rings: []GradingRing{{Name: "Ring A", Panel: []GradingSeat{{"Ann", true}}, Plan: []GradingPlaced{{"Group 1", 1, "10:00", "10:30"}}}}}
		for _, r := range rows {
			c := GradingCandidate{ID: r.Name, Name: r.Name, Outcome: r.Result.Outcome, Faults: []GradingFault{{"Ann", "note", scoring.Whole(1), "x"}}, Decision: &GradingDecision{Outcome: r.Result.Outcome, By: "Ann", RetestFrom: civil.MustParse("2027-01-01")}}
			c.SetTally(p, r.Test)
			g.Candidates = append(g.Candidates, c)
		}
		g.Candidates = append(g.Candidates, GradingCandidate{Name: "Sealed", Sealed: true})
		var a, b bytes.Buffer
		require.NoError(t, WriteGrading(&a, g))
		back, err := ReadGrading(bytes.NewReader(a.Bytes()))
		require.NoError(t, err)
		require.NoError(t, WriteGrading(&b, back))
		require.Equal(t, a.String(), b.String())
		for _, c := range back.Candidates {
			_, same, err := c.Recompute()
			require.NoError(t, err)
			require.True(t, same, c.Name)
		}
		back.Candidates[0].Outcome = "promote_twice"
		_, same, err := back.Candidates[0].Recompute()
		require.NoError(t, err)
		require.False(t, same)
	})
	for text, says := range map[string]string{`{}`: "$.format", `{"format":"velvetladder/grading","version":7}`: "$.version", `{"format":"velvetladder/grading","version":1,"shoe":3}`: "shoe", `[`: "$", ``: "$"} {
		_, err := ReadGrading(strings.NewReader(text))
		assert.ErrorContains(t, err, says, text)
	}
}

// FuzzReadGrading: whatever comes in is refused with a place or read; what was read is written and read again the same, and adding it up
// never falls over.
func FuzzReadGrading(f *testing.F) {
	p, rows := someResults(rand.New(rand.NewPCG(1, 1)), 1, 1, 2)
	g := GradingFile{Title: "Winter", On: civil.MustParse("2026-12-12"), Candidates: []GradingCandidate{{Name: "Ada", Outcome: rows[0].Result.Outcome}}}
	g.Candidates[0].SetTally(p, rows[0].Test)
	var whole bytes.Buffer
	if err := WriteGrading(&whole, g); err != nil {
		f.Fatal(err)
	}
	f.Add(whole.Bytes())
	f.Add([]byte(`{"format":"velvetladder/grading","version":1,"candidates":[{"tally":{}}]}`))
	f.Add([]byte(`{"format":"velvetladder/grading","version":1,"on":"2026-02-30"}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		g, err := ReadGrading(bytes.NewReader(data))
		if err != nil {
			var at *TallyError
			if !errors.As(err, &at) || at.Path == "" {
				t.Fatalf("without a place: %v", err)
			}
			return
		}
		var a, b bytes.Buffer
		if err := WriteGrading(&a, g); err != nil {
			t.Fatal(err)
		}
		again, err := ReadGrading(bytes.NewReader(a.Bytes()))
		if err != nil {
			t.Fatal(err)
		}
		if err := WriteGrading(&b, again); err != nil || a.String() != b.String() {
			t.Fatalf("not the same again: %v", err)
		}
		for _, c := range g.Candidates {
			c.Recompute()
		}
	})
}

// longRow is a scoresheet with a row that no page holds.
func longRow() Scoresheet {
	var under []string
	for i := range 130 {
		under = append(under, fmt.Sprintf("step %03d of the lock", i+1))
	}
	return Scoresheet{School: "Mill", Grading: "Spring", For: "Yellow belt", Group: "Group 1", Examiner: "C. Vane", ExaminerTitle: "Examiner", Candidates: []string{"Ada Rill (right foot forward)", "Wilhelmina Wilhelmina Wilhelmina of the Long Water"}, Numbers: []int{1, 2},
		Cloths: make([]curriculum.Cloth, 2), Scale: []string{"0 no"}, Items: []PaperItem{{Label: "Before", Section: "Locks", Head: "eyes up; breathe out"}, {Label: "Reed lock", Section: "Locks", Head: "eyes up; breathe out", Under: under}, {Label: "After", Section: "Locks"}}}
}

// TestNothingOfARowIsDropped: a row that no page holds runs on behind it, each line in its turn,
// and what holds for a section stands once at its head.
func TestNothingOfARowIsDropped(t *testing.T) {
	sheet := longRow()
	under := sheet.Items[1].Under
	pages := PreviewScoresheets([]Scoresheet{sheet}, office.A4, 9)
	said := regexp.MustCompile(`<text[^>]*>([^<]*)</text>`)
	var words []string
	for _, p := range pages {
		for _, m := range said.FindAllStringSubmatch(p, -1) {
			words = append(words, m[1])
		}
	}
	at := -1
	for _, x := range append(append([]string{"Before", "Reed lock"}, under...), "After") {
		next := slices.Index(words, x)
		require.Greater(t, next, at, x)
		at = next
	}
	text := strings.Join(words, " ")
	assert.Equal(t, 1, strings.Count(text, "Throughout: eyes up; breathe out"))
	assert.Contains(t, text, "Reed lock, goes on")
	for _, word := range []string{"(right", "foot", "forward)", "Long", "Water"} {
		assert.Contains(t, text, word, "a name is never cut")
	}
}
