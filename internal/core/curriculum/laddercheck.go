package curriculum

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"

	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/scoring"
)

// FindingKind says what sort of hole a finding is.
type FindingKind string

// The kinds of finding, in the order they are listed.
const (
	AsksNothing      FindingKind = "asks_nothing"      // a rung, or a track of it, that asks for nothing
	BeforeBase       FindingKind = "before_base"       // a technique required before what it builds on
	StageOrder       FindingKind = "stage_order"       // stages out of rung order
	StageGone        FindingKind = "stage_gone"        // a stage, carry or branch that points at nothing
	BeforeStage      FindingKind = "before_stage"      // asked below the rung of its first stage
	NumberTwice      FindingKind = "number_twice"      // two of one series with one number
	NumberMissing    FindingKind = "number_missing"    // a number left out of a series
	OneSided         FindingKind = "one_sided"         // only ever trained on one side
	CautionMissing   FindingKind = "caution_missing"   // a risky item without its caution
	RiskyYoung       FindingKind = "risky_young"       // a risky item on a young track
	NoKit            FindingKind = "no_kit"            // sparring with no kit list
	NoRule           FindingKind = "no_rule"           // sparring with no sparring rule
	MarkOutOfReach   FindingKind = "mark_out_of_reach" // a pass mark that cannot be reached
	MarkCannotFail   FindingKind = "mark_cannot_fail"  // a pass mark that cannot be missed
	MinimumEmpty     FindingKind = "minimum_empty"     // a section minimum with no counted line
	LoadJump         FindingKind = "load_jump"         // more than twice a neighbour's lines or minutes
	CallTwice        FindingKind = "call_twice"        // one call number given twice
	AttackUnanswered FindingKind = "attack_unanswered" // an attack no rung answers
	Unreadable       FindingKind = "unreadable"        // moves that cannot be read
	InDoubt          FindingKind = "in_doubt"          // moves that could be meant otherwise
	RelationOpen     FindingKind = "relation_open"     // a step told in relation to an attack that is not clear
	ReadOtherwise    FindingKind = "read_otherwise"    // moves that have another meaning than when they were written
	SaysSide         FindingKind = "says_side"         // a sentence that says left or right and so is told to everybody alike
	StanceCannot     FindingKind = "stance_cannot"     // a stance whose measures contradict each other
	EndsElsewhere    FindingKind = "ends_elsewhere"    // a form that should end where it began, and does not
	ArmOpposite      FindingKind = "arm_opposite"      // a defence that comes out on the other side of the arm than stated
)

// FindingKinds are all of them.
var FindingKinds = []FindingKind{AsksNothing, BeforeBase, StageOrder, StageGone, BeforeStage, NumberTwice, NumberMissing, OneSided, CautionMissing, RiskyYoung, NoKit, NoRule,
	MarkOutOfReach, MarkCannotFail, MinimumEmpty, LoadJump, CallTwice, AttackUnanswered, Unreadable, InDoubt, RelationOpen, ReadOtherwise, SaysSide, StanceCannot, EndsElsewhere, ArmOpposite}

// Finding is a hole in a curriculum.
type Finding struct {
	Kind        FindingKind
	Case        FindingCase // which of several holes of its kind
	RungID      string      // where it is; "" where no rung is meant
	TechniqueID string
	Requirement string // id, where it is about one line
	Subject     string // what tells it from others of its kind and place
	Where       Where
	Facts       Facts
	Silenced    string // the reason it is kept quiet; "" it is open
}

// FindingCase is which of several holes of one kind a finding is.
type FindingCase string

// The cases of kinds that have several; the words behind name the facts they use.
const (
	NobodyAsks     FindingCase = "nobody asks"      // of asks_nothing
	TrackLeavesAll FindingCase = "track leaves all" // of asks_nothing: the track of the place
	BaseNowhere    FindingCase = "base nowhere"     // of before_base: Other
	BaseHigher     FindingCase = "base higher"      // of before_base: Other, first asked at Rung, N higher
	PartOffLadder  FindingCase = "part off ladder"  // of stage_gone
	NextGone       FindingCase = "next gone"        // of stage_gone
	BranchGone     FindingCase = "branch gone"      // of stage_gone: Text, when
	CarryGone      FindingCase = "carry gone"       // of stage_gone
	SideTrained    FindingCase = "side trained"     // of one_sided: Text, the side
	SideInForm     FindingCase = "side in form"     // of one_sided: Name comes N times with the Text
	RiskAsked      FindingCase = "risk asked"       // of risky_young: Text, the kind of caution
	BarredAsked    FindingCase = "barred asked"     // of risky_young: Err, a NotFor
	LinesJump      FindingCase = "lines jump"       // of load_jump: N lines, M at Rung
	MinutesJump    FindingCase = "minutes jump"     // of load_jump: N minutes, M at Rung
	AnswersTorn    FindingCase = "answers torn"     // of relation_open: Text, what it answers
	AnswersNothing FindingCase = "answers nothing"  // of relation_open
)

// Facts are what a finding rests on. Of kinds without cases: stage_order arrives at Rung, the part before at Other;
// before_stage arrives at Rung; number_twice Name and Other at Rung, "" at none; number_missing N below M; caution_missing Text, the
// kind, by Ground; mark_out_of_reach and mark_cannot_fail Needed and Offered points; minimum_empty Name, a section; call_twice Name and
// Other; attack_unanswered Names, which would answer; unreadable Err; in_doubt Text, from column N; read_otherwise Text, a move, which
// Was and Is; stance_cannot Trouble; ends_elsewhere Ends; arm_opposite said Text, is Other, ByHand or by the feet.
type Facts struct {
	Name, Other, Rung string
	Names             []string
	Text              string
	N, M              int
	Needed, Offered   scoring.Decimal
	Ground            Ground
	Err               error
	Was, Is           notation.Step
	Trouble           floor.Trouble
	Ends              floor.Point
	ByHand            bool
}

// Where is the place of a finding, by names; what it is not about is empty.
type Where struct {
	Rung, Technique, Track string
	Part                   string // a stage or an entry
	Step                   int    // from 1
	Attacker               bool   // the attacker's part
	Series                 string
	Number                 int // in the series
	Call                   int
	Attack                 string // as written
}

// Key is what a silence names: it stays the same as long as the hole does.
func (f Finding) Key() string {
	return strings.Join([]string{string(f.Kind), f.RungID, f.TechniqueID, f.Requirement, f.Subject}, "/")
}

// Check is the ladder check: all findings, by kind, then up the ladder. Silenced ones come
// with their reason.
func (b *Book) Check() []Finding {
	b.checked.Do(func() { b.found = b.check() })
	return slices.Clone(b.found)
}

func (b *Book) check() []Finding {
	c := checker{Book: b}
	c.rungs()
	c.techniques()
	c.requirements()
	c.series()
	c.calls()
	c.load()
	c.passMarks()
	c.attacks()
	c.onTheFloor()
	silenced := map[string]string{}
	for _, s := range b.Program.Silenced {
		silenced[s.Finding] = s.Reason
	}
	for i := range c.found {
		c.found[i].Silenced = silenced[c.found[i].Key()]
	}
	slices.SortStableFunc(c.found, func(x, y Finding) int {
		return cmp.Or(cmp.Compare(slices.Index(FindingKinds, x.Kind), slices.Index(FindingKinds, y.Kind)), cmp.Compare(b.Place(x.RungID), b.Place(y.RungID)))
	})
	return c.found
}

// Place is a rung's place on the ladder, from 0; -1 for none.
func (b *Book) Place(rung string) int {
	if at, there := b.rungs[rung]; there {
		return at
	}
	return -1
}

type checker struct {
	*Book
	found  []Finding
	sheets map[string][]TestSheet // track → by rung
}

func (c *checker) add(f Finding) { c.found = append(c.found, f) }

// compiled are the sheets of a track, compiled once.
func (c *checker) compiled(track string) []TestSheet {
	if c.sheets == nil {
		c.sheets = map[string][]TestSheet{}
	}
	if all, there := c.sheets[track]; there {
		return all
	}
	var all []TestSheet
	for _, r := range c.Rungs {
		all = append(all, c.compile(Asking{RungID: r.ID, TrackID: track, Group: LoadGroup}, false))
	}
	c.sheets[track] = all
	return all
}

// eachTrack calls f for every track, or once for none.
func (c *checker) eachTrack(f func(id, name string)) {
	if len(c.Program.Tracks) == 0 {
		f("", "")
	}
	for _, t := range c.Program.Tracks {
		f(t.ID, t.Name)
	}
}

func (c *checker) rungs() {
	for i, r := range c.Rungs {
		if i == 0 {
			continue // nobody is tested for the lowest
		}
		if len(c.byRung[i]) == 0 {
			c.add(Finding{Kind: AsksNothing, RungID: r.ID, Case: NobodyAsks, Where: Where{Rung: r.Name}})
			continue
		}
		for _, t := range c.Program.Tracks {
			if len(c.compiled(t.ID)[i].Lines) == 0 {
				c.add(Finding{Kind: AsksNothing, RungID: r.ID, Subject: t.ID, Case: TrackLeavesAll, Where: Where{Rung: r.Name, Track: t.Name}})
			}
		}
	}
}

func (c *checker) techniques() {
	for i := range c.Techniques {
		t := &c.Techniques[i]
		c.stages(t)
		c.cautions(t)
		c.moves(t)
		if (t.Sides == LeftOnly || t.Sides == RightOnly) && len(c.byTechnique[t.ID]) > 0 {
			c.add(Finding{Kind: OneSided, TechniqueID: t.ID, Case: SideTrained, Where: Where{Technique: t.Name}, Facts: Facts{Text: string(t.Sides)}})
		}
		c.sided(t)
	}
}

// sided looks at the moves of forms: a technique in them done at least three times, always
// with one limb.
func (c *checker) sided(t *Technique) {
	if t.Kind != "form" || len(t.Stages) == 0 {
		return
	}
	var steps []notation.Step
	for _, own := range c.walk(c.told(t, len(t.Stages), "", -1), person{named: true}).steps {
		steps = append(steps, own...)
	}
	type sides struct{ left, right int }
	count := map[string]sides{}
	for _, s := range steps {
		x := count[s.Move.Name]
		switch s.Limb() {
		case notation.Left:
			x.left++
		case notation.Right:
			x.right++
		}
		count[s.Move.Name] = x
	}
	for _, s := range steps {
		x := count[s.Move.Name]
		delete(count, s.Move.Name)
		if x.left+x.right >= 2 && (x.left == 0 || x.right == 0) {
			side := "right"
			if x.left > 0 {
				side = "left"
			}
			c.add(Finding{Kind: OneSided, TechniqueID: t.ID, Subject: s.Move.Technique, Case: SideInForm, Where: Where{Technique: t.Name}, Facts: Facts{Name: s.Move.Name, N: x.left + x.right, Text: side}})
		}
	}
}

func (c *checker) stages(t *Technique) {
	last := -1
	for i, s := range t.Stages {
		if s.RungID == "" && i == 0 {
			continue
		}
		at, there := c.Book.rungs[s.RungID]
		if !there {
			c.add(Finding{Kind: StageGone, TechniqueID: t.ID, Subject: fmt.Sprint("stage", i+1), Case: PartOffLadder, Where: Where{Technique: t.Name, Part: t.StageName(i + 1)}})
			continue
		}
		if at < last {
			c.add(Finding{Kind: StageOrder, RungID: s.RungID, TechniqueID: t.ID, Subject: fmt.Sprint(i + 1),
				Where: Where{Technique: t.Name, Part: t.StageName(i + 1)}, Facts: Facts{Rung: c.Rungs[at].Name, Other: c.Rungs[last].Name}})
		}
		last = max(last, at)
		if s.Does == Attaches && c.Technique(s.Attached) == nil {
			c.add(Finding{Kind: StageGone, TechniqueID: t.ID, Subject: fmt.Sprint("attached", i+1), Case: NextGone, Where: Where{Technique: t.Name, Part: t.StageName(i + 1)}})
		}
	}
	for i, br := range t.Branches {
		if br.Then == GoTo && c.Technique(br.TechniqueID) == nil {
			c.add(Finding{Kind: StageGone, TechniqueID: t.ID, Subject: fmt.Sprint("branch", i+1), Case: BranchGone, Where: Where{Technique: t.Name}, Facts: Facts{Text: br.When}})
		}
	}
}

func (c *checker) cautions(t *Technique) {
	if len(c.byTechnique[t.ID]) == 0 {
		return
	}
	for _, x := range c.AllCautions(t) {
		if x.Ground.Kind != "" && x.Aside == "" && x.Kind != "fitness" && x.Kind != "surface" && x.Kind != "target" {
			c.add(Finding{Kind: CautionMissing, TechniqueID: t.ID, Subject: x.Kind, Where: Where{Technique: t.Name}, Facts: Facts{Text: x.Kind, Ground: x.Ground}})
		}
	}
}

// moves looks at every step of a technique at every stage and entry, and at the attacker's part.
func (c *checker) moves(t *Technique) {
	seen := map[string]bool{}
	tell := func(x *told) {
		for _, d := range x.doubts {
			s := x.steps[d.step]
			place, subject := stepPlace(t, s)
			if s.Of != "" || seen[subject] {
				continue
			}
			seen[subject] = true
			if d.reason != nil {
				c.add(Finding{Kind: Unreadable, TechniqueID: t.ID, Subject: subject, Where: place, Facts: Facts{Err: d.reason}})
				continue
			}
			c.add(Finding{Kind: InDoubt, TechniqueID: t.ID, Subject: subject, Where: place, Facts: Facts{N: d.doubt.Column, Text: d.doubt.Reason}})
		}
		c.relations(t, x)
		c.sentences(t, x)
		c.readOtherwise(t, x)
	}
	for n := range max(len(t.Stages), 1) {
		tell(c.told(t, n+1, "", -1))
	}
	for _, e := range t.Entries {
		tell(c.told(t, len(t.Stages), e.Name, -1))
	}
	if t.AttackMoves == "" {
		return
	}
	place := Where{Technique: t.Name, Attacker: true}
	r, err := c.reading(t.AttackMoves)
	if err != nil {
		c.add(Finding{Kind: Unreadable, TechniqueID: t.ID, Subject: "attack", Where: place, Facts: Facts{Err: err}})
	}
	for _, d := range r.Doubts {
		c.add(Finding{Kind: InDoubt, TechniqueID: t.ID, Subject: "attack", Where: place, Facts: Facts{N: d.Column, Text: d.Reason}})
	}
}

// stepPlace is where a step of a technique stands, and a finding's subject.
func stepPlace(t *Technique, s TaughtStep) (place Where, subject string) {
	if s.Entry != "" {
		return Where{Technique: t.Name, Part: s.Entry, Step: s.Number}, fmt.Sprintf("%s.%d", s.Entry, s.Number)
	}
	return Where{Technique: t.Name, Part: t.StageName(s.Stage), Step: s.Number}, fmt.Sprintf("%d.%d", s.Stage, s.Number)
}

// readOtherwise looks for steps in which a limb, who leads or the facing is another than before
// the language of moves grew. Steps go on from each other, so that they are read together.
func (c *checker) readOtherwise(t *Technique, x *told) {
	if !c.Program.ReadAnew || c.Catalogue == nil {
		return
	}
	n, was, is := c.Catalogue.ChangedMeaning(notation.Join(x.seqs...))
	if n < 0 {
		return
	}
	for i, seq := range x.seqs {
		written := 0
		seq.All(func(int, int, *notation.Move) { written++ })
		if n >= written {
			n -= written
			continue
		}
		if x.steps[i].Of != "" {
			return
		}
		place, subject := stepPlace(t, x.steps[i])
		f := Finding{Kind: ReadOtherwise, TechniqueID: t.ID, Subject: subject, Where: place, Facts: Facts{Text: is.Move.String(), Was: was, Is: is}}
		if !slices.ContainsFunc(c.found, func(y Finding) bool { return y.Key() == f.Key() }) {
			c.add(f)
		}
		return
	}
}

// relations looks for steps told in relation to an attack that they do not name clearly.
func (c *checker) relations(t *Technique, x *told) {
	for i, m := range c.walk(x, person{named: true}).matches {
		place, subject := stepPlace(t, x.steps[i])
		f := Finding{Kind: RelationOpen, TechniqueID: t.ID, Subject: subject, Where: place}
		switch m {
		case notation.Torn:
			f.Case, f.Facts.Text = AnswersTorn, x.steps[i].Answers
		case notation.Nothing:
			f.Case = AnswersNothing
		default:
			continue
		}
		if !slices.ContainsFunc(c.found, func(y Finding) bool { return y.Key() == f.Key() }) {
			c.add(f)
		}
	}
}

// sentences looks for left and right said in words, which nobody can mirror. What is never
// mirrored for a person may say them.
func (c *checker) sentences(t *Technique, x *told) {
	if x.fixed || x.defends && x.limbs {
		return
	}
	for i, seq := range x.seqs {
		says := false
		seq.All(func(_, _ int, m *notation.Move) { says = says || m.SaysSides() })
		if !says {
			continue
		}
		place, subject := stepPlace(t, x.steps[i])
		f := Finding{Kind: SaysSide, TechniqueID: t.ID, Subject: subject, Where: place}
		if !slices.ContainsFunc(c.found, func(y Finding) bool { return y.Key() == f.Key() }) {
			c.add(f)
		}
	}
}

func (c *checker) requirements() {
	first := map[string]int{} // technique → lowest rung that asks for it
	for i := range c.Techniques {
		id := c.Techniques[i].ID
		first[id] = -1
		if list := c.byTechnique[id]; len(list) > 0 {
			first[id] = c.Book.rungs[c.Requirements[list[0]].RungID]
		}
	}
	for i := range c.Techniques {
		t := &c.Techniques[i]
		at := first[t.ID]
		if at < 0 {
			continue
		}
		rung := c.Rungs[at]
		for _, id := range t.BuildsOn {
			base := c.Technique(id)
			if base == nil {
				continue
			}
			switch on := first[id]; {
			case on < 0:
				c.add(Finding{Kind: BeforeBase, RungID: rung.ID, TechniqueID: t.ID, Subject: id, Case: BaseNowhere, Where: Where{Rung: rung.Name, Technique: t.Name}, Facts: Facts{Other: base.Name}})
			case on > at:
				c.add(Finding{Kind: BeforeBase, RungID: rung.ID, TechniqueID: t.ID, Subject: id, Case: BaseHigher, Where: Where{Rung: rung.Name, Technique: t.Name}, Facts: Facts{Other: base.Name, Rung: c.Rungs[on].Name, N: on - at}})
			}
		}
		if len(t.Stages) > 0 && c.StageAt(t, at) == 0 {
			c.add(Finding{Kind: BeforeStage, RungID: rung.ID, TechniqueID: t.ID, Where: Where{Rung: rung.Name, Technique: t.Name}, Facts: Facts{Rung: c.RungName(t.Stages[0].RungID)}})
		}
		c.young(t)
	}
	for i := range c.Requirements {
		r := &c.Requirements[i]
		t := c.Technique(r.TechniqueID)
		if t == nil {
			continue
		}
		if r.Carry.Kind == Until && c.Rung(r.Carry.Rung) == nil || r.Carry.Kind == Sample && c.Group(r.Carry.Group) == nil {
			c.add(Finding{Kind: StageGone, RungID: r.RungID, TechniqueID: t.ID, Requirement: r.ID, Case: CarryGone, Where: Where{Rung: c.RungName(r.RungID), Technique: t.Name}})
		}
		if t.Kind == "sparring" {
			c.sparring(r, t)
		}
	}
}

func (c *checker) sparring(r *Requirement, t *Technique) {
	place := Where{Rung: c.RungName(r.RungID), Technique: t.Name}
	if len(c.KitOf(r.RungID)) == 0 {
		c.add(Finding{Kind: NoKit, RungID: r.RungID, TechniqueID: t.ID, Where: place})
	}
	if c.SparringOf(r.RungID) == nil {
		c.add(Finding{Kind: NoRule, RungID: r.RungID, TechniqueID: t.ID, Where: place})
	}
}

// young looks for risky items on young tracks, and items below the youngest track they suit.
func (c *checker) young(t *Technique) {
	suits, limited := c.tracks[t.YoungestTrack]
	for n, track := range c.Program.Tracks {
		below := limited && n < suits
		if !below && (!track.Young || track.AllowsRisk) {
			continue
		}
		for _, i := range c.byTechnique[t.ID] {
			r := &c.Requirements[i]
			risk := c.riskOf(t, r.Note)
			if r.leftOut(track.ID) || !below && risk == "" {
				continue
			}
			f := Finding{Kind: RiskyYoung, Case: RiskAsked, RungID: r.RungID, TechniqueID: t.ID, Requirement: r.ID, Subject: track.ID, Where: Where{Rung: c.RungName(r.RungID), Technique: t.Name}, Facts: Facts{Name: track.Name, Text: risk}}
			if no := c.MayNot(t, r.Note, &track); no != nil {
				f.Case, f.Facts.Err = BarredAsked, no
			}
			c.add(f)
			break
		}
	}
}

// riskOf is the kind of caution for which a technique asked with a remark is risky for the young;
// "" none.
func (c *checker) riskOf(t *Technique, remark string) (risk string) {
	for _, x := range c.Cautions(t, Whole, "", remark) {
		risky := slices.Contains([]string{"choke", "weapon", "jump"}, x.Kind) || x.Kind == "joint" && (x.Ground.Kind != "" || t.Kind == "lock") // a careful grip may say joint of itself
		if x.Aside == "" && risky && (risk == "" || x.Kind == "choke") {
			risk = x.Kind
		}
	}
	return risk
}

// series looks at numbers within a series: unique per rung, and none missing from its lowest up.
func (c *checker) series() {
	type spot struct {
		series string
		rung   int
		number int
	}
	seen := map[spot]*Technique{}
	numbers := map[string]map[int]bool{}
	names := map[string]string{}
	for i := range c.Techniques {
		t := &c.Techniques[i]
		if t.Series == "" || t.Number == 0 {
			continue
		}
		key := strings.ToLower(t.Series)
		if numbers[key] == nil {
			numbers[key] = map[int]bool{}
			names[key] = t.Series
		}
		numbers[key][t.Number] = true
		at := -1
		if list := c.byTechnique[t.ID]; len(list) > 0 {
			at = c.Book.rungs[c.Requirements[list[0]].RungID]
		}
		s := spot{key, at, t.Number}
		if other := seen[s]; other != nil {
			facts := Facts{Name: other.Name, Other: t.Name}
			if at >= 0 {
				facts.Rung = c.Rungs[at].Name
			}
			c.add(Finding{Kind: NumberTwice, TechniqueID: t.ID, Subject: other.ID, Where: Where{Series: t.Series, Number: t.Number}, Facts: facts})
			continue
		}
		seen[s] = t
	}
	for _, key := range sortedKeys(numbers) {
		all := slices.Sorted(maps.Keys(numbers[key]))
		low, top := all[0], all[len(all)-1] // a series may start above 1
		for n := low; n < top; n++ {
			if !numbers[key][n] {
				c.add(Finding{Kind: NumberMissing, Subject: fmt.Sprintf("%s %d", key, n), Where: Where{Series: names[key]}, Facts: Facts{N: n, M: top}})
			}
		}
	}
}

func sortedKeys[V any](m map[string]V) (out []string) {
	for k := range m {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}

func (c *checker) calls() {
	first := map[int]*Technique{}
	for i := range c.Techniques {
		t := &c.Techniques[i]
		if t.Call == 0 {
			continue
		}
		if other := first[t.Call]; other != nil {
			c.add(Finding{Kind: CallTwice, TechniqueID: t.ID, Subject: other.ID, Where: Where{Call: t.Call}, Facts: Facts{Name: other.Name, Other: t.Name}})
			continue
		}
		first[t.Call] = t
	}
}

// fewLines and fewSeconds: rungs that ask for less are too small for a jump to mean much.
const fewLines, fewSeconds = 6, 600

func (c *checker) load() {
	c.eachTrack(func(track, name string) {
		sheets := c.compiled(track)
		for i := 2; i < len(sheets); i++ {
			low, high := sheets[i-1], sheets[i]
			lr, hr := c.Rungs[i-1], c.Rungs[i]
			if len(low.Lines) == 0 || len(high.Lines) == 0 {
				continue // that is a finding of its own
			}
			if low.Seconds > high.Seconds || len(low.Lines) > len(high.Lines) {
				if len(low.Lines) > 2*len(high.Lines) || low.Seconds > 2*high.Seconds {
					low, high, lr, hr = high, low, hr, lr
				}
			}
			f := Finding{Kind: LoadJump, RungID: hr.ID, Subject: track, Where: Where{Rung: hr.Name, Track: name}, Facts: Facts{Rung: lr.Name}}
			switch {
			case len(high.Lines) > 2*len(low.Lines) && len(high.Lines) >= fewLines:
				f.Case, f.Facts.N, f.Facts.M = LinesJump, len(high.Lines), len(low.Lines)
				c.add(f)
			case high.Seconds > 2*low.Seconds && high.Seconds >= fewSeconds:
				f.Case, f.Facts.N, f.Facts.M = MinutesJump, high.Minutes(), low.Minutes()
				c.add(f)
			}
		}
	})
}

// passMarks holds the program's usual policy against the points each rung offers.
func (c *checker) passMarks() {
	p := c.Program.Policy
	if p == nil {
		return
	}
	c.eachTrack(func(track, name string) {
		for i, sheet := range c.compiled(track) {
			if i == 0 || len(sheet.Lines) == 0 {
				continue
			}
			rung := c.Rungs[i]
			full, least := c.points(sheet)
			f := Finding{RungID: rung.ID, Subject: track, Where: Where{Rung: rung.Name, Track: name}}
			if t := p.Rules.Threshold; t != nil && *t > full {
				f.Kind, f.Facts = MarkOutOfReach, Facts{Needed: *t, Offered: full}
				c.add(f)
			} else if t != nil && *t <= least {
				f.Kind, f.Facts = MarkCannotFail, Facts{Needed: *t, Offered: least}
				c.add(f)
			}
			for _, m := range p.Rules.SectionMinima {
				counted := slices.ContainsFunc(sheet.Lines, func(l Line) bool { return strings.EqualFold(l.Section, m.Section) && !l.Bonus })
				if !counted {
					f.Kind, f.Subject, f.Facts = MinimumEmpty, track+" "+m.Section, Facts{Name: m.Section}
					c.add(f)
				}
			}
		}
	})
}

// points are the most and the least a sheet can give under the usual policy.
func (c *checker) points(sheet TestSheet) (full, least scoring.Decimal) {
	s := c.Program.Policy.Scale
	if c.Program.Marking == CategoryPoints {
		counted := map[string]bool{}
		for _, l := range sheet.Lines {
			counted[l.Section] = counted[l.Section] || !l.Bonus
		}
		for _, counts := range counted {
			if counts {
				full += s.Highest
				least += s.Lowest
			}
		}
		return full, least
	}
	for _, l := range sheet.Lines {
		if !l.Bonus {
			full += scoring.Decimal(l.Weight) * s.Highest
			least += scoring.Decimal(l.Weight) * s.Lowest
		}
	}
	return full, least
}

func (c *checker) attacks() {
	for _, row := range c.Coverage() {
		if row.Answered() >= 0 {
			continue
		}
		names := []string{}
		for _, a := range row.Answers {
			names = append(names, c.Technique(a.TechniqueID).Name)
		}
		c.add(Finding{Kind: AttackUnanswered, TechniqueID: row.Answers[0].TechniqueID, Subject: row.Words(), Where: Where{Attack: row.Words()}, Facts: Facts{Names: names}})
	}
}
