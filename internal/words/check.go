package words

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
)

// FindingKind is a kind of hole as a heading.
func FindingKind(k curriculum.FindingKind) string {
	return map[curriculum.FindingKind]string{
		curriculum.AsksNothing: "Asks for nothing", curriculum.BeforeBase: "Asked before what it builds on", curriculum.StageOrder: "Stages out of order", curriculum.StageGone: "Points at nothing", curriculum.BeforeStage: "Asked before its first stage",
		curriculum.NumberTwice: "One number twice", curriculum.NumberMissing: "A number missing", curriculum.OneSided: "One side only", curriculum.CautionMissing: "Caution missing", curriculum.RiskyYoung: "Risky on a young track", curriculum.NoKit: "Sparring without a kit list",
		curriculum.NoRule: "Sparring without a rule", curriculum.MarkOutOfReach: "Pass mark out of reach", curriculum.MarkCannotFail: "Pass mark cannot be missed", curriculum.MinimumEmpty: "Minimum without a line", curriculum.LoadJump: "A jump in load",
		curriculum.CallTwice: "Call number given twice", curriculum.AttackUnanswered: "Attack without an answer", curriculum.Unreadable: "Moves that cannot be read",
		curriculum.InDoubt: "Moves that could be meant otherwise", curriculum.RelationOpen: "Which attack a step answers", curriculum.ReadOtherwise: "Read differently since the upgrade", curriculum.SaysSide: "Left or right said in words",
		curriculum.StanceCannot: "Stances nobody can stand in", curriculum.EndsElsewhere: "Forms that end elsewhere", curriculum.ArmOpposite: "The other side of the arm",
	}[k]
}

// Where is the place of a finding.
func Where(w curriculum.Where) string {
	switch {
	case w.Call > 0:
		return fmt.Sprintf("call number %d", w.Call)
	case w.Attack != "":
		return w.Attack
	case w.Number > 0:
		return fmt.Sprintf("%s %d", w.Series, w.Number)
	case w.Series != "":
		return w.Series
	}
	var out []string
	for _, name := range []string{w.Rung, w.Technique, w.Track, w.Part} {
		if name != "" {
			out = append(out, name)
		}
	}
	if w.Step > 0 {
		out = append(out, fmt.Sprintf("step %d", w.Step))
	}
	if w.Attacker {
		out = append(out, "attacker's part")
	}
	return strings.Join(out, ", ")
}

// Finding is why a hole is one, and how it could be mended.
// It is long: a sentence or two for each kind of hole.
func Finding(f curriculum.Finding) (reason, mend string) {
	x, at := f.Facts, f.Where
	switch f.Case {
	case curriculum.NobodyAsks:
		return "No requirement stands at this rung.", "Add what a candidate has to show, or take the rung out."
	case curriculum.TrackLeavesAll:
		return at.Track + " leave out every line of this rung.", "Keep at least one line for them, or cap its stage instead of leaving it out."
	case curriculum.BaseNowhere:
		return "It builds on " + x.Other + ", which no rung asks for.", "Ask for " + x.Other + " at or below " + at.Rung + "."
	case curriculum.BaseHigher:
		return fmt.Sprintf("It builds on %s, which is first asked at %s, %d higher.", x.Other, x.Rung, x.N), fmt.Sprintf("Move %s down to %s, or %s up.", x.Other, at.Rung, at.Technique)
	case curriculum.PartOffLadder:
		return "Its rung is not on the ladder.", "Choose a rung for it."
	case curriculum.NextGone:
		return "The technique it goes on with is gone.", "Choose another, or take the part out."
	case curriculum.BranchGone:
		return "The branch “" + x.Text + "” goes to a technique that is gone.", "Choose another."
	case curriculum.CarryGone:
		return "It is carried to a rung or a group that is gone.", "Choose how long it is asked again."
	case curriculum.SideTrained:
		return "It is trained on the " + x.Text + " side only.", "Train the other side now and then, or silence this as a tradition of the school."
	case curriculum.SideInForm:
		return fmt.Sprintf("%s comes %d times, always with the %s.", x.Name, x.N, x.Text), "Have the other side drilled by itself, or walk the form in its mirror."
	case curriculum.RiskAsked:
		return fmt.Sprintf("%s are asked for it, and it is risky for the young (%s).", x.Name, cautionWords[x.Text]), "Leave it out for " + x.Name + ", or let the owner allow it there."
	case curriculum.BarredAsked:
		return x.Err.Error() + " It is on no sheet or page of theirs.", "Leave it out for " + x.Name + ", or let the owner allow it there."
	case curriculum.LinesJump:
		return fmt.Sprintf("It asks for %d lines; %s beside it for %d.", x.N, x.Rung, x.M), "Move some lines to the other rung, or put a rung between."
	case curriculum.MinutesJump:
		return fmt.Sprintf("It takes %d min for a group of %d; %s beside it %d.", x.N, curriculum.LoadGroup, x.Rung, x.M), "Move some lines to the other rung, or put a rung between."
	case curriculum.AnswersTorn:
		return "“" + x.Text + "” names attacking moves of different limbs; the last limb that attacks is taken.", "Name the move, or say which: the second punch."
	case curriculum.AnswersNothing:
		return "It is told in relation to the attack, and the attack names no single limb.", "Write the attacker's part in moves with their sides, or give the attack a side."
	}
	switch f.Kind {
	case curriculum.StageOrder:
		return fmt.Sprintf("It arrives at %s, but the part before it only at %s.", x.Rung, x.Other), "Put the parts in the order of their rungs."
	case curriculum.BeforeStage:
		return fmt.Sprintf("%s asks for it, but its first part arrives at %s.", at.Rung, x.Rung), "Let the first part arrive at " + at.Rung + ", or ask for it later."
	case curriculum.NumberTwice:
		where := "without a rung"
		if x.Rung != "" {
			where = "at " + x.Rung
		}
		return fmt.Sprintf("%s and %s both have this number %s.", x.Name, x.Other, where), "Give one of them the next free number."
	case curriculum.NumberMissing:
		return fmt.Sprintf("There is no number %d, but there is a %d.", x.N, x.M), "Add it, or number the series anew."
	case curriculum.CautionMissing:
		return fmt.Sprintf("It needs the school's own caution for %s (%s); only the usual words are shown.", cautionWords[x.Text], Ground(x.Ground)),
			fmt.Sprintf("Write one that begins with “%s:”, or put it aside with “no %s:” and the reason.", x.Text, x.Text)
	case curriculum.NoKit:
		return "Neither this rung nor one below lists kit.", "List the kit that has to be owned: guards, gloves, what your insurer asks."
	case curriculum.NoRule:
		return "No rule says which limbs, targets and contact are allowed.", "State the sparring rule of " + at.Rung + "."
	case curriculum.MarkOutOfReach:
		return fmt.Sprintf("%s points are needed, and its sheet has %s in all.", x.Needed, x.Offered), "Ask for more, or state the pass mark lower."
	case curriculum.MarkCannotFail:
		return fmt.Sprintf("%s points are needed, and the lowest marks add up to %s.", x.Needed, x.Offered), "State the pass mark higher."
	case curriculum.MinimumEmpty:
		return x.Name + " has a minimum, but no counted line here.", "Ask for something that counts in " + x.Name + ", or drop its minimum."
	case curriculum.CallTwice:
		return fmt.Sprintf("%s and %s are both called by it.", x.Name, x.Other), "Give one of them another number."
	case curriculum.AttackUnanswered:
		return "No rung asks for an answer to it from the one attacked.", fmt.Sprintf("Ask for %s, as defender, at a rung.", strings.Join(x.Names, " or "))
	case curriculum.Unreadable:
		return x.Err.Error(), "Open the technique and correct the line."
	case curriculum.InDoubt:
		return fmt.Sprintf("Column %d: %s.", x.N, x.Text), "Write the line so that it can be read in one way only, or silence this."
	case curriculum.ReadOtherwise:
		return fmt.Sprintf("“%s”, begun with the left foot forward: it was %s; now it is %s.", x.Text, stands(x.Was), stands(x.Is)), "If that is not what you mean, write the line anew."
	case curriculum.SaysSide:
		return "It says left or right in words; whoever does it from the other stance gets it as written.", "Say lead or rear, the near or the far hand, or write it as a move."
	case curriculum.StanceCannot:
		return Trouble(x.Trouble), "Change its length, its width or the bend of a knee on the page of the stance."
	case curriculum.EndsElsewhere:
		return "It should end where it began, and ends " + Away(x.Ends) + ".", "Look at which foot moves on its turns; or say that it does not return."
	case curriculum.ArmOpposite:
		by := "by the feet"
		if x.ByHand {
			by = "by the blocking hand"
		}
		return fmt.Sprintf("It is said to end %s the attacker’s arm, and is %s it at the first contact, %s.", x.Text, x.Other, by), "Change what is said, the foot that moves, or the hand that blocks."
	}
	return "", ""
}

// stands is what a step does and where it leaves the feet.
func stands(s notation.Step) string {
	var out []string
	for _, l := range s.Limbs {
		if l != "" && s.Move.Technique != "" {
			out = append(out, "the "+string(l))
		}
	}
	switch {
	case s.Nobody:
		out = append(out, "nobody leading")
	case s.LeftLeads:
		out = append(out, "the left foot leading")
	default:
		out = append(out, "the right foot leading")
	}
	return strings.Join(append(out, fmt.Sprintf("facing %d°", s.Facing)), ", ")
}

var cautionWords = map[string]string{"joint": "joint locks", "choke": "chokes and neck holds", "throw": "throws", "weapon": "weapons", "jump": "jumping and spinning", "surface": "striking surfaces", "sparring": "sparring", "target": "targets that are shown, not struck", "fitness": "fitness work"}

// CautionAbout is what a kind of caution is about.
func CautionAbout(kind string) string { return cautionWords[kind] }

// Ground is what a caution follows from; "" the school wrote it for itself.
func Ground(g curriculum.Ground) string {
	switch g.Kind {
	case curriculum.ByKind:
		return map[string]string{"fitness": "a fitness item", "sparring": "a sparring round", "board_break": "a board break", "lock": "a lock or hold"}[g.Of]
	case curriculum.ByLock:
		return "a lock: " + g.Text
	case curriculum.ByThrow:
		return "a throw or takedown: " + g.Text
	case curriculum.ByModifier:
		return g.Of + ": " + g.Text
	case curriculum.ByName:
		return "the word “" + g.Text + "” in its name"
	case curriculum.ByStep:
		return "the words “" + g.Text + "” in a step"
	case curriculum.ByRemark:
		return "the words “" + g.Text + "” in a remark"
	case curriculum.ByAttack:
		return map[string]string{"weapon": "an attack with a weapon: ", "choke": "an attack at the neck: ", "lock": "an attack at a joint: ", "tackle": "an attack that takes down: "}[g.Of] + g.Text
	case curriculum.ByTarget:
		return "the target " + g.Text
	case curriculum.ByMove:
		return "the move “" + g.Text + "”"
	case curriculum.ByMoveTo:
		return "a move to the " + g.Text
	}
	return ""
}
