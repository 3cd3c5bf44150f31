package words

import (
	"fmt"

	"velvetladder/internal/core/gradingday"
)

// Mark is what an examiner wrote: a figure, not seen, no mark.
func Mark(m gradingday.Mark) string {
	switch m.Kind {
	case gradingday.MarkNotSeen:
		return "not seen"
	case gradingday.MarkOpen:
		return "no mark"
	}
	return m.Value.String()
}

// Conduct is what a fault is about, as the choices say it; "" is something else.
func Conduct(c gradingday.Conduct) string {
	if c == gradingday.Head {
		return "head contact or a sign of concussion: no more sparring today"
	}
	return conduct(c)
}

// ConductShort is Conduct in as few words as a list of a scoring table has room for.
func ConductShort(c gradingday.Conduct) string {
	if c == "" {
		return "something else"
	}
	return conduct(c)
}

func conduct(c gradingday.Conduct) string {
	return map[gradingday.Conduct]string{
		gradingday.ExcessContact: "excess contact", gradingday.LossOfControl: "loss of control", gradingday.UnsafeAct: "unsafe act", gradingday.Disrespect: "disrespect",
		gradingday.Stopping: "stopping", gradingday.TooFar: "too far to reach", gradingday.Head: "head contact or a sign of concussion",
	}[c]
}

// Fault is what was seen: in the words of who noted it, else by its conduct.
func Fault(f gradingday.Fault) string {
	if f.Text != "" {
		return f.Text
	}
	return conduct(f.Conduct)
}

// FaultFor is a fault with what it comes to: −1 points, ended the test.
func FaultFor(f gradingday.Fault) string {
	how := ""
	switch f.Kind {
	case gradingday.FaultDeduction:
		how = "−" + f.Points.String() + " points, "
	case gradingday.FaultEnding:
		how = "would end the test, "
	case gradingday.FaultConfirmed:
		how = "ended the test, "
	}
	return how + Fault(f)
}

// Bout is how a bout stands: the points of both, and what ended it where that is said.
func Bout(b gradingday.Bout) string {
	x, y := b.Points()
	said := fmt.Sprintf("%s %d : %d %s", b.AName, x, y, b.BName)
	if end := BoutEnd(b); end != "" {
		said += ", " + end
	}
	return said
}

// BoutEnd is why a bout ended, where that is said; a bout is stopped for head contact.
func BoutEnd(b gradingday.Bout) string {
	end := b.End()
	switch {
	case end == nil:
		return ""
	case end.Text == "" && end.Kind == gradingday.BoutStopped:
		return conduct(gradingday.Head)
	}
	return end.Text
}

// Stage is how far a group is on the day.
func Stage(s gradingday.Stage) string {
	return map[gradingday.Stage]string{
		gradingday.Waiting: "waiting", gradingday.UnderWay: "under way", gradingday.CallAgain: "call again before they leave",
		gradingday.ToSign: "all marked, to be signed", gradingday.Ready: "signed, may leave",
	}[s]
}

// Unseen is an item of somebody that is to be called again, and why: seen by nobody: line 7, Bent Reed, for Ada Rill.
func Unseen(u gradingday.Unseen) string {
	what := fmt.Sprintf("line %d, %s, for %s", u.Line, u.Item, u.Name)
	if u.By == "" {
		return "seen by nobody: " + what
	}
	return fmt.Sprintf("%s asks for it again: %s, who %s", u.By, what, map[gradingday.Again]string{
		gradingday.AgainFollowed: "followed the neighbour", gradingday.AgainDisturbed: "was disturbed", gradingday.AgainDoubt: "left a doubt",
	}[u.Why])
}

// Again are the reasons to ask for a line again, as the scoring table offers them.
func Again(a gradingday.Again) string {
	return map[gradingday.Again]string{gradingday.AgainFollowed: "followed the neighbour", gradingday.AgainDisturbed: "was disturbed", gradingday.AgainDoubt: "I am in doubt"}[a]
}

// HalfSeen is an item that one examiner did not see of most of a group.
func HalfSeen(h gradingday.HalfSeen) string {
	of := ""
	if h.Of > 1 {
		of = fmt.Sprintf(" of %d of %d candidates", h.NotSeen, h.Of)
	}
	return fmt.Sprintf("line %d, %s: %s did not see it%s. It can be called again before the group leaves", h.Line, h.Item, h.Examiner, of)
}

// Thought is why a committee should look at a result first.
func Thought(t gradingday.Thought) string {
	switch t.Kind {
	case gradingday.NotComplete:
		return "not complete"
	case gradingday.NoProposal:
		return "the marks make no proposal"
	case gradingday.IsReferral:
		return "a referral for double promotion"
	case gradingday.WasEnded:
		return "the test was ended"
	case gradingday.PanelSplit:
		return "the panel is split"
	case gradingday.CloseToTurn:
		if t.N == 1 {
			return "one step from turning"
		}
		return Count(t.N, "step") + " from turning"
	case gradingday.HardlySeen:
		return Count(t.N, "line") + " seen by less than half of the panel"
	}
	return "fault: " + FaultFor(t.Fault)
}
