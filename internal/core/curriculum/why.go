package curriculum

import (
	"encoding/json"

	"velvetladder/internal/core/notation"
)

// WhyKind is why a line stands on a sheet, or asks what it asks.
type WhyKind string

// The kinds of reasons; the words behind name the fields of a Why they use.
const (
	WhyAsked   WhyKind = "asked"   // Rung asks for it
	WhyUntil   WhyKind = "until"   // carried from Rung until To
	WhyAlways  WhyKind = "always"  // carried from Rung
	WhyMember  WhyKind = "member"  // from Rung, a member of Group
	WhyBonus   WhyKind = "bonus"   // for Track
	WhyAmount  WhyKind = "amount"  // Track do Now instead of Was
	WhyLevel   WhyKind = "level"   // for Track Now is enough
	WhyPart    WhyKind = "part"    // Track go up to Now
	WhyPool    WhyKind = "pool"    // one of Of in Group, of which N are drawn
	WhyDrawn   WhyKind = "drawn"   // N of Of in Group, by Seed
	WhyKept    WhyKind = "kept"    // drawn at the earlier attempt, of Of in Group
	WhyWritten WhyKind = "written" // as Text says: a sheet of before reasons were kept by kind
)

// Why is a reason why a line stands on a sheet, or asks what it asks. Names are those of the day it was made.
type Why struct {
	Kind  WhyKind `json:"kind"`
	Rung  string  `json:"rung,omitempty"`
	To    string  `json:"to,omitempty"`    // rung
	Group string  `json:"group,omitempty"` // "" it is gone
	Track string  `json:"track,omitempty"`
	Now   string  `json:"now,omitempty"`
	Was   string  `json:"was,omitempty"`
	N     int     `json:"n,omitzero"`
	Of    int     `json:"of,omitzero"`
	Seed  uint64  `json:"seed,omitzero"`
	Text  string  `json:"text,omitempty"`
}

// UnmarshalJSON reads a reason, and the text of a sheet of before reasons were kept by kind.
func (w *Why) UnmarshalJSON(text []byte) error {
	type plain Why
	return orText(text, (*plain)(w), func(s string) { *w = Why{Kind: WhyWritten, Text: s} })
}

// orText reads a value, or the text that stood in its place once.
func orText(text []byte, v any, was func(string)) error {
	if len(text) == 0 || text[0] != '"' {
		return json.Unmarshal(text, v)
	}
	var s string
	if err := json.Unmarshal(text, &s); err != nil {
		return err
	}
	was(s)
	return nil
}

// Before is how a line stands to what the sheets below asked, beside its Freshness.
type Before struct {
	Rung   string   `json:"rung,omitempty"` // carried as there, grown since there, new there
	First  bool     `json:"first,omitzero"` // of the first rung: newcomers are taught it, nobody is tested for it
	Growth []Growth `json:"growth,omitempty"`
}

// GrowthKind is in what a line asks more than before.
type GrowthKind string

// The kinds of growth.
const (
	GrownPart   GrowthKind = "part"   // Now, after Was: names of parts
	GrownAmount GrowthKind = "amount" // Now, after Was, as written
	GrownPace   GrowthKind = "pace"   // NowPace, after WasPace
	GrownHeight GrowthKind = "height" // at least Now, after Was; "" any
	GrownAlone  GrowthKind = "alone"  // without support, after support allowed
	GrownChecks GrowthKind = "checks" // N checkpoints count, all of them or not, after M
)

// Pace is how fast something is done, and whether it is counted.
type Pace struct {
	Slow    bool `json:"slow,omitzero"`
	NonStop bool `json:"non_stop,omitzero"`
}

// Growth is one thing in which a line asks more than before.
type Growth struct {
	Kind    GrowthKind `json:"kind"`
	Now     string     `json:"now,omitempty"`
	Was     string     `json:"was,omitempty"`
	NowPace Pace       `json:"now_pace,omitzero"`
	WasPace Pace       `json:"was_pace,omitzero"`
	N       int        `json:"n,omitzero"`
	M       int        `json:"m,omitzero"`
	All     bool       `json:"all,omitzero"`
}

// Adapted is what was changed for one candidate.
type Adapted struct {
	Instead string `json:"instead,omitempty"` // of this technique; "" it is the amount
	Now     string `json:"now,omitempty"`     // the amount, as written
	Was     string `json:"was,omitempty"`
	Reason  string `json:"reason,omitempty"`
	Text    string `json:"text,omitempty"` // of a sheet of before this was kept by kind
}

// UnmarshalJSON reads what was changed, and the text of a sheet of before it was kept by kind.
func (a *Adapted) UnmarshalJSON(text []byte) error {
	type plain Adapted
	return orText(text, (*plain)(a), func(s string) { *a = Adapted{Text: s} })
}

// Throughout is something that counts for a line beside its own: a statement of the school, the voice, or that either
// ending is right, with the optional Part or without.
type Throughout struct {
	Says  string `json:"says,omitempty"`
	Voice Voice  `json:"voice,omitempty"`
	Part  string `json:"part,omitempty"`
	Steps string `json:"steps,omitempty"` // of the part
}

// UnmarshalJSON reads what counts, and the text of a sheet of before it was kept by kind.
func (h *Throughout) UnmarshalJSON(text []byte) error {
	type plain Throughout
	return orText(text, (*plain)(h), func(s string) { *h = Throughout{Says: s} })
}

// ToldApart is how a technique is told apart from one that looks like it.
type ToldApart struct {
	From    string `json:"from,omitempty"` // the name of the other
	Differs string `json:"differs,omitempty"`
	There   bool   `json:"there,omitzero"` // one sees it in the other, and here not
	Text    string `json:"text,omitempty"` // of a sheet of before this was kept by kind
}

// UnmarshalJSON reads how two are told apart, and the text of a sheet of before it was kept by kind.
func (a *ToldApart) UnmarshalJSON(text []byte) error {
	type plain ToldApart
	return orText(text, (*plain)(a), func(s string) { *a = ToldApart{Text: s} })
}

// Otherwise is how one candidate's line differs from the one that is called for the group; the zero value it does not.
type Otherwise struct {
	NotAsked bool
	Amount   string // as written; "" as called
	Part, Of int    // 0 as called
	Level    notation.Level
	Bonus    bool // it is one for them
	NoBonus  bool // it is none for them
	Adapted  *Adapted
}

// LeftKind is why a line is not on a sheet.
type LeftKind string

// The kinds of lines left out.
const (
	LeftByTrack LeftKind = "track"   // Track leave it out
	LeftExcused LeftKind = "excused" // for Reason
	LeftUndrawn LeftKind = "undrawn" // as Draw says: drawn, or drawn at the earlier attempt
	LeftBarred  LeftKind = "barred"  // the track may not do it, for Reason: a note for the owner alone
)

// LeftOut is a line that is not on a sheet, and why.
type LeftOut struct {
	Call   string
	Kind   LeftKind
	Track  string
	Reason string
	Draw   Why
}
