package exchange

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"velvetladder/internal/core/scoring"
)

// TestAnOfficeRecomputesAnyResults: an office suite that opens the workbook works out the figures and outcomes of our own
// arithmetic, under any rules. A mark is changed first and what is stored beside the formulas left as it was, so that what is
// read has been worked out. It runs on request only (make test-office).
func TestAnOfficeRecomputesAnyResults(t *testing.T) {
	if os.Getenv("VELVETLADDER_OFFICE") == "" {
		t.Skip("set VELVETLADDER_OFFICE to hold files to an office suite")
	}
	dir := t.TempDir()
	args := []string{"--headless", "--convert-to", "csv:Text - txt - csv (StarCalc):44,34,76,1,,0,false,true,false,false,false,-1", "--outdir", dir}
	all := map[string][]ResultRow{}
	for seed := range uint64(60) {
		rng := rand.New(rand.NewPCG(seed, 2))
		p, rows := anyResults(rng)
		if p.Check() != nil {
			continue
		}
		decided(t, p, rows)
		var out bytes.Buffer
		require.NoError(t, WriteResults(&out, "Winter", p, rows))
		f, err := excelize.OpenReader(&out)
		require.NoError(t, err)
		for sheet, s := range rows[0].Test.Sheets {
			item := rng.IntN(len(rows[0].Test.Items))
			s.Marks[item] = scoring.Seen(scoring.Whole(rng.IntN(5)))
			require.NoError(t, f.SetCellFloat("Marks", fmt.Sprint("I", 2+sheet*len(rows[0].Test.Items)+item), float64(s.Marks[item].Value)/float64(scoring.Whole(1)), 1, 64))
		}
		decided(t, p, rows)
		name := fmt.Sprint("random", seed)
		require.NoError(t, f.SaveAs(filepath.Join(dir, name+".xlsx")))
		all[name], args = rows, append(args, filepath.Join(dir, name+".xlsx"))
	}
	require.Greater(t, len(all), 40)
	profile := filepath.Join(dir, "profile", "user")
	require.NoError(t, os.MkdirAll(profile, 0o755))
	settings, err := os.ReadFile("../../scripts/office.xcu")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(filepath.Join(profile, "registrymodifications.xcu"), settings, 0o644))
	office := exec.Command("soffice", append([]string{"-env:UserInstallation=file://" + filepath.Dir(profile)}, args...)...)
	office.Env = append(os.Environ(), "HOME="+dir)
	said, err := office.CombinedOutput()
	require.NoError(t, err, "%s", said)
	read := func(name, sheet string) [][]string {
		f, err := os.Open(filepath.Join(dir, name+"-"+sheet+".csv"))
		require.NoError(t, err)
		defer f.Close()
		rows, err := csv.NewReader(f).ReadAll()
		require.NoError(t, err)
		return rows[1:]
	}
	changed := 0
	for name, rows := range all {
		sheets, results := read(name, "Sheets"), read(name, "Results")
		at := 0
		for i, r := range rows {
			for k, tally := range r.Result.Tallies {
				want := []string{tally.Possible.String(), tally.Points.String(), tally.Full.String(), fmt.Sprint(len(tally.Failing)), fmt.Sprint(tally.Counted), fmt.Sprint(tally.Seen), string(tally.Verdict)}
				x := sheets[at]
				require.Equal(t, want, []string{x[4], x[5], x[6], x[7], x[9], x[10], x[13]}, "%s: candidate %d, examiner %d", name, i, k)
				at++
			}
			require.Equal(t, r.Outcome, results[i][15], "%s: candidate %d: %v", name, i, r.Result.Reasons)
			if results[i][18] != "yes" {
				changed++
			}
		}
	}
	require.Positive(t, changed, "some outcome is another than the one stored: it was worked out")
	t.Logf("%d workbooks", len(all))
}
