package words

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/progress"
)

// Drives is what a forecast hangs on: "7 classes more at 1.6 a week".
func Drives(d progress.Drives) string {
	if d.Never != nil {
		return Lack(*d.Never)
	}
	if d.Nothing() {
		return "nothing is missing"
	}
	var classes, needs []string
	for _, c := range d.Classes {
		classes = append(classes, Count(c.Lack, strings.TrimSpace(c.Of+" class"))+" more")
	}
	if len(classes) > 0 {
		needs = append(needs, fmt.Sprintf("%s at %.1f a week", strings.Join(classes, " and "), d.PerWeek))
	}
	if d.Signed > 0 {
		needs = append(needs, fmt.Sprintf("%s to be signed off, %.1f in ten classes", Count(d.Signed, "requirement"), d.PerTen))
	}
	var said []string
	if len(needs) > 0 {
		said = append(said, strings.Join(needs, ", and "))
	}
	if !d.NotBefore.IsZero() {
		said = append(said, "not before "+d.NotBefore.Long())
	}
	switch {
	case d.Stopped > 0:
		said = append(said, fmt.Sprintf("no register of the last %s shows anybody: were they kept, or is a holiday missing from the timetable?", Count(d.Stopped, "week")))
	case d.Holidays > 0:
		said = append(said, fmt.Sprintf("in %s of the last months nobody came though classes stand on the timetable: enter the holidays there", Count(d.Holidays, "week")))
	}
	if d.Away > 0 {
		said = append(said, fmt.Sprintf("away for %s with classes", Count(d.Away, "week")))
	}
	return strings.Join(said, "; ")
}

// Forecast is when somebody is likely to be ready, and what that hangs on.
func Forecast(f progress.Forecast) string {
	if f.Never != nil {
		return "No day is in sight: " + Lack(*f.Never) + "."
	}
	if f.Likely.IsZero() {
		return "No day within three years at this pace: " + Drives(f.Drives) + "."
	}
	if f.Likely == f.Early && f.Drives.Nothing() {
		return "Only what can be given at once is missing."
	}
	said := "Likely on " + f.Likely.Long()
	if f.Early != f.Late {
		late := "later than three years"
		if !f.Late.IsZero() {
			late = f.Late.Long()
		}
		said += ", between " + f.Early.Long() + " and " + late + " in eight cases of ten"
	}
	return said + ": " + Drives(f.Drives) + "."
}

// BackTest is how good forecasts were, as a page of text.
func BackTest(r progress.Report) string {
	out := fmt.Sprintf("%d forecasts of climbs that lacked classes or sign-offs: the day of %d came, %d had not when the records end.\n", r.Forecasts, r.Came, r.Censored)
	if r.Forecasts == 0 {
		return out
	}
	out += fmt.Sprintf("Inside early to late: %d.%d percent (80 are meant); before it %d.%d, after it %d.%d.\n", r.Inside/10, r.Inside%10, r.Early/10, r.Early%10, r.Late/10, r.Late%10)
	if r.Held > 0 {
		out += fmt.Sprintf("Of %d the early day is that of a rule, and nobody can be before it; of the others %d.%d percent were before it.\n", r.Held, r.EarlyFree/10, r.EarlyFree%10)
	}
	out += fmt.Sprintf("Mean error of the likely day: %.1f days; of the own last twelve weeks on the timetable: %.1f days; of a constant rate since the promotion: %.1f days.\n", r.Error, r.Rival, r.Naive)
	out += fmt.Sprintf("Chances for 60 and 120 days ahead, mean squared error %.3f:\n", r.Brier)
	for _, t := range r.Tenths {
		out += fmt.Sprintf("  told %3.0f percent, came %3.0f percent of %d\n", t.Told*100, t.Came*100, t.N)
	}
	return out
}
