package words

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/gradingday"
)

func TestWhatADayPlanBreaks(t *testing.T) {
	low := gradingday.Bar{Kind: gradingday.BarRank, Examiner: "Ilsa Corder", Holds: "Yellow belt", Tested: "Brown belt"}
	family := gradingday.Bar{Kind: gradingday.BarFamily, Ring: "Ring B", Examiner: "Bram Weir"}
	for said, b := range map[string]gradingday.Breach{
		"There is no ring. A grading needs at least one, with a panel.":                      {Kind: gradingday.NoRings},
		"Ring A has 2 examiners; a panel has 1, 3 or 5.":                                     {Kind: gradingday.PanelSize, Name: "Ring A", N: 2},
		"Ring A has nobody to examine, so it stays closed. Name 1, 3 or 5 examiners for it.": {Kind: gradingday.RingEmpty, Name: "Ring A"},
		"Ring A has 4 examiners left; a panel has 1, 3 or 5, so it examines with 3.":         {Kind: gradingday.SeatsLeft, Name: "Ring A", N: 4, M: 3},
		"Ilsa Corder sits in Ring A and in Ring B at once.":                                  {Kind: gradingday.TwoSeats, Name: "Ilsa Corder", Beside: "Ring A", Where: "Ring B"},
		"The rank of Bram Weir is not on record, so it was not looked at.":                   {Kind: gradingday.RankUnseen, Name: "Bram Weir"},
		"Group 1 (Brown belt) is not tested: it has no place in the plan.":                   {Kind: gradingday.NotTested, Name: "Group 1", For: "Brown belt"},
		"Group 1 stands 3 times in the plan; it is tested in 1 part.":                        {Kind: gradingday.PlacedOften, Name: "Group 1", N: 3, M: 1},
		"Group 1 has 25 min, and its sheet takes 30.":                                        {Kind: gradingday.TooShort, Name: "Group 1", N: 25, M: 30},
		"Group 1 begins at 09:00; with 15 min of warm-up it can begin at 09:15.":             {Kind: gradingday.BeforeReady, Name: "Group 1", N: 540, M: 15, K: 555},
		"Group 1 is pinned and stands elsewhere.":                                            {Kind: gradingday.OffItsPin, Name: "Group 1"},
		"Group 1 is examined in two rings.":                                                  {Kind: gradingday.TwoRings, Name: "Group 1"},
		"Group 1 has 7 min after its rest, and its sheet takes 8.":                           {Kind: gradingday.ShortAfter, Name: "Group 1", N: 7, M: 8},
		"Group 1 rests 9 min between fitness and sparring; 10 are set.":                      {Kind: gradingday.RestTooShort, Name: "Group 1", N: 9, M: 10},
		"Group 1 is tested in the pause.":                                                    {Kind: gradingday.InThePause, Name: "Group 1"},
		"Group 2 begins at 10:00, while Group 1 is tested until 10:05.":                      {Kind: gradingday.Overlap, Name: "Group 2", N: 600, Beside: "Group 1", M: 605},
		"Group 2 follows Group 1 after 1 min; 3 are set for the change.":                     {Kind: gradingday.ChangeShort, Name: "Group 2", Beside: "Group 1", N: 1, M: 3},
		"Group 2 comes after Group 1 in Ring A, and the order is youngest first.":            {Kind: gradingday.OutOfOrder, Name: "Group 2", Beside: "Group 1", Where: "Ring A", Order: gradingday.YoungestFirst},
		"A candidate of Group 2 is tested in Group 1 at the same time.":                      {Kind: gradingday.TwoPlaces, Name: "Group 2", Beside: "Group 1"},
		"Group 1 in Ring A: Ilsa Corder holds Yellow belt, and Brown belt is tested.":        {Kind: gradingday.MayNot, Name: "Group 1", Where: "Ring A", Bars: []gradingday.Bar{low}},
		"Nobody may examine Group 1 (Brown belt): Ring B: Bram Weir is of the family of a candidate; Ring C: nobody examines there.": {Kind: gradingday.NobodyMay, Name: "Group 1", For: "Brown belt",
			Bars: []gradingday.Bar{family, {Kind: gradingday.BarEmpty, Ring: "Ring C"}}},
		"Group 1 (Brown belt) is not tested: nobody may examine it: there is no ring.": {Kind: gradingday.NotTested, Name: "Group 1", For: "Brown belt", Bars: []gradingday.Bar{{Kind: gradingday.BarNoRing}}},
	} {
		assert.Equal(t, said, Breach(b))
	}
	more := " too long. A ring or an examiner more, larger groups, fewer candidates or a longer day would help."
	for late, said := range map[int]string{640: "The day ends at 10:40 and the hall closes at 10:00: 40 min", 720: "The day ends at 12:00 and the hall closes at 10:00: 2 h", 725: "The day ends at 12:05 and the hall closes at 10:00: 2 h 5 min"} {
		assert.Equal(t, said+more, Breach(gradingday.Breach{Kind: gradingday.PastClosing, N: late, M: 600}))
	}
}

func TestWhatLimitsADay(t *testing.T) {
	full := gradingday.Limit{Ring: "Ring A", Until: 640, Groups: 2, Work: 77, Idle: 9}
	begins := "Ring A is full until 10:40: 2 groups × 39 min, 77 min in all, and 9 min of changing, rest and pause between them. "
	for said, b := range map[string]gradingday.Bound{
		"No plan can end before 10:30: Group 3 is pinned to 09:40 and needs 50 min.":  {Finish: 630, Proof: gradingday.Proof{Kind: gradingday.ByPin, Name: "Group 3", At: 580, Each: 50}},
		"No plan can end before 10:30: Group 3 alone needs 50 min after the warm-up.": {Finish: 630, Proof: gradingday.Proof{Kind: gradingday.ByItself, Name: "Group 3", Each: 50}},
		"No plan can end earlier: all groups: 1 group needs 70 min of testing and 0 min of changing, over 1 ring at least 70 min each.": {Finish: 640,
			Proof: gradingday.Proof{Kind: gradingday.ByShare, Groups: 1, Work: 70, Rings: 1, Each: 70}},
		"No plan can end earlier: those tested for Brown belt and above: 6 groups need 120 min of testing and 15 min of changing, over 2 rings at least 68 min each.": {Finish: 640,
			Proof: gradingday.Proof{Kind: gradingday.ByShare, Whose: gradingday.Whose{AtLeast: "Brown belt"}, Groups: 6, Work: 120, Gaps: 15, Rings: 2, Each: 68}},
		"No plan can end earlier: those that only Ring A or Ring B may take: 6 groups need 120 min of testing and 15 min of changing, over 2 rings at least 68 min each.": {Finish: 641,
			Proof: gradingday.Proof{Kind: gradingday.ByShare, Whose: gradingday.Whose{Only: []string{"Ring A", "Ring B"}}, Groups: 6, Work: 120, Gaps: 15, Rings: 2, Each: 68}},
		"No plan can end earlier: every way to share the groups over the rings, and to order what has no set order, was tried.": {Finish: 640, Proof: gradingday.Proof{Kind: gradingday.EveryWay}},
	} {
		full.Bound = b
		assert.Equal(t, begins+said, Limit(full))
	}
	full.Groups = 1
	assert.Contains(t, Limit(full), "one group of 77 min, and 9 min")
	assert.Empty(t, Limit(gradingday.Limit{}))
}

func TestWhatGoesWithAnotherDay(t *testing.T) {
	for said, s := range map[string]gradingday.Swap{
		"Ada examines there.": {Kind: gradingday.ExaminesThere, Name: "Ada"},
		"Ada takes the seat.": {Kind: gradingday.TakesTheSeat, Name: "Ada"},
		"It needs 1 person who examines more; they are taken to be allowed to examine anybody.": {Kind: gradingday.ToBeFound, N: 1},
		"It needs 3 people who examine more; they are taken to be allowed to examine anybody.":  {Kind: gradingday.ToBeFound, N: 3},
		"Nobody is spare; Ring A closes.":                    {Kind: gradingday.RingCloses, Name: "Ring A"},
		"Nobody is spare; Ring A goes on with a panel of 1.": {Kind: gradingday.GoesOn, Name: "Ring A", N: 1},
		"Nobody is spare; rings without a full panel close.": {Kind: gradingday.RingsClose},
	} {
		assert.Equal(t, said, Swap(s))
	}
}

func TestBeltsPairsAndRows(t *testing.T) {
	for said, by := range map[string]gradingday.SizeBy{"noted on the student's record": {Kind: gradingday.SizeNoted}, "waist 64 cm, up to 66": {Kind: gradingday.SizeWaist, CM: 64, UpTo: 66},
		"height 151 cm, up to 160": {Kind: gradingday.SizeHeight, CM: 151, UpTo: 160}, "no size, waist or height on record": {}} {
		assert.Equal(t, said, Size(by))
	}
	gaps := []gradingday.Gap{{What: gradingday.AgeApart, By: 1}, {What: gradingday.HeightApart, By: 1}, {What: gradingday.WeightApart, By: 3}, {What: gradingday.RankApart, By: 0}}
	assert.Equal(t, "1 month, 1 cm, 3 kg, 0 rungs", Gaps(gaps))
	far := func(what gradingday.Measured, by, allowed int) gradingday.Alone {
		return gradingday.Alone{Nearest: "Bo", Beyond: gradingday.Beyond{Gap: gradingday.Gap{What: what, By: by}, Allowed: allowed}}
	}
	for said, a := range map[string]gradingday.Alone{
		"everyone within the limits is paired already": {Paired: true},
		"nobody else spars":                            {},
		"nobody is within the limits; the nearest is Bo, 196 months of age apart, 24 allowed": far(gradingday.AgeApart, 196, 24),
		"nobody is within the limits; the nearest is Bo, 1 rung of rank apart, 0 allowed":     far(gradingday.RankApart, 1, 0),
		"nobody is within the limits; the nearest is Bo, tested in different rings":           far(gradingday.RingsApart, 0, 0),
	} {
		assert.Equal(t, said, Alone(a))
	}
	assert.Empty(t, TooDeep(gradingday.LineUp{Depth: 500, Has: 500}))
	assert.Equal(t, "2 rows need 0.83 m of depth, and the hall has 0.50 m: 0.33 m too little.", TooDeep(gradingday.LineUp{Rows: make([]gradingday.Row, 2), Depth: 834, Has: 500}))
	assert.Equal(t, "1 row needs 0.51 m of depth, and the hall has 0.50 m: 0.01 m too little.", TooDeep(gradingday.LineUp{Rows: make([]gradingday.Row, 1), Depth: 510, Has: 500}))
}
