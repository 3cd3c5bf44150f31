package words

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/timetable"
)

// Breach is a rule that a day plan breaks, or what could not be looked at.
// It is long: a sentence for each rule.
func Breach(b gradingday.Breach) string {
	switch b.Kind {
	case gradingday.NoRings:
		return "There is no ring. A grading needs at least one, with a panel."
	case gradingday.PanelSize:
		return fmt.Sprintf("%s has %d examiners; a panel has 1, 3 or 5.", b.Name, b.N)
	case gradingday.RingEmpty:
		return b.Name + " has nobody to examine, so it stays closed. Name 1, 3 or 5 examiners for it."
	case gradingday.SeatsLeft:
		return fmt.Sprintf("%s has %s left; a panel has 1, 3 or 5, so it examines with %d.", b.Name, Count(b.N, "examiner"), b.M)
	case gradingday.TwoSeats:
		return fmt.Sprintf("%s sits in %s and in %s at once.", b.Name, b.Beside, b.Where)
	case gradingday.RankUnseen:
		return fmt.Sprintf("The rank of %s is not on record, so it was not looked at.", b.Name)
	case gradingday.NotTested:
		if len(b.Bars) == 0 {
			return fmt.Sprintf("%s (%s) is not tested: it has no place in the plan.", b.Name, b.For)
		}
		return fmt.Sprintf("%s (%s) is not tested: nobody may examine it: %s.", b.Name, b.For, Bars(b.Bars))
	case gradingday.NobodyMay:
		return fmt.Sprintf("Nobody may examine %s (%s): %s.", b.Name, b.For, Bars(b.Bars))
	case gradingday.PlacedOften:
		return fmt.Sprintf("%s stands %d times in the plan; it is tested in %s.", b.Name, b.N, Count(b.M, "part"))
	case gradingday.TooShort:
		return fmt.Sprintf("%s has %d min, and its sheet takes %d.", b.Name, b.N, b.M)
	case gradingday.BeforeReady:
		return fmt.Sprintf("%s begins at %s; with %d min of warm-up it can begin at %s.", b.Name, timetable.Clock(b.N), b.M, timetable.Clock(b.K))
	case gradingday.OffItsPin:
		return b.Name + " is pinned and stands elsewhere."
	case gradingday.TwoRings:
		return b.Name + " is examined in two rings."
	case gradingday.ShortAfter:
		return fmt.Sprintf("%s has %d min after its rest, and its sheet takes %d.", b.Name, b.N, b.M)
	case gradingday.RestTooShort:
		return fmt.Sprintf("%s rests %d min between fitness and sparring; %d are set.", b.Name, b.N, b.M)
	case gradingday.MayNot:
		return fmt.Sprintf("%s in %s: %s.", b.Name, b.Where, Bars(b.Bars))
	case gradingday.InThePause:
		return b.Name + " is tested in the pause."
	case gradingday.Overlap:
		return fmt.Sprintf("%s begins at %s, while %s is tested until %s.", b.Name, timetable.Clock(b.N), b.Beside, timetable.Clock(b.M))
	case gradingday.ChangeShort:
		return fmt.Sprintf("%s follows %s after %d min; %d are set for the change.", b.Name, b.Beside, b.N, b.M)
	case gradingday.PastClosing:
		return fmt.Sprintf("The day ends at %s and the hall closes at %s: %s too long. ", timetable.Clock(b.N), timetable.Clock(b.M), hours(b.N-b.M)) +
			"A ring or an examiner more, larger groups, fewer candidates or a longer day would help."
	case gradingday.OutOfOrder:
		return fmt.Sprintf("%s comes after %s in %s, and the order is %s.", b.Name, b.Beside, b.Where, b.Order.Words())
	case gradingday.TwoPlaces:
		return fmt.Sprintf("A candidate of %s is tested in %s at the same time.", b.Name, b.Beside)
	}
	return string(b.Kind)
}

// hours are minutes as people say them: 40 min, 2 h, 2 h 5 min.
func hours(minutes int) string {
	switch h, m := minutes/60, minutes%60; {
	case h == 0:
		return fmt.Sprintf("%d min", m)
	case m == 0:
		return fmt.Sprintf("%d h", h)
	default:
		return fmt.Sprintf("%d h %d min", h, m)
	}
}

// Bars are why a group is not examined, a clause for each ring or examiner.
func Bars(all []gradingday.Bar) string {
	var out []string
	for _, b := range all {
		said := bar(b)
		if b.Ring != "" {
			said = b.Ring + ": " + said
		}
		out = append(out, said)
	}
	return strings.Join(out, "; ")
}

func bar(b gradingday.Bar) string {
	switch b.Kind {
	case gradingday.BarRank:
		return fmt.Sprintf("%s holds %s, and %s is tested", b.Examiner, b.Holds, b.Tested)
	case gradingday.BarFamily:
		return b.Examiner + " is of the family of a candidate"
	case gradingday.BarEmpty:
		return "nobody examines there"
	}
	return "there is no ring"
}

// Limit is what keeps a day from ending earlier.
func Limit(l gradingday.Limit) string {
	if l.Groups == 0 {
		return ""
	}
	full := fmt.Sprintf("%s × %d min, %d min in all", Count(l.Groups, "group"), (l.Work+l.Groups/2)/l.Groups, l.Work)
	if l.Groups == 1 {
		full = fmt.Sprintf("one group of %d min", l.Work)
	}
	said := fmt.Sprintf("%s is full until %s: %s, and %d min of changing, rest and pause between them. ", l.Ring, timetable.Clock(l.Until), full, l.Idle)
	if l.Proven() {
		return said + "No plan can end earlier: " + proof(l.Bound.Proof) + "."
	}
	return said + fmt.Sprintf("No plan can end before %s: %s.", timetable.Clock(l.Bound.Finish), proof(l.Bound.Proof))
}

func proof(p gradingday.Proof) string {
	switch p.Kind {
	case gradingday.EveryWay:
		return "every way to share the groups over the rings, and to order what has no set order, was tried"
	case gradingday.ByPin:
		return fmt.Sprintf("%s is pinned to %s and needs %d min", p.Name, timetable.Clock(p.At), p.Each)
	case gradingday.ByItself:
		return fmt.Sprintf("%s alone needs %d min after the warm-up", p.Name, p.Each)
	}
	whose := "all groups"
	switch {
	case p.Whose.AtLeast != "":
		whose = "those tested for " + p.Whose.AtLeast + " and above"
	case len(p.Whose.Only) > 0:
		whose = "those that only " + strings.Join(p.Whose.Only, " or ") + " may take"
	}
	return fmt.Sprintf("%s: %s %d min of testing and %d min of changing, over %s at least %d min each", whose,
		needs(p.Groups), p.Work, p.Gaps, Count(p.Rings, "ring"), p.Each)
}

func needs(groups int) string {
	if groups == 1 {
		return "1 group needs"
	}
	return fmt.Sprintf("%d groups need", groups)
}

// Swap is what goes with a day that is otherwise than planned.
func Swap(s gradingday.Swap) string {
	switch s.Kind {
	case gradingday.ExaminesThere:
		return s.Name + " examines there."
	case gradingday.ToBeFound:
		return fmt.Sprintf("It needs %s who %s more; they are taken to be allowed to examine anybody.", Count(s.N, "person"), verb(s.N, "examines", "examine"))
	case gradingday.TakesTheSeat:
		return s.Name + " takes the seat."
	case gradingday.RingCloses:
		return "Nobody is spare; " + s.Name + " closes."
	case gradingday.GoesOn:
		return fmt.Sprintf("Nobody is spare; %s goes on with a panel of %d.", s.Name, s.N)
	}
	return "Nobody is spare; rings without a full panel close."
}

func verb(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

// Size is how a belt size was found, or that it was not.
func Size(by gradingday.SizeBy) string {
	switch by.Kind {
	case gradingday.SizeNoted:
		return "noted on the student's record"
	case gradingday.SizeWaist, gradingday.SizeHeight:
		return fmt.Sprintf("%s %d cm, up to %d", by.Kind, by.CM, by.UpTo)
	}
	return "no size, waist or height on record"
}

// gap is how far two are apart in one thing: 5 months, 3 cm, 1 rung.
func gap(g gradingday.Gap) string {
	switch g.What {
	case gradingday.AgeApart:
		return Count(g.By, "month")
	case gradingday.HeightApart:
		return fmt.Sprintf("%d cm", g.By)
	case gradingday.WeightApart:
		return fmt.Sprintf("%d kg", g.By)
	}
	return Count(g.By, "rung")
}

// Gaps are how far two are apart: 5 months, 3 cm, 1 rung.
func Gaps(all []gradingday.Gap) string {
	out := make([]string, len(all))
	for i, g := range all {
		out[i] = gap(g)
	}
	return strings.Join(out, ", ")
}

// Alone is why a bout is with a senior.
func Alone(a gradingday.Alone) string {
	switch {
	case a.Paired:
		return "everyone within the limits is paired already"
	case a.Nearest == "":
		return "nobody else spars"
	case a.Beyond.What == gradingday.RingsApart:
		return "nobody is within the limits; the nearest is " + a.Nearest + ", tested in different rings"
	}
	return fmt.Sprintf("nobody is within the limits; the nearest is %s, %s of %s apart, %d allowed", a.Nearest, gap(a.Beyond.Gap), a.Beyond.What, a.Beyond.Allowed)
}

// TooDeep says of a line-up that the hall lacks depth for it; "" where it fits.
func TooDeep(l gradingday.LineUp) string {
	if l.Lacks() == 0 {
		return ""
	}
	return fmt.Sprintf("%s %s %s of depth, and the hall has %s: %s too little.", Count(len(l.Rows), "row"), verb(len(l.Rows), "needs", "need"), Metres(l.Depth), Metres(l.Has), Metres(l.Lacks()))
}

// Metres is millimetres as "1.24 m", rounded to the centimetre.
func Metres(mm int) string {
	cm := (mm + 5) / 10
	return fmt.Sprintf("%d.%02d m", cm/100, cm%100)
}
