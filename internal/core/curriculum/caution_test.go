package curriculum

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestCautionsFollow from what a technique is, is called, is made of and answers, also where
// nobody ticked anything; and from nothing else.
func TestCautionsFollow(t *testing.T) {
	base := []Technique{
		{ID: "sweeping", Name: "Sweeping block", Kind: "block"}, {ID: "double", Name: "Double forearm block", Kind: "block"}, {ID: "front", Name: "Front kick", Kind: "kick"}, {ID: "reel", Name: "Reel", Kind: "throw"},
		{ID: "latch", Name: "Wrist lock", Kind: "lock"}, {ID: "check", Name: "Check", Kind: "lock"}, {ID: "old", Name: "Old grip", Kind: "lock", Cautions: []string{"joint: slowly"}}, {ID: "flying", Name: "Flying knee", Kind: "strike"}, {ID: "jab", Name: "Jab", Kind: "strike"},
	}
	steps := func(lines ...string) []Stage { return []Stage{{Does: Appends, Steps: ParseSteps(lines)}} }
	for _, x := range []struct {
		name  string
		kind  Kind
		steps []string
		want  string
	}{
		{"Sweeping block", "block", nil, ""},
		{"Double forearm block", "block", nil, ""},
		{"What comes before a throw?", "knowledge", nil, ""},
		{"Before a choke", "knowledge", []string{"Throw him down."}, ""},
		{"Jumping jacks", "fitness", []string{"jump"}, "fitness"},
		{"Jumping front kick", "kick", nil, "jump"},
		{"Spin hook", "strike", nil, "jump"},
		{"Hop and slide", "footwork", nil, "jump"},
		{"Jump rope question", "character", nil, ""},
		{"Crane", "form", []string{"step, front kick", "jump, front kick"}, "jump"},
		{"Heron", "form", []string{"lead jab to eyes"}, "target"},
		{"Heron 2", "form", []string{"lead jab to the left eye"}, "target"},
		{"Heron 3", "form", []string{"drop to knee, lead jab"}, ""},
		{"Reed", "self_defence", []string{"Press the thumb to the throat."}, "target"},
		{"Reed 2", "self_defence", []string{"Drop to one knee, hands up."}, ""},
		{"Reed 3", "self_defence", []string{"Kick to the knee."}, "target"},
		{"Reed 4", "self_defence", []string{"Answer with a Sweeping block."}, ""},
		{"Reed 5", "self_defence", []string{"Sweep the front leg."}, "throw"},
		{"Reed 6", "self_defence", []string{"Take your partner down."}, "throw"},
		{"Reed 7", "self_defence", []string{"Throw a hook, then two jabs."}, ""},
		{"Reed 8", "self_defence", []string{"Throws the Jab twice."}, ""},
		{"Reed 9", "self_defence", []string{"Partner trips over the leg."}, "throw"},
		{"Reed 10", "self_defence", []string{"lead jab", "reel"}, "throw"},
		{"Reed 11", "self_defence", []string{"wrist lock"}, "joint"},
		{"Reed 16", "self_defence", []string{"lead check, rear jab"}, ""},
		{"Reed 17", "self_defence", []string{"old grip"}, ""},
		{"Hand on the sleeve", "lock", nil, "joint"},
		{"Reed 12", "self_defence", []string{"Slip out of the headlock."}, "choke"},
		{"Reed 13", "self_defence", []string{"Take a step. Down goes the guard."}, ""},
		{"Reed 14", "self_defence", []string{"Bring him to the floor."}, "throw"},
		{"Reed 15", "self_defence", []string{"flying knee"}, "jump"},
		{"Release from a rear choke", "self_defence", nil, "choke"},
		{"Light rounds", "sparring", nil, "sparring"},
		{"One board", "board_break", nil, "surface"},
		{"Strip", "partner_set", []string{"Strong grip, then let go."}, ""},
	} {
		tech := Technique{ID: "x", Name: x.name, Kind: x.kind}
		if x.steps != nil {
			tech.Stages = steps(x.steps...)
		}
		all := base
		if x.name == "Sweeping block" || x.name == "Double forearm block" {
			all = base[2:]
		}
		b := Open(Curriculum{Techniques: append([]Technique{tech}, all...)})
		var got []string
		for _, c := range b.AllCautions(b.Technique("x")) {
			require.NotEmpty(t, c.Text)
			require.NotEmpty(t, c.Because)
			require.NotEmpty(t, c.About())
			got = append(got, c.Kind)
		}
		assert.Equal(t, x.want, strings.Join(got, " "), x.name)
	}
}

// TestCautionsByPart: what belongs to a later part or to one way in is shown to those who are
// asked for it; the school's own words stand in place of the usual ones, and a caution put
// aside stays with its reason.
func TestCautionsByPart(t *testing.T) {
	x := Technique{ID: "x", Name: "Weir", Kind: "self_defence", Cautions: []string{"target: no contact to the eyes", "Mind the wall.", "No throw: the sweep is only shown"}}
	x.Stages = []Stage{{Does: Appends, Steps: ParseSteps([]string{"Step in."})}, {Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"lead jab to eyes", "Sweep the leg."})}}
	x.Entries = []Entry{{Name: "direct", Steps: ParseSteps([]string{"Take the wrist."})}, {Name: "late", Steps: ParseSteps([]string{"wrist lock"})}}
	x.AttackMoves, x.Attack = "lead jab to throat", []AttackElement{{Kind: "front choke"}, {Kind: "club"}}
	b := Open(Curriculum{Rungs: []Rung{{ID: "white"}, {ID: "yellow"}}, Techniques: []Technique{x, {ID: "jab", Name: "Jab", Kind: "strike", TechniqueDetails: TechniqueDetails{Targets: []string{"left eye"}}}, {ID: "latch", Name: "Wrist lock", Kind: "lock"}}})
	kinds := func(stage int, entry string) (out []string) {
		for _, c := range b.Cautions(b.Technique("x"), stage, entry) {
			word := c.Kind
			if c.Aside != "" {
				word += " aside: " + c.Aside
			}
			out = append(out, word)
		}
		return out
	}
	assert.Equal(t, []string{"target", "", "choke", "weapon"}, kinds(1, ""))
	assert.Equal(t, []string{"target", "", "choke", "weapon", "throw aside: the sweep is only shown"}, kinds(2, "direct"))
	assert.Equal(t, []string{"target", "", "choke", "weapon", "joint"}, kinds(1, "late"))
	assert.Equal(t, []string{"no contact to the eyes", "Mind the wall.", usualCautions["choke"], usualCautions["weapon"]}, b.cautionsOf(b.Technique("x"), 2, "", "pads"), "what is put aside is not shown")
	assert.Equal(t, "target", b.AllCautions(b.Technique("jab"))[0].Kind, "target fields count")
	assert.ErrorContains(t, Technique{Name: "A", Kind: "kick", Cautions: []string{"no jump"}}.Check().Err(), "says no reason")
	assert.NoError(t, Technique{Name: "A", Kind: "kick", Cautions: []string{"no jump: both feet stay down", "no talking: ever"}}.Check().Err())

	kick := &Technique{ID: "k", Name: "Front kick", Kind: "kick"}
	for setting, want := range map[Setting]int{"": 0, "air": 0, "pads": 1, "boards": 1, "partner": 1} {
		assert.Len(t, b.cautionsOf(kick, 0, "", setting), want, setting)
	}
	kick.Cautions = []string{"surface: the ball of the foot"}
	assert.Equal(t, []string{"the ball of the foot"}, b.cautionsOf(kick, 0, "", "pads"))
	kick.Cautions = []string{"no surface: soft shields only"}
	assert.Empty(t, b.cautionsOf(kick, 0, "", "pads"))
}

// TestWhatATrackMayNot do is on no sheet of its members, the defence against it too.
func TestWhatATrackMayNot(t *testing.T) {
	sheet := func(track string, change func(*Curriculum)) TestSheet {
		return ladder(t, "White\n\tSelf-defence\n\tReed, 2 a side, as defender\n\tReed, 2 a side, as attacker\n\tFerry, 2 a side", func(c *Curriculum) {
			c.technique("reed").Attack = []AttackElement{{Kind: "rear choke", Origin: "rear"}}
			change(c)
		}).Compile(Asking{RungID: "white", TrackID: track})
	}
	none := func(*Curriculum) {}
	assert.Len(t, sheet("", none).Lines, 3)
	assert.Len(t, sheet("adults", none).Lines, 3)
	cubs := sheet("cubs", none)
	assert.Len(t, cubs.Lines, 1)
	assert.Equal(t, LeftOut{"Reed", "Not for Cubs: chokes and neck holds are not for a young track without the owner’s leave.", true}, cubs.LeftOut[0])
	assert.Len(t, sheet("cubs", func(c *Curriculum) { c.Program.Tracks[0].AllowsRisk = true }).Lines, 3)
	assert.Len(t, sheet("cubs", func(c *Curriculum) { c.technique("reed").Cautions = []string{"no choke: hands on the shoulders"} }).Lines, 3)
	assert.Len(t, sheet("cubs", func(c *Curriculum) { c.Program.Tracks[0].Young = false }).Lines, 3)
	suits := func(c *Curriculum) {
		c.technique("ferry").YoungestTrack = "adults"
		c.Program.Tracks[0].AllowsRisk = true
	}
	assert.Equal(t, []LeftOut{{"Ferry", "Not for Cubs: it suits Adults and older.", true}}, sheet("cubs", suits).LeftOut)
	assert.Len(t, sheet("adults", suits).Lines, 3)
}
