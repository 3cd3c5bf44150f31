package e2e

import (
	"encoding/csv"
	"fmt"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/exchange"
)

// The office tests hold papers and workbooks to programs of others. They run on request only (make test-office).
func onRequest(t *testing.T) {
	if os.Getenv("VELVETLADDER_OFFICE") == "" {
		t.Skip("set VELVETLADDER_OFFICE to hold files to an office suite")
	}
}

func tool(t *testing.T, dir string, name string, args ...string) string {
	t.Helper()
	cmd := exec.Command(name, args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "HOME="+dir) // an office suite keeps its profile there
	out, err := cmd.CombinedOutput()
	require.NoError(t, err, "%s %s: %s", name, strings.Join(args, " "), out)
	return string(out)
}

func (s *server) fetch(path, into string) {
	s.t.Helper()
	require.NoError(s.t, os.WriteFile(into, []byte(s.get(path)), 0o644))
}

// gradings are the addresses of all gradings with what stands in their row.
func (s *server) gradings() map[string]string {
	out := map[string]string{}
	for _, m := range regexp.MustCompile(`(?s)<a href="/gradings/([0-9a-f]{20})".*?</tr>`).FindAllStringSubmatch(s.get("/gradings"), -1) {
		out[m[1]] = m[0]
	}
	require.NotEmpty(s.t, out)
	return out
}

func TestOfficeRecomputesResults(t *testing.T) {
	onRequest(t)
	s := startDemo(t)
	dir, checked := t.TempDir(), 0
	profile := filepath.Join(dir, "profile", "user") // of an office suite that trusts no stored value
	require.NoError(t, os.MkdirAll(profile, 0o755))
	settings, err := os.ReadFile("../../scripts/office.xcu")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(profile, "registrymodifications.xcu"), settings, 0o644))
	for id, row := range s.gradings() {
		if strings.Contains(row, "being prepared") || strings.Contains(row, "Stripe evening") {
			continue
		}
		s.fetch("/gradings/"+id+"/results.xlsx", filepath.Join(dir, id+".xlsx"))
		tool(t, dir, "soffice", "-env:UserInstallation=file://"+filepath.Dir(profile), "--headless", "--convert-to", "csv:Text - txt - csv (StarCalc):44,34,76,1,,0,false,true,false,false,false,-1", "--outdir", dir, filepath.Join(dir, id+".xlsx"))
		for sheet, agrees := range map[string]int{"Sheets": 18, "Results": 18} {
			f, err := os.Open(filepath.Join(dir, id+"-"+sheet+".csv"))
			require.NoError(t, err)
			rows, err := csv.NewReader(f).ReadAll()
			require.NoError(t, f.Close())
			require.NoError(t, err)
			require.Greater(t, len(rows), 1)
			for _, r := range rows[1:] {
				checked++
				assert.Equal(t, "yes", r[agrees], "%s %s: %v", id, sheet, r)
				if sheet == "Sheets" {
					assert.Equal(t, r[15:17], []string{r[5], r[4]}, "the formulas come to our figures")
					assert.NotEqual(t, "0", r[6], "something was added up")
				}
			}
		}
	}
	assert.Greater(t, checked, 100)
	t.Logf("%d rows recomputed", checked)
}

// pages looks at a PDF: its structure, its fonts, its text, and each page as a picture. It gives the text.
func pages(t *testing.T, dir, file string) (text string, n int) {
	t.Helper()
	info := tool(t, dir, "pdfinfo", file)
	_, err := fmt.Sscan(strings.TrimSpace(regexp.MustCompile(`Pages:(.*)`).FindStringSubmatch(info)[1]), &n)
	require.NoError(t, err)
	fonts := strings.Split(strings.TrimSpace(tool(t, dir, "pdffonts", file)), "\n")[2:]
	require.NotEmpty(t, fonts)
	for _, f := range fonts {
		assert.Regexp(t, `yes\s+(yes|no)\s+yes`, f, "each font is on board and says what its letters are")
	}
	check := exec.Command("qpdf", "--check", file)
	check.Dir = dir
	out, err := check.CombinedOutput()
	require.NoError(t, err, "%s", out)
	tool(t, dir, "pdftotext", "-raw", file, "text.txt")
	data, err := os.ReadFile(filepath.Join(dir, "text.txt"))
	require.NoError(t, err)
	tool(t, dir, "pdftoppm", "-r", "40", "-png", file, "page")
	shots, err := filepath.Glob(filepath.Join(dir, "page-*.png"))
	require.NoError(t, err)
	require.Len(t, shots, n)
	for _, shot := range shots {
		f, err := os.Open(shot)
		require.NoError(t, err)
		img, err := png.Decode(f)
		require.NoError(t, err)
		f.Close()
		dark, edge, b := 0, 0, img.Bounds()
		for y := b.Min.Y; y < b.Max.Y; y++ {
			for x := b.Min.X; x < b.Max.X; x++ {
				if r, g, bl, _ := img.At(x, y).RGBA(); r+g+bl < 3*0xa000 {
					dark++
					if x < 6 || y < 6 || x >= b.Max.X-6 || y >= b.Max.Y-6 {
						edge++
					}
				}
			}
		}
		assert.Greater(t, dark, 100, "%s of %s is not empty", filepath.Base(shot), file)
		assert.Zero(t, edge, "%s of %s prints nothing where printers do not reach", filepath.Base(shot), file)
		os.Remove(shot)
	}
	return string(data), n
}

func TestPapersHoldEveryName(t *testing.T) {
	onRequest(t)
	s := startDemo(t)
	x := open(t, s, 1280, 800)
	all := s.gradings()
	kinds := map[string]int{}
	for _, id := range slices.Sorted(func(yield func(string) bool) {
		for id := range all {
			if !yield(id) {
				return
			}
		}
	}) {
		x.visit("/gradings/" + id)
		names := eval[[]string](x, `[...document.querySelectorAll(".group ol.rows a bdi")].map(e => e.textContent)`)
		if len(names) == 0 {
			continue
		}
		for _, kind := range []string{"scoresheets", "runsheets", "certificates", "letters"} {
			if kinds[kind] > 25 { // enough of a kind
				continue
			}
			x.visit("/papers/" + id + "?show=" + kind)
			if !eval[bool](x, `document.querySelector("main .head-row .is-primary") !== null`) {
				continue
			}
			dir := t.TempDir()
			s.fetch("/papers/"+id+"/"+kind+".pdf", filepath.Join(dir, "paper.pdf"))
			text, n := pages(t, dir, "paper.pdf")
			kinds[kind] += n
			found := 0
			for _, name := range names {
				if strings.Contains(flat(text), flat(name)) {
					found++
				}
			}
			if kind == "scoresheets" || kind == "runsheets" || kind == "letters" && strings.Contains(all[id], "● announced") {
				assert.Equal(t, len(names), found, "%s of %s name everybody", kind, id)
			}
			assert.NotContains(t, text, "□")
		}
	}
	t.Log(kinds)
	for _, kind := range []string{"scoresheets", "runsheets", "certificates", "letters"} {
		assert.Positive(t, kinds[kind], kind)
	}
}

// flat is a text without spaces and line ends, so that a name broken over two lines is found.
func flat(s string) string { return strings.Join(strings.Fields(s), "") }

func TestCertificatesInManyScripts(t *testing.T) {
	onRequest(t)
	dir := t.TempDir()
	names := []string{"Łucja Żółkiewska-Đặng", "Ðóra Þórsdóttir", "山本 風車", "김물레방아 Brightwater", "Ölver Çağlar Nuñez", "Ελένη Μύλου", "Ådne 水車 물레 Fjørtoft", "Wilhelmina Anastasia Featherstonehaugh-Cholmondeley of the Upper Mill"}
	set := office.Usual
	var all []exchange.Certificate
	for i, name := range names {
		rank := []string{"Orange belt", "六級 Orange belt", "주황띠"}[i%3]
		all = append(all, exchange.Certificate{School: "Marrowby Mill 水車 Martial Arts", Seal: "水車", Colour: "#3a1a33", Title: set.Title, Name: name, Rank: rank, Lines: set.Words(map[string]string{"name": name, "rank": rank, "program": "Karate 空手", "place": "Müllerstraße", "date": "12 December 2026"}),
			Rungs: []curriculum.Rung{{Cloth: curriculum.Cloth{Colour: "#ffffff"}}, {Cloth: curriculum.Cloth{Colour: "#d9772b"}}}, At: 1, Signs: []exchange.Sign{{Name: "Rosalind Castellane", Title: "Chief examiner"}}})
	}
	for _, paper := range office.Papers {
		f, err := os.Create(filepath.Join(dir, string(paper)+".pdf"))
		require.NoError(t, err)
		require.NoError(t, exchange.WriteCertificates(f, all, paper, time.Date(2026, 12, 12, 12, 0, 0, 0, time.UTC)))
		require.NoError(t, f.Close())
		text, n := pages(t, dir, string(paper)+".pdf")
		assert.Equal(t, len(names), n)
		for _, name := range names {
			assert.Contains(t, flat(text), flat(name))
		}
	}
}
