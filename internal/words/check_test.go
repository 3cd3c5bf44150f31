package words

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
)

func TestWhereAHoleIs(t *testing.T) {
	for said, w := range map[string]curriculum.Where{
		"": {}, "Green": {Rung: "Green"}, "Green, Cubs": {Rung: "Green", Track: "Cubs"}, "Green, Lock": {Rung: "Green", Technique: "Lock"}, "Lock, stage 1, step 2": {Technique: "Lock", Part: "stage 1", Step: 2},
		"Lock, attacker's part": {Technique: "Lock", Attacker: true}, "call number 4": {Call: 4}, "Combination": {Series: "Combination"}, "Combination 13": {Series: "Combination", Number: 13}, "right club": {Attack: "right club"},
	} {
		assert.Equal(t, said, Where(w))
	}
}

func TestWhatAHoleIs(t *testing.T) {
	lock := curriculum.Where{Rung: "Yellow", Technique: "Lock"}
	left := notation.Step{Limbs: []notation.Side{notation.Left}, Move: notation.Move{Technique: "jab"}, LeftLeads: true, Facing: 180}
	nobody := notation.Step{Limbs: []notation.Side{""}, Move: notation.Move{Technique: "jab"}, Nobody: true}
	right := notation.Step{Limbs: []notation.Side{notation.Right}, Move: notation.Move{}}
	for _, x := range []struct {
		kind         curriculum.FindingKind
		which        curriculum.FindingCase
		where        curriculum.Where
		facts        curriculum.Facts
		reason, mend string
	}{
		{curriculum.AsksNothing, curriculum.NobodyAsks, lock, curriculum.Facts{}, "No requirement stands at this rung.", "Add what a candidate has to show, or take the rung out."},
		{curriculum.AsksNothing, curriculum.TrackLeavesAll, curriculum.Where{Rung: "Yellow", Track: "Cubs"}, curriculum.Facts{}, "Cubs leave out every line of this rung.", "Keep at least one line for them, or cap its stage instead of leaving it out."},
		{curriculum.BeforeBase, curriculum.BaseNowhere, lock, curriculum.Facts{Other: "Grip"}, "It builds on Grip, which no rung asks for.", "Ask for Grip at or below Yellow."},
		{curriculum.BeforeBase, curriculum.BaseHigher, lock, curriculum.Facts{Other: "Grip", Rung: "Green", N: 2}, "It builds on Grip, which is first asked at Green, 2 higher.", "Move Grip down to Yellow, or Lock up."},
		{curriculum.StageOrder, "", lock, curriculum.Facts{Rung: "White", Other: "Green"}, "It arrives at White, but the part before it only at Green.", "Put the parts in the order of their rungs."},
		{curriculum.StageGone, curriculum.PartOffLadder, lock, curriculum.Facts{}, "Its rung is not on the ladder.", "Choose a rung for it."},
		{curriculum.StageGone, curriculum.NextGone, lock, curriculum.Facts{}, "The technique it goes on with is gone.", "Choose another, or take the part out."},
		{curriculum.StageGone, curriculum.BranchGone, lock, curriculum.Facts{Text: "bends"}, "The branch “bends” goes to a technique that is gone.", "Choose another."},
		{curriculum.StageGone, curriculum.CarryGone, lock, curriculum.Facts{}, "It is carried to a rung or a group that is gone.", "Choose how long it is asked again."},
		{curriculum.BeforeStage, "", lock, curriculum.Facts{Rung: "Green"}, "Yellow asks for it, but its first part arrives at Green.", "Let the first part arrive at Yellow, or ask for it later."},
		{curriculum.NumberTwice, "", lock, curriculum.Facts{Name: "A", Other: "B", Rung: "Green"}, "A and B both have this number at Green.", "Give one of them the next free number."},
		{curriculum.NumberTwice, "", lock, curriculum.Facts{Name: "A", Other: "B"}, "A and B both have this number without a rung.", "Give one of them the next free number."},
		{curriculum.NumberMissing, "", lock, curriculum.Facts{N: 13, M: 16}, "There is no number 13, but there is a 16.", "Add it, or number the series anew."},
		{curriculum.OneSided, curriculum.SideTrained, lock, curriculum.Facts{Text: "left"}, "It is trained on the left side only.", "Train the other side now and then, or silence this as a tradition of the school."},
		{curriculum.OneSided, curriculum.SideInForm, lock, curriculum.Facts{Name: "Jab", N: 3, Text: "left"}, "Jab comes 3 times, always with the left.", "Have the other side drilled by itself, or walk the form in its mirror."},
		{curriculum.CautionMissing, "", lock, curriculum.Facts{Text: "joint", Ground: curriculum.Ground{Kind: curriculum.ByKind, Of: "lock"}}, "It needs the school's own caution for joint locks (a lock or hold); only the usual words are shown.",
			"Write one that begins with “joint:”, or put it aside with “no joint:” and the reason."},
		{curriculum.RiskyYoung, curriculum.RiskAsked, lock, curriculum.Facts{Name: "Cubs", Text: "joint"}, "Cubs are asked for it, and it is risky for the young (joint locks).", "Leave it out for Cubs, or let the owner allow it there."},
		{curriculum.RiskyYoung, curriculum.BarredAsked, lock, curriculum.Facts{Name: "Cubs", Err: &curriculum.NotFor{Track: "Cubs"}}, "Not for Cubs: chokes and neck holds are not for a young track without the owner’s leave. It is on no sheet or page of theirs.", "Leave it out for Cubs, or let the owner allow it there."},
		{curriculum.NoKit, "", lock, curriculum.Facts{}, "Neither this rung nor one below lists kit.", "List the kit that has to be owned: guards, gloves, what your insurer asks."},
		{curriculum.NoRule, "", lock, curriculum.Facts{}, "No rule says which limbs, targets and contact are allowed.", "State the sparring rule of Yellow."},
		{curriculum.MarkOutOfReach, "", lock, curriculum.Facts{Needed: scoring.Whole(50), Offered: scoring.Whole(24)}, "50 points are needed, and its sheet has 24 in all.", "Ask for more, or state the pass mark lower."},
		{curriculum.MarkCannotFail, "", lock, curriculum.Facts{Needed: scoring.Whole(5), Offered: scoring.Whole(6)}, "5 points are needed, and the lowest marks add up to 6.", "State the pass mark higher."},
		{curriculum.MinimumEmpty, "", lock, curriculum.Facts{Name: "Forms"}, "Forms has a minimum, but no counted line here.", "Ask for something that counts in Forms, or drop its minimum."},
		{curriculum.LoadJump, curriculum.LinesJump, lock, curriculum.Facts{N: 14, M: 6, Rung: "White"}, "It asks for 14 lines; White beside it for 6.", "Move some lines to the other rung, or put a rung between."},
		{curriculum.LoadJump, curriculum.MinutesJump, lock, curriculum.Facts{N: 60, M: 20, Rung: "White"}, "It takes 60 min for a group of 3; White beside it 20.", "Move some lines to the other rung, or put a rung between."},
		{curriculum.CallTwice, "", lock, curriculum.Facts{Name: "A", Other: "B"}, "A and B are both called by it.", "Give one of them another number."},
		{curriculum.AttackUnanswered, "", lock, curriculum.Facts{Names: []string{"Reed", "Gate"}}, "No rung asks for an answer to it from the one attacked.", "Ask for Reed or Gate, as defender, at a rung."},
		{curriculum.Unreadable, "", lock, curriculum.Facts{Err: errors.New("column 6")}, "column 6", "Open the technique and correct the line."},
		{curriculum.InDoubt, "", lock, curriculum.Facts{N: 14, Text: "no stance"}, "Column 14: no stance.", "Write the line so that it can be read in one way only, or silence this."},
		{curriculum.RelationOpen, curriculum.AnswersTorn, lock, curriculum.Facts{Text: "the jab"}, "“the jab” names attacking moves of different limbs; the last limb that attacks is taken.", "Name the move, or say which: the second punch."},
		{curriculum.RelationOpen, curriculum.AnswersNothing, lock, curriculum.Facts{}, "It is told in relation to the attack, and the attack names no single limb.", "Write the attacker's part in moves with their sides, or give the attack a side."},
		{curriculum.ReadOtherwise, "", lock, curriculum.Facts{Text: "lead Jab", Was: left, Is: nobody}, "“lead Jab”, begun with the left foot forward: it was the left, the left foot leading, facing 180°; now it is nobody leading, facing 0°.", "If that is not what you mean, write the line anew."},
		{curriculum.ReadOtherwise, "", lock, curriculum.Facts{Text: "turn", Was: right, Is: right}, "“turn”, begun with the left foot forward: it was the right foot leading, facing 0°; now it is the right foot leading, facing 0°.", "If that is not what you mean, write the line anew."},
		{curriculum.SaysSide, "", lock, curriculum.Facts{}, "It says left or right in words; whoever does it from the other stance gets it as written.", "Say lead or rear, the near or the far hand, or write it as a move."},
		{curriculum.StanceCannot, "", lock, curriculum.Facts{Trouble: floor.Trouble{Kind: floor.TooShort, Lead: true, Needs: 854, Has: 806}}, "The front leg cannot reach: from hip to ankle it would have to be 85 cm, and is 81 cm when straight.", "Change its length, its width or the bend of a knee on the page of the stance."},
		{curriculum.EndsElsewhere, "", lock, curriculum.Facts{Ends: floor.Point{Y: -851}}, "It should end where it began, and ends 85 cm behind.", "Look at which foot moves on its turns; or say that it does not return."},
		{curriculum.ArmOpposite, "", lock, curriculum.Facts{Text: "inside", Other: "outside", ByHand: true}, "It is said to end inside the attacker’s arm, and is outside it at the first contact, by the blocking hand.", "Change what is said, the foot that moves, or the hand that blocks."},
		{curriculum.ArmOpposite, "", lock, curriculum.Facts{Text: "inside", Other: "outside"}, "It is said to end inside the attacker’s arm, and is outside it at the first contact, by the feet.", "Change what is said, the foot that moves, or the hand that blocks."},
	} {
		reason, mend := Finding(curriculum.Finding{Kind: x.kind, Case: x.which, Where: x.where, Facts: x.facts})
		assert.Equal(t, []string{x.reason, x.mend}, []string{reason, mend})
	}
	for _, k := range curriculum.FindingKinds {
		assert.NotEmpty(t, FindingKind(k), k)
	}
}

func TestTroublesOfAStance(t *testing.T) {
	for said, x := range map[string]floor.Trouble{
		"The rear leg cannot reach: from hip to ankle it would have to be 85 cm, and is 81 cm when straight.": {Kind: floor.TooShort, Needs: 854, Has: 806},
		"The rear heel must rise: with it down the leg would have to be 85 cm, and is 81 cm when straight.":   {Kind: floor.HeelRises, Needs: 854, Has: 806},
		"The front knee is said to bend 40°, and with the other as it is said it bends 51°.":                  {Kind: floor.BendDiffers, Lead: true, Has: 40, Needs: 51},
		"The feet would stand on one another.": {},
	} {
		assert.Equal(t, said, Trouble(x))
	}
	for p, want := range map[floor.Point]string{{X: -400}: "40 cm left", {Y: -1004}: "1.00 m behind", {X: 20, Y: 1200}: "1.20 m ahead and 2 cm right", {X: 4}: "0 cm"} {
		assert.Equal(t, want, Away(p))
	}
}

func TestWhatACautionFollowsFrom(t *testing.T) {
	for said, g := range map[string]curriculum.Ground{
		"": {}, "a fitness item": {Kind: curriculum.ByKind, Of: "fitness"}, "a sparring round": {Kind: curriculum.ByKind, Of: "sparring"}, "a board break": {Kind: curriculum.ByKind, Of: "board_break"}, "a lock or hold": {Kind: curriculum.ByKind, Of: "lock"},
		"a lock: Arm bar": {Kind: curriculum.ByLock, Text: "Arm bar"}, "a throw or takedown: Sweep": {Kind: curriculum.ByThrow, Text: "Sweep"}, "jumping: Hop knee": {Kind: curriculum.ByModifier, Of: "jumping", Text: "Hop knee"},
		"the word “flying” in its name": {Kind: curriculum.ByName, Text: "flying"}, "the words “takes down” in a step": {Kind: curriculum.ByStep, Text: "takes down"}, "the words “takedown” in a remark": {Kind: curriculum.ByRemark, Text: "takedown"},
		"an attack with a weapon: club": {Kind: curriculum.ByAttack, Of: "weapon", Text: "club"}, "an attack at the neck: hug": {Kind: curriculum.ByAttack, Of: "choke", Text: "hug"}, "an attack that takes down: tackle": {Kind: curriculum.ByAttack, Of: "tackle", Text: "tackle"},
		"the target left eye": {Kind: curriculum.ByTarget, Text: "left eye"}, "the move “jump”": {Kind: curriculum.ByMove, Text: "jump"}, "a move to the throat": {Kind: curriculum.ByMoveTo, Text: "throat"},
	} {
		assert.Equal(t, said, Ground(g))
	}
	for _, k := range curriculum.CautionKinds {
		assert.NotEmpty(t, CautionAbout(k))
	}
}
