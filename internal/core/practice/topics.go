package practice

import (
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/progress"
)

// Present is one who comes, or is likely to, with what the next rung asks.
type Present struct {
	Student, Name string
	Rung          string // climbed to, as it is called for short
	Track         string // id
	Chance        int    // of coming, in permille
	Book          *curriculum.Book
	Items         []progress.Item
	Near          bool                  // a grading that tests the next rung is near
	MakeUp        bool                  // comes to make up for a class missed: what was missed comes first
	Missed        map[string]civil.Date // technique → the day on which it was worked on while this one was away
	Theme         Theme                 // of the program
	For           string                // what the class is called and of which kind it is: it may be for one thing, sparring say
}

// Theme is what a week is about: sections of a program, or words of the school's own.
type Theme struct {
	Sections []string // ids
	Words    string   // "kicks and footwork, low stances"; a topic belongs to it by its name, section, kind, setting, family, series, targets, modifiers or the attack it answers
}

// IsZero reports whether a week has no theme.
func (h Theme) IsZero() bool { return len(h.Sections) == 0 && h.Words == "" }

// Has reports whether something that is asked in a setting belongs to the theme.
func (h Theme) Has(t *curriculum.Technique, section, sectionName string, setting curriculum.Setting) bool {
	if slices.Contains(h.Sections, section) {
		return true
	}
	about := []string{t.Name, sectionName, t.Kind.Words(), t.Family, t.Series, strings.Join(t.Targets, " "), strings.Join(t.Aliases, " "), t.Term, curriculum.AttackWords(t.Attack), string(setting)}
	for _, m := range t.Modifiers {
		about = append(about, string(m))
	}
	for _, l := range t.Levels {
		about = append(about, string(l))
	}
	for _, phrase := range h.Phrases() {
		wanted := stems(phrase)
		if kind := curriculum.UsualKind(phrase); kind == t.Kind && kind != "" && kind != "self_defence" { // kumite, throwing; chokes are attacks
			return true
		}
		if slices.ContainsFunc(about, func(text string) bool { return within(stems(text), wanted) }) {
			return true
		}
	}
	return false
}

// isFor reports whether a class that is called so, or is of such a kind, is for something: its name or kind has the name of the section, or the
// kind of technique: "Friday sparring", "Forms".
func isFor(class string, t *curriculum.Technique, sectionName string) bool {
	words := stems(class)
	return within(words, stems(sectionName)) || within(words, stems(strings.ReplaceAll(string(t.Kind), "_", " ")))
}

// Phrases are the words of a theme one by one: what stands between commas, semicolons, "and", "&"
// and "+".
func (h Theme) Phrases() (out []string) {
	text := strings.NewReplacer(" and ", ",", "&", ",", "+", ",", ";", ",", "/", ",").Replace(" " + check.Key(h.Words) + " ")
	for part := range strings.SplitSeq(text, ",") {
		if part = check.Tidy(part); part != "" {
			out = append(out, part)
		}
	}
	return out
}

// stems are the words of a text without their endings: punches, punching and punch are one.
func stems(text string) (out []string) {
	for _, w := range strings.FieldsFunc(check.Key(text), func(r rune) bool { return strings.ContainsRune(" -_,.:()/", r) }) {
		out = append(out, stem(w))
	}
	return out
}

func stem(w string) string {
	if len(w) > 3 && strings.HasSuffix(w, "s") && !strings.HasSuffix(w, "ss") {
		w = strings.TrimSuffix(w, "s")
		if one, es := strings.CutSuffix(w, "e"); es && (strings.HasSuffix(one, "ch") || strings.HasSuffix(one, "sh") || strings.HasSuffix(one, "ss") || strings.HasSuffix(one, "x")) {
			w = one
		}
	}
	if base, ing := strings.CutSuffix(w, "ing"); ing && len(base) > 2 && strings.ContainsAny(base, "aeiou") {
		w = base
		if n := len(w); n > 3 && w[n-1] == w[n-2] && w[n-1] != 'l' && w[n-1] != 's' { // sparring
			w = w[:n-1]
		}
	}
	if len(w) > 4 {
		w = strings.TrimSuffix(w, "e") // strike, striking
	}
	return w
}

func within(words, wanted []string) bool {
	for i := 0; len(wanted) > 0 && i+len(wanted) <= len(words); i++ {
		if slices.Equal(words[i:i+len(wanted)], wanted) {
			return true
		}
	}
	return false
}

// What serving a student is worth: all that can be said of a need, the most pressing first. What
// was missed is little by itself, and what a make-up class is for.
const (
	needMustPass = 3
	needNotYet   = 2
	needOpen     = 2
	needStale    = 1
	needNear     = 2 // a grading that tests the next rung is near
	needMissed   = 2
	needMakeUp   = 8
	needTheme    = 1 // of what is done already, as of what the class is for
)

// need is how much one needs to work on something, and why.
func (p *Present) need(it *progress.Item, themed, meant bool, on civil.Date) (worth int, why []Reason) {
	switch {
	case it.Counts && !it.Done:
		worth, why = needOpen, append(why, Reason{Kind: NotSigned})
		if it.MustPass {
			worth, why = worth+needMustPass, []Reason{{Kind: MustPass}}
		}
		if !it.NotYet.IsZero() {
			worth, why = worth+needNotYet, []Reason{{Kind: NotRight}}
		}
	case it.Done && it.Freshness == curriculum.Carried && !it.Seen.IsZero() && it.Seen.DaysTo(on) >= progress.StaleDays:
		worth, why = needStale, append(why, Reason{Kind: NotSeen, Weeks: it.Seen.DaysTo(on) / 7})
	}
	if day, missed := p.Missed[it.TechniqueID]; missed {
		if p.MakeUp {
			worth += needMakeUp
		} else if worth > 0 {
			worth += needMissed
		} else {
			worth = needStale
		}
		why = append(why, Reason{Kind: WasAway, On: day})
	}
	switch {
	case worth == 0 && themed:
		return needTheme, []Reason{{Kind: OfTheTheme}}
	case worth == 0 && meant:
		return needTheme, []Reason{{Kind: OfTheClass}}
	}
	if worth > 0 && p.Near && it.Counts {
		worth += needNear
	}
	return worth, why
}

// far is how far one is with something.
func far(it *progress.Item) curriculum.Far {
	switch {
	case it.Done:
		return curriculum.Knows
	case !it.NotYet.IsZero() || !it.Seen.IsZero() || it.Left || it.Right || it.Reached > 0:
		return curriculum.Tries
	}
	return curriculum.Begins
}

// gathered is a topic while it is put together.
type gathered struct {
	Topic
	roles  map[curriculum.Role]bool
	calls  []string
	far    []curriculum.Far
	tracks []string // of those served
	book   *curriculum.Book
}

// Topics are what those who come still need, both roles of a technique as one, each with whom it
// serves and how much, and the way in that suits them: by how far the middle one of them is, and the
// youngest of their tracks. taught says when a class of the program last worked on a technique.
func Topics(present []Present, taught map[string]civil.Date, on civil.Date) []Topic {
	at := map[string]int{}
	var all []*gathered
	for i := range present {
		p := &present[i]
		for k := range p.Items {
			it := &p.Items[k]
			t := p.Book.Technique(it.TechniqueID)
			if t == nil {
				continue
			}
			themed, meant := p.Theme.Has(t, it.SectionID, it.Section, it.Setting), isFor(p.For, t, it.Section)
			worth, why := p.need(it, themed, meant, on)
			if worth == 0 {
				continue
			}
			n, there := at[it.TechniqueID]
			if !there {
				n = len(all)
				at[it.TechniqueID] = n
				place := slices.IndexFunc(p.Book.Sections, func(s curriculum.Section) bool { return s.ID == it.SectionID })
				all = append(all, &gathered{book: p.Book, roles: map[curriculum.Role]bool{}, Topic: Topic{ID: it.TechniqueID, Name: t.Name, Section: it.Section, Place: place, Kind: it.Kind, Taught: taught[it.TechniqueID],
					Needs: needsOf(it.Kind, it.Role, it.Setting), Cues: p.Book.Cues(t)}})
			}
			all[n].Themed, all[n].For = all[n].Themed || themed, all[n].For || meant
			all[n].serve(p, it, worth, why)
		}
	}
	out := make([]Topic, 0, len(all))
	for _, g := range all {
		out = append(out, g.finished())
	}
	return out
}

// serve adds one line of one student.
func (g *gathered) serve(p *Present, it *progress.Item, worth int, why []Reason) {
	g.roles[it.Role] = true
	g.Needs = g.Needs.and(needsOf(it.Kind, it.Role, it.Setting))
	g.far = append(g.far, far(it))
	if !slices.Contains(g.tracks, p.Track) {
		g.tracks = append(g.tracks, p.Track)
	}
	if !slices.Contains(g.calls, it.Call) {
		g.calls = append(g.calls, it.Call)
	}
	for _, c := range it.Cautions {
		if !slices.Contains(g.Cautions, c) {
			g.Cautions = append(g.Cautions, c)
		}
	}
	k := slices.IndexFunc(g.Serves, func(s Served) bool { return s.Student == p.Student })
	if k < 0 {
		k = len(g.Serves)
		_, missed := p.Missed[it.TechniqueID]
		g.Serves = append(g.Serves, Served{Student: p.Student, Name: p.Name, Rung: p.Rung, Chance: p.Chance, Missed: missed})
	}
	s := &g.Serves[k]
	s.Worth += worth * p.Chance
	for _, w := range why {
		if !slices.Contains(s.Why, w) {
			s.Why = append(s.Why, w)
		}
	}
}

// finished names the topic and says how long it takes and which way in suits.
func (g *gathered) finished() Topic {
	g.Minutes = TopicMinutes(g.Kind)
	switch {
	case g.roles["attacker"] && g.roles["defender"]:
		g.Roles = BothRoles
		g.Minutes += g.Minutes / 2
	case g.roles["holder"] && len(g.roles) > 1:
		g.Roles = StrikeAndHold
	case len(g.calls) == 1:
		g.Name = g.calls[0]
	}
	if g.For && (g.Kind == "sparring" || g.Kind == "partner_set") {
		g.Minutes *= 2 // everybody gets their rounds, and with more than one partner
	}
	youngest := "" // tracks stand in order of age
	if i := slices.IndexFunc(g.book.Program.Tracks, func(t curriculum.Track) bool { return slices.Contains(g.tracks, t.ID) }); i >= 0 {
		youngest = g.book.Program.Tracks[i].ID
	}
	if t := g.book.Technique(g.ID); t != nil {
		g.drills = map[How]string{}
		for _, how := range Hows {
			if d := g.book.DrillFor(t, youngest, median(g.far), how.has); d != nil {
				g.drills[how] = d.String()
			}
		}
		g.Drill = g.drills[InHall]
	}
	return g.Topic
}
