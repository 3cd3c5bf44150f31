package curriculum_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "velvetladder/internal/core/curriculum"
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
		{"Butterfly kick", "kick", nil, "jump"},
		{"Butterfly palm strike", "strike", nil, ""},
		{"540", "kick", nil, "jump"},
		{"Scissor kick", "kick", nil, "jump"},
		{"Cartwheel", "evasion", nil, "jump"},
		{"Dive roll", "breakfall", nil, "jump"},
		{"Side fall", "breakfall", nil, ""},
		{"Backflip", "breakfall", nil, "jump"},
		{"Chop to the side of the neck", "strike", nil, "target"},
		{"Elbow to back of head", "strike", nil, "target"},
		{"Neck chop", "strike", nil, "target"},
		{"Ridge hand to the temple", "strike", nil, ""},
		{"Nunchaku form", "form", nil, "weapon"},
		{"Bo kata", "form", nil, "weapon"},
		{"Fan form", "form", nil, "weapon"},
		{"Tiger fan", "form", nil, ""},
		{"Guillotine", "self_defence", nil, "choke"},
		{"Sleeper hold", "lock", nil, "joint choke"},
		{"Rear naked", "throw", nil, "throw choke"},
		{"Triangle from guard", "self_defence", nil, "choke"},
		{"Triangle step and reel", "self_defence", nil, ""},
		{"Goose neck", "self_defence", nil, "joint"},
		{"Hammerlock", "self_defence", nil, "joint"},
		{"Figure four", "self_defence", nil, "joint"},
		{"Heel hook defence", "self_defence", nil, "joint"},
		{"Heel hook kick", "kick", nil, ""},
		{"Come-along hold", "self_defence", nil, "joint"},
		{"Snap kick to the groin", "kick", nil, "target"},
		{"Back knuckle to temple, ribs and groin", "strike", nil, "target"}, {"Low kick to shin and knee", "kick", nil, "target"}, {"Palm to chin, knee", "strike", nil, ""}, {"Jab to head, body and chest", "strike", nil, ""},
		{"Knee sweep", "kick", nil, "throw"}, {"Sweep kick", "kick", nil, ""}, {"Rear sweep", "kick", nil, "throw"}, {"Claw to the face", "strike", nil, "target"}, {"Rake across the eyes", "strike", nil, "target"}, {"Palm to the face", "strike", nil, ""}, {"Sweep", "kick", nil, "throw"},
		{"Staff form 1", "form", nil, "weapon"},
		{"Stick vs empty hand", "sparring", nil, "sparring weapon"},
		{"Two Sticks", "form", nil, "weapon"},
		{"Knife pattern", "form", nil, "weapon"},
		{"Knife-hand form", "form", nil, ""},
		{"Sticky Rope", "form", nil, ""},
		{"Throat chop", "strike", nil, "target"},
		{"Knee strike", "strike", nil, ""},
		{"Knife threat to the throat", "block", nil, ""},
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
			require.NotEmpty(t, c.Ground)
			require.Contains(t, CautionKinds, c.Kind)
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
	told := func(words, _ []string) []string { return words }
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
	assert.Equal(t, []string{"no contact to the eyes", "Mind the wall.", UsualCautions["choke"], UsualCautions["weapon"]}, told(CautionsOf(b, b.Technique("x"), 2, "", "", "pads")), "what is put aside is not shown")
	_, risks := CautionsOf(b, b.Technique("x"), 2, "", "", "pads")
	assert.Equal(t, []string{"target", "choke", "weapon"}, risks, "a line of the school's own has no kind")
	own := &Technique{ID: "own", Name: "Low Weir", Kind: "self_defence", Cautions: []string{"joint: slowly", "throw: mats"}}
	own.Stages = []Stage{{Does: Appends, Steps: ParseSteps([]string{"Step in."})}, {Does: Appends, RungID: "yellow", Steps: ParseSteps([]string{"Sweep the leg."})}}
	o := Open(Curriculum{Rungs: []Rung{{ID: "white"}, {ID: "yellow"}}, Techniques: []Technique{*own}})
	for stage, want := range map[int][]string{1: {"joint"}, 2: {"joint", "throw"}} {
		words, risks := CautionsOf(o, o.Technique("own"), stage, "", "", "")
		assert.Equal(t, []string{"slowly", "mats"}, words, "what the school wrote is shown from the first")
		assert.Equal(t, want, risks, "the sweep comes at stage 2, of the joint only the school knows")
	}
	assert.Equal(t, "target", b.AllCautions(b.Technique("jab"))[0].Kind, "target fields count")
	assert.ErrorContains(t, Technique{Name: "A", Kind: "kick", Cautions: []string{"no jump"}}.Check().Err(), "says no reason")
	assert.NoError(t, Technique{Name: "A", Kind: "kick", Cautions: []string{"no jump: both feet stay down", "no talking: ever"}}.Check().Err())

	kick := &Technique{ID: "k", Name: "Front kick", Kind: "kick"}
	for setting, want := range map[Setting]int{"": 0, "air": 0, "pads": 1, "boards": 1, "partner": 1} {
		words, risks := CautionsOf(b, kick, 0, "", "", setting)
		assert.Len(t, words, want, setting)
		assert.Len(t, risks, want, setting)
	}
	kick.Cautions = []string{"surface: the ball of the foot"}
	assert.Equal(t, []string{"the ball of the foot"}, told(CautionsOf(b, kick, 0, "", "", "pads")))
	kick.Cautions = []string{"no surface: soft shields only"}
	assert.Empty(t, told(CautionsOf(b, kick, 0, "", "", "pads")))
}

// TestWhatATrackMayNot do is on no sheet of its members, the defence against it too.
func TestWhatATrackMayNot(t *testing.T) {
	sheet := func(track string, change func(*Curriculum)) TestSheet {
		return ladder(t, "White\n\tSelf-defence\n\tReed, 2 a side, as defender\n\tReed, 2 a side, as attacker\n\tFerry, 2 a side", func(c *Curriculum) {
			technique(c, "reed").Attack = []AttackElement{{Kind: "rear choke", Origin: "rear"}}
			change(c)
		}).Compile(Asking{RungID: "white", TrackID: track})
	}
	none := func(*Curriculum) {}
	assert.Len(t, sheet("", none).Lines, 3)
	assert.Len(t, sheet("adults", none).Lines, 3)
	cubs := sheet("cubs", none)
	assert.Len(t, cubs.Lines, 1)
	assert.Equal(t, LeftOut{Call: "Reed", Kind: LeftBarred, Reason: "Not for Cubs: chokes and neck holds are not for a young track without the owner’s leave."}, cubs.LeftOut[0])
	assert.Len(t, sheet("cubs", func(c *Curriculum) { c.Program.Tracks[0].AllowsRisk = true }).Lines, 3)
	assert.Len(t, sheet("cubs", func(c *Curriculum) { technique(c, "reed").Cautions = []string{"no choke: hands on the shoulders"} }).Lines, 3)
	assert.Len(t, sheet("cubs", func(c *Curriculum) { c.Program.Tracks[0].Young = false }).Lines, 3)
	suits := func(c *Curriculum) {
		technique(c, "ferry").YoungestTrack = "adults"
		c.Program.Tracks[0].AllowsRisk = true
	}
	assert.Equal(t, []LeftOut{{Call: "Ferry", Kind: LeftBarred, Reason: "Not for Cubs: it suits Adults and older."}}, sheet("cubs", suits).LeftOut)
	assert.Len(t, sheet("adults", suits).Lines, 3)
}

// TestCautionsOfRemarks: what stands after a dash, in a bracket or on the line below counts as
// the name does; nothing that it denies, and nothing that only sounds like it.
func TestCautionsOfRemarks(t *testing.T) {
	for _, x := range []struct {
		kind         Kind
		remark, want string
	}{
		{"self_defence", "w/ takedown", "throw"},
		{"self_defence", "finish with a throw", "throw"},
		{"self_defence", "ends in take-down and arm bar", "throw joint"},
		{"self_defence", "sweep optional", "throw"},
		{"self_defence", "no throw", ""},
		{"self_defence", "without the takedown", ""},
		{"self_defence", "no sweep or throw", ""},
		{"self_defence", "throw a jab first", ""},
		{"self_defence", "bring the hand down", ""},
		{"self_defence", "bring them down", "throw"},
		{"self_defence", "take him to the mat", "throw"},
		{"self_defence", "against a rear choke", "choke"},
		{"self_defence", "both headlocks", "choke"},
		{"self_defence", "vs knife", "weapon"},
		{"self_defence", "against the stick", "weapon"},
		{"self_defence", "knife-hand to the neck", ""},
		{"self_defence", "stick to the arm", ""},
		{"self_defence", "palm to groin", "target"},
		{"self_defence", "elbow to the throat, then lock", "target"},
		{"self_defence", "into a lock", "joint"},
		{"self_defence", "with a wrist lock", "joint"},
		{"self_defence", "drop to one knee", ""},
		{"self_defence", "circle over and lock the wrist", "joint"},
		{"lock", "bend his fingers back", "joint"},
		{"strike", "lock the elbow at the end", ""},
		{"stance", "bend the knee", ""},
		{"self_defence", "tuck the chin, strike the groin", "target"},
		{"self_defence", "step back, groin slap", "target"}, {"self_defence", "turn in, strike groin", "target"}, {"self_defence", "inward chop to neck", "target"}, {"self_defence", "arm round to the neck", ""},
		{"self_defence", "poking at the eyes", "target"},
		{"self_defence", "do not strike the throat", ""},
		{"self_defence", "cover the throat", ""},
		{"self_defence", "with Sweeping block", ""},
		{"throw", "hold on to the sleeve", "throw"},
		{"partner_set", "one throws, one falls", "throw"},
		{"kick", "jumping", "jump"},
		{"kick", "both legs, no jump", ""},
		{"kick", "(w/ a hop)", "jump"},
		{"kick", "groin", "target"},
		{"kick", "at the throat", "target"},
		{"kick", "knee", ""},
		{"kick", "to the knee", "target"},
		{"kick", "throw it fast", ""},
		{"strike", "throat level, controlled", "target"},
		{"kick", "at groin height", "target"},
		{"strike", "eye level", ""},
		{"strike", "staff", "weapon"},
		{"block", "low, with the staff", "weapon"},
		{"strike", "knife hand", ""},
		{"block", "groin level", ""},
		{"kick", "then sweep the front leg", "throw"},
		{"kick", "full spin, lands low", "jump"},
		{"strike", "lock the elbow out", ""},
		{"strike", "don't lock", ""},
		{"strike", "thrown from the hip", ""},
		{"block", "sweeping, not pushing", ""},
		{"block", "both forearms", ""},
		{"form", "with the jump in the last line", "jump"},
		{"form", "jump, front kick", "jump"},
		{"combination", "ends with a leg sweep", "throw"},
		{"combination", "jab to eyes", "target"},
		{"sparring", "no spinning kicks", "sparring"},
		{"sparring", "padded stick", "sparring weapon"},
		{"sparring", "takedowns allowed", "sparring throw"},
		{"fitness", "jump between sets", "fitness"},
		{"knowledge", "before a throw", ""},
		{"courtesy", "no jumping about", ""},
		{"character", "throw nothing away", ""},
	} {
		c := Curriculum{Rungs: []Rung{{ID: "white"}}, Sections: []Section{{ID: "all"}}}
		c.Techniques = []Technique{{ID: "x", Name: "Ferry", Kind: x.kind}, {ID: "block", Name: "Sweeping block", Kind: "block"}, {ID: "front", Name: "Front kick", Kind: "kick"}, {ID: "jab", Name: "Jab", Kind: "strike"}}
		c.Requirements = []Requirement{{ID: "r", RungID: "white", SectionID: "all", TechniqueID: "x", Note: x.remark}, {ID: "s", RungID: "white", SectionID: "all", TechniqueID: "block"}}
		kinds := func(list []Caution) (out []string) {
			for _, got := range list {
				require.NotEmpty(t, got.Ground)
				out = append(out, got.Kind)
			}
			return out
		}
		b := Open(c)
		assert.ElementsMatch(t, strings.Fields(x.want), kinds(b.AllCautions(b.Technique("x"))), "%s: %s", x.kind, x.remark)
		lines := b.Compile(Asking{RungID: "white"}).Lines
		require.Len(t, lines, 2)
		var texts []string
		for _, kind := range strings.Fields(x.want) {
			texts = append(texts, UsualCautions[kind])
		}
		assert.ElementsMatch(t, texts, lines[0].Cautions, "%s: %s", x.kind, x.remark)
		assert.Empty(t, lines[1].Cautions, "the line beside it")

		c.Requirements[0].Note, c.Techniques[0].Note = "", x.remark
		b = Open(c)
		assert.ElementsMatch(t, strings.Fields(x.want), kinds(b.AllCautions(b.Technique("x"))), "the technique's own remark, %s: %s", x.kind, x.remark)
	}
}

// TestCautionsOfNames of defences, which schools write as sentences.
func TestCautionsOfNames(t *testing.T) {
	for name, want := range map[string]string{
		"Lapel grab with take-down": "throw", "Defence 3: leg sweep": "throw", "Knife defence 1": "weapon", "Knife-hand gate": "", "Stick attack, overhead": "weapon", "Wrist grab into arm bar": "joint",
		"Two-hand chokehold": "choke", "Sweeping reed": "", "Escape, no takedown": "", "Club night routine": "", "Defence against a club": "weapon", "Sticky hands": "",
	} {
		b := Open(Curriculum{Techniques: []Technique{{ID: "x", Name: name, Kind: "self_defence"}}})
		var got []string
		for _, c := range b.AllCautions(b.Technique("x")) {
			got = append(got, c.Kind)
		}
		assert.ElementsMatch(t, strings.Fields(want), got, name)
	}
}

// TestCautionsOfNamesThatDoMore: a throw that ends in a lock, a lock that ends in a takedown.
func TestCautionsOfNamesThatDoMore(t *testing.T) {
	for name, x := range map[string]struct {
		kind Kind
		want []string
	}{
		"Outer sweep into arm bar": {"throw", []string{"throw", "joint"}}, "Finger lock with takedown": {"lock", []string{"joint", "throw"}}, "Hip throw": {"throw", []string{"throw"}}, "Sleeve hold": {"lock", []string{"joint"}},
	} {
		b := Open(Curriculum{Techniques: []Technique{{ID: "x", Name: name, Kind: x.kind}}})
		var got []string
		for _, c := range b.AllCautions(b.Technique("x")) {
			got = append(got, c.Kind)
		}
		assert.ElementsMatch(t, x.want, got, name)
	}
}

// TestRemarksOnYoungTracks: a choke in a remark keeps that line, and only that, from the sheets of
// a young track; the owner is told, and of other risks too.
func TestRemarksOnYoungTracks(t *testing.T) {
	school := func(remark string) *Book {
		return ladder(t, "White\n\tSelf-defence\n\tReed, 2 a side\n\tFerry, 2 a side\nYellow\n\tSelf-defence\n\tReed, 3 a side", func(c *Curriculum) {
			c.Requirements[2].Note = remark
		})
	}
	told := func(b *Book) (out []string) {
		for _, f := range b.Check() {
			if f.Kind == RiskyYoung {
				out = append(out, placeOf(f))
			}
		}
		return out
	}
	assert.Empty(t, told(school("")))
	gripped := func(own []string, note string) []string {
		b := school(note)
		technique(&b.Curriculum, "reed").Cautions = own
		return told(Open(b.Curriculum))
	}
	assert.Empty(t, gripped([]string{"joint: slowly, to the tap"}, ""), "a careful grip may say joint of itself")
	assert.Equal(t, []string{"Yellow, Reed"}, gripped(nil, "with a wrist lock"))
	assert.Equal(t, []string{"Yellow, Reed"}, told(school("with a jump over the leg")))
	assert.Len(t, school("with a jump over the leg").Compile(Asking{RungID: "yellow", TrackID: "cubs"}).LeftOut, 0)
	b := school("from a headlock")
	assert.Equal(t, []string{"Yellow, Reed"}, told(b))
	white, yellow := b.Compile(Asking{RungID: "white", TrackID: "cubs"}), b.Compile(Asking{RungID: "yellow", TrackID: "cubs"})
	assert.Len(t, white.Lines, 2)
	assert.Empty(t, white.LeftOut)
	require.Len(t, yellow.LeftOut, 1)
	assert.Contains(t, yellow.LeftOut[0].Reason, "chokes and neck holds")
}

// TestPartsInNames: what is named after a part that is not struck in earnest has its caution, whatever is done to it; a knee that strikes has none.
func TestPartsInNames(t *testing.T) {
	for name, due := range map[string]bool{"Eye flick": true, "Eye gouge": true, "Groin slap": true, "Throat rip": true, "Groin knee": true, "Spine elbow": true,
		"Knee strike": false, "Eye contact": false, "Throaty shout": false} {
		b := Open(Curriculum{Techniques: []Technique{{ID: "x", Name: name, Kind: "strike"}}})
		said := slices.ContainsFunc(b.Cautions(b.Technique("x"), 0, ""), func(c Caution) bool { return c.Kind == "target" })
		assert.Equal(t, due, said, name)
	}
}
