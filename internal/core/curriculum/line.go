package curriculum

import (
	"cmp"
	"strings"
	"unicode/utf8"
)

// asks is what a line asks, without its words.
func (b *Book) asks(x *asked) Line {
	t, r := x.t, x.r
	l := Line{
		RequirementID: r.ID, TechniqueID: t.ID, Section: b.Sections[x.section].Name, Call: t.Name, Term: t.Term, Detail: t.Note, Entry: x.entry,
		Kind: t.Kind, Role: r.Role, Setting: r.Setting, CoversSettings: r.Covers, Quantity: x.q, MustPass: x.must, Bonus: x.bonus, Free: r.Free, Weight: x.weight, Level: x.level,
		Checkpoints: b.checkpointsOf(t, r.Role), Faults: b.faultsOf(t), Answers: t.Answers, Versions: r.Versions, Table: r.Table, MarkLooks: r.MarkLooks,
		Stage: x.stage, Stages: t.obligatory(), Covers: x.covers, Adapted: x.adapted, Pool: x.pool,
		Looks: cmp.Or(r.Looks, looksEach), AtOnce: r.AtOnce, Sprint: r.Sprint, Slow: r.Slow, NonStop: r.NonStop, Supported: x.supported, Phases: r.Phases,
	}
	if len(x.checks) > 0 {
		l.Checkpoints, l.SomeChecks = x.checks, true
	}
	return l
}

// line is rule 6 for one line.
func (b *Book) line(x *asked, at int, trackID string, g int, words bool) Line {
	t, r := x.t, x.r
	l := b.asks(x)
	if words && x.stage > 0 {
		l.stageNames = t.stageNames()
	}
	l.Freshness, l.Before = b.freshness(&l, at, trackID, words)
	if x.entry != "" {
		l.Call += ", " + x.entry
	}
	switch r.Role {
	case "attacker", "defender", "holder":
		l.Call += ", " + string(r.Role)
	}
	if r.Setting != "" && r.Setting != Settings[0] {
		l.Call += ", " + r.Setting.Words()
	}
	if x.stage > 0 && x.stage < t.obligatory() {
		l.Call += ", " + t.StageName(x.stage)
	}
	l.RepsCalled, l.Seconds = l.Called(g), l.duration(t, g)
	if words {
		b.say(&l, x, at)
	}
	l.stageNames = nil
	return l
}

// say puts into a line what only those need who read it: the steps of both roles, what to look
// at, and why it is here.
func (b *Book) say(l *Line, x *asked, at int) {
	t, r := x.t, x.r
	taught := x.stage
	ending := b.eitherEnding(t, at)
	if ending.Part != "" && (x.cap == 0 || x.cap > t.obligatory()) && x.stage == t.obligatory() {
		taught = t.Tail()
	} else {
		ending = Throughout{}
	}
	l.Cautions, l.Risks = b.cautionsOf(t, taught, x.entry, r.Note, l.Setting)
	l.Why = x.why
	l.Note = r.Note
	if r.Note != "" {
		l.Detail = r.Note
	} else if l.Detail == "" && len(t.Attack) > 0 {
		l.Against = t.Attack
	}
	l.Moves, l.Partner = b.pair(t, b.told(t, x.stage, x.entry, at), r.Role)
	if len(l.Moves) > 0 && len(t.Stages) == 0 && l.Detail == t.Note {
		l.Detail = "" // the remark is the moves
	}
	if len(l.Moves) == 0 && r.Note != "" {
		l.Moves = b.notedStrip(r.Note)
	}
	l.Apart = b.ToldApart(t)
	l.Surface, l.Targets = b.surfaceFor(t, r.Role), t.Targets
	l.Success = t.Success
	if e := t.Entry(x.entry); e != nil && len(e.Success) > 0 {
		l.Success = e.Success
	}
	l.Common = b.holding(t, l.Section, at)
	if x.rung != at {
		l.Common = b.holding(t, l.Section, at, x.rung)
	}
	if l.Voice, l.OwnVoice = cmp.Or(r.Voice, b.Rungs[at].Voice, b.Program.Voice), r.Voice != ""; l.Voice != "" && !l.OwnVoice && voiced[t.Kind] {
		l.Common = append(l.Common, Throughout{Voice: l.Voice})
	}
	if ending.Part != "" {
		l.Common = append(l.Common, ending)
	}
}

// notedStrip is a remark that is written in moves, as cells; nothing where it is a remark.
func (b *Book) notedStrip(note string) []StripMove {
	if b.noted(&Technique{Note: note}) == nil {
		return nil
	}
	return b.Strip(note, AsWritten)
}

// longestCalled is how many letters of a remark are called out with the name at most.
const longestCalled = 60

// callApart adds the remark to the call of lines that would be called alike: Sparring, hands only.
func callApart(lines []Line) {
	type called struct {
		call, entry string
		role        Role
		setting     Setting
	}
	as := func(l *Line) called { return called{l.Call, l.Entry, l.Role, l.Setting} }
	alike := map[called]int{}
	for i := range lines {
		alike[as(&lines[i])]++
	}
	for i := range lines {
		l := &lines[i]
		if l.Note == "" || alike[as(l)] < 2 || utf8.RuneCountInString(l.Note) > longestCalled {
			continue
		}
		if l.Call += ", " + l.Note; l.Detail == l.Note {
			l.Detail = ""
		}
	}
}

// Remark is the remark of a line where its call does not say it; "" there is none.
func (l Line) Remark() string {
	if strings.HasSuffix(l.Call, ", "+l.Note) {
		return ""
	}
	return l.Note
}
