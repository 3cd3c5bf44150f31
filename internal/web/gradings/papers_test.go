package gradings_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/web/webtest"
)

// TestAPaperSheetClosesItsSum: what an examiner adds up has its place on the paper, by the grading's own rules, and what a
// mark looks like stands beside its line.
func TestAPaperSheetClosesItsSum(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	b, err := h.Store.Book(webtest.Ctx, h.Program)
	require.NoError(t, err)
	var r curriculum.Requirement
	for _, x := range b.Requirements {
		if x.RungID == h.Yellow {
			r = x
		}
	}
	r.MarkLooks, r.Weight = []curriculum.MarkLook{{Mark: scoring.Whole(2), Looks: "one slide"}, {Mark: scoring.Whole(3), Looks: "two"}}, 2
	_, err = h.Store.SaveRequirement(webtest.Ctx, webtest.Me, r, "", "")
	require.NoError(t, err)
	page := h.Page("/papers/" + h.Coming())
	for _, said := range []string{"Marks here: 2: one slide; 3: two", "(counts 2 ×)", "Adding up", "Marks of this sheet, added up, each as often as it counts", "Taken off for faults", "Result of this sheet: pass, retest or incomplete", "Earliest retest, where the panel comes to one:"} {
		webtest.Says(t, page, said)
	}
}

// TestARungThatAsksForNothingHasNoPaper: there is nothing an examiner could write on it.
func TestARungThatAsksForNothingHasNoPaper(t *testing.T) {
	h := webtest.NewHouse(t).Furnish()
	id := h.Coming()
	webtest.Says(t, h.Page("/papers/"+id), "scoresheets as PDF")
	b, err := h.Store.Book(webtest.Ctx, h.Program)
	require.NoError(t, err)
	for _, r := range b.Requirements {
		_, err := h.Store.DeleteRequirement(webtest.Ctx, webtest.Me, r.ID)
		require.NoError(t, err)
	}
	webtest.Says(t, h.Page("/papers/"+id), "the rungs ask for nothing yet; there is nothing to print")
}
