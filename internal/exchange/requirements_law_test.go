package exchange

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/curriculum"
)

// TestLawRequirementsFilesKeepEverything: what is written is read as it was, whatever a binder
// line can say.
func TestLawRequirementsFilesKeepEverything(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		quantity := func(name string) curriculum.Quantity {
			q, err := curriculum.ParseQuantity(rapid.SampledFrom([]string{"5 a side", "8 each leg", "4 each way", "10", "10 alternating", "60 s", "2 x 60 s, 30 s rest", "18 in 60 s", "3 holds of 20 s", "4 each hand without touching down"}).Draw(t, name))
			require.NoError(t, err)
			return q
		}
		flip := func(name string) bool { return rapid.Bool().Draw(t, name) }
		c := curriculum.Curriculum{Program: curriculum.Program{ID: "p", Name: "Reed", ProgramDetails: curriculum.ProgramDetails{Tracks: []curriculum.Track{{ID: "cubs", Name: "Cubs"}}, Groups: []curriculum.SampleGroup{{ID: "g", Name: "Pool", Draw: 1}}}},
			Sections: []curriculum.Section{{ID: "s", Name: "Locks"}}, Rungs: []curriculum.Rung{{ID: "w", Name: "White, first"}, {ID: "y", Name: "Yellow"}},
			Techniques: []curriculum.Technique{{ID: "l", Name: "Reed lock", Kind: "lock", TechniqueDetails: curriculum.TechniqueDetails{Entries: []curriculum.Entry{{Name: "Counter-grip"}, {Name: "Own start"}}}}}}
		other := quantity("track amount")
		r := curriculum.Requirement{ID: "r", RungID: "w", SectionID: "s", TechniqueID: "l", Role: "performer", Weight: 2, Quantity: quantity("amount"), Note: "=as on the mat (slowly)"}
		r.RequirementDetails = curriculum.RequirementDetails{Slow: flip("slow"), NonStop: flip("non-stop"), Phases: flip("phases"), ShowAgain: flip("again"), Sprint: 15, Voice: curriculum.ShoutTurns, Entries: []string{"Own start"},
			Carry: curriculum.Carry{Kind: curriculum.Until, Rung: "y"}, Tracks: []curriculum.TrackChange{{TrackID: "cubs", Quantity: &other, LeaveOut: flip("out")}}}
		c.Requirements = []curriculum.Requirement{r}
		b := curriculum.Open(c)
		var file bytes.Buffer
		require.NoError(t, WriteRequirements(&file, b))
		rows, err := ReadRequirements(file.Bytes(), b)
		require.NoError(t, err)
		require.Len(t, rows, 1)
		require.Empty(t, rows[0].Problems, file.String())
		require.Equal(t, "as it is", rows[0].Change, file.String())
		got := rows[0].Line.Requirement
		got.ID = r.ID
		require.Equal(t, r, got, file.String())
	})
}
