package words

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/core/progress"
)

// TestAttacksAtHome: what somebody does, in words a parent understands.
func TestAttacksAtHome(t *testing.T) {
	b := curriculum.Open(curriculum.Curriculum{Program: curriculum.Program{ProgramDetails: curriculum.ProgramDetails{Attacks: []curriculum.OwnAttack{{Name: "scarf pull", Nature: "grab"}, {Name: "heel kick", Nature: "kick"}}}}})
	for want, a := range map[string]curriculum.AttackElement{
		"holds one of your wrists":                                                      {Kind: "wrist grab", Origin: "front"},
		"holds one of your wrists with the left hand":                                   {Kind: "wrist grab", Side: "left", Origin: "front"},
		"holds your wrist with both hands, standing still":                              {Kind: "two-hand wrist grab", Side: "both", Motion: "static", Origin: "front"},
		"strikes: straight punch with the right hand, at head height, stepping forward": {Kind: "straight punch", Side: "right", Level: "high", Motion: "step-through", Origin: "front"},
		"strikes: uppercut with the back hand, at chest height, from the side":          {Kind: "uppercut", Side: "rear", Level: "mid", Origin: "side"},
		"gives a round kick with the front leg, low, with one long step":                {Kind: "round kick", Side: "lead", Level: "low", Motion: "lunge", Origin: "front"},
		"puts both arms around you, from behind":                                        {Kind: "hug", Origin: "rear"},
		"puts an arm or both hands to your neck, from behind":                           {Kind: "rear choke", Origin: "rear"},
		"sits on you as you lie on your back":                                           {Kind: "ground mounted", Origin: "ground"},
		"pushes you, on the ground":                                                     {Kind: "push", Origin: "ground"},
		"thrusts a training knife with the right hand":                                  {Kind: "knife thrust", Side: "right", Origin: "front"},
		"gives this: scarf pull with the left hand":                                     {Kind: "scarf pull", Side: "left", Origin: "front"},
		"gives a heel kick with the right leg":                                          {Kind: "heel kick", Side: "right", Origin: "front"},
	} {
		assert.Equal(t, want, attackAtHome(practice.Given{AttackElement: a, Nature: b.Program.NatureOf(a.Kind)}))
	}
	for _, k := range curriculum.AttackKinds {
		words := attackAtHome(practice.Given{AttackElement: curriculum.AttackElement{Kind: k, Origin: "front"}, Nature: b.Program.NatureOf(k)})
		assert.NotContains(t, words, "%", k)
		assert.NotContains(t, words, "gives this", k)
	}
}

// TestAmountsAsSaidAtHome: how much, in words a parent understands.
func TestAmountsAsSaidAtHome(t *testing.T) {
	say := func(kind curriculum.Kind, q curriculum.Quantity, more ...func(*progress.Item)) string {
		x := progress.Item{Line: curriculum.Line{Kind: kind, Quantity: q}, TwoSided: q.Measure == curriculum.RepsPerSide}
		for _, f := range more {
			f(&x)
		}
		return HowMuch(x)
	}
	reps := func(m curriculum.Measure, n int, side curriculum.SideMeaning) curriculum.Quantity {
		return curriculum.Quantity{Measure: m, Reps: n, Side: side}
	}
	for want, got := range map[string]string{
		"once": say("kick", reps(curriculum.RepsInAll, 1, "")), "twice in all": say("kick", reps(curriculum.RepsInAll, 2, "")),
		"4 times one way, then turn, and as often back":                say("kick", reps(curriculum.RepsPerSide, 4, curriculum.ByDirection)),
		"4 times to the left and as often to the right":                say("evasion", reps(curriculum.RepsPerSide, 4, curriculum.ByDirection)),
		"4 times with each side":                                       say("evasion", reps(curriculum.RepsPerSide, 4, curriculum.ByLimb)),
		"4 times":                                                      say("evasion", reps(curriculum.RepsPerSide, 4, ""), func(x *progress.Item) { x.TwoSided = false }),
		"2 rounds of 60 seconds":                                       say("sparring", curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 2, Seconds: 60}),
		"2 rounds of 60 seconds, resting 1 seconds between":            say("sparring", curriculum.Quantity{Measure: curriculum.RoundsTimed, Rounds: 2, Seconds: 60, Rest: 1}),
		"for 9 seconds, as fast as you can for the last 1 seconds":     say("fitness", curriculum.Quantity{Measure: curriculum.Timed, Seconds: 9}, func(x *progress.Item) { x.Line.Sprint = 1 }),
		"3 times with each leg, at the height of the head":             say("kick", reps(curriculum.RepsPerSide, 3, curriculum.ByLimb), func(x *progress.Item) { x.Level = "high" }),
		"once, on pads, at the height of the body or higher":           say("kick", reps(curriculum.RepsInAll, 1, ""), func(x *progress.Item) { x.Setting, x.Level = "pads", "mid" }),
		"4 times in all":                                               say("kick", reps(curriculum.RepsInAll, 4, ""), func(x *progress.Item) { x.Level = "low" }),
		"say the answer aloud":                                         say("knowledge", reps(curriculum.RepsInAll, 1, "")),
		"once, on pads":                                                say("kick", reps(curriculum.RepsInAll, 1, ""), func(x *progress.Item) { x.Setting = "pads" }),
		"twice on each side, left and right exchanged the second time": say("self_defence", reps(curriculum.RepsPerSide, 2, "")),
		"3 times on each side, the other foot in front the second time; the left side needs it most": say("kick", reps(curriculum.RepsPerSide, 3, ""), func(x *progress.Item) { x.Right = true }),
	} {
		assert.Equal(t, want, got)
	}
}

// setsOf are the sets of a call for a stance, a phrase each.
func setsOf(c practice.Call, v curriculum.View) (out []string) {
	for _, s := range c.Sets {
		text := ""
		if side := SetSide(c, s, v); side != "" {
			text = side + " "
		}
		if s.Reps > 0 {
			text += fmt.Sprint(s.Reps)
		} else {
			text += fmt.Sprintf("%d s", s.Seconds)
		}
		if s.Closing > 0 {
			text += fmt.Sprintf(" sprint %d", s.Closing)
		}
		if s.Rest > 0 {
			text += fmt.Sprintf(" rest %d", s.Rest)
		}
		if before := Before(c, s, Commands(curriculum.Program{})); before != "" {
			text += " after " + before
		}
		out = append(out, text)
	}
	return out
}

// TestEveryMeasureSaid: whatever measure is asked, the caller, the group and the family are told it; nothing is doubled or halved on the way.
func TestEveryMeasureSaid(t *testing.T) {
	for _, x := range []struct {
		asked          string
		kind           curriculum.Kind
		program        curriculum.SideMeaning
		one            []string // sets called for one candidate, left foot forward; those for more are the core's
		home, calledOf string
	}{
		{asked: "2 a side", kind: "kick", one: []string{"left foot forward 2 rest 5", "right foot forward 2 after change of stance"}, home: "twice on each side, the other foot in front the second time", calledOf: "2 a side asked, 6 called"},
		{asked: "8 each leg", kind: "kick", one: []string{"left leg 8 rest 5", "right leg 8 after the other leg"}, home: "8 times with each leg"},
		{asked: "5 a side", kind: "strike", program: curriculum.ByLimb, one: []string{"left hand 5 rest 5", "right hand 5 after the other hand"}, home: "5 times with each hand", calledOf: "5 each hand asked, 6 called"},
		{asked: "5 each stance", kind: "strike", program: curriculum.ByLimb, one: []string{"left foot forward 5 rest 5", "right foot forward 5 after change of stance"}, home: "5 times on each side, the other foot in front the second time", calledOf: "5 a side asked, 6 called"},
		{asked: "5 a side", kind: "combination", program: curriculum.ByLimb, one: []string{"left foot forward 5 rest 5", "right foot forward 5 after change of stance"}, home: "5 times on each side, the other foot in front the second time", calledOf: "5 a side asked, 6 called"},
		{asked: "4 each way", kind: "evasion", one: []string{"to the left 4 rest 5", "to the right 4 after turn"}, home: "4 times to the left and as often to the right", calledOf: "4 each way asked, 6 called"},
		{asked: "10 alternating", kind: "kick", one: []string{"left and right in turn 10"}, home: "10 times in all, left and right in turn"},
		{asked: "5", kind: "kick", one: []string{"5"}, home: "5 times in all", calledOf: "5 times asked, 6 called"},
		{asked: "3 each leg without touching down", kind: "balance", one: []string{"left leg 3 rest 5", "right leg 3 after the other leg"}, home: "3 times with each leg, without putting the foot down", calledOf: "3 each leg without touching down asked, 6 called"},
		{asked: "60 s", kind: "stance", one: []string{"60 s sprint 15"}, home: "for 60 seconds, as fast as you can for the last 15 seconds"},
		{asked: "2 x 60 s, 30 s rest", kind: "sparring", one: []string{"round 1 of 2 60 s sprint 15 rest 30", "round 2 of 2 60 s sprint 15"}, home: "2 rounds of 60 seconds, resting 30 seconds between, as fast as you can for the last 15 seconds"},
		{asked: "18 in 60 s", kind: "fitness", one: []string{"60 s sprint 15"}, home: "as many as you can in 60 seconds; 18 are asked, as fast as you can for the last 15 seconds"},
		{asked: "3 holds of 10 s", kind: "balance", one: []string{"hold 1 of 3 10 s sprint 15 rest 5", "hold 2 of 3 10 s sprint 15 rest 5", "hold 3 of 3 10 s sprint 15"}, home: "hold it for 10 seconds, 3 times, as fast as you can for the last 15 seconds"},
		{asked: "2", kind: "form", one: []string{"2"}, home: "twice in all"},
	} {
		q, err := curriculum.ParseQuantity(x.asked)
		require.NoError(t, err, x.asked)
		details := curriculum.RequirementDetails{}
		if q.Seconds > 0 {
			details.Sprint = 15
		}
		b := curriculum.Open(curriculum.Curriculum{Program: curriculum.Program{ID: "p", ProgramDetails: curriculum.ProgramDetails{SideMeans: x.program}}, Sections: []curriculum.Section{{ID: "s", Name: "All"}},
			Rungs: []curriculum.Rung{{ID: "w", Name: "White"}, {ID: "y", Name: "Yellow"}}, Techniques: []curriculum.Technique{{ID: "t", Name: "Reed", Kind: x.kind}},
			Requirements: []curriculum.Requirement{{ID: "r", RungID: "y", SectionID: "s", TechniqueID: "t", Role: "performer", Quantity: q, Weight: 1, RequirementDetails: details}}})
		sheet := b.Compile(curriculum.Asking{RungID: "y", Group: 3})
		l := sheet.Lines[0]
		assert.Equal(t, x.calledOf, Called(l, 3), x.asked)
		assert.Equal(t, x.one, setsOf(practice.CallOf(b, l, l.Called(1)), curriculum.Orthodox), x.asked)
		item := progress.AskedBy(b, "", sheet, nil).Items[0]
		assert.Equal(t, x.home, HowMuch(item), x.asked)
	}
}

// TestThePartnersPart: what somebody else has to do.
func TestThePartnersPart(t *testing.T) {
	given := func(kind curriculum.AttackKind, nature curriculum.Nature, side string) practice.Given {
		return practice.Given{AttackElement: curriculum.AttackElement{Kind: kind, Side: notation.Side(side), Origin: "front"}, Nature: nature}
	}
	for said, p := range map[string]practice.PartnerPart{
		"": {},
		"Your partner defends. You give the attack, in reach and straight on, and let it be stopped.": {Kind: practice.PartnerDefends},
		"Slowly: your partner pushes you with the right hand, then strikes: hook with the left hand. In reach, and no faster than you can answer; they stop where they are stopped.": {Kind: practice.PartnerAttacks,
			Attacks: []practice.Given{given("push", "grab", "right"), given("hook", "strike", "left")}, Moves: "lead jab"},
		"Slowly: your partner does lead jab. In reach, and no faster than you can answer; they stop where they are stopped.": {Kind: practice.PartnerAttacks, Moves: "lead jab"},
		"Your partner gives the attack slowly and stops where they are stopped.":                                             {Kind: practice.PartnerAttacks},
		"You hold; your partner strikes. Elbows in, the pad against the body.":                                               {Kind: practice.PartnerStrikes},
		"A partner holds the pad in both hands, against the body.":                                                           {Kind: practice.PartnerHolds},
		"With a partner of about your size.":                                                                                 {Kind: practice.PartnerStands},
	} {
		assert.Equal(t, said, Partner(p))
	}
}

// TestWhatHoldsAtHome: cautions of a line, and those where no instructor stands by; what it leaves open, what goes before and after.
func TestWhatHoldsAtHome(t *testing.T) {
	task := practice.Task{AtHome: []practice.HomeCaution{practice.HandsOnlyTouch, practice.GoThroughSteps, practice.TapAndWord, practice.SoftWeapon, practice.NoSparring, practice.NoBoards, practice.WarmUpFirst, practice.LowFirst}}
	task.Cautions = []string{"mats"}
	said := Cautions(task)
	assert.Equal(t, []string{"mats", "Hands at the neck only touch at home; never squeeze. Children practise this with the instructor.", "Not at home without the instructor’s word: go through the steps alone.",
		"Slowly, with room around you. Agree a tap and a word that stop at once.", "Only with a soft training weapon. In earnest: leave if you can.", "No sparring at home. Move alone, or shadow a partner out of reach.",
		"No boards at home.", "Warm up first. Stop on pain or dizziness.", "Low and slowly first; a clear, dry floor to land on."}, said)
	assert.Equal(t, []string{"mats"}, task.Cautions, "those of the line stay as they are")
	assert.Equal(t, []string{"", ""}, []string{Exposure(task), Leads(task)})
	task.LeavesOpen, task.FollowedBy = "the ribs", "leaving"
	assert.Equal(t, []string{"It leaves open: the ribs.", "After it: leaving."}, []string{Exposure(task), Leads(task)})
	task.CoveredBy, task.SetUpBy = "the elbow", "a jab"
	assert.Equal(t, []string{"It leaves open: the ribs; covered by: the elbow.", "Before it: a jab. After it: leaving."}, []string{Exposure(task), Leads(task)})
}

// TestCalls: sides and commands, the program's own words before the usual ones.
func TestCalls(t *testing.T) {
	own := curriculum.Program{ProgramDetails: curriculum.ProgramDetails{Commands: []curriculum.Command{{Word: "Kawa", Meaning: "change of stance"}, {Word: "Mill", Meaning: "begin"}}}}
	assert.Equal(t, practice.Commands{Ready: "ready", Begin: "Mill", Stop: "stop", Turn: "turn", Change: "Kawa", Rest: "rest"}, Commands(own))
	assert.Equal(t, practice.Commands{Ready: "ready", Begin: "begin", Stop: "stop", Turn: "turn", Change: "change of stance", Rest: "rest"}, Commands(curriculum.Program{}))
	set := func(turn curriculum.Turn) practice.Set {
		return practice.Set{Set: curriculum.Set{Turn: turn, N: 1, Of: 2}}
	}
	call := func(k curriculum.Kind, paired bool) practice.Call {
		return practice.Call{Line: curriculum.Line{Kind: k}, Paired: paired}
	}
	for _, x := range []struct {
		call                      practice.Call
		turn                      curriculum.Turn
		written, left, rightFront string
	}{
		{call("kick", false), curriculum.OwnStance, "own stance", "left foot forward", "right foot forward"},
		{call("kick", false), curriculum.OtherStance, "other stance", "right foot forward", "left foot forward"},
		{call("kick", false), curriculum.LeadLimb, "lead leg", "left leg", "right leg"}, {call("block", false), curriculum.RearLimb, "rear hand", "right hand", "left hand"},
		{call("form", true), curriculum.OwnStance, "one side", "one side", "one side"}, {call("form", true), curriculum.OtherStance, "the other side", "the other side", "the other side"},
		{call("evasion", false), curriculum.OneWay, "to the left", "to the left", "to the left"}, {call("evasion", false), curriculum.BackAgain, "to the right", "to the right", "to the right"},
		{call("stance", false), curriculum.OneWay, "one way", "one way", "one way"}, {call("stance", false), curriculum.BackAgain, "and back", "and back", "and back"},
		{call("kick", false), curriculum.Round, "round 1 of 2", "round 1 of 2", "round 1 of 2"}, {call("kick", false), curriculum.HoldFor, "hold 1 of 2", "hold 1 of 2", "hold 1 of 2"},
		{call("kick", false), curriculum.InTurn, "left and right in turn", "left and right in turn", "left and right in turn"}, {call("kick", false), "", "", "", ""},
	} {
		s := set(x.turn)
		assert.Equal(t, []string{x.written, x.left, x.rightFront}, []string{SetSide(x.call, s, curriculum.AsWritten), SetSide(x.call, s, curriculum.Orthodox), SetSide(x.call, s, curriculum.Southpaw)})
	}
	for said, before := range map[string]practice.Before{"": "", "the other side": practice.ChangeSides, "Kawa": practice.ChangeStance, "turn": practice.TurnRound, "the other leg": practice.ChangeLimbs} {
		assert.Equal(t, said, Before(call("footwork", false), practice.Set{Before: before}, Commands(own)))
	}
	with := func(kind curriculum.Kind, name string) string { return limb(curriculum.Line{Kind: kind, Call: name}) }
	assert.Equal(t, []string{"leg", "leg", "leg", "hand", "hand", "side"}, []string{with("kick", "Elbow"), with("balance", ""), with("footwork", ""), with("strike", "Jab"), with("block", "Low block"), with("form", "Knee form")})
	assert.Equal(t, []string{"leg", "leg", "arm", "arm", "leg"}, []string{with("strike", "Knee strike"), with("strike", "Stamp"), with("strike", "Rising elbow"), with("block", "Forearm block"), with("block", "Shin block")},
		"a knee is no hand")
	each := curriculum.Line{Kind: "strike", Call: "Straight knee", Quantity: curriculum.Quantity{Measure: curriculum.RepsPerSide, Reps: 8, Side: curriculum.ByLimb}, Looks: 2}
	assert.Equal(t, []string{"8 each leg", "10 each leg", "8 each leg asked, 10 called"}, []string{Asked(each), CalledAmount(each, 5), Called(each, 5)})
	each.Quantity.Side = curriculum.ByStance
	assert.Equal(t, "8 each stance", strings.Replace(Asked(each), "a side", "each stance", 1))
}

// TestClassPlans: what a block is called, how it is done, whom it serves and why.
func TestClassPlans(t *testing.T) {
	for said, b := range map[string]practice.Block{"Warm-up": {WarmUp: true}, "Open work": {Free: true}, "Bow out": {Bow: true}, "Oars": {Topic: practice.Topic{Name: "Oars"}},
		"Oars, both roles": {Topic: practice.Topic{Name: "Oars", Roles: practice.BothRoles}}, "Jab, striking and holding": {Topic: practice.Topic{Name: "Jab", Roles: practice.StrikeAndHold}}} {
		assert.Equal(t, said, Block(b))
	}
	for as, said := range map[practice.As]string{"": "", practice.StepsAlone: "the steps alone, the partner imagined", practice.InAir: "in the air instead of on pads", practice.WithoutBag: "in the air, without the bag", practice.AlonePart: "what is done alone of it"} {
		assert.Equal(t, said, DoneAs(as))
	}
	assert.Equal(t, "3 to Green, 1 to Blue", Shares([]practice.Share{{N: 3, Rung: "Green"}, {N: 1, Rung: "Blue"}}))
	assert.Equal(t, "not signed off yet; must pass; tried, not right yet; not seen for 1 week; away on 17 Nov when it was worked on; theme of the week; what this class is for", Needed([]practice.Reason{{Kind: practice.NotSigned}, {Kind: practice.MustPass},
		{Kind: practice.NotRight}, {Kind: practice.NotSeen, Weeks: 1}, {Kind: practice.WasAway, On: civil.MustParse("2026-11-17")}, {Kind: practice.OfTheTheme}, {Kind: practice.OfTheClass}}))
	for h, said := range map[practice.How]string{practice.InHall: "in the hall, with partners", practice.Live: "live online", practice.Recorded: "from a recording", practice.Unpaired: "in the hall, without partners"} {
		assert.Equal(t, said, How(h))
	}
	assert.Empty(t, HeldSo(practice.InHall)+HeldSo(practice.Unpaired))
	assert.Contains(t, HeldSo(practice.Live), "two metres of clear floor")
	assert.NotContains(t, HeldSo(practice.Live), "sign-offs")
	assert.Contains(t, HeldSo(practice.Recorded), "two metres of clear floor all round")
	assert.Contains(t, HeldSo(practice.Recorded), "sign-offs wait for clips")
	assert.Equal(t, "it can be read no more: column 6; Back kick: Not for Cubs: it suits Adults and older.; Axe kick comes with Green; it has steps and no technique; it begins with the rear side; "+
		"after a kick the hands do not come back first; one limb works twice running", ChoiceNotes([]practice.ChoiceNote{{Kind: practice.Unreadable, Why: errors.New("column 6")},
		{Kind: practice.NotAllowed, Technique: "Back kick", Why: &curriculum.NotFor{Track: "Cubs", Suits: "Adults"}}, {Kind: practice.ComesLater, Technique: "Axe kick", Rung: "Green"}, {Kind: practice.StepsOnly}, {Kind: practice.RearFirst},
		{Kind: practice.NoRecovery}, {Kind: practice.LimbTwice}}))
}

// TestWhatATaskIsCalledAtHome: a parent reads what the child does and how far it goes, and no word of the trade.
func TestWhatATaskIsCalledAtHome(t *testing.T) {
	task := func(role curriculum.Role, setting curriculum.Setting, stage, stages int, part string) string {
		return CalledAtHome(practice.Task{Name: "Mill Wheel", Part: part, Next: progress.Next{Item: progress.Item{Line: curriculum.Line{Call: "Mill Wheel, defender, stage 2", Role: role, Setting: setting, Stage: stage, Stages: stages}}}})
	}
	assert.Equal(t, "Mill Wheel", task("performer", "air", 3, 3, ""))
	assert.Equal(t, "Mill Wheel: you defend, the first 2 of its 3 parts", task("defender", "", 2, 3, ""))
	assert.Equal(t, "Mill Wheel: you attack, the first of its 3 parts", task("attacker", "", 1, 3, ""))
	assert.Equal(t, "Mill Wheel: you hold the pad", task("holder", "pads", 0, 0, ""))
	assert.Equal(t, "Mill Wheel: on pads", task("performer", "pads", 0, 0, ""))
	assert.Equal(t, "Mill Wheel: as far as “the throw”", task("performer", "", 2, 3, "the throw"))
}

// TestWhatCountsAtHome: a family is told what is equally right and which marks there are; the height stands with the amount.
func TestWhatCountsAtHome(t *testing.T) {
	l := curriculum.Line{Level: "high"}
	l.Versions = []string{"with a step", "on the spot"}
	l.Table = []curriculum.TableMark{{Count: 20, Mark: 4}}
	assert.Equal(t, append([]string{"at least high"}, StandardAtHome(l)...), Standard(l))
	assert.Equal(t, "equally right: with a step; on the spot", StandardAtHome(l)[0])
	assert.Contains(t, StandardAtHome(l)[1], "from 20: ")
	assert.Empty(t, StandardAtHome(curriculum.Line{Level: "mid"}))
}

// TestCautionsAtHome: a family reads nothing of tracks, owners or rungs in the usual cautions; the school's own words stay as they are.
func TestCautionsAtHome(t *testing.T) {
	x := curriculum.Technique{Name: "Reed"}
	for _, kind := range []string{"choke", "sparring", "joint", "throw", "weapon", "jump", "surface", "target", "fitness"} {
		x.Cautions = append(x.Cautions, kind+":")
	}
	usual := curriculum.Open(curriculum.Curriculum{Techniques: []curriculum.Technique{x}}).Cautions(&x, 0, "")
	require.Len(t, usual, len(x.Cautions))
	atHome := func(caution string) []string {
		var task practice.Task
		task.Cautions = []string{caution}
		return Cautions(task)
	}
	for _, c := range usual {
		require.NotEmpty(t, c.Text, c.Kind)
		assert.NotRegexp(t, `(?i)\b(?:tracks?|owner|rung)\b`, atHome(c.Text)[0])
	}
	assert.Equal(t, []string{"Mind the rung of the ladder."}, atHome("Mind the rung of the ladder."))
}
