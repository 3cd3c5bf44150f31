package curriculum

import (
	"fmt"
	"slices"
	"strings"
)

// tested is a line of a lower rung's sheet, after folding: what was asked there.
type tested struct {
	*asked
	at int // rung of the sheet
}

type testedKey struct {
	technique string
	role      Role
}

// testedOn lists what the sheets of all rungs above the first ask on a track, lowest rung
// first: without adaptations, sample groups whole. It is reckoned once a track.
func (b *Book) testedOn(trackID string) map[testedKey][]tested {
	b.beforeMu.Lock()
	defer b.beforeMu.Unlock()
	if out, there := b.earlier[trackID]; there {
		return out
	}
	out := map[testedKey][]tested{}
	for at := 1; at < len(b.Rungs); at++ {
		lines := b.folded(Asking{TrackID: trackID}, at, false, &TestSheet{})
		for i := range lines {
			key := testedKey{lines[i].t.ID, lines[i].r.Role}
			out[key] = append(out[key], tested{&lines[i], at})
		}
	}
	b.earlier[trackID] = out
	return out
}

// freshness says how a line, as it stands on the sheet of a rung, stands to what the sheets
// below asked: new where nothing was asked in its setting or one that covers it, carried where
// one earlier line was no smaller in any respect, else grown.
func (b *Book) freshness(x *asked, at int, trackID string, words bool) (Freshness, string) {
	var last *tested // the latest that asked for it, best where it is of the same unit and pace
	before := b.testedOn(trackID)[testedKey{x.t.ID, x.r.Role}]
	for i := len(before) - 1; i >= 0; i-- {
		y := &before[i]
		if y.at >= at || !strings.EqualFold(y.entry, x.entry) || !y.standsFor(x) {
			continue
		}
		if len(b.smaller(y.asked, x, false)) == 0 {
			if !words {
				return Carried, ""
			}
			return Carried, "As at " + b.Rungs[y.at].Name + "."
		}
		if last == nil || !last.alike(x) && y.alike(x) {
			last = y
		}
	}
	switch {
	case last == nil && !words:
		return New, ""
	case last == nil && at == 0:
		return New, "What newcomers are taught; nobody is tested for it."
	case last == nil:
		return New, "New at " + b.Rungs[at].Name + "."
	case !words:
		return Grown, ""
	}
	return Grown, fmt.Sprintf("Grown: %s at %s.", strings.Join(b.smaller(last.asked, x, true), "; "), b.Rungs[last.at].Name)
}

// standsFor reports whether what was shown in the setting of x shows it in that of y.
func (x *asked) standsFor(y *asked) bool {
	return x.setting() == y.setting() || x.r.Covers && y.setting() != boards
}

// alike reports whether two amounts are in one unit and at one pace.
func (x *asked) alike(y *asked) bool {
	return x.q.Measure == y.q.Measure && x.q.Side == y.q.Side && x.r.Slow == y.r.Slow && x.r.NonStop == y.r.NonStop
}

// smaller lists in which respects an earlier line asked for less, or for something else.
func (b *Book) smaller(before, now *asked, words bool) (out []string) {
	say := func(format string, args ...any) {
		if !words {
			format, args = "", nil
		}
		out = append(out, fmt.Sprintf(format, args...))
	}
	if now.stage > before.stage {
		say("%s, after %s", now.t.StageName(now.stage), now.t.StageName(before.stage))
	}
	if larger, comparable := now.q.Larger(before.q); larger || !comparable {
		say("%s, after %s", now.q, before.q)
	}
	if now.r.Slow != before.r.Slow || now.r.NonStop != before.r.NonStop {
		say("%s, after %s", now.pace(), before.pace())
	}
	if height(now.level) > height(before.level) {
		if before.level == "" {
			say("at least %s, after any height", now.level)
		} else {
			say("at least %s, after %s", now.level, before.level)
		}
	}
	if before.supported && !now.supported {
		say("without support, after support allowed")
	}
	if len(before.checks) > 0 {
		all, how := now.checks, ""
		if len(all) == 0 {
			all, how = b.checkpointsOf(now.t, now.r.Role), "all "
		}
		if slices.ContainsFunc(all, func(c string) bool { return !slices.Contains(before.checks, c) }) {
			say("%s%d checkpoints count, after %d", how, len(all), len(before.checks))
		}
	}
	return out
}

func (x *asked) pace() string {
	out := "at full speed"
	if x.r.Slow {
		out = "slowly"
	}
	if x.r.NonStop {
		return out + ", non-stop"
	}
	return out + ", counted"
}
