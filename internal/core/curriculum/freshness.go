package curriculum

// tested is what a line of a lower rung's sheet asked, after folding.
type tested struct {
	Demand
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
			l := b.asks(&lines[i])
			key := testedKey{l.TechniqueID, l.Role}
			out[key] = append(out[key], tested{l.Demand(), at})
		}
	}
	b.earlier[trackID] = out
	return out
}

// freshness says how a line, as it stands on the sheet of a rung, stands to what the sheets
// below asked: new where nothing was asked in its setting or one that covers it, carried where
// one earlier line was no smaller in any respect, else grown.
func (b *Book) freshness(l *Line, at int, trackID string, words bool) (f Freshness, x Before) {
	var last *tested // the latest that asked for it, best where it is of the same unit and pace
	before := b.testedOn(trackID)[testedKey{l.TechniqueID, l.Role}]
	for i := len(before) - 1; i >= 0; i-- {
		y := &before[i]
		if y.at >= at || !y.isOf(l) {
			continue
		}
		if y.reaches(l) {
			if words {
				x.Rung = b.Rungs[y.at].Name
			}
			return Carried, x
		}
		if last == nil || !last.alike(l) && y.alike(l) {
			last = y
		}
	}
	switch {
	case last == nil && words:
		return New, Before{Rung: b.Rungs[at].Name, First: at == 0}
	case last == nil:
		return New, x
	case words:
		x = Before{Rung: b.Rungs[last.at].Name}
		last.short(l, func(g Growth) bool {
			x.Growth = append(x.Growth, g)
			return true
		})
	}
	return Grown, x
}
