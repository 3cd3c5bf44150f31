package curriculum

import (
	"cmp"
	"slices"

	"velvetladder/internal/core/check"
)

// draw is rule 5. What is drawn depends on the seed, the group and the line alone, so that
// the order of the curriculum does not matter; knowledge depends on the candidate too.
func (b *Book) draw(lines []asked, a Asking, sheet *TestSheet) (out []asked) {
	pools := map[string][]int{}
	for i, x := range lines {
		if x.group != "" {
			pools[x.group] = append(pools[x.group], i)
		}
	}
	if len(pools) == 0 {
		return lines
	}
	if a.Undrawn {
		for group, pool := range pools {
			for _, i := range pool {
				k := min(b.Group(group).Draw, len(pool))
				lines[i].pool = b.Group(group).Name
				lines[i].why = append(slices.Clone(lines[i].why), Why{Kind: WhyPool, Of: len(pool), Group: b.groupName(group), N: k})
			}
		}
		return lines
	}
	drawn := map[int]bool{}
	for group, pool := range pools {
		tickets := map[int]uint64{}
		for _, i := range pool {
			candidate := ""
			if lines[i].t.Kind == "knowledge" {
				candidate = a.Candidate
			}
			tickets[i] = draws(a.Seed, group, candidate, lines[i].r.ID)
		}
		order := slices.Clone(pool)
		slices.SortFunc(order, func(x, y int) int {
			return cmp.Or(cmp.Compare(later(a.Kept, lines[x].r.ID), later(a.Kept, lines[y].r.ID)), cmp.Compare(tickets[x], tickets[y]), cmp.Compare(lines[x].r.ID, lines[y].r.ID))
		})
		k := b.Group(group).Draw
		for n, i := range order {
			why := Why{Kind: WhyDrawn, N: min(k, len(pool)), Of: len(pool), Group: b.groupName(group), Seed: a.Seed}
			if n < k && slices.Contains(a.Kept, lines[i].r.ID) {
				why = Why{Kind: WhyKept, Of: len(pool), Group: b.groupName(group)}
			}
			if n < k {
				drawn[i] = true
				lines[i].why = append(slices.Clone(lines[i].why), why)
			} else {
				sheet.LeftOut = append(sheet.LeftOut, LeftOut{Call: lines[i].t.Name, Kind: LeftUndrawn, Draw: why})
			}
		}
	}
	slices.SortFunc(sheet.LeftOut, func(x, y LeftOut) int {
		return cmp.Or(check.Natural(x.Call, y.Call), cmp.Compare(x.Kind, y.Kind), cmp.Compare(x.Draw.Group, y.Draw.Group), cmp.Compare(x.Reason, y.Reason))
	})
	out = lines[:0] // what is read is always ahead of what is written
	for i := range lines {
		if lines[i].group == "" || drawn[i] {
			out = append(out, lines[i])
		}
	}
	return out
}

// later puts what was drawn before ahead of the rest.
func later(kept []string, id string) int {
	if slices.Contains(kept, id) {
		return 0
	}
	return 1
}

// draws is a ticket: a well-mixed number from a seed and words (FNV-1a, then the finisher of
// splitmix64).
func draws(seed uint64, words ...string) uint64 {
	h := uint64(14695981039346656037) ^ seed
	for _, w := range words {
		for i := range len(w) {
			h = (h ^ uint64(w[i])) * 1099511628211
		}
		h = (h ^ 0xff) * 1099511628211
	}
	h = (h ^ h>>30) * 0xbf58476d1ce4e5b9
	h = (h ^ h>>27) * 0x94d049bb133111eb
	return h ^ h>>31
}
