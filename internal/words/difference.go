package words

import (
	"cmp"

	"velvetladder/internal/core/curriculum"
)

// changed is in what two lines, rungs or techniques differ.
var changed = map[curriculum.ChangeOf]string{
	curriculum.ChangedName: "name", curriculum.ChangedAmount: "how much", curriculum.ChangedPart: "stage", curriculum.ChangedWeight: "weight", curriculum.ChangedMust: "must pass", curriculum.ChangedBonus: "bonus",
	curriculum.ChangedLevel: "least level", curriculum.ChangedManner: "manner", curriculum.ChangedSection: "section", curriculum.ChangedLooked: "looked for", curriculum.ChangedMarks: "what a mark looks like",
	curriculum.ChangedMoves: "moves", curriculum.ChangedRemark: "remark", curriculum.ChangedPanel: "examiners at least", curriculum.ChangedPlace: "place", curriculum.ChangedKind: "kind", curriculum.ChangedTerms: "terms",
	curriculum.ChangedChecks: "checkpoints", curriculum.ChangedFaults: "faults", curriculum.ChangedCautions: "cautions", curriculum.ChangedMeasures: "measures", curriculum.ChangedAttack: "attack", curriculum.ChangedStages: "stages",
	curriculum.ChangedBranches: "branches", curriculum.ChangedApart: "what looks like it", curriculum.ChangedLearning: "drills and cue words", curriculum.ChangedBases: "builds on", curriculum.ChangedNumbers: "numbers",
	curriculum.ChangedDetails: "details",
}

// Differing is one thing in which two rungs or techniques differ.
func Differing(c curriculum.Differing) string {
	none := "none"
	switch c.Of {
	case curriculum.ChangedMust, curriculum.ChangedBonus:
		none = "no"
	case curriculum.ChangedPlace:
		return "place: above " + cmp.Or(c.Now, none) + ", was above " + cmp.Or(c.Was, none)
	}
	if c.Now == "" && c.Was == "" {
		return changed[c.Of]
	}
	return changed[c.Of] + ": " + cmp.Or(c.Now, none) + ", was " + cmp.Or(c.Was, none)
}

// Changes are the things in which two rungs or techniques differ.
func Changes(all []curriculum.Differing) []string {
	var out []string
	for _, c := range all {
		out = append(out, Differing(c))
	}
	return out
}

// Difference is what is different between two sheets or curricula, each in a line.
func Difference(d curriculum.Difference) []string {
	if d.Amount != "" {
		return []string{d.Amount}
	}
	changes := append([]curriculum.Differing{}, d.Changes...)
	for i := range changes {
		if d.Line == nil || d.Older == nil {
			continue
		}
		switch c := &changes[i]; c.Of {
		case curriculum.ChangedManner:
			c.Now, c.Was = Manner(*d.Line), Manner(*d.Older)
		case curriculum.ChangedRemark:
			c.Now, c.Was = Detail(*d.Line), Detail(*d.Older)
		}
	}
	return Changes(changes)
}

// Adaptation is what an adaptation does, in the program's names.
func Adaptation(b *curriculum.Book, a curriculum.Adaptation) string {
	what := "every " + a.Kind.Words()
	if t := b.Technique(a.TechniqueID); t != nil {
		what = t.Name
	} else if a.Modifier != "" {
		what = "everything " + string(a.Modifier)
	}
	switch a.Does {
	case curriculum.Replace:
		other := "something else"
		if t := b.Technique(a.ReplacementID); t != nil {
			other = t.Name
		}
		return other + " instead of " + what
	case curriculum.Change:
		if a.Quantity != nil {
			return what + ": " + a.Quantity.String()
		}
	}
	return "excused from " + what
}
