package web

import "velvetladder/internal/store"

// Route is a line of the table of contents, for the tests.
type Route struct{ Method, Path, May string }

// Routes are all of them.
func Routes() (out []Route) {
	for _, x := range (&app{}).routes() {
		out = append(out, Route{x.method, x.path, string(x.may)})
	}
	return out
}

// Allows reports whether a role lets somebody in.
func Allows(may string, who store.Role) bool { return role(may).allows(who) }

// What tests from outside hold pages against.
const (
	Anyone, Family, Owner, Examiner = string(anyone), string(family), string(owner), string(examiner)
	MaxBody, MaxEntries, TriesAName = maxBody, maxEntries, triesAName
)

type ScoringMark = scoringMark

var (
	DetailValues, ReadDetails          = detailValues, readDetails
	RequirementValues, ReadRequirement = requirementValues, readRequirement
	TechniqueValues, ReadTechnique     = techniqueValues, readTechnique
	SettingsValues                     = settingsValues
	Screens, ScriptOf, StaticFiles     = screens, scriptOf, staticFiles
	Explain, Permille, Positive, Spot  = explain, permille, positive, spot
	OutcomeWords, Ordinal, ScaleOf     = outcomeWords, ordinal, scaleOf
)
