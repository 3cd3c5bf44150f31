package curriculum

import (
	"fmt"
	"slices"
)

// freshness is the second half of rule 3: how a line stands to the last lower rung that
// asked for its technique in its role, on the same track.
func (b *Book) freshness(x *asked, at int, trackID string, words bool) (Freshness, string) {
	track := b.Track(trackID)
	why := func(format string, args ...any) string {
		if !words {
			return ""
		}
		return fmt.Sprintf(format, args...)
	}
	last := -1
	for _, i := range b.byTechnique[x.t.ID] {
		r := &b.Requirements[i]
		if from := b.rungs[r.RungID]; from < at && r.Role == x.r.Role && r.Free == x.r.Free && !leftOutBy(r, track) {
			last = max(last, min(at-1, b.lastAsked(r)))
		}
	}
	if last < 0 {
		return New, why("New at %s.", b.Rungs[at].Name)
	}
	before := asked{t: x.t, r: x.r}
	var demands []Quantity
	wide := false
	for _, i := range b.byTechnique[x.t.ID] {
		r := &b.Requirements[i]
		if from := b.rungs[r.RungID]; from > last || r.Role != x.r.Role || r.Free != x.r.Free || b.lastAsked(r) < last || leftOutBy(r, track) {
			continue
		}
		y := asked{r: r, t: x.t, q: b.settle(r.Quantity, x.t), cap: r.StageCap}
		if track != nil {
			y.forTrack(b, track)
		}
		b.setStage(&y, last)
		before.stage = max(before.stage, y.stage)
		demands = append(demands, y.q)
		wide = wide || len(r.Checks) == 0
		before.checks = append(before.checks, r.Checks...)
	}
	if x.stage > before.stage {
		return Grown, why("Grown: %s, after %s at %s.", x.t.StageName(x.stage), x.t.StageName(before.stage), b.Rungs[last].Name)
	}
	most := Quantity{}
	for _, q := range demands {
		if larger, comparable := q.Larger(most); comparable && larger || most.Measure == "" && q.Measure == x.q.Measure && q.Side == x.q.Side {
			most = q
		}
	}
	if larger, comparable := x.q.Larger(most); comparable && larger {
		return Grown, why("Grown: %s, after %s at %s.", x.q, most, b.Rungs[last].Name)
	}
	if !wide && len(x.checks) == 0 && len(x.t.Checkpoints) > len(before.checks) {
		return Grown, why("Grown: all %d checkpoints count, after %d at %s.", len(x.t.Checkpoints), len(before.checks), b.Rungs[last].Name)
	}
	return Carried, why("As at %s.", b.Rungs[last].Name)
}

func leftOutBy(r *Requirement, track *Track) bool {
	return track != nil && slices.ContainsFunc(r.Tracks, func(c TrackChange) bool { return c.TrackID == track.ID && c.LeaveOut })
}
