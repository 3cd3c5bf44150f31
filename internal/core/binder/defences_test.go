package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/golden"
)

// TestDefencesOnALine: a defence by its name, what it answers and what is done about that, joined in every way that schools write, is that name, that
// attack and these steps, as they are put together here; or it is asked about.
func TestDefencesOnALine(t *testing.T) {
	golden.Alone(t)
	attacks := map[string]string{
		"front choke": "front choke", "rear bear hug": "hug, rear", "a left straight punch": "left straight punch", "right hook": "right hook", "two-hand push": "both push",
		"hair pull from behind": "hair grab, rear", "an overhead club": "club, high", "headlock from the side": "headlock, side", "right cross wrist grab": "right wrist grab",
		"a knife thrust to the belly": "knife thrust, mid", "full nelson": "full nelson, rear", "left lapel grab": "left lapel grab", "a right front kick": "right front kick", "a tackle": "tackle",
	}
	joins := []string{"NAME (ATTACK)STEPS", "NAME - ATTACKSTEPS", "NAME – ATTACKSTEPS", "NAME for ATTACKSTEPS",
		"NAME against ATTACKSTEPS", "NAME vs. ATTACKSTEPS", "NAME, ATTACKSTEPS", "NAME: ATTACKSTEPS", "NAME -- ATTACKSTEPS"}
	steps := []string{"", ". Step back, turn the hip.", ". Turn in and strike."}
	lines, asked := 0, 0
	for _, name := range []string{"Reed Bow", "Crossing the Water", "Bent Wing"} {
		for typed, attack := range attacks {
			for _, join := range joins {
				for _, done := range steps {
					for _, mark := range []string{"", "3. ", "- "} {
						line := mark + strings.NewReplacer("NAME", name, "ATTACK", typed, "STEPS", done).Replace(join)
						lines++
						read := island(nil).ParsePage("Self-defence\n" + line)
						if len(read) != 1 {
							assert.Len(t, read, 1, line)
							continue
						}
						l := read[0]
						if l.Problem != "" || len(l.Doubts) > 0 || l.Asked || l.Waits {
							asked++
							continue
						}
						got := ""
						for _, a := range l.Attack {
							got += strings.TrimSuffix(a.String(), ", front")
						}
						assert.Equal(t, []string{name, attack, strings.TrimPrefix(done, ". ")}, []string{l.Name, got, l.Moves}, line)
					}
				}
			}
		}
	}
	assert.Greater(t, lines, 3000)
	assert.LessOrEqual(t, 20*asked, lines, "asked about")
}
