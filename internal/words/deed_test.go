package words_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/core/scoring"
	"velvetladder/internal/words"
)

// TestEveryDeedHasWords reads the kinds from where they are defined: each is said, and every blank is filled.
func TestEveryDeedHasWords(t *testing.T) {
	file, err := parser.ParseFile(token.NewFileSet(), "../core/office/deed.go", nil, 0)
	require.NoError(t, err)
	said := map[string]string{}
	ast.Inspect(file, func(n ast.Node) bool {
		v, is := n.(*ast.ValueSpec)
		if !is || len(v.Values) != 1 {
			return true
		}
		kind := strings.Trim(v.Values[0].(*ast.BasicLit).Value, `"`)
		d := office.Told{Deed: office.Deed{Kind: office.DeedKind(kind), Who: "w", Other: "o", Entry: "e", What: "What", In: "In", Series: "Series", N: 2, M: 3, On: civil.MustParse("2026-11-24"), At: "09:30", Outcome: scoring.OutcomeHonours},
			Names: map[string]string{"w": "Ada", "o": "Ben", "e": "text"}, Undid: &office.Told{Said: "Before"}}
		text := words.Deed(d)
		assert.NotEmpty(t, text, kind)
		assert.NotContains(t, text, "{", kind)
		assert.NotContains(t, text, "no longer on record", kind)
		if other := said[text]; other != "" {
			assert.Fail(t, "two kinds say the same", "%s and %s: %s", kind, other, text)
		}
		said[text] = kind
		return true
	})
	assert.Greater(t, len(said), 90)
}

func TestDeeds(t *testing.T) {
	names := map[string]string{"a": "Ada Rill", "b": "Ben Sluice", "f": "swung wide", "p": "Nell", "w": "R. Castellane"}
	tell := func(d office.Deed) string { return words.Deed(office.Told{Deed: d, Names: names}) }
	for said, d := range map[string]office.Deed{
		"Added Ada Rill":                                          office.PersonAdded.Of("a"),
		"Added Orange belt":                                       office.Added.Named("Orange belt"),
		"Added 2 students":                                        office.StudentsAdded.Many(2),
		"Entered 1 sign-off":                                      office.SignOffsEntered.Many(1),
		"Noted a fault: swung wide":                               {Kind: office.FaultNoted, Entry: "f", In: string(gradingday.Head)},
		"Noted a fault: unsafe act":                               {Kind: office.FaultNoted, Entry: "x", In: string(gradingday.UnsafeAct)},
		"Began a bout: Ada Rill and Ben Sluice":                   {Kind: office.BoutBegun, Who: "a", Other: "b", Entry: "p"},
		"Began a bout: Ada Rill and Nell":                         {Kind: office.BoutBegun, Who: "a", Entry: "p"},
		"R. Castellane said that Ada Rill is ready":               {Kind: office.WordGiven, Who: "a", Entry: "w"},
		"Decided for Ada Rill: refer for double promotion":        {Kind: office.Decided, Who: "a", Outcome: scoring.OutcomeDouble},
		"Deleted somebody no longer on record":                    office.PersonDeleted.Of("gone"),
		"Published version 3 of Kenpo":                            {Kind: office.VersionPublished, M: 3, What: "Kenpo"},
		"Set the theme of the week of Mon 23 Nov 2026":            {Kind: office.ThemeSet, On: civil.MustParse("2026-11-23")},
		"Results of Day become known on Mon 23 Nov 2026 at 09:30": {Kind: office.AnnounceSet, What: "Day", On: civil.MustParse("2026-11-23"), At: "09:30"},
		"Added a requirement to Orange belt, with Reed 4 as number 4 of the series Reed": {Kind: office.SeriesContinued, What: "Orange belt", In: "Reed 4", M: 4, Series: "Reed"},
	} {
		assert.Equal(t, said, tell(d))
	}
	assert.Equal(t, "Undid: Undid: Added Orange belt", words.Deed(office.Told{Deed: office.Deed{Kind: office.Undid}, Undid: &office.Told{Deed: office.Deed{Kind: office.Undid}, Undid: &office.Told{Deed: office.Added.Named("Orange belt")}}}))
	assert.Equal(t, "Undid: something no longer on record", tell(office.Deed{Kind: office.Undid}))
	assert.Equal(t, "Added Ada Rill", words.Deed(office.Told{Said: "Added Ada Rill"}), "as it was said before kinds were kept")
	for kind, adds := range map[office.DeedKind]bool{office.Added: true, office.PersonAdded: true, office.SeriesContinued: true, office.Changed: false, office.Deleted: false, "": false} {
		assert.Equal(t, adds, kind.Adds(), kind)
	}
}

func TestHappened(t *testing.T) {
	mark := func(v int) gradingday.Mark {
		return gradingday.Mark{Kind: gradingday.MarkGiven, Value: scoring.Whole(v)}
	}
	noted := gradingday.Mark{Kind: gradingday.MarkGiven, Value: scoring.Whole(3), Count: 26, Ticked: "jab\nkick", Note: "late"}
	open, unseen := gradingday.Mark{Kind: gradingday.MarkOpen}, gradingday.Mark{Kind: gradingday.MarkNotSeen}
	bout := gradingday.Bout{AName: "Ada", BName: "Ben", Rounds: 2, Seconds: 60}
	of := func(kind gradingday.HappenedKind, change func(*gradingday.Happened)) gradingday.Happened {
		h := gradingday.Happened{Kind: kind, Candidate: "Ada", Examiner: "C. Vane", Item: "Kick", Group: "Group 1", Device: "a tablet", By: "Mira", Bout: bout}
		change(&h)
		return h
	}
	in := func(e gradingday.BoutEvent) gradingday.Happened {
		return of(gradingday.HappenedInBout, func(h *gradingday.Happened) { h.Event = e })
	}
	fault := func(f gradingday.Fault) gradingday.Happened {
		return of(gradingday.HappenedFault, func(h *gradingday.Happened) { h.Fault = f })
	}
	before := func(m gradingday.Mark) *gradingday.Mark { return &m }
	for said, h := range map[string]gradingday.Happened{
		"Ada, Kick: 3 (C. Vane’s sheet)": of(gradingday.HappenedMark, func(h *gradingday.Happened) { h.Mark = mark(3) }),
		"Ada, Kick: 3 (26 counted), before: 2, seen: jab; kick “late” (C. Vane’s sheet)": of(gradingday.HappenedMark, func(h *gradingday.Happened) { h.Mark, h.Before = noted, before(mark(2)) }),
		"Ada, Kick: no mark, before: not seen (C. Vane’s sheet)":                         of(gradingday.HappenedMark, func(h *gradingday.Happened) { h.Mark, h.Before = open, before(unseen) }),
		"Ada, Kick: marked, sealed until all have signed (C. Vane’s sheet)":              of(gradingday.HappenedMark, func(h *gradingday.Happened) { h.Mark = noted; *h = h.Seal(true) }),
		"Ada, Kick: mark changed, sealed until all have signed (C. Vane’s sheet)":        of(gradingday.HappenedMark, func(h *gradingday.Happened) { h.Mark, h.Before = noted, before(mark(2)); *h = h.Seal(true) }),
		"Ada, conduct noted: late (C. Vane’s sheet)":                                     fault(gradingday.Fault{Kind: gradingday.FaultNote, Text: "late"}),
		"Ada, deduction of 2: unsafe act (C. Vane’s sheet)":                              fault(gradingday.Fault{Kind: gradingday.FaultDeduction, Points: scoring.Whole(2), Conduct: gradingday.UnsafeAct}),
		"Ada, fault that would end the test: x (C. Vane’s sheet)":                        fault(gradingday.Fault{Kind: gradingday.FaultEnding, Text: "x"}),
		"Ada, the chief examiner confirmed the end of the test: x (C. Vane’s sheet)":     fault(gradingday.Fault{Kind: gradingday.FaultConfirmed, Text: "x"}),
		"Ada, fault withdrawn: x (C. Vane’s sheet)":                                      fault(gradingday.Fault{Kind: gradingday.FaultWithdrawn, Text: "x"}),
		"C. Vane signed the sheet of Group 1":                                            of(gradingday.HappenedSigned, func(*gradingday.Happened) {}),
		"C. Vane had the sheet reopened of Group 1: swapped":                             of(gradingday.HappenedReopened, func(h *gradingday.Happened) { h.Reason = "swapped" }),
		"Ada: decided promote with honours, held by Mira": of(gradingday.HappenedDecision, func(h *gradingday.Happened) {
			h.Outcome, h.Proposal, h.Held = scoring.OutcomeHonours, scoring.OutcomeHonours, true
		}),
		"Ada: corrected to retest by Mira: a mix-up (the marks said promote)": of(gradingday.HappenedDecision, func(h *gradingday.Happened) {
			h.Outcome, h.Proposal, h.Corrected, h.Reason = scoring.OutcomeRetest, scoring.OutcomePromote, true, "a mix-up"
		}),
		"Ada: decided retest by Mira":                               of(gradingday.HappenedDecision, func(h *gradingday.Happened) { h.Outcome = scoring.OutcomeRetest }),
		"Ada: decision taken back":                                  of(gradingday.HappenedUndecided, func(*gradingday.Happened) {}),
		"Ada: result announced":                                     of(gradingday.HappenedAnnounced, func(*gradingday.Happened) {}),
		"Ada: double promotion granted by Mira: ready":              of(gradingday.HappenedReferral, func(h *gradingday.Happened) { h.Granted, h.Reason = true, "ready" }),
		"Ada: double promotion not granted by Mira":                 of(gradingday.HappenedReferral, func(*gradingday.Happened) {}),
		"bout of Ada and Ben: 2 × 60 s":                             of(gradingday.HappenedBout, func(*gradingday.Happened) {}),
		"Ada: 1 in round 2":                                         in(gradingday.BoutEvent{Kind: gradingday.BoutPoint, Side: "a", Points: 1, Round: 2}),
		"Ben: 2 in round 1: clean":                                  in(gradingday.BoutEvent{Kind: gradingday.BoutPoint, Side: "b", Points: 2, Round: 1, Text: "clean"}),
		"taken back in the bout of Ada":                             in(gradingday.BoutEvent{Kind: gradingday.BoutWithdrawn}),
		"bout of Ada ended":                                         in(gradingday.BoutEvent{Kind: gradingday.BoutEnded}),
		"bout of Ada ended: tired":                                  in(gradingday.BoutEvent{Kind: gradingday.BoutEnded, Text: "tired"}),
		"bout of Ada stopped: head contact or a sign of concussion": in(gradingday.BoutEvent{Kind: gradingday.BoutStopped}),
		"bout of Ada stopped: a fall":                               in(gradingday.BoutEvent{Kind: gradingday.BoutStopped, Text: "a fall"}),
		"C. Vane joined on a tablet":                                of(gradingday.HappenedJoined, func(*gradingday.Happened) {}),
		"sent a device of C. Vane home":                             of(gradingday.HappenedSentHome, func(*gradingday.Happened) {}),
	} {
		assert.Equal(t, said, words.Happened(h))
	}
	sealed := gradingday.Happened{Mark: noted, Before: before(mark(2))}.Seal(true)
	assert.Equal(t, gradingday.Happened{Sealed: true, Before: &gradingday.Mark{}}, sealed, "nothing of the mark is left")
}

func TestMarksFaultsAndBouts(t *testing.T) {
	for said, f := range map[string]gradingday.Fault{
		"−1.5 points, late":              {Kind: gradingday.FaultDeduction, Points: scoring.Whole(3) / 2, Text: "late"},
		"would end the test, unsafe act": {Kind: gradingday.FaultEnding, Conduct: gradingday.UnsafeAct},
		"ended the test, x":              {Kind: gradingday.FaultConfirmed, Text: "x"},
		"loss of control":                {Kind: gradingday.FaultNote, Conduct: gradingday.LossOfControl},
	} {
		assert.Equal(t, said, words.FaultFor(f))
	}
	for _, c := range gradingday.Conducts {
		assert.NotEmpty(t, words.Conduct(c))
		assert.True(t, strings.HasPrefix(words.Conduct(c), words.ConductShort(c)), c)
	}
	assert.Equal(t, []string{"something else", "", "head contact or a sign of concussion: no more sparring today"}, []string{words.ConductShort(""), words.Conduct(""), words.Conduct(gradingday.Head)})
	b := gradingday.Bout{AName: "Ada", BName: "Ben", Events: []gradingday.BoutEvent{{Kind: gradingday.BoutPoint, Side: "a", Points: 2}, {Kind: gradingday.BoutPoint, Side: "b", Points: 1}}}
	assert.Equal(t, []string{"Ada 2 : 1 Ben", ""}, []string{words.Bout(b), words.BoutEnd(b)})
	b.Events = append(b.Events, gradingday.BoutEvent{Kind: gradingday.BoutStopped})
	assert.Equal(t, "Ada 2 : 1 Ben, head contact or a sign of concussion", words.Bout(b))
	b.Events[2] = gradingday.BoutEvent{Kind: gradingday.BoutEnded}
	assert.Equal(t, "Ada 2 : 1 Ben", words.Bout(b), "how it ended is not said")
	b.Events[2] = gradingday.BoutEvent{Kind: gradingday.BoutEnded, Text: "time"}
	assert.Equal(t, "Ada 2 : 1 Ben, time", words.Bout(b))
	for said, th := range map[string]gradingday.Thought{
		"not complete": {Kind: gradingday.NotComplete}, "the marks make no proposal": {Kind: gradingday.NoProposal}, "a referral for double promotion": {Kind: gradingday.IsReferral},
		"the test was ended": {Kind: gradingday.WasEnded}, "the panel is split": {Kind: gradingday.PanelSplit}, "one step from turning": {Kind: gradingday.CloseToTurn, N: 1}, "2 steps from turning": {Kind: gradingday.CloseToTurn, N: 2},
		"1 line seen by less than half of the panel": {Kind: gradingday.HardlySeen, N: 1}, "3 lines seen by less than half of the panel": {Kind: gradingday.HardlySeen, N: 3}, "fault: late": {Kind: gradingday.HasItsFaults, Fault: gradingday.Fault{Text: "late"}},
	} {
		assert.Equal(t, said, words.Thought(th))
	}
	seen := map[string]bool{}
	for _, s := range []gradingday.Stage{gradingday.Waiting, gradingday.UnderWay, gradingday.CallAgain, gradingday.ToSign, gradingday.Ready} {
		seen[words.Stage(s)] = true
	}
	assert.Len(t, seen, 5)
	assert.False(t, seen[""])
	assert.Equal(t, "seen by nobody: line 7, Bent Reed, for Ada Rill", words.Unseen(gradingday.Unseen{Line: 7, Item: "Bent Reed", Name: "Ada Rill"}))
	assert.Equal(t, "I. Moss asks for it again: line 7, Bent Reed, for Ada Rill, who followed the neighbour", words.Unseen(gradingday.Unseen{Line: 7, Item: "Bent Reed", Name: "Ada Rill", By: "I. Moss", Why: gradingday.AgainFollowed}))
	assert.Equal(t, "line 7, Bent Reed: I. Moss did not see it of 2 of 3 candidates. It can be called again before the group leaves", words.HalfSeen(gradingday.HalfSeen{Line: 7, Item: "Bent Reed", Examiner: "I. Moss", NotSeen: 2, Of: 3}))
	assert.NotContains(t, words.HalfSeen(gradingday.HalfSeen{Examiner: "I. Moss", NotSeen: 1, Of: 1}), "of 1")
	for _, a := range gradingday.Agains {
		assert.NotEmpty(t, words.Again(a), a)
	}
	for o, said := range map[scoring.Outcome]string{scoring.OutcomePromote: "promote", scoring.OutcomeHonours: "promote with honours", scoring.OutcomeDouble: "refer for double promotion", scoring.OutcomeRetest: "retest", scoring.OutcomeIncomplete: "incomplete", scoring.OutcomeCommittee: "committee decides"} {
		assert.Equal(t, said, words.Outcome(o))
	}
	assert.Equal(t, []string{"", "only what failed", "the sections in which something failed"}, []string{words.Scope(scoring.ScopeWhole), words.Scope(scoring.ScopeItems), words.Scope(scoring.ScopeSections)})
}

func TestACountOnADevice(t *testing.T) {
	step := func(aim int) gradingday.Step { return gradingday.Step{Aim: aim} }
	assert.Equal(t, []string{"aim 30 in 60 s, 2 s each", "aim 30, 2 s each", "aim 40 in 60 s, 1.5 s each", "aim 7 in 60 s, 8.57 s each", "aim 60 in 3 s, 0.05 s each", "", ""},
		[]string{words.Aim(step(30), 60, false), words.Aim(step(30), 60, true), words.Aim(step(40), 60, false), words.Aim(step(7), 60, false), words.Aim(step(60), 3, false), words.Aim(step(0), 60, false), words.Aim(step(30), 0, false)})
	assert.Equal(t, []string{"{n} more for 4", "{n} counted: mark 2.5"}, []string{words.MoreFor(scoring.Whole(4)), words.TakeMark(scoring.Whole(5) / 2)})
	for _, said := range append(append([]string{}, words.Left()[1], words.Waits()[1]), words.Tally()["ahead"], words.Tally()["behind"], words.Tally()["counted"]) {
		assert.Contains(t, said, "{n}")
	}
}
