package words

import (
	"cmp"
	"fmt"
	"regexp"

	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
)

// deeds are the sentences of the trail. In braces stands what is filled in: who and other are people,
// entry, fault, why and partner are the text of an entry, what and in are names, n with a noun is a count.
var deeds = map[office.DeedKind]string{
	office.Undid:                "Undid: {undid}",
	office.Added:                "Added {what}",
	office.Changed:              "Changed {what}",
	office.Deleted:              "Deleted {what}",
	office.Moved:                "Moved a {what}",
	office.PersonAdded:          "Added {who}",
	office.PersonChanged:        "Changed {who}",
	office.PersonDeleted:        "Deleted {who}",
	office.StudentsAdded:        "Added {n student}",
	office.StudentsRead:         "Added {n student} from a file; records completed: {m}",
	office.Enrolled:             "Enrolled a student",
	office.EnrolmentEnded:       "Ended an enrolment",
	office.RankCorrected:        "Corrected the rank of {who} to {what}",
	office.Erased:               "Erased what said who {who} was",
	office.EvidenceNoted:        "Noted kit and papers of {who}",
	office.TestAdapted:          "Adapted the test for {who}",
	office.AdaptationEnded:      "Ended an adaptation",
	office.TrackSet:             "Set the track of {who}",
	office.MeritGiven:           "Gave {who} a merit stripe",
	office.RuleWaived:           "Waived a rule for {who}",
	office.WordGiven:            "{entry} said that {who} is ready",
	office.ExampleNoted:         "Noted an example of the character task for {who}",
	office.GivenWithdrawn:       "Withdrew a waiver or a word",
	office.AttendanceEntered:    "Entered {n attendance}",
	office.AttendanceRead:       "Entered {n attendance} out of a file",
	office.RegisterKept:         "Kept a register",
	office.SignOffsEntered:      "Entered {n sign-off}",
	office.Taught:               "Noted that the class worked on {what}",
	office.TaughtWithdrawn:      "Took back that the class worked on {what}",
	office.StripeAwarded:        "Awarded the {what} stripe to {who}",
	office.StripesAwarded:       "Awarded {n stripe}",
	office.StripeWithdrawn:      "Took a stripe back",
	office.ChoiceMade:           "Chose what to show for {what}",
	office.ChoiceWithdrawn:      "Took back what was chosen for {what}",
	office.LinkMade:             "Made a link for the family of {who}",
	office.LinkEnded:            "Ended a family link",
	office.Practised:            "Practised {what}",
	office.Taped:                "Measured {what} of {who} on the mat",
	office.TapedWithdrawn:       "Took back what was measured of {what} of {who}",
	office.PractisedWithdrawn:   "Took back a tick for {what}",
	office.ClipCame:             "A clip of {what} came in",
	office.ClipAnswered:         "Answered a clip",
	office.Drilled:              "Called {what}",
	office.Closed:               "Closed for {what}",
	office.ThemeSet:             "Set the theme of the week of {on}",
	office.ExaminerAdded:        "Added the examiner {who}",
	office.ExaminerChanged:      "Changed the examiner {who}",
	office.SchoolNamed:          "Named the school {what}",
	office.SettingsChanged:      "Changed the school's settings",
	office.BackupMade:           "Made the backup {what}",
	office.ProgramAdded:         "Added the program {what}",
	office.ProgramChanged:       "Changed the program {what}",
	office.ProgramRead:          "Read in the curriculum of {what}",
	office.RungCopied:           "Added {what}, a copy of {in}",
	office.FirstStepSkipped:     "Skipped a step of the first hour: {what}",
	office.SectionAdded:         "Added the section {what}",
	office.SectionChanged:       "Changed the section {what}",
	office.RequirementAdded:     "Added a requirement to {what}",
	office.SeriesContinued:      "Added a requirement to {what}, with {in} as number {m} of the series {series}",
	office.RequirementChanged:   "Changed a requirement of {what}",
	office.RequirementsRead:     "Read in {n requirement} of {what}",
	office.RequirementsAdded:    "Added {n requirement} to {what}",
	office.RequirementsWritten:  "Typed a page for {what}: {n requirement} added, {m} changed",
	office.RequirementsChanged:  "Changed {n requirement} of {what}",
	office.TechniquesChanged:    "Changed {n technique}",
	office.TechniquesNumbered:   "Numbered {n technique}",
	office.NumbersDropped:       "Made {n number} of {what} plain names",
	office.FindingSilenced:      "Silenced “{in}: {what}”",
	office.FindingHeard:         "Let “{in}: {what}” speak again",
	office.WordsChanged:         "Changed the tracks and words of {what}",
	office.MovesLookedThrough:   "Looked through the moves that are read differently",
	office.AnswersLookedThrough: "Looked through the answers that are others now",
	office.VersionPublished:     "Published version {m} of {what}",
	office.MovedToVersion:       "Moved {n student} to version {m}",
	office.GradingPlanned:       "Planned a grading on {on}",
	office.GradingChanged:       "Changed the grading on {on}",
	office.CandidatesEntered:    "Entered {n candidate}",
	office.CandidateWithdrawn:   "{who} left a grading{why}",
	office.GroupMoved:           "Moved {what} to {in}",
	office.GroupToRing:          "{what} moved to {in}",
	office.GroupPinned:          "Pinned {what}",
	office.GroupLetGo:           "Let {what} go",
	office.GroupsFormed:         "Formed the groups of {what} anew",
	office.DayPlanned:           "Planned the day of {what}",
	office.PairsMade:            "Paired {n candidate} for sparring",
	office.GradingBegun:         "Began {what}",
	office.CodeMade:             "Made a code for {who}",
	office.Joined:               "{who} joined on a device",
	office.SentHome:             "Sent a device of {who} home",
	office.CalibrationBegun:     "Began the calibration {what}",
	office.CalibrationClosed:    "Closed the calibration {what}",
	office.CalibrationOpened:    "Opened the calibration {what} again",
	office.CandidateBack:        "Took back that {who} left a grading",
	office.ChiefChosen:          "Made {who} chief examiner of {what}",
	office.ExaminerAbsent:       "Noted that {who} is absent",
	office.ExaminerBack:         "Noted that {who} is there again",
	office.HandedIn:             "Took in {n entry} that a device of {who} had kept",
	office.AllSentHome:          "Sent all examiners' devices of {what} home",
	office.LetInAgain:           "Lets examiners in again at {what}",
	office.FaultNoted:           "Noted a fault: {fault}",
	office.SheetSigned:          "{who} signed a sheet",
	office.SheetReopened:        "Reopened a sheet: {entry}",
	office.PaperReadTwice:       "Read the paper sheet of {who}, {what}, a second time: {n mark} typed, {m} differed",
	office.BoutBegun:            "Began a bout: {who} and {partner}",
	office.Decided:              "Decided for {who}: {outcome}",
	office.Agreed:               "Agreed with {n proposal} of {what}",
	office.ResultHeld:           "Holds the result of {who}",
	office.ResultLetGo:          "Lets go the result of {who}",
	office.DecisionWithdrawn:    "Took back the decision for {who}",
	office.Announced:            "Announced {n result} of {what}",
	office.AnnounceWaits:        "Results of {what} wait until somebody announces them",
	office.AnnounceSet:          "Results of {what} become known on {on} at {at}",
	office.AnnounceBlocked:      "Could not announce the results of {what} at the set time: {who} stands on another rung by now",
	office.AnnounceFailed:       "Could not announce the results of {what} at the set time: nothing is decided that has not been announced",
	office.ResultCorrected:      "Corrected the result of {who}: {outcome}",
	office.ReferralRefused:      "Let the single promotion of {who} stand",
	office.ReferralGranted:      "Granted {who} the double promotion to {what}",
	office.ReferralTested:       "Entered {who} for the test of {what}, after a referral: {in}",
	office.MessagesWritten:      "Wrote {n message} to families, in the outbox",
	office.MessageSent:          "Sent a message",
	office.MessageFailed:        "A message could not be sent",
	office.MessageGiven:         "Gave a message by hand",
	office.MessageWithdrawn:     "Withdrew a message",
	office.SignedIn:             "{who} signed in on {what}, from {in}",
	office.SignedOut:            "Signed {who} out on {what}",
	office.SignInRefused:        "Somebody who said to be {who} was refused at the door, from {in}",
	office.FactorSet:            "Set up a second factor for {who}",
	office.FactorDropped:        "Took the second factor of {who} away",
	office.CodesMade:            "Made new recovery codes for {who}",
	office.CodeUsed:             "A recovery code of {who} was used up",
	office.PasswordReset:        "Gave {who} a new password at the machine itself",
	office.Taken:                "Took out {what}",
	office.BackupRehearsed:      "Rehearsed putting the backup {what} in place",
	office.BackupsSealed:        "Had backups encrypted from now on",
	office.BackupsClear:         "Had backups written without encryption from now on",
	office.StockCounted:         "Counted the stock of {what}, size {in}",
	office.StockStood:           "Counted {what}, size {in}: as it stood",
}

var blank = regexp.MustCompile(`\{(\w+)(?: ([\w-]+))?\}`)

// Deed is a deed as the trail tells it.
func Deed(t office.Told) string {
	if t.Kind == "" {
		return t.Said
	}
	return blank.ReplaceAllStringFunc(deeds[t.Kind], func(s string) string {
		m := blank.FindStringSubmatch(s)
		switch m[1] {
		case "who":
			return named(t, t.Who)
		case "other":
			return named(t, t.Other)
		case "partner":
			return named(t, cmp.Or(t.Other, t.Entry))
		case "fault":
			return cmp.Or(t.Names[t.Entry], conduct(gradingday.Conduct(t.In)))
		case "entry":
			return named(t, t.Entry)
		case "why":
			if t.Names[t.Entry] == "" {
				return ""
			}
			return ": " + t.Names[t.Entry]
		case "what":
			return t.What
		case "in":
			return t.In
		case "series":
			return t.Series
		case "n":
			return Count(t.N, m[2])
		case "m":
			return fmt.Sprint(t.M)
		case "on":
			return t.On.Long()
		case "at":
			return t.At
		case "outcome":
			return Outcome(t.Outcome)
		}
		return undid(t)
	})
}

// named is what an id stands for; somebody who is gone altogether is said to be.
func named(t office.Told, id string) string {
	if name, known := t.Names[id]; known {
		return name
	}
	return "somebody no longer on record"
}

func undid(t office.Told) string {
	if t.Undid == nil {
		return "something no longer on record"
	}
	return Deed(*t.Undid)
}
