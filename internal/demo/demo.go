// Package demo is Marrowby Mill Martial Arts, a made-up school in a former flour mill: its
// ladders, techniques, people and how they mark. Everything follows from a date and a seed;
// nothing here is a real person, school or named technique.
package demo

import (
	"fmt"
	"hash/fnv"
	"strings"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/core/scoring"
)

// School is the demo school as values, to be put on record by the same calls people use.
type School struct {
	Name     string
	Programs []Program
	Today    civil.Date
}

// Program is one ladder with its techniques, students and gradings.
type Program struct {
	curriculum.Curriculum
	Story    string // what there is to see in this program, for those who look at the demo
	Students []Student
	Gradings []Grading // oldest first
}

// Student is a student with the rung to start on.
type Student struct {
	progress.Student
	Start string
	Since civil.Date
	skill int // 0 to 100: how well things are shown
	Taped *Taped
}

// Taped is what a tape said of a student's stance.
type Taped struct {
	Stance string
	floor.Taped
	Fault string
}

// measured is the one student of the school whose parts and stance were measured.
const measured = "Teodor Vance"

// Stage is how far the demo shows a grading.
type Stage string

// The stages.
const (
	Prepared  Stage = "prepared"  // candidates entered
	HalfDone  Stage = "half done" // tables open, marked in part
	Signed    Stage = "signed"    // all marked, some decided, nothing announced
	Announced Stage = "announced"
)

// Grading is a grading with its stage.
type Grading struct {
	gradingday.Grading
	Stage Stage
	Rungs []string // names of the rungs tested
	Most  int      // candidates entered at the most, 0 for all
}

// At makes the school as it stands on a day.
func At(today civil.Date) School {
	return School{Name: "Marrowby Mill", Today: today, Programs: []Program{kenpo(today), karate(today), taekwondo(today)}}
}

// chance is a number from 0 to n-1 that depends on its words alone.
func chance(n int, words ...any) int {
	h := fnv.New64a()
	fmt.Fprint(h, words...)
	x := h.Sum64()
	x ^= x >> 33
	x *= 0xff51afd7ed558ccd
	x ^= x >> 33
	return int(x % uint64(n))
}

// WantsToTest says whether a student enters a grading: long enough on the rung, longer the
// higher it is, and not away that day.
func WantsToTest(name string, position int, since, on civil.Date) bool {
	need := 75 + 22*position + chance(40, name, "pace")
	return since.DaysTo(on) >= need && chance(10, name, on.String()) > 0
}

// Mark is what an examiner gives a student for an item: the student's skill, how hard the
// item is, the examiner's strictness and the day. seen is false now and then.
func (p Program) Mark(student, examiner, item string, bonus bool, on civil.Date, s scoring.Scale) (mark scoring.Decimal, seen bool) {
	skill := 60
	for _, x := range p.Students {
		if x.Name == student {
			skill = x.skill
		}
	}
	if chance(70, student, examiner, item, "looked away") == 0 {
		return 0, false
	}
	strict := map[string]int{"Dorothea Duvall": 9, "Marek Moriarty": -3}[examiner]
	level := skill - strict + chance(31, student, item, on.String()) - 15 + chance(15, student, examiner, item) - 7
	if bonus {
		level -= 10
	}
	steps := int((s.Highest - s.Lowest) / s.Step)
	// Skill 0 to 100 spread over the scale; a usual 65 lands well inside its upper half.
	at := (level*(steps+1) + 50) / 112
	return s.Lowest + scoring.Decimal(min(max(at, 0), steps))*s.Step, true
}

// students reads "name, age, months here, start rung, skill" lines. Half of the guardians
// share the family name.
func students(text string, today civil.Date) (out []Student) {
	for line := range strings.Lines(text) {
		parts := strings.Split(strings.TrimSpace(line), ", ")
		if len(parts) < 5 {
			continue
		}
		var age, months, skill int
		fmt.Sscan(parts[1]+" "+parts[2]+" "+parts[4], &age, &months, &skill)
		name := parts[0]
		since := today.AddMonths(-months).AddDays(-chance(25, name))
		s := progress.Student{
			Name: name, BirthDate: today.AddMonths(-12 * age).AddDays(-20 - chance(320, name, "birthday")), Stance: progress.Orthodox,
			JoinedOn: since, HeightCM: height(age, name),
		}
		if chance(8, name, "stance") == 0 {
			s.Stance = progress.Southpaw
		}
		if age < 18 {
			family := name[strings.LastIndex(name, " ")+1:]
			first := []string{"Anneke", "Bram", "Celia", "Dario", "Esme", "Farid", "Greta", "Hollis", "Imke", "Jonah"}[chance(10, name, "guardian")]
			s.Guardian, s.Contact = first+" "+family, strings.ToLower(first)+"@family.example"
		}
		if chance(4, name, "belt") == 0 { // most sizes follow from the height
			s.BeltSize, _ = gradingday.SizeOf(gradingday.UsualSizes, "", 0, s.HeightCM+8)
		}
		if chance(6, name, "weighed") > 0 {
			s.WeightKG = max(16, (s.HeightCM-100)*(60+chance(40, name, "build"))/100+15-min(8, 3*max(0, 12-age)/2))
		}
		s.UniformSize = fmt.Sprint(s.HeightCM / 10 * 10)
		if chance(14, name, "limits") == 0 {
			s.Limits = "Left knee: no deep kneeling, no jumping kicks."
		}
		x := Student{s, parts[3], since, skill, nil}
		if name == measured {
			x.ShoulderMM, x.LegMM, x.FootMM = 335, 715, 220
			x.Taped = &Taped{"Fighting stance", floor.Taped{Width: 270, Length: 440, OutLead: floor.Nothing, OutRear: 30}, "guard drops"}
		}
		out = append(out, x)
	}
	return out
}

func height(age int, name string) int {
	tall := []int{108, 115, 121, 127, 133, 138, 143, 149, 156, 163, 168, 171}
	base := 174
	if age < 6+len(tall) && age >= 6 {
		base = tall[age-6]
	}
	return base + chance(13, name, "height") - 6
}

// Officer is an examiner with the highest rung held in each program, by name, and the student who
// is of their family.
type Officer struct {
	Name, Family string
	Holds        map[string]string
}

// Officers are the examiners of the school.
var Officers = []Officer{
	{"Rosalind Castellane", "", map[string]string{"Kenpo": "Black belt", "Karate": "Black belt", "Taekwondo": "Black belt"}},
	{"Dorothea Duvall", "", map[string]string{"Kenpo": "Black belt", "Karate": "Black belt", "Taekwondo": "Black belt"}},
	{"Marek Moriarty", "Juniper Castell", map[string]string{"Kenpo": "Black belt", "Karate": "Black belt", "Taekwondo": "Black belt"}},
	{"Ottilie Brannigan", "", map[string]string{"Kenpo": "Black belt", "Taekwondo": "Black belt"}},
	{"Imke Sandford", "Tobias Nkemelu", map[string]string{"Kenpo": "Brown belt"}},
	{"Ferris Loxley", "", map[string]string{"Kenpo": "Blue belt", "Karate": "Brown belt"}},
	{"Hester Quillfeather", "", map[string]string{"Kenpo": "Green belt", "Karate": "Blue belt", "Taekwondo": "Blue belt"}},
}

// rings are several panels at once, the first of each its chief.
func rings(panels ...[]string) (out []gradingday.Examiner) {
	for i, names := range panels {
		for _, e := range panel(names...) {
			e.Ring = i
			out = append(out, e)
		}
	}
	return out
}

func panel(names ...string) (out []gradingday.Examiner) {
	for i, n := range names {
		out = append(out, gradingday.Examiner{Name: n, Chief: i == 0})
	}
	return out
}

// Themes are what this week is about, by the name of a program.
var Themes = map[string]struct {
	Sections []string
	Words    string
}{
	"Kenpo":     {[]string{"Kicks"}, "wrist grabs"},
	"Taekwondo": {[]string{"Forms"}, ""},
}

// Own are the combinations that some would show where the choice is theirs, by name. One of them
// begins with the rear hand, for the rule to remark.
var Own = map[string][]string{
	"Bartholomew Finch":      {"lead jab, rear cross, rear front kick", "lead side kick, lead hammer fist + rear elbow"},
	"Kasimir Wold":           {"rear cross, lead round kick"},
	"Philippa Ashdown-Reyes": {"lead jab, lead front kick, rear cross", "slide back lead outward block, rear palm strike high", "lead back fist, rear elbow"},
}
