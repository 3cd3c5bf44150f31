package curriculum_test

import (
	"net/http"
	"testing"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/web/webtest"
)

// BenchmarkCurriculumPages are the pages of the demo's largest program, beside a static file.
func BenchmarkCurriculumPages(b *testing.B) {
	h := webtest.HouseOf(b, &webtest.Milled)
	kenpo := webtest.Marrowby().Programs[0]
	book := curriculum.Open(kenpo.Curriculum)
	q := "?program=" + kenpo.Program.ID
	for name, path := range map[string]string{"rung": "/ladder/" + book.RungNamed("Orange belt").ID, "technique": "/techniques/" + book.Named("Mill Wheel").ID, "check": "/check" + q, "coverage": "/coverage" + q, "load": "/load" + q,
		"booklet of the ladder": "/booklet" + q, "glossary": "/glossary" + q, "static (the bare handler)": "/static/x/icons/ladder.svg"} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if w := h.Do("GET", path, ""); w.Code != http.StatusOK {
					b.Fatal(w.Code)
				}
			}
		})
	}
}
