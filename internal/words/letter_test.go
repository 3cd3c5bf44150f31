package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/words"
)

func TestInvitations(t *testing.T) {
	on := civil.MustParse("2026-12-12")
	v := progress.Judge([]curriculum.Rule{{Kind: curriculum.KitOwned, Amount: 1}, {Kind: curriculum.Membership, Amount: 1}, {Kind: curriculum.LeastAge, Amount: 12}, {Kind: curriculum.DaysSince, Amount: 10}},
		progress.Evidence{Born: civil.MustParse("2016-01-01"), Since: civil.MustParse("2026-01-01"), Papers: []progress.Paper{{Kind: curriculum.Membership, Until: civil.MustParse("2026-06-30")}}, Today: on}, on)
	owned := []string{" Gum   SHIELD "}
	items := gradingday.Checklist(gradingday.Bringing{Kit: []string{"gum shield", "pads"}, Owned: &owned, Verdict: v, Spars: true, HeightCM: 140})
	note := words.Invite(words.Invitation{School: "Marrowby Mill", Word: "grading", Name: "Ada Rill", To: "Orange belt", Guardian: "Una Rill", On: on, Place: "Upper mill floor", Come: 590, Begin: 615, Ends: 668, Ring: "Ring B", Items: items, Cautions: []string{"stop on dizziness"}, From: "Head instructor"})
	assert.Equal(t, "Ada Rill: the grading on Sat 12 Dec 2026", note.Subject)
	assert.Equal(t, `Dear Una Rill,

Ada Rill is entered for the grading on Sat 12 Dec 2026, for Orange belt.

Where: Upper mill floor
Come at: 09:50, in uniform, to warm up
The test begins at 10:15 in Ring B and is over at about 11:08.

Bring:
- gum shield
- pads (not on our list of what you own: please tell us if you need it)

Still missing before the day:
- membership, missing: a new membership
- 12 years of age, missing: 385 days more

We shall measure on the day:
- weight

Whoever is ill, injured or not fit on the day does not test; tell us, and another day is found. An adaptation on record is no worse. If anything medical has changed, ask your doctor first and tell the instructor.
- stop on dizziness

Head instructor
Marrowby Mill
`, note.Body)
	bare := words.Invite(words.Invitation{Name: "Bo", Word: "test", To: "Green", On: on, Items: gradingday.Checklist(gradingday.Bringing{Kit: []string{"pads"}, Contact: "x"})})
	assert.Contains(t, bare.Body, "Dear Bo,\n\nyou are entered")
	assert.Contains(t, bare.Body, "the time is still to be set")
	assert.Contains(t, bare.Body, "pads (please check that it fits and is whole)")
	assert.NotContains(t, bare.Body, "Still missing")
}
