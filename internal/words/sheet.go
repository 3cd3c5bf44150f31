package words

import (
	"cmp"
	"fmt"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
)

// SideName is how one side of a line, "left" or "right", is called where it is shown by itself:
// the foot in front, the limb, the way gone, or the side of a form and of work with a partner.
func SideName(l curriculum.Line, side string) string {
	switch {
	case side == "":
		return ""
	case l.Quantity.Side == curriculum.ByDirection:
		return "to the " + side
	case l.Quantity.Side == curriculum.ByLimb, l.Role != "performer", l.Kind == "form":
		return side + " side"
	}
	return side + " foot forward"
}

// Whys are why a line stands on a sheet and asks what it asks: how it stands to the sheets below, then each reason.
func Whys(l curriculum.Line) (out []string) {
	if said := before(l); said != "" {
		out = append(out, said)
	}
	for _, w := range l.Why {
		out = append(out, OnSheet(w))
	}
	return out
}

// before is how a line stands to what the sheets below asked; "" on a sheet of before that was kept by kind.
func before(l curriculum.Line) string {
	switch {
	case l.Before.Rung == "":
		return ""
	case l.Before.First:
		return "What newcomers are taught; nobody is tested for it."
	case l.Freshness == curriculum.New:
		return "New at " + l.Before.Rung + "."
	case l.Freshness == curriculum.Carried:
		return "As at " + l.Before.Rung + "."
	}
	grown := make([]string, len(l.Before.Growth))
	for i, g := range l.Before.Growth {
		grown[i] = growth(g)
	}
	return "Grown: " + strings.Join(grown, "; ") + " at " + l.Before.Rung + "."
}

// growth is one thing in which a line asks more than before.
func growth(g curriculum.Growth) string {
	switch g.Kind {
	case curriculum.GrownPart:
		return g.Now + ", after " + cmp.Or(g.Was, "nothing of it")
	case curriculum.GrownAmount:
		return g.Now + ", after " + g.Was
	case curriculum.GrownPace:
		return pace(g.NowPace) + ", after " + pace(g.WasPace)
	case curriculum.GrownHeight:
		return "at least " + g.Now + ", after " + cmp.Or(g.Was, "any height")
	case curriculum.GrownAlone:
		return "without support, after support allowed"
	}
	how := ""
	if g.All {
		how = "all "
	}
	return fmt.Sprintf("%s%s, after %d", how, counting(g.N), g.M)
}

func counting(checkpoints int) string {
	if checkpoints == 1 {
		return "1 checkpoint counts"
	}
	return fmt.Sprintf("%d checkpoints count", checkpoints)
}

func pace(p curriculum.Pace) string {
	out := "at full speed"
	if p.Slow {
		out = "slowly"
	}
	if p.NonStop {
		return out + ", non-stop"
	}
	return out + ", counted"
}

// OnSheet is a reason why a line stands on a sheet, or asks what it asks.
func OnSheet(w curriculum.Why) string {
	switch w.Kind {
	case curriculum.WhyAsked:
		return w.Rung + " asks for it."
	case curriculum.WhyUntil:
		return "Carried from " + w.Rung + ", until " + w.To + "."
	case curriculum.WhyAlways:
		return "Carried from " + w.Rung + ", always."
	case curriculum.WhyMember:
		return "From " + w.Rung + ", a member of " + group(w.Group) + "."
	case curriculum.WhyBonus:
		return "A bonus for " + w.Track + "."
	case curriculum.WhyAmount:
		return w.Track + " do " + w.Now + " instead of " + w.Was + "."
	case curriculum.WhyLevel:
		return "For " + w.Track + " " + w.Now + " is enough."
	case curriculum.WhyPart:
		return w.Track + " go up to " + w.Now + "."
	case curriculum.WhyPool:
		return fmt.Sprintf("One of %d in %s, of which %d %s drawn.", w.Of, group(w.Group), w.N, verb(w.N, "is", "are"))
	case curriculum.WhyDrawn, curriculum.WhyKept:
		return upper(drawn(w)) + "."
	}
	return w.Text
}

// drawn is how a draw went.
func drawn(w curriculum.Why) string {
	if w.Kind == curriculum.WhyKept {
		return fmt.Sprintf("drawn at the earlier attempt, of %d in %s", w.Of, group(w.Group))
	}
	return fmt.Sprintf("drawn: %d of %d in %s, seed %d", w.N, w.Of, group(w.Group), w.Seed)
}

func group(name string) string {
	if name == "" {
		return "a group that is gone"
	}
	return "“" + name + "”"
}

// LeftOut is why a line is not on a sheet.
func LeftOut(l curriculum.LeftOut) string {
	switch l.Kind {
	case curriculum.LeftByTrack:
		return l.Track + " leave it out."
	case curriculum.LeftExcused:
		return "Excused: " + l.Reason
	case curriculum.LeftUndrawn:
		return "Not " + drawn(l.Draw) + "."
	}
	return l.Reason
}

// Adapted is what was changed for one candidate; "" nothing.
func Adapted(a *curriculum.Adapted) string {
	switch {
	case a == nil:
		return ""
	case a.Instead != "":
		return "instead of " + a.Instead + becauseOf(a.Reason)
	case a.Now != "":
		return a.Now + " instead of " + a.Was + becauseOf(a.Reason)
	}
	return a.Text
}

// becauseOf is a reason after what it is of; it may have been erased.
func becauseOf(reason string) string {
	if reason == "" {
		return ""
	}
	return ": " + reason
}

// Otherwise is how one candidate's line differs from the one that is called; "" it does not.
func Otherwise(o curriculum.Otherwise) string {
	if o.NotAsked {
		return "not asked"
	}
	var out []string
	if o.Amount != "" {
		out = append(out, o.Amount)
	}
	if o.Part > 0 {
		out = append(out, fmt.Sprintf("part %d of %d", o.Part, o.Of))
	}
	if o.Level != "" {
		out = append(out, "at least "+string(o.Level))
	}
	if o.Bonus {
		out = append(out, "a bonus")
	}
	if o.NoBonus {
		out = append(out, "no bonus")
	}
	if o.Adapted != nil {
		out = append(out, "adapted: "+Adapted(o.Adapted))
	}
	return strings.Join(out, " · ")
}

// OwnLines are how a candidate's item differs from the one that is called.
func OwnLines(all []gradingday.OwnLine) string {
	out := make([]string, len(all))
	for i, x := range all {
		out[i] = Otherwise(x.Otherwise)
		if x.Call != "" {
			out[i] = x.Call + ": " + out[i]
		}
	}
	return strings.Join(out, "; ")
}

// Throughout is what counts for a line beside its own.
func Throughout(all []curriculum.Throughout) []string {
	var out []string
	for _, h := range all {
		switch {
		case h.Voice != "":
			out = append(out, h.Voice.Words())
		case h.Part != "":
			out = append(out, "either ending is right, with or without "+h.Part+": "+h.Steps)
		default:
			out = append(out, h.Says)
		}
	}
	return out
}

// ToldApart is how something is told apart from what looks like it.
func ToldApart(all []curriculum.ToldApart) []string {
	var out []string
	for _, a := range all {
		switch {
		case a.Text != "":
			out = append(out, a.Text)
		case a.There:
			out = append(out, "not "+a.From+", in which one sees: "+a.Differs)
		default:
			out = append(out, "not "+a.From+": "+a.Differs)
		}
	}
	return out
}

// Detail are the moves or the remark of a line, else what it is against.
func Detail(l curriculum.Line) string {
	if l.Detail == "" && len(l.Against) > 0 {
		return "against " + curriculum.AttackWords(l.Against)
	}
	return l.Detail
}

// DetailBesideNote is the detail of a line where its remark stands beside it, and has not said it already.
func DetailBesideNote(l curriculum.Line) string {
	if said := Detail(l); !strings.EqualFold(said, l.Note) {
		return said
	}
	return ""
}

// AskedHow is how much of a line is asked and how: once, slowly, to the count.
func AskedHow(l curriculum.Line) string {
	said := Asked(l)
	for _, how := range []string{Manner(l), l.Remark()} {
		if how != "" {
			said += ", " + how
		}
	}
	return said
}

// Manner is how a line is done: non-stop, slowly, support allowed.
func Manner(l curriculum.Line) string {
	if l.Manner != "" {
		return l.Manner
	}
	var out []string
	for _, m := range []struct {
		on   bool
		said string
	}{{l.NonStop, "non-stop"}, {l.Slow, "slowly"}, {l.Phases, "by phases"}, {l.Supported, "support allowed"}, {l.Free, "of the candidate's own choice"}} {
		if m.on {
			out = append(out, m.said)
		}
	}
	if l.Sprint > 0 {
		out = append(out, fmt.Sprintf("sprint called for the last %d s", l.Sprint))
	}
	if l.OwnVoice {
		out = append(out, l.Voice.Words())
	}
	return strings.Join(out, ", ")
}

// Standard is what counts for a line at its rung, beside the checkpoints, a phrase each: the
// least height, versions that are equally right, and from which count on which mark is given.
func Standard(l curriculum.Line) (out []string) {
	if l.Level != "" {
		out = append(out, "at least "+string(l.Level))
	}
	return append(out, StandardAtHome(l)...)
}

// StandardAtHome is what a family is told of it beside how much is asked: all of it but the height.
func StandardAtHome(l curriculum.Line) (out []string) {
	if len(l.Versions) > 0 {
		out = append(out, "equally right: "+strings.Join(l.Versions, "; "))
	}
	if len(l.Table) > 0 {
		var rows []string
		for _, m := range l.Table {
			rows = append(rows, fmt.Sprintf("from %d: %s", m.Count, m.Mark))
		}
		out = append(out, "mark "+strings.Join(rows, ", "))
	}
	for _, m := range l.MarkLooks {
		out = append(out, m.Mark.String()+" is "+m.Looks)
	}
	return out
}

// Called is what is asked of a line and what is called for so many, in the measure asked; "" where no more is called
// than asked.
func Called(l curriculum.Line, candidates int) string {
	return withLimb(l, MoreCalled(l.Quantity, l.CalledMore(candidates)))
}

// MoreCalled is an amount and how many are called; "" where no more is called.
func MoreCalled(q curriculum.Quantity, called int) string {
	if called == 0 {
		return ""
	}
	return fmt.Sprintf("%s asked, %d called", q, called)
}
