package demo

import (
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/timetable"
)

// Class is a class of the week, its programs and tracks by name.
type Class struct {
	timetable.Class
	Program string // "": all
	Tracks  []string
}

// Week is the mill's timetable from a day on.
func Week(from civil.Date) (out []Class) {
	add := func(weekday int, clock, name, kind string, minutes int, program string, tracks ...string) {
		start, err := timetable.ParseClock(clock)
		if err != nil {
			panic(err)
		}
		place := map[string]string{"Kenpo": "Upper mill floor", "Karate": "Grain loft", "Taekwondo": "Wheel house"}[program]
		out = append(out, Class{timetable.Class{Name: name, Kind: kind, Weekday: weekday, Start: start, Minutes: minutes, From: from, Place: place}, program, tracks})
	}
	add(1, "16:45", "Cubs and juniors", "General", 45, "Kenpo", "Cubs", "Juniors")
	add(1, "18:30", "Kenpo evening", "General", 60, "Kenpo", "Juniors", "Adults")
	add(3, "16:45", "Cubs and juniors", "General", 45, "Kenpo", "Cubs", "Juniors")
	add(3, "18:30", "Kenpo evening", "General", 60, "Kenpo", "Juniors", "Adults")
	add(5, "18:00", "Kenpo sparring", "Sparring", 60, "Kenpo")
	add(2, "18:30", "Karate evening", "General", 75, "Karate")
	add(4, "18:30", "Karate evening", "General", 75, "Karate")
	add(6, "09:30", "Forms in the loft", "Forms", 60, "Karate")
	add(2, "17:00", "Taekwondo", "General", 60, "Taekwondo")
	add(4, "17:00", "Taekwondo", "General", 60, "Taekwondo")
	add(6, "11:00", "Taekwondo sparring", "Sparring", 60, "Taekwondo")
	add(7, "10:00", "Open mat", "General", 90, "")
	return out
}

// Holidays are the days on which the mill stands still, from three years before to the year
// after a day. It is open on that day itself: who looks at the demo wants to see a class.
func Holidays(today civil.Date) (out []timetable.Closure) {
	for years := -3; years <= 1; years++ {
		at := func(date string) civil.Date {
			d, err := civil.Parse(today.AddMonths(12 * years).String()[:5] + date)
			if err != nil {
				panic(err)
			}
			return d
		}
		for _, c := range []timetable.Closure{
			{From: at("08-03"), To: at("08-16"), Reason: "Summer holiday"},
			{From: at("12-22"), To: at("12-31"), Reason: "Winter holiday"},
			{From: at("01-01"), To: at("01-03"), Reason: "New Year"},
			{From: at("04-03"), To: at("04-07"), Reason: "Spring days off"},
		} {
			if today.Before(c.From) || c.To.Before(today) {
				out = append(out, c)
			}
		}
	}
	return out
}

// Comes says whether a student comes to a class on a day, late or not, and how. A few have not
// been seen for some weeks.
func (s Student) Comes(c timetable.Class, on, today civil.Date) (comes, late bool, mode timetable.Mode) {
	name, mode := s.Name, timetable.Hall
	block := civil.MustParse("2000-01-03").DaysTo(on) / 21
	switch {
	case on.Before(s.Since),
		chance(4, name, c.Weekday, c.Start) == 0,                                        // an evening that never suits
		chance(13, name, block, "away") == 0,                                            // a journey, a cold, exams
		c.Name == "Open mat" && chance(5, name, "open mat") > 0,                         // is for a few
		chance(16, name, "quiet") == 0 && on.DaysTo(today) < 28+chance(30, name, "for"): // has stopped coming
		return false, false, mode
	}
	keen := 44 + chance(44, name, "keen") + chance(24, name, block, "mood") - 12
	if chance(100, name, c.Name, c.Weekday, on.String()) >= keen {
		return false, false, mode
	}
	if s.Guardian == "" && chance(28, name, on.String(), "mode") == 0 {
		mode = timetable.Live
	}
	return true, chance(22, name, on.String(), "late") == 0, mode
}

// Shows says whether something still open is shown right by a student in a class, and whether
// it is tried without being right yet.
func (s Student) Shows(what string, on civil.Date) (right, tried bool) {
	if chance(100, s.Name, what, on.String(), "tried") >= 12 {
		return false, false
	}
	return chance(100, s.Name, what, on.String(), "right") < 30+s.skill/2, true
}

// Side says with which side something is shown first; was is the side shown before, whose other
// one it is then.
func (s Student) Side(what string, on civil.Date, was string) string {
	switch {
	case was == "left":
		return "right"
	case was == "right":
		return "left"
	case chance(2, s.Name, what, on.String(), "side") == 0:
		return "left"
	}
	return "right"
}

// OneSideOnly says whether there was time for one side only.
func (s Student) OneSideOnly(what string, on civil.Date) bool {
	return chance(4, s.Name, what, on.String(), "one side") == 0
}

// Seen says whether a sign-off was given from a clip.
func (s Student) Seen(what string) (clip bool) { return chance(19, s.Name, what, "clip") == 0 }

// Papers says what a student has on record: kit nobody looked at, kit with a gap, and until
// when the membership runs.
func (s Student) Papers(kit []string, today civil.Date) (looked bool, owned []string, member civil.Date) {
	if looked = chance(5, s.Name, "kit") > 0; looked {
		for _, k := range kit {
			if chance(9, s.Name, k) > 0 {
				owned = append(owned, k)
			}
		}
	}
	if chance(12, s.Name, "member") > 0 {
		member = today.AddMonths(chance(12, s.Name, "member until") + 1).FirstOfMonth().AddDays(-1)
	}
	return looked, owned, member
}
