package parts

import (
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/practice"
	"velvetladder/internal/words"
)

// CallWire is a call as a caller's page has it, with what is said already in words, so that it goes on without network.
type CallWire struct {
	Words    string                 `json:"words"`
	Term     string                 `json:"term,omitempty"`
	Section  string                 `json:"section"`
	Number   int                    `json:"number,omitempty"`
	Series   string                 `json:"series,omitempty"`
	Moves    []curriculum.StripMove `json:"moves,omitempty"`
	Partner  []curriculum.StripMove `json:"partner,omitempty"`
	Parts    []partWire             `json:"parts,omitempty"`
	Sets     []setWire              `json:"sets"`
	Phases   []string               `json:"phases,omitempty"`
	Manner   string                 `json:"manner,omitempty"`
	Remark   string                 `json:"remark,omitempty"`
	Common   []string               `json:"common,omitempty"`
	Cautions []string               `json:"cautions,omitempty"`
	Why      string                 `json:"why,omitempty"` // freshness: new, grown, carried
	Travels  string                 `json:"travels,omitempty"`
}

type partWire struct {
	Name string `json:"name"`
	From int    `json:"from"`
	To   int    `json:"to"`
}

type setWire struct {
	Sides    map[curriculum.View]string             `json:"sides,omitempty"` // none where it has none
	Readings map[curriculum.View]curriculum.Reading `json:"readings,omitempty"`
	Before   string                                 `json:"before,omitempty"`
	Reps     int                                    `json:"reps,omitempty"`
	Seconds  int                                    `json:"seconds,omitempty"`
	Rest     int                                    `json:"rest,omitempty"`
	Pace     int                                    `json:"pace,omitempty"`
	Closing  int                                    `json:"closing,omitempty"`
}

type commandsWire struct {
	Ready  string `json:"ready"`
	Begin  string `json:"begin"`
	Stop   string `json:"stop"`
	Turn   string `json:"turn"`
	Change string `json:"change"`
	Rest   string `json:"rest"`
}

// CallOnWire puts a call into words, with the commands of its program.
func CallOnWire(p curriculum.Program, c practice.Call) CallWire {
	commands := words.Commands(p)
	out := CallWire{Words: c.Call, Term: c.Term, Section: c.Section, Number: c.Number, Series: c.Series, Moves: c.Moves, Partner: c.Partner, Sets: []setWire{},
		Phases: c.Steps, Manner: words.Manner(c.Line), Remark: c.Note, Common: words.Throughout(c.Common), Cautions: c.Cautions, Why: string(c.Freshness), Travels: c.Travels}
	for _, x := range c.Parts {
		out.Parts = append(out.Parts, partWire(x))
	}
	for _, s := range c.Sets {
		x := setWire{Readings: s.Readings, Before: words.Before(c, s, commands), Reps: s.Reps, Seconds: s.Seconds, Rest: s.Rest, Pace: s.Pace, Closing: s.Closing}
		for _, v := range curriculum.Views {
			if said := words.SetSide(c, s, v); said != "" {
				if x.Sides == nil {
					x.Sides = map[curriculum.View]string{}
				}
				x.Sides[v] = said
			}
		}
		out.Sets = append(out.Sets, x)
	}
	return out
}
