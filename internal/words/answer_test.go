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
		return words.Missing("Ivy", "Yellow belt", progress.Judge(rules, e, on), 0)
	}
	assert.Equal(t, "Nothing is missing: Ivy may be tested for Yellow belt.", of(progress.Evidence{}))
	for unseen, want := range map[int]string{1: "Ivy may be tested for Yellow belt. One thing on the test has not been shown in full yet; it comes first below.", 2: "Ivy may be tested for Yellow belt. 2 things on the test have not been shown in full yet; they come first below."} {
		assert.Equal(t, want, words.Missing("Ivy", "Yellow belt", progress.Judge(nil, progress.Evidence{}, on), unseen))
	}
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

// TestAnswers: what is, and what is missing, of every rule.
func TestAnswers(t *testing.T) {
	on := civil.MustParse("2026-11-24")
	base := progress.Evidence{Since: civil.MustParse("2026-05-24"), Registered: civil.MustParse("2026-01-01"), Today: on}
	with := func(change func(*progress.Evidence)) progress.Evidence { e := base; change(&e); return e }
	rule := func(k curriculum.RuleKind, n int) curriculum.Rule { return curriculum.Rule{Kind: k, Amount: n} }
	hall := progress.Attendance{Kind: "general", Mode: "hall"}
	for _, x := range []struct {
		rule         curriculum.Rule
		e            progress.Evidence
		figure, lack string
	}{
		{rule(curriculum.MonthsSince, 6), base, "6 months", ""},
		{rule(curriculum.MonthsSince, 7), base, "6 months", "30 days more"},
		{rule(curriculum.MonthsSince, 7), progress.Evidence{}, "", "the day of the last promotion"},
		{rule(curriculum.DaysSince, 185), base, "184 days", "1 day more"},
		{rule(curriculum.LeastAge, 7), with(func(e *progress.Evidence) { e.Born = civil.MustParse("2019-11-25") }), "6 years", "1 day more"},
		{rule(curriculum.LeastAge, 7), base, "", "the birth date"},
		{rule(curriculum.ClassesSince, 2), with(func(e *progress.Evidence) { e.Attended = progress.Attended{hall: 1} }), "1 class", "1 class more; so many are not on the timetable"},
		{curriculum.Rule{Kind: curriculum.ClassesSince, Amount: 3, Of: "Sparring"}, with(func(e *progress.Evidence) { e.Attended = progress.Attended{} }), "0 Sparring classes", "3 Sparring classes more; so many are not on the timetable"},
		{rule(curriculum.ClassesSince, 2), with(func(e *progress.Evidence) { e.Registered = civil.Date{} }), "no register was kept", "the registers since Sun 24 May 2026"},
		{rule(curriculum.ClassesSince, 2), with(func(e *progress.Evidence) {
			e.Registered, e.Attended = civil.MustParse("2026-09-01"), progress.Attended{hall: 1}
		}), "1 class since the registers began on Tue 1 Sep 2026", "the registers before Tue 1 Sep 2026"},
		{rule(curriculum.ClassShare, 50), base, "", "a register since Sun 24 May 2026"},
		{rule(curriculum.ClassShare, 50), with(func(e *progress.Evidence) {
			e.Attended, e.Held = progress.Attended{hall: 2}, progress.Attended{hall: 3}
		}), "2 of 3 classes, 66 percent", ""},
		{rule(curriculum.ClassShare, 75), with(func(e *progress.Evidence) {
			e.Attended, e.Held = progress.Attended{hall: 2}, progress.Attended{hall: 3}
		}), "2 of 3 classes, 66 percent", "1 class more without missing one"},
		{rule(curriculum.ClassShare, 100), with(func(e *progress.Evidence) {
			e.Attended, e.Held = progress.Attended{hall: 2}, progress.Attended{hall: 3}
		}), "2 of 3 classes, 66 percent", "nothing can mend it: a class was missed"},
		{rule(curriculum.AllStripes, 1), with(func(e *progress.Evidence) {
			e.Stripes = []progress.StripeState{{Section: "Kicks", Awarded: on}, {Section: "Forms"}}
		}), "1 of 2", "Forms"},
		{rule(curriculum.EachSignedOff, 2), with(func(e *progress.Evidence) { e.Sections = []progress.SectionDone{{Name: "Kicks", Of: 3, Done: 1}} }), "1 of 2", "1 of Kicks"},
		{rule(curriculum.KitOwned, 1), base, "none is asked", ""},
		{rule(curriculum.KitOwned, 1), with(func(e *progress.Evidence) { e.Kit = []string{"Pads"} }), "", "a look at the kit: Pads"},
		{rule(curriculum.KitOwned, 1), with(func(e *progress.Evidence) {
			e.Kit, e.KitKnown = []string{"Pads", "Guard"}, true
			e.Owned = []string{"pads"}
		}), "1 of 2", "Guard"},
		{rule(curriculum.Membership, 1), base, "", "the membership"},
		{rule(curriculum.Insurance, 1), with(func(e *progress.Evidence) { e.Papers = []progress.Paper{{Kind: curriculum.Insurance, Until: on}} }), "valid until Tue 24 Nov 2026", ""},
		{rule(curriculum.Insurance, 1), with(func(e *progress.Evidence) {
			e.Papers = []progress.Paper{{Kind: curriculum.Insurance, Until: on.AddDays(-1)}}
		}), "ends on Mon 23 Nov 2026", "a new insurance"},
		{rule(curriculum.Disclaimer, 1), with(func(e *progress.Evidence) { e.Papers = []progress.Paper{{Kind: curriculum.Disclaimer}} }), "valid", ""},
		{rule(curriculum.CharacterTask, 1), base, "", "an example from the family"},
		{rule(curriculum.CharacterTask, 1), with(func(e *progress.Evidence) { e.Character = "lays the table" }), "lays the table", ""},
		{rule(curriculum.Word, 1), base, "", "an instructor who says so"},
		{rule(curriculum.Word, 1), with(func(e *progress.Evidence) { e.Word = "R. Weir" }), "given by R. Weir", ""},
	} {
		a := progress.Judge([]curriculum.Rule{x.rule}, x.e, on).Answers[0]
		assert.Equal(t, []string{x.figure, x.lack}, []string{words.Figure(a, on), words.Lack(a)}, "%v", x.rule)
	}
	wait := progress.Judge(nil, with(func(e *progress.Evidence) { e.RetestFrom = on.AddDays(2) }), on).Answers[0]
	assert.Equal(t, []string{"Tue 24 Nov 2026", "2 days more"}, []string{words.Figure(wait, on), words.Lack(wait)})
	for _, x := range []struct {
		e     progress.Evidence
		rules []curriculum.Rule
		said  string
	}{
		{base, nil, "may test"},
		{base, []curriculum.Rule{rule(curriculum.MonthsSince, 7)}, "from Thu 24 Dec 2026"},
		{base, []curriculum.Rule{rule(curriculum.MonthsSince, 7), rule(curriculum.Word, 1)}, "from Thu 24 Dec 2026, if an instructor says so"},
		{base, []curriculum.Rule{rule(curriculum.Word, 1), rule(curriculum.LeastAge, 7)}, "not known: an instructor who says so is missing"},
		{with(func(e *progress.Evidence) {
			e.Stripes, e.Sections = []progress.StripeState{{Section: "Forms"}}, []progress.SectionDone{{Name: "Kicks", Of: 1, Open: []string{"Round kick"}}}
		}), []curriculum.Rule{rule(curriculum.AllStripes, 1), rule(curriculum.AllSignedOff, 1)}, "not yet: Forms missing, Round kick missing"},
		{base, []curriculum.Rule{rule(curriculum.ClassesSince, 1)}, "not in sight"},
	} {
		assert.Equal(t, x.said, words.Verdict(progress.Judge(x.rules, x.e, on)))
	}
	open := []string{"a", "b", "c", "d", "e"}
	assert.Equal(t, "Everything new was signed off. What lower rungs asked counts too now, at what is asked here, and was never seen: a; b; c; d and 1 more.", words.Anew(progress.Anew{Open: open}))
	assert.Equal(t, "Everything new was signed off. What lower rungs asked counts too now, at what is asked here, and was never seen: a; b; c; d.", words.Anew(progress.Anew{Open: open[:4]}))
	assert.Contains(t, words.Anew(progress.Anew{Met: true, Done: 3, Of: 4}), "3 of 4 were signed off on this climb")
}

func TestForecasts(t *testing.T) {
	day := func(s string) civil.Date { return civil.MustParse(s) }
	classes := progress.Drives{Classes: []progress.ClassNeed{{Lack: 2}}, PerWeek: 1.5}
	for said, d := range map[string]progress.Drives{
		"nothing is missing":                                     {},
		"2 classes more at 1.5 a week":                           classes,
		"1 class more and 2 sparring classes more at 2.0 a week": {Classes: []progress.ClassNeed{{Lack: 1}, {Of: "sparring", Lack: 2}}, PerWeek: 2},
		"1 requirement to be signed off, 4.0 in ten classes":     {Signed: 1, PerTen: 4},
		"2 classes more at 1.5 a week, and 3 requirements to be signed off, 4.0 in ten classes; not before Thu 24 Dec 2026":                                                    {Classes: classes.Classes, PerWeek: 1.5, Signed: 3, PerTen: 4, NotBefore: day("2026-12-24")},
		"not before Thu 24 Dec 2026; no register of the last 2 weeks shows anybody: were they kept, or is a holiday missing from the timetable?":                               {NotBefore: day("2026-12-24"), Stopped: 2},
		"not before Thu 24 Dec 2026; in 3 weeks of the last months nobody came though classes stand on the timetable: enter the holidays there; away for 4 weeks with classes": {NotBefore: day("2026-12-24"), Holidays: 3, Away: 4},
		"nothing can mend it: a class was missed": {Never: &progress.Answer{Lack: progress.Lack{Kind: progress.LackNever}}, Signed: 2},
	} {
		assert.Equal(t, said, words.Drives(d))
	}
	never := &progress.Answer{Lack: progress.Lack{Kind: progress.LackNever}}
	early, likely, late := day("2026-12-08"), day("2026-12-22"), day("2027-02-16")
	for said, f := range map[string]progress.Forecast{
		"No day is in sight: nothing can mend it: a class was missed.":                                                                      {Never: never, Likely: likely},
		"No day within three years at this pace: 2 classes more at 1.5 a week.":                                                             {Drives: classes},
		"Only what can be given at once is missing.":                                                                                        {Early: early, Likely: early, Late: early},
		"Likely on Tue 8 Dec 2026: 2 classes more at 1.5 a week.":                                                                           {Early: early, Likely: early, Late: early, Drives: classes},
		"Likely on Tue 22 Dec 2026, between Tue 8 Dec 2026 and Tue 16 Feb 2027 in eight cases of ten: 2 classes more at 1.5 a week.":        {Early: early, Likely: likely, Late: late, Drives: classes},
		"Likely on Tue 22 Dec 2026, between Tue 8 Dec 2026 and later than three years in eight cases of ten: 2 classes more at 1.5 a week.": {Early: early, Likely: likely, Drives: classes},
	} {
		assert.Equal(t, said, words.Forecast(f))
	}
}

func TestWhySomebodyStandsThere(t *testing.T) {
	for said, w := range map[string]progress.Why{
		"": {}, "a mix-up": {Reason: "a mix-up"}, "with honours": {Because: progress.BecauseHonours}, "referred for double promotion": {Because: progress.BecauseReferred}, "came back": {Because: progress.BecauseCameBack},
		"double promotion: ready": {Because: progress.BecauseDouble, Reason: "ready"}, "result corrected: a mix-up": {Because: progress.BecauseCorrected, Reason: "a mix-up"},
		"merit stripe on Tue 24 Nov 2026: helps the small ones": {Because: progress.BecauseMerit, On: civil.MustParse("2026-11-24"), Reason: "helps the small ones"},
	} {
		assert.Equal(t, said, words.Why(w))
	}
}
