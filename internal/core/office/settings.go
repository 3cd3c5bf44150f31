// Package office holds what a school sets once for all it prints, plans and keeps.
package office

import (
	"fmt"
	"slices"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/civil"
	"velvetladder/internal/core/gradingday"
)

// Paper is the size of printed pages.
type Paper string

// The papers.
const (
	A4     Paper = "A4"
	Letter Paper = "Letter"
)

// Papers are the choices.
var Papers = []Paper{A4, Letter}

// Settings are a school's own. The zero value is filled by Fill.
type Settings struct {
	Seal        string               `json:"seal,omitempty"`         // up to four letters in the round mark of certificates; "" the first letters of the name
	SealColour  string               `json:"seal_colour,omitempty"`  // #rrggbb, of the mark and the rules of printed papers
	Head        string               `json:"head,omitempty"`         // what the head instructor is called: "Head instructor"
	HeadName    string               `json:"head_name,omitempty"`    // who signs letters and certificates as head instructor; "" whoever decided
	Examiner    string               `json:"examiner,omitempty"`     // what an examiner is called on paper
	GradingWord string               `json:"grading_word,omitempty"` // what a grading is called on paper: "grading", "test"
	Sunday      bool                 `json:"sunday,omitempty"`       // the week begins on Sunday; else on Monday
	Paper       Paper                `json:"paper,omitempty"`
	Title       string               `json:"title,omitempty"`   // of the certificate
	Wording     string               `json:"wording,omitempty"` // of the certificate, with the words in braces of Placeholders
	MailFrom    string               `json:"mail_from,omitempty"`
	Retention   int                  `json:"retention,omitempty"` // years after a child left until their record is proposed for erasing, 1 to 30; 0: never proposed
	Certain     int                  `json:"certain,omitempty"`   // percent of certainty with which belts should be enough, 50 to 99
	Sizes       []gradingday.SizeRow `json:"sizes,omitempty"`
	Hall        gradingday.Hall      `json:"hall"`
	Skipped     []FirstStep          `json:"first_steps_skipped,omitempty"` // of the first hour
}

// Placeholders stand in a certificate's wording, with what takes their place.
var Placeholders = []struct{ Name, Means string }{
	{"{name}", "the student’s name"}, {"{rank}", "the new rank in the school’s words"}, {"{program}", "the program"},
	{"{date}", "the day of the grading"}, {"{place}", "where it was held, or the school"}, {"{school}", "the school’s name"}, {"{grade}", "“provisional”, “permanent” or nothing"}, {"{honours}", "“with honours” or nothing"},
}

// Usual is what stands where nothing was set.
var Usual = Settings{SealColour: "#3a1a33", Head: "Head instructor", Examiner: "Examiner", GradingWord: "grading", Paper: A4, Title: "Certificate of rank",
	Wording: "This certifies that\n{name}\nhas shown what is asked for\n{rank}\nin {program}, at {place} on {date}.", Certain: 90, Sizes: gradingday.UsualSizes, Hall: gradingday.UsualHall}

// Fill puts what is usual where nothing is set.
func (s *Settings) Fill() {
	for _, x := range []struct {
		into  *string
		usual string
	}{{&s.SealColour, Usual.SealColour}, {&s.Head, Usual.Head}, {&s.Examiner, Usual.Examiner}, {&s.GradingWord, Usual.GradingWord}, {&s.Title, Usual.Title}, {&s.Wording, Usual.Wording}} {
		if *x.into == "" {
			*x.into = x.usual
		}
	}
	if s.Paper == "" {
		s.Paper = Usual.Paper
	}
	if s.Certain == 0 {
		s.Certain = Usual.Certain
	}
	if len(s.Sizes) == 0 {
		s.Sizes = slices.Clone(Usual.Sizes)
	}
	if s.Hall.WidthCM == 0 {
		s.Hall.WidthCM = Usual.Hall.WidthCM
	}
	if s.Hall.DepthCM == 0 {
		s.Hall.DepthCM = Usual.Hall.DepthCM
	}
}

// Check notes what is wrong with filled settings. printable says which characters printed papers
// have a letter for; nil is all.
func (s Settings) Check(printable func(rune) bool) check.Problems {
	var p check.Problems
	p.Line("seal", s.Seal, 4)
	if len(s.SealColour) != 7 || s.SealColour[0] != '#' || strings.Trim(s.SealColour[1:], "0123456789abcdef") != "" {
		p.Add("seal_colour", "%q is not a colour; write one as #rrggbb, for example #3a1a33", s.SealColour)
	}
	p.Name("head", s.Head)
	p.Name("examiner", s.Examiner)
	p.Name("grading_word", s.GradingWord)
	p.Line("mail_from", s.MailFrom, check.NameLength)
	if s.MailFrom != "" && strings.Count(s.MailFrom, "@") != 1 {
		p.Add("mail_from", "%q is no mail address; write one as office@school.example, or leave it empty", s.MailFrom)
	}
	check.OneOf(&p, "paper", s.Paper, Papers)
	p.Name("title", s.Title)
	p.Text("wording", s.Wording)
	if n := strings.Count(s.Wording, "\n") + 1; n > 12 {
		p.Add("wording", "has %d lines; up to 12 fit on the page", n)
	}
	if !strings.Contains(s.Wording, "{name}") || !strings.Contains(s.Wording, "{rank}") {
		p.Add("wording", "does not say who is promoted to what: {name} and {rank} must stand in it")
	}
	if rest := s.unknown(); rest != "" {
		p.Add("wording", "%s is no word that is filled in; those are %s", rest, strings.Join(names(), ", "))
	}
	for field, text := range map[string]string{"wording": s.Wording, "title": s.Title, "seal": s.Seal, "head": s.Head, "examiner": s.Examiner} {
		if bad := Unprintable(text, printable); bad != "" {
			p.Add(field, "%s cannot be printed: the letters for it are not on board. Latin, Greek and Cyrillic letters, kanji, kana and hangul are; pictures such as emoji are not", bad)
		}
	}
	if s.Retention < 0 || s.Retention > 30 {
		p.Add("retention", "is %d years; it must be from 1 to 30, or 0 for never", s.Retention)
	}
	if s.Certain < 50 || s.Certain > 99 {
		p.Add("certain", "is %d percent; it must be from 50 to 99", s.Certain)
	}
	for _, x := range append(gradingday.CheckSizes(s.Sizes), s.Hall.Check()...) {
		p.Add(x.Field, "%s", x.Text)
	}
	return p
}

// Unprintable is the first character of a text that has no letter, in words; "" all have one.
func Unprintable(text string, printable func(rune) bool) string {
	if printable == nil {
		return ""
	}
	for i, r := range []rune(text) {
		if r != '\n' && !printable(r) {
			return fmt.Sprintf("“%c” (character %d)", r, i+1)
		}
	}
	return ""
}

func names() (out []string) {
	for _, x := range Placeholders {
		out = append(out, x.Name)
	}
	return out
}

// unknown is the first {…} of the wording that is filled by nothing; "" there is none.
func (s Settings) unknown() string {
	for rest := s.Wording; ; {
		_, after, found := strings.Cut(rest, "{")
		if !found {
			return ""
		}
		word, tail, closed := strings.Cut(after, "}")
		if !closed {
			return "{" + strings.SplitN(after, " ", 2)[0]
		}
		if !slices.Contains(names(), "{"+word+"}") {
			return "{" + word + "}"
		}
		rest = tail
	}
}

// Words is the wording with everything filled in, a line each; lines that come out empty are left
// out.
func (s Settings) Words(fill map[string]string) (out []string) {
	for line := range strings.Lines(s.Wording) {
		for name, text := range fill {
			line = strings.ReplaceAll(line, "{"+name+"}", text)
		}
		if line = check.Tidy(line); line != "" {
			out = append(out, line)
		}
	}
	return out
}

// SealOf is what stands in the round mark: as set, or the first letters of the name's words.
func (s Settings) SealOf(name string) string {
	if s.Seal != "" {
		return s.Seal
	}
	out := ""
	for _, w := range strings.Fields(name) {
		if r := []rune(w); len([]rune(out)) < 3 {
			out += strings.ToUpper(string(r[:1]))
		}
	}
	return out
}

// WeekOf is the first day of a day's week.
func (s Settings) WeekOf(d civil.Date) civil.Date {
	if s.Sunday {
		return d.AddDays(1).Monday().AddDays(-1)
	}
	return d.Monday()
}
