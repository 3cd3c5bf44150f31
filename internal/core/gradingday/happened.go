package gradingday

import "velvetladder/internal/core/scoring"

// HappenedKind says what happened at a grading.
type HappenedKind string

// What happens at a grading.
const (
	HappenedMark      HappenedKind = "mark"
	HappenedFault     HappenedKind = "fault"
	HappenedSigned    HappenedKind = "signed"
	HappenedReopened  HappenedKind = "reopened"
	HappenedDecision  HappenedKind = "decision"
	HappenedUndecided HappenedKind = "undecided" // a decision was taken back
	HappenedAnnounced HappenedKind = "announced"
	HappenedReferral  HappenedKind = "referral"
	HappenedBout      HappenedKind = "bout"
	HappenedInBout    HappenedKind = "in_bout"
	HappenedJoined    HappenedKind = "joined"
	HappenedSentHome  HappenedKind = "sent_home"
)

// Happened is something that happened at a grading, with the names of those in it. Of marks that are
// still sealed it holds none.
type Happened struct {
	Kind      HappenedKind
	Candidate string // name
	Examiner  string // name
	Item      string // label
	Group     string
	Device    string
	Reason    string
	By        string // who decided
	Sealed    bool   // the panel has not signed: the mark itself is not told
	Mark      Mark
	Before    *Mark // that it replaced
	Fault     Fault
	Outcome   scoring.Outcome
	Proposal  scoring.Outcome // what the marks came to
	Held      bool
	Corrected bool // of a result that was announced
	Granted   bool // of a referral
	Tested    bool // of a referral: the second rung is tested
	Bout      Bout
	Event     BoutEvent
}

// Seal takes the marks out of what happened where they are still sealed; that there was one before stays.
func (h Happened) Seal(sealed bool) Happened {
	if h.Sealed = sealed; sealed {
		h.Mark = Mark{}
		if h.Before != nil {
			h.Before = &Mark{}
		}
	}
	return h
}
