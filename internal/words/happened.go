package words

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/scoring"
)

// Happened is what happened at a grading, as the trail tells it.
func Happened(h gradingday.Happened) string {
	sheet := fmt.Sprintf(" (%s’s sheet)", h.Examiner)
	switch h.Kind {
	case gradingday.HappenedMark:
		return fmt.Sprintf("%s, %s: %s%s", h.Candidate, h.Item, marked(h), sheet)
	case gradingday.HappenedFault:
		return fmt.Sprintf("%s, %s: %s%s", h.Candidate, faultDone(h.Fault), Fault(h.Fault), sheet)
	case gradingday.HappenedSigned:
		return fmt.Sprintf("%s signed the sheet of %s", h.Examiner, h.Group)
	case gradingday.HappenedReopened:
		return fmt.Sprintf("%s had the sheet reopened of %s", h.Examiner, h.Group) + because(h.Reason)
	case gradingday.HappenedDecision:
		return decided(h)
	case gradingday.HappenedUndecided:
		return h.Candidate + ": decision taken back" + because(h.Reason)
	case gradingday.HappenedAnnounced:
		return h.Candidate + ": result announced"
	case gradingday.HappenedReferral:
		granted := "not granted"
		if h.Granted {
			granted = "granted"
		} else if h.Tested {
			granted = "to be tested, set"
		}
		return fmt.Sprintf("%s: double promotion %s by %s", h.Candidate, granted, h.By) + because(h.Reason)
	case gradingday.HappenedBout:
		return fmt.Sprintf("bout of %s and %s: %d × %d s", h.Bout.AName, h.Bout.BName, h.Bout.Rounds, h.Bout.Seconds)
	case gradingday.HappenedInBout:
		return inBout(h)
	case gradingday.HappenedJoined:
		return fmt.Sprintf("%s joined on %s", h.Examiner, h.Device)
	case gradingday.HappenedSentHome:
		return fmt.Sprintf("sent a device of %s home", h.Examiner)
	}
	return string(h.Kind)
}

// marked is a mark with the one before it; a sealed one says only that there is one.
func marked(h gradingday.Happened) string {
	if h.Sealed {
		if h.Before != nil {
			return "mark changed, sealed until all have signed"
		}
		return "marked, sealed until all have signed"
	}
	said := Mark(h.Mark)
	if h.Mark.Count > 0 {
		said += fmt.Sprintf(" (%d counted)", h.Mark.Count)
	}
	if h.Before != nil {
		said += ", before: " + Mark(*h.Before)
	}
	if h.Mark.Ticked != "" {
		said += ", seen: " + strings.ReplaceAll(h.Mark.Ticked, "\n", "; ")
	}
	if h.Mark.Note != "" {
		said += " “" + h.Mark.Note + "”"
	}
	return said
}

func faultDone(f gradingday.Fault) string {
	switch f.Kind {
	case gradingday.FaultNote:
		return "conduct noted"
	case gradingday.FaultDeduction:
		return "deduction of " + f.Points.String()
	case gradingday.FaultEnding:
		return "fault that would end the test"
	case gradingday.FaultConfirmed:
		return "the chief examiner confirmed the end of the test"
	}
	return "fault withdrawn"
}

func decided(h gradingday.Happened) string {
	said := "decided "
	if h.Corrected {
		said = "corrected to "
	}
	said = h.Candidate + ": " + said + Outcome(h.Outcome)
	if h.Held {
		said += ", held"
	}
	said += " by " + h.By + because(h.Reason)
	if h.Proposal != h.Outcome && h.Proposal != scoring.Outcome("") {
		said += fmt.Sprintf(" (the marks said %s)", Outcome(h.Proposal))
	}
	return said
}

func inBout(h gradingday.Happened) string {
	e, said := h.Event, ""
	switch e.Kind {
	case gradingday.BoutPoint:
		who := h.Bout.AName
		if e.Side == "b" {
			who = h.Bout.BName
		}
		said = fmt.Sprintf("%s: %d in round %d", who, e.Points, e.Round)
	case gradingday.BoutWithdrawn:
		said = "taken back in the bout of " + h.Bout.AName
	default:
		said = fmt.Sprintf("bout of %s %s", h.Bout.AName, e.Kind)
		if e.Kind == gradingday.BoutStopped && e.Text == "" {
			return said + because(conduct(gradingday.Head))
		}
	}
	return said + because(e.Text)
}

func because(reason string) string {
	if reason == "" {
		return ""
	}
	return ": " + reason
}
