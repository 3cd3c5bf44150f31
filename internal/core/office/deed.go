package office

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/scoring"
)

// DeedKind says what somebody did, or what happened by itself. Kinds are on record: none changes its name.
type DeedKind string

// Deed is something done to the records, as it is kept: its kind, and what it was done to. People stand
// in it by their ids, so that erasing one leaves no name behind; things by the name they had then.
type Deed struct {
	Kind   DeedKind   `json:"-"`                // "" nothing that is told, or a deed from before kinds were kept
	Who    string     `json:"who,omitempty"`    // id of a student, an examiner, an account
	Other  string     `json:"other,omitempty"`  // id of a second person
	Entry  string     `json:"entry,omitempty"`  // id of an entry whose own text says more: a fault, a signature, a word
	Record string     `json:"record,omitempty"` // id of what was changed, where its rows before and after are not kept
	What   string     `json:"what,omitempty"`   // the name of a thing: a rung, a technique, a grading
	In     string     `json:"in,omitempty"`     // the name of a second thing
	Series string     `json:"series,omitempty"` // the name of a series
	N      int        `json:"n,omitzero"`       // how many
	M      int        `json:"m,omitzero"`       // a second number
	On     civil.Date `json:"on,omitzero"`
	At     string     `json:"at,omitempty"` // the time of day, 15:04 in the school's zone

	Outcome scoring.Outcome `json:"outcome,omitempty"`
}

// Told is a deed with what its ids stand for today.
type Told struct {
	Deed
	Names map[string]string // id → a person's name, or an entry's text
	Undid *Told             // what an undoing took back
	Said  string            // the sentence, of deeds from before kinds were kept
}

// Of is a deed of this kind, done to a person by their id.
func (k DeedKind) Of(person string) Deed { return Deed{Kind: k, Who: person} }

// Named is a deed of this kind, done to a thing by its name.
func (k DeedKind) Named(what string) Deed { return Deed{Kind: k, What: what} }

// Many is a deed of this kind, done to so many.
func (k DeedKind) Many(n int) Deed { return Deed{Kind: k, N: n} }

// Adds reports whether something is there now that was not there before, with a page of its own.
func (k DeedKind) Adds() bool {
	switch k {
	case Added, PersonAdded, ProgramAdded, RungCopied, SectionAdded, ExaminerAdded, RequirementAdded, RequirementsAdded, RequirementsWritten, SeriesContinued, StudentsAdded:
		return true
	}
	return false
}

// The kinds of deeds.
const (
	Undid                DeedKind = "undid"
	Added                DeedKind = "added"
	Changed              DeedKind = "changed"
	Deleted              DeedKind = "deleted"
	Moved                DeedKind = "moved"
	PersonAdded          DeedKind = "person_added"
	PersonChanged        DeedKind = "person_changed"
	PersonDeleted        DeedKind = "person_deleted"
	StudentsAdded        DeedKind = "students_added"
	StudentsRead         DeedKind = "students_read"
	Enrolled             DeedKind = "enrolled"
	EnrolmentEnded       DeedKind = "enrolment_ended"
	RankCorrected        DeedKind = "rank_corrected"
	Erased               DeedKind = "erased"
	EvidenceNoted        DeedKind = "evidence_noted"
	TestAdapted          DeedKind = "test_adapted"
	AdaptationEnded      DeedKind = "adaptation_ended"
	TrackSet             DeedKind = "track_set"
	MeritGiven           DeedKind = "merit_given"
	RuleWaived           DeedKind = "rule_waived"
	WordGiven            DeedKind = "word_given"
	ExampleNoted         DeedKind = "example_noted"
	GivenWithdrawn       DeedKind = "given_withdrawn"
	AttendanceEntered    DeedKind = "attendance_entered"
	AttendanceRead       DeedKind = "attendance_read"
	RegisterKept         DeedKind = "register_kept"
	SignOffsEntered      DeedKind = "signoffs_entered"
	Taught               DeedKind = "taught"
	TaughtWithdrawn      DeedKind = "taught_withdrawn"
	StripeAwarded        DeedKind = "stripe_awarded"
	StripesAwarded       DeedKind = "stripes_awarded"
	StripeWithdrawn      DeedKind = "stripe_withdrawn"
	ChoiceMade           DeedKind = "choice_made"
	ChoiceWithdrawn      DeedKind = "choice_withdrawn"
	LinkMade             DeedKind = "link_made"
	LinkEnded            DeedKind = "link_ended"
	Practised            DeedKind = "practised"
	PractisedWithdrawn   DeedKind = "practised_withdrawn"
	ClipCame             DeedKind = "clip_came"
	ClipAnswered         DeedKind = "clip_answered"
	Drilled              DeedKind = "drilled"
	Closed               DeedKind = "closed"
	ThemeSet             DeedKind = "theme_set"
	ExaminerAdded        DeedKind = "examiner_added"
	ExaminerChanged      DeedKind = "examiner_changed"
	SchoolNamed          DeedKind = "school_named"
	SettingsChanged      DeedKind = "settings_changed"
	BackupMade           DeedKind = "backup_made"
	ProgramAdded         DeedKind = "program_added"
	ProgramChanged       DeedKind = "program_changed"
	ProgramRead          DeedKind = "program_read"
	RungCopied           DeedKind = "rung_copied"
	FirstStepSkipped     DeedKind = "first_step_skipped"
	SectionAdded         DeedKind = "section_added"
	SectionChanged       DeedKind = "section_changed"
	RequirementAdded     DeedKind = "requirement_added"
	SeriesContinued      DeedKind = "series_continued"
	RequirementChanged   DeedKind = "requirement_changed"
	RequirementsRead     DeedKind = "requirements_read"
	RequirementsAdded    DeedKind = "requirements_added"
	RequirementsWritten  DeedKind = "requirements_written"
	RequirementsChanged  DeedKind = "requirements_changed"
	TechniquesChanged    DeedKind = "techniques_changed"
	TechniquesNumbered   DeedKind = "techniques_numbered"
	NumbersDropped       DeedKind = "numbers_dropped"
	FindingSilenced      DeedKind = "finding_silenced"
	FindingHeard         DeedKind = "finding_heard"
	WordsChanged         DeedKind = "words_changed"
	MovesLookedThrough   DeedKind = "moves_looked_through"
	AnswersLookedThrough DeedKind = "answers_looked_through"
	VersionPublished     DeedKind = "version_published"
	MovedToVersion       DeedKind = "moved_to_version"
	GradingPlanned       DeedKind = "grading_planned"
	GradingChanged       DeedKind = "grading_changed"
	CandidatesEntered    DeedKind = "candidates_entered"
	CandidateWithdrawn   DeedKind = "candidate_withdrawn"
	CandidateBack        DeedKind = "candidate_back"
	ChiefChosen          DeedKind = "chief_chosen"
	ExaminerAbsent       DeedKind = "examiner_absent"
	ExaminerBack         DeedKind = "examiner_back"
	GroupMoved           DeedKind = "group_moved"
	GroupToRing          DeedKind = "group_to_ring"
	GroupPinned          DeedKind = "group_pinned"
	GroupLetGo           DeedKind = "group_let_go"
	GroupsFormed         DeedKind = "groups_formed"
	DayPlanned           DeedKind = "day_planned"
	PairsMade            DeedKind = "pairs_made"
	GradingBegun         DeedKind = "grading_begun"
	CodeMade             DeedKind = "code_made"
	Joined               DeedKind = "joined"
	SentHome             DeedKind = "sent_home"
	AllSentHome          DeedKind = "all_sent_home"
	LetInAgain           DeedKind = "let_in_again"
	HandedIn             DeedKind = "handed_in"
	FaultNoted           DeedKind = "fault_noted"
	SheetSigned          DeedKind = "sheet_signed"
	SheetReopened        DeedKind = "sheet_reopened"
	PaperReadTwice       DeedKind = "paper_read_twice"
	BoutBegun            DeedKind = "bout_begun"
	Decided              DeedKind = "decided"
	Agreed               DeedKind = "agreed"
	ResultHeld           DeedKind = "result_held"
	ResultLetGo          DeedKind = "result_let_go"
	DecisionWithdrawn    DeedKind = "decision_withdrawn"
	Announced            DeedKind = "announced"
	AnnounceWaits        DeedKind = "announce_waits"
	AnnounceSet          DeedKind = "announce_set"
	AnnounceBlocked      DeedKind = "announce_blocked"
	AnnounceFailed       DeedKind = "announce_failed"
	ResultCorrected      DeedKind = "result_corrected"
	ReferralRefused      DeedKind = "referral_refused"
	ReferralGranted      DeedKind = "referral_granted"
	ReferralTested       DeedKind = "referral_tested"
	MessagesWritten      DeedKind = "messages_written"
	MessageSent          DeedKind = "message_sent"
	MessageFailed        DeedKind = "message_failed"
	MessageGiven         DeedKind = "message_given"
	MessageWithdrawn     DeedKind = "message_withdrawn"
	StockCounted         DeedKind = "stock_counted"
	StockStood           DeedKind = "stock_stood"
	CalibrationBegun     DeedKind = "calibration_begun"
	CalibrationClosed    DeedKind = "calibration_closed"
	CalibrationOpened    DeedKind = "calibration_opened"
	SignedIn             DeedKind = "signed_in"
	SignedOut            DeedKind = "signed_out"
	SignInRefused        DeedKind = "sign_in_refused"
	FactorSet            DeedKind = "factor_set"
	FactorDropped        DeedKind = "factor_dropped"
	CodesMade            DeedKind = "codes_made"
	CodeUsed             DeedKind = "code_used"
	PasswordReset        DeedKind = "password_reset"
	Taken                DeedKind = "taken"
	BackupRehearsed      DeedKind = "backup_rehearsed"
	BackupsSealed        DeedKind = "backups_sealed"
	BackupsClear         DeedKind = "backups_clear"
	Taped                DeedKind = "taped"
	TapedWithdrawn       DeedKind = "taped_withdrawn"
)
