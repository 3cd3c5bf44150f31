package curriculum

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"

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

// Words is the kind as a heading.
func (k FindingKind) Words() string {
	return map[FindingKind]string{
		AsksNothing: "Asks for nothing", BeforeBase: "Asked before what it builds on", StageOrder: "Stages out of order", StageGone: "Points at nothing", BeforeStage: "Asked before its first stage",
		NumberTwice: "One number twice", NumberMissing: "A number missing", OneSided: "One side only", CautionMissing: "Caution missing", RiskyYoung: "Risky on a young track", NoKit: "Sparring without a kit list",
		NoRule: "Sparring without a rule", MarkOutOfReach: "Pass mark out of reach", MarkCannotFail: "Pass mark cannot be missed", MinimumEmpty: "Minimum without a line", LoadJump: "A jump in load",
		CallTwice: "Call number given twice", AttackUnanswered: "Attack without an answer", Unreadable: "Moves that cannot be read",
		InDoubt: "Moves that could be meant otherwise", RelationOpen: "Which attack a step answers", ReadOtherwise: "Read differently since the upgrade", SaysSide: "Left or right said in words",
		StanceCannot: "Stances nobody can stand in", EndsElsewhere: "Forms that end elsewhere", ArmOpposite: "The other side of the arm",
	}[k]
}

// Finding is a hole in a curriculum.
type Finding struct {
	Kind        FindingKind
	RungID      string // where it is; "" where no rung is meant
	TechniqueID string
	Requirement string // id, where it is about one line
	Subject     string // what tells it from others of its kind and place
	Place       string // in words
	Reason      string
	Mend        string // a suggestion
	Silenced    string // the reason it is kept quiet; "" it is open
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
		all = append(all, c.compile(Asking{RungID: r.ID, TrackID: track, Group: loadGroup}, false))
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
			c.add(Finding{Kind: AsksNothing, RungID: r.ID, Place: r.Name, Reason: "No requirement stands at this rung.", Mend: "Add what a candidate has to show, or take the rung out."})
			continue
		}
		for _, t := range c.Program.Tracks {
			if len(c.compiled(t.ID)[i].Lines) == 0 {
				c.add(Finding{Kind: AsksNothing, RungID: r.ID, Subject: t.ID, Place: r.Name + ", " + t.Name, Reason: t.Name + " leave out every line of this rung.", Mend: "Keep at least one line for them, or cap its stage instead of leaving it out."})
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
			c.add(Finding{Kind: OneSided, TechniqueID: t.ID, Place: t.Name, Reason: "It is trained on the " + string(t.Sides) + " side only.", Mend: "Train the other side now and then, or silence this as a tradition of the school."})
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
			c.add(Finding{Kind: OneSided, TechniqueID: t.ID, Subject: s.Move.Technique, Place: t.Name, Reason: fmt.Sprintf("%s comes %d times, always with the %s.", s.Move.Name, x.left+x.right, side), Mend: "Have the other side drilled by itself, or walk the form in its mirror."})
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
			c.add(Finding{Kind: StageGone, TechniqueID: t.ID, Subject: fmt.Sprint("stage", i+1), Place: t.Name + ", " + t.StageName(i+1), Reason: "Its rung is not on the ladder.", Mend: "Choose a rung for it."})
			continue
		}
		if at < last {
			c.add(Finding{Kind: StageOrder, RungID: s.RungID, TechniqueID: t.ID, Subject: fmt.Sprint(i + 1), Place: t.Name + ", " + t.StageName(i+1),
				Reason: fmt.Sprintf("It arrives at %s, but the part before it only at %s.", c.Rungs[at].Name, c.Rungs[last].Name), Mend: "Put the parts in the order of their rungs."})
		}
		last = max(last, at)
		if s.Does == Attaches && c.Technique(s.Attached) == nil {
			c.add(Finding{Kind: StageGone, TechniqueID: t.ID, Subject: fmt.Sprint("attached", i+1), Place: t.Name + ", " + t.StageName(i+1), Reason: "The technique it goes on with is gone.", Mend: "Choose another, or take the part out."})
		}
	}
	for i, br := range t.Branches {
		if br.Then == GoTo && c.Technique(br.TechniqueID) == nil {
			c.add(Finding{Kind: StageGone, TechniqueID: t.ID, Subject: fmt.Sprint("branch", i+1), Place: t.Name, Reason: fmt.Sprintf("The branch “%s” goes to a technique that is gone.", br.When), Mend: "Choose another."})
		}
	}
}

func (c *checker) cautions(t *Technique) {
	if len(c.byTechnique[t.ID]) == 0 {
		return
	}
	for _, x := range c.AllCautions(t) {
		if x.Because != "" && x.Aside == "" && x.Kind != "fitness" && x.Kind != "surface" && x.Kind != "target" {
			c.add(Finding{Kind: CautionMissing, TechniqueID: t.ID, Subject: x.Kind, Place: t.Name, Reason: fmt.Sprintf("It needs the school's own caution for %s (%s); only the usual words are shown.", cautionWords[x.Kind], x.Because), Mend: fmt.Sprintf("Write one that begins with “%s:”, or put it aside with “no %s:” and the reason.", x.Kind, x.Kind)})
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
				c.add(Finding{Kind: Unreadable, TechniqueID: t.ID, Subject: subject, Place: place, Reason: d.reason.Error(), Mend: "Open the technique and correct the line."})
				continue
			}
			c.add(Finding{Kind: InDoubt, TechniqueID: t.ID, Subject: subject, Place: place, Reason: fmt.Sprintf("Column %d: %s.", d.doubt.Column, d.doubt.Reason), Mend: "Write the line so that it can be read in one way only, or silence this."})
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
	place := t.Name + ", attacker's part"
	r, err := c.reading(t.AttackMoves)
	if err != nil {
		c.add(Finding{Kind: Unreadable, TechniqueID: t.ID, Subject: "attack", Place: place, Reason: err.Error(), Mend: "Open the technique and correct the line."})
	}
	for _, d := range r.Doubts {
		c.add(Finding{Kind: InDoubt, TechniqueID: t.ID, Subject: "attack", Place: place, Reason: fmt.Sprintf("Column %d: %s.", d.Column, d.Reason), Mend: "Write the line so that it can be read in one way only, or silence this."})
	}
}

// stepPlace is where a step of a technique stands, in words and as a finding's subject.
func stepPlace(t *Technique, s TaughtStep) (place, subject string) {
	if s.Entry != "" {
		return fmt.Sprintf("%s, %s, step %d", t.Name, s.Entry, s.Number), fmt.Sprintf("%s.%d", s.Entry, s.Number)
	}
	return fmt.Sprintf("%s, %s, step %d", t.Name, t.StageName(s.Stage), s.Number), fmt.Sprintf("%d.%d", s.Stage, s.Number)
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
		f := Finding{Kind: ReadOtherwise, TechniqueID: t.ID, Subject: subject, Place: place, Reason: fmt.Sprintf("“%s”, begun with the left foot forward: it was %s; now it is %s.", is.Move, stands(was), stands(is)), Mend: "If that is not what you mean, write the line anew."}
		if !slices.ContainsFunc(c.found, func(y Finding) bool { return y.Key() == f.Key() }) {
			c.add(f)
		}
		return
	}
}

// stands is what a step does and where it leaves the feet, in words.
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

// relations looks for steps told in relation to an attack that they do not name clearly.
func (c *checker) relations(t *Technique, x *told) {
	for i, m := range c.walk(x, person{named: true}).matches {
		place, subject := stepPlace(t, x.steps[i])
		f := Finding{Kind: RelationOpen, TechniqueID: t.ID, Subject: subject, Place: place}
		switch m {
		case notation.Torn:
			f.Reason = fmt.Sprintf("“%s” names attacking moves of different limbs; the last limb that attacks is taken.", x.steps[i].Answers)
			f.Mend = "Name the move, or say which: the second punch."
		case notation.Nothing:
			f.Reason, f.Mend = "It is told in relation to the attack, and the attack names no single limb.", "Write the attacker's part in moves with their sides, or give the attack a side."
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
		f := Finding{Kind: SaysSide, TechniqueID: t.ID, Subject: subject, Place: place, Reason: "It says left or right in words; whoever does it from the other stance gets it as written.", Mend: "Say lead or rear, the near or the far hand, or write it as a move."}
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
				c.add(Finding{Kind: BeforeBase, RungID: rung.ID, TechniqueID: t.ID, Subject: id, Place: rung.Name + ", " + t.Name, Reason: fmt.Sprintf("It builds on %s, which no rung asks for.", base.Name), Mend: "Ask for " + base.Name + " at or below " + rung.Name + "."})
			case on > at:
				c.add(Finding{Kind: BeforeBase, RungID: rung.ID, TechniqueID: t.ID, Subject: id, Place: rung.Name + ", " + t.Name, Reason: fmt.Sprintf("It builds on %s, which is first asked at %s, %d higher.", base.Name, c.Rungs[on].Name, on-at), Mend: fmt.Sprintf("Move %s down to %s, or %s up.", base.Name, rung.Name, t.Name)})
			}
		}
		if len(t.Stages) > 0 && c.StageAt(t, at) == 0 {
			c.add(Finding{Kind: BeforeStage, RungID: rung.ID, TechniqueID: t.ID, Place: rung.Name + ", " + t.Name, Reason: fmt.Sprintf("%s asks for it, but its first part arrives at %s.", rung.Name, c.nameOf(t.Stages[0].RungID)), Mend: "Let the first part arrive at " + rung.Name + ", or ask for it later."})
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
			c.add(Finding{Kind: StageGone, RungID: r.RungID, TechniqueID: t.ID, Requirement: r.ID, Place: c.nameOf(r.RungID) + ", " + t.Name, Reason: "It is carried to a rung or a group that is gone.", Mend: "Choose how long it is asked again."})
		}
		if t.Kind == "sparring" {
			c.sparring(r, t)
		}
	}
}

func (c *checker) sparring(r *Requirement, t *Technique) {
	place := c.nameOf(r.RungID) + ", " + t.Name
	if len(c.KitOf(r.RungID)) == 0 {
		c.add(Finding{Kind: NoKit, RungID: r.RungID, TechniqueID: t.ID, Place: place, Reason: "Neither this rung nor one below lists kit.", Mend: "List the kit that has to be owned: guards, gloves, what your insurer asks."})
	}
	if c.SparringOf(r.RungID) == nil {
		c.add(Finding{Kind: NoRule, RungID: r.RungID, TechniqueID: t.ID, Place: place, Reason: "No rule says which limbs, targets and contact are allowed.", Mend: "State the sparring rule of " + c.nameOf(r.RungID) + "."})
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
			reason := fmt.Sprintf("%s are asked for it, and it is risky for the young (%s).", track.Name, cautionWords[risk])
			if no := c.MayNot(t, r.Note, &track); no != nil {
				reason = no.Error() + " It is on no sheet or page of theirs."
			}
			c.add(Finding{Kind: RiskyYoung, RungID: r.RungID, TechniqueID: t.ID, Requirement: r.ID, Subject: track.ID, Place: c.nameOf(r.RungID) + ", " + t.Name, Reason: reason, Mend: "Leave it out for " + track.Name + ", or let the owner allow it there."})
			break
		}
	}
}

// riskOf is the kind of caution for which a technique asked with a remark is risky for the young;
// "" none.
func (c *checker) riskOf(t *Technique, remark string) (risk string) {
	for _, x := range c.Cautions(t, whole, "", remark) {
		risky := slices.Contains([]string{"choke", "weapon", "jump"}, x.Kind) || x.Kind == "joint" && (x.Because != "" || t.Kind == "lock") // a careful grip may say joint of itself
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
			where := "without a rung"
			if at >= 0 {
				where = "at " + c.Rungs[at].Name
			}
			c.add(Finding{Kind: NumberTwice, TechniqueID: t.ID, Subject: other.ID, Place: fmt.Sprintf("%s %d", t.Series, t.Number), Reason: fmt.Sprintf("%s and %s both have this number %s.", other.Name, t.Name, where), Mend: "Give one of them the next free number."})
			continue
		}
		seen[s] = t
	}
	for _, key := range sortedKeys(numbers) {
		all := slices.Sorted(maps.Keys(numbers[key]))
		low, top := all[0], all[len(all)-1] // a series may start above 1
		for n := low; n < top; n++ {
			if !numbers[key][n] {
				c.add(Finding{Kind: NumberMissing, Subject: fmt.Sprintf("%s %d", key, n), Place: names[key], Reason: fmt.Sprintf("There is no number %d, but there is a %d.", n, top), Mend: "Add it, or number the series anew."})
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
			c.add(Finding{Kind: CallTwice, TechniqueID: t.ID, Subject: other.ID, Place: fmt.Sprintf("call number %d", t.Call), Reason: fmt.Sprintf("%s and %s are both called by it.", other.Name, t.Name), Mend: "Give one of them another number."})
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
			place := hr.Name
			if name != "" {
				place += ", " + name
			}
			switch {
			case len(high.Lines) > 2*len(low.Lines) && len(high.Lines) >= fewLines:
				c.add(Finding{Kind: LoadJump, RungID: hr.ID, Subject: track, Place: place, Reason: fmt.Sprintf("It asks for %d lines; %s beside it for %d.", len(high.Lines), lr.Name, len(low.Lines)), Mend: "Move some lines to the other rung, or put a rung between."})
			case high.Seconds > 2*low.Seconds && high.Seconds >= fewSeconds:
				c.add(Finding{Kind: LoadJump, RungID: hr.ID, Subject: track, Place: place, Reason: fmt.Sprintf("It takes %d min for a group of %d; %s beside it %d.", high.Minutes(), loadGroup, lr.Name, low.Minutes()), Mend: "Move some lines to the other rung, or put a rung between."})
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
			place := rung.Name
			if name != "" {
				place += ", " + name
			}
			full, least := c.points(sheet)
			f := Finding{RungID: rung.ID, Subject: track, Place: place}
			if t := p.Rules.Threshold; t != nil && *t > full {
				f.Kind, f.Reason, f.Mend = MarkOutOfReach, fmt.Sprintf("%s points are needed, and its sheet has %s in all.", *t, full), "Ask for more, or state the pass mark lower."
				c.add(f)
			} else if t != nil && *t <= least {
				f.Kind, f.Reason, f.Mend = MarkCannotFail, fmt.Sprintf("%s points are needed, and the lowest marks add up to %s.", *t, least), "State the pass mark higher."
				c.add(f)
			}
			for _, m := range p.Rules.SectionMinima {
				counted := slices.ContainsFunc(sheet.Lines, func(l Line) bool { return strings.EqualFold(l.Section, m.Section) && !l.Bonus })
				if !counted {
					f.Kind, f.Subject, f.Reason, f.Mend = MinimumEmpty, track+" "+m.Section, fmt.Sprintf("%s has a minimum, but no counted line here.", m.Section), "Ask for something that counts in "+m.Section+", or drop its minimum."
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
		c.add(Finding{Kind: AttackUnanswered, TechniqueID: row.Answers[0].TechniqueID, Subject: row.Words(), Place: row.Words(), Reason: "No rung asks for an answer to it from the one attacked.", Mend: fmt.Sprintf("Ask for %s, as defender, at a rung.", strings.Join(names, " or "))})
	}
}
