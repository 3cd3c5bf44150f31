package words_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/words"
)

// TestWhatIsMissing: one sentence says what is missing until the next test, and when it can be.
func TestWhatIsMissing(t *testing.T) {
	on := civil.MustParse("2026-11-24")
	rule := func(k curriculum.RuleKind, n int) curriculum.Rule { return curriculum.Rule{Kind: k, Amount: n} }
	of := func(e progress.Evidence, rules ...curriculum.Rule) string {
		return words.Missing("Ivy", "Yellow belt", progress.Judge(rules, e, on))
	}
	assert.Equal(t, "Nothing is missing: Ivy may be tested for Yellow belt.", of(progress.Evidence{}))
	sections := []progress.SectionDone{{Name: "Kicks", Of: 3, Done: 1, Open: []string{"a", "b"}}}
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: 2 things are still to be shown.", of(progress.Evidence{Sections: sections}, rule(curriculum.AllSignedOff, 1)))
	sections[0].Done, sections[0].Open = 2, []string{"b"}
	e := progress.Evidence{Sections: sections, Since: on.AddDays(-10), Registered: on.AddDays(-90), Attended: progress.Attended{}, Born: civil.MustParse("2010-12-01"), Kit: []string{"Gloves", "Guard"}, Owned: []string{"Guard"}, KitKnown: true}
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: some time with this belt, until Thu 14 Jan 2027, 3 more classes, the birthday on Tue 1 Dec 2026, one thing is still to be shown, kit to bring: Gloves, an example for the character task, from the family and the instructor’s word that it is time.",
		of(e, rule(curriculum.MonthsSince, 2), rule(curriculum.ClassesSince, 3), rule(curriculum.LeastAge, 16), rule(curriculum.AllSignedOff, 1), rule(curriculum.KitOwned, 1), rule(curriculum.CharacterTask, 1), rule(curriculum.Word, 1)))
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: one more sparring class.", of(e, curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 1, Of: "Sparring"}))
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: the wait after the last test, until Thu 26 Nov 2026. The earliest day is Thu 26 Nov 2026.", of(progress.Evidence{RetestFrom: on.AddDays(2)}))
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: the birthday on Tue 1 Dec 2026. The earliest day is Tue 1 Dec 2026.", of(e, rule(curriculum.LeastAge, 16)))
	assert.Equal(t, "Before Ivy can be tested for Yellow belt: the school needs the date of birth and membership valid on the day, at the desk.", of(progress.Evidence{}, rule(curriculum.LeastAge, 6), rule(curriculum.Membership, 1)))
}

// TestHowToMend: the fault that was seen in this student comes with its correction.

// TestWhatIsNamed: up to four things are named, of more three and how many others.
func TestWhatIsNamed(t *testing.T) {
	for said, open := range map[string][]string{"a, b, c": {"a", "b", "c"}, "a, b, c, d": {"a", "b", "c", "d"}, "a, b, c and 2 more requirements": {"a", "b", "c", "d", "e"}} {
		v := progress.Judge([]curriculum.Rule{{Kind: curriculum.AllSignedOff, Amount: 1}}, progress.Evidence{Sections: []progress.SectionDone{{Name: "Kicks", Of: len(open), Open: open}}}, civil.MustParse("2026-11-24"))
		assert.Equal(t, said, words.Lack(v.Answers[0]))
		assert.Equal(t, "not yet: "+said+" missing", words.Verdict(v))
	}
	assert.Equal(t, []string{"", "a", "a and b", "a, b and c"}, []string{words.List(nil), words.List([]string{"a"}), words.List([]string{"a", "b"}), words.List([]string{"a", "b", "c"})})
}
