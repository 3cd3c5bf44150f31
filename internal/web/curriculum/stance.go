package curriculum

import (
	"cmp"
	"context"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/web/parts"
	"velvetladder/internal/words"
)

// stanceView is a stance drawn for a body.
type stanceView struct {
	Technique  *curriculum.Technique
	Who        parts.Someone
	Right      bool // the right foot in front
	Level      bool
	Own        bool // the school defines it
	Elsewhere  []string
	Pictures   stancePictures
	Besides    []frame.Option
	Beside     string
	BesideText string
	Form       frame.Form // of the definition
	Units      []frame.Option
	WidthSpots []frame.Option
	Spots      []frame.Option
	Tape       frame.Form
	Held       []floor.Held // what was typed, held against the definition
	Past       []store.Taped
	Faults     []frame.Option
	Checks     []string
	Path       string
}

// stancePictures are a stance's drawings with what follows from them.
type stancePictures struct {
	Above, Side, Front template.HTML
	Facts              []fact
	Answers            []answer
	Text               string // the definition in words
}

// answer is something a stance answers: whether a knee is over its foot, whether a foot can be lifted.
type answer struct {
	Good bool
	Text string
}

// With is the page's address with one thing chosen differently.
func (v stanceView) With(what, value string) string {
	q := url.Values{}
	for name, is := range map[string]string{"who": v.Who.Typed, "beside": v.Beside, "lead": map[bool]string{true: "right"}[v.Right]} {
		if name == what {
			is = value
		}
		if is != "" {
			q.Set(name, is)
		}
	}
	if len(q) == 0 {
		return v.Path
	}
	return v.Path + "?" + q.Encode()
}

// Typed is what was typed from the tape, to be kept.
func (v stanceView) Typed() (out []fact) {
	for _, field := range []string{"taped_width", "taped_length", "taped_lead", "taped_rear"} {
		if text := v.Tape.Get(field); text != "" {
			out = append(out, fact{field, text})
		}
	}
	return out
}

// Words is a measure held against the definition, in words.
func (stanceView) Words(h floor.Held) string { return words.Held(h) }

func (ch *chapter) stanceShow(w http.ResponseWriter, r *http.Request) {
	ch.stancePage(w, r, http.StatusOK, frame.Form{})
}

// stanceOf is the stance an address names.
func (ch *chapter) stanceOf(w http.ResponseWriter, r *http.Request) (*curriculum.Technique, *curriculum.Book, bool) {
	t, b, ok := ch.techniqueBook(w, r)
	if ok && t.Kind != "stance" {
		ch.Fail(w, r, store.ErrNotFound)
		return nil, nil, false
	}
	return t, b, ok
}

// stanceSeen is the stance of a request as its page shows it, with the book it stands in; where there is none, it has answered.
func (ch *chapter) stanceSeen(w http.ResponseWriter, r *http.Request) (v stanceView, b *curriculum.Book, ok bool) {
	t, b, ok := ch.stanceOf(w, r)
	if !ok {
		return v, b, false
	}
	v, err := ch.stanceView(r, t, b)
	if err != nil {
		ch.Fail(w, r, err)
	}
	return v, b, err == nil
}

func (ch *chapter) stancePage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	v, b, ok := ch.stanceSeen(w, r)
	if !ok {
		return
	}
	err := ch.besides(r.Context(), &v, b)
	if err == nil {
		err = ch.onTheMat(r, &v, b, f)
	}
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	if f.Of == "tape" {
		f = frame.Form{}
	}
	v.Form = f.Filled(stanceValues(measuresOf(b, v.Technique)))
	ch.Show(w, r, status, v.Technique.ProgramID, frame.Page{Screen: "stance", Title: v.Technique.Name + ", to scale", Nav: "techniques", Body: v})
}

// stanceView draws the stance for whom the address chooses.
func (ch *chapter) stanceView(r *http.Request, t *curriculum.Technique, b *curriculum.Book) (v stanceView, err error) {
	q := r.URL.Query()
	v = stanceView{Technique: t, Level: t.FeetStand() == notation.SideBySide, Path: "/techniques/" + t.ID + "/stance", Beside: q.Get("beside"), Checks: b.Checkpoints(t)}
	if v.Who, err = ch.Someone(r.Context(), q.Get("who")); err != nil {
		return v, err
	}
	v.Right = q.Get("lead") == "right" || q.Get("lead") == "" && v.Who.Student.Stance == "southpaw"
	v.Units = frame.Options(floor.Units, func(u floor.Unit) string { return words.Span(200, u)[2:] })
	spot := func(s floor.Spot) string { return string(s) }
	v.WidthSpots, v.Spots = frame.Options(floor.WidthSpots, spot), frame.Options(floor.Spots, spot)
	for _, x := range b.Faults(t) {
		v.Faults = append(v.Faults, frame.Option{Value: x.Seen, Label: x.Seen})
	}
	_, v.Own, _ = b.StanceOf(t)
	v.Pictures = v.draw(measuresOf(b, t), nil)
	return v, nil
}

// measuresOf are a stance's measures; where nobody defines it, those it stands with: of the ready or the fighting stance.
func measuresOf(b *curriculum.Book, t *curriculum.Technique) floor.Definition {
	d, _, known := b.StanceOf(t)
	if !known {
		d = floor.Usual[map[bool]string{true: "ready", false: floor.Fighting}[t.FeetStand() == notation.SideBySide]]
	}
	return d
}

// lead is the foot in front.
func (v *stanceView) lead() floor.Side {
	if v.Right {
		return floor.Right
	}
	return floor.Left
}

// draw draws a definition for the body, with another one beside it.
func (v *stanceView) draw(d floor.Definition, other *floor.Definition) (out stancePictures) {
	of := v.Who.Body
	stance := d.For(of, v.Technique.Name, v.Level)
	stand := stance.Take(of, v.lead())
	out.Text = words.Stance(d, v.Level)
	c := parts.Scaled(v.Technique, d, stand, of)
	c.Label = fmt.Sprintf("%s for %s: %s", v.Technique.Name, v.Who.Words, out.Text)
	if other != nil {
		o := other.For(of, "", v.Level).Take(of, v.lead())
		c.Other = &o
	}
	out.Above, out.Side, out.Front = template.HTML(c.Above()), template.HTML(c.Side()), template.HTML(c.Front())
	lead, rear := stand.Lead, stand.Lead.Other()
	names := [2]string{"Front", "Rear"}
	if v.Level {
		names = [2]string{"Left", "Right"}
		lead, rear = floor.Left, floor.Right
	}
	l, r := stand.Reads(floor.Left, d.WidthFrom, of), stand.Reads(floor.Right, d.WidthFrom, of)
	out.Facts = []fact{{"Width, " + words.Between(d.WidthFrom, d.WidthFrom), chart.Centimetres(r.X - l.X)}}
	if !v.Level {
		front, back := stand.Reads(lead, d.LengthLead, of), stand.Reads(rear, d.LengthRear, of)
		out.Facts = append(out.Facts, fact{"Length, " + words.Between(d.LengthLead, d.LengthRear), chart.Centimetres(front.Y - back.Y)})
	}
	out.Facts = append(out.Facts, fact{names[0] + " foot, out", fmt.Sprintf("%d°", d.OutLead)}, fact{names[1] + " foot, out", fmt.Sprintf("%d°", d.OutRear)})
	for i, side := range []floor.Side{lead, rear} {
		if stand.Legs[side].Short == 0 {
			out.Facts = append(out.Facts, fact{names[i] + " knee bends", words.Degrees(stand.Legs[side].Bend)})
		}
	}
	out.Facts = append(out.Facts, fact{"Head sinks", chart.Centimetres(stand.Sinks(of))})
	for i, side := range []floor.Side{lead, rear} {
		if leg := stand.Legs[side]; leg.Short == 0 && leg.Bend > 15 {
			out.Answers = append(out.Answers, answer{stand.KneeOver(side, of), names[i] + " knee " + words.KneeOver(leg.Knee, (floor.AtToe-floor.AtAnkle)*of.Foot)})
		}
		if sway := stand.Sway(side, of); sway < 5 {
			out.Answers = append(out.Answers, answer{true, names[i] + " foot can be lifted as one stands"})
		} else {
			out.Answers = append(out.Answers, answer{false, fmt.Sprintf("%s foot can be lifted after the weight has moved %s", names[i], chart.Centimetres(sway))})
		}
	}
	for _, x := range stance.Troubles(of) {
		out.Answers = append(out.Answers, answer{false, words.Trouble(x)})
	}
	return out
}

// besides are the definitions that can stand beside this one: the usual one, those of other programs and other stances of
// this one whose feet stand alike.
func (ch *chapter) besides(ctx context.Context, v *stanceView, b *curriculum.Book) error {
	v.Besides = []frame.Option{{Value: "", Label: "nothing"}}
	found := map[string]floor.Definition{}
	add := func(value, label string, d floor.Definition) {
		found[value] = d
		v.Besides = append(v.Besides, frame.Option{Value: value, Label: label})
	}
	if d, level, known := floor.UsualFor(v.Technique.Name); known && v.Own && level == v.Level {
		add("usual", "the usual one", d)
	}
	programs, err := ch.records.Programs(ctx)
	if err != nil {
		return err
	}
	for _, p := range programs {
		if p.ID == b.Program.ID {
			continue
		}
		other, err := ch.records.Book(ctx, p.ID)
		if err != nil {
			return err
		}
		if t := other.Named(v.Technique.Name); t != nil && t.Kind == "stance" && (t.FeetStand() == notation.SideBySide) == v.Level {
			if d, _, known := other.StanceOf(t); known {
				add(t.ID, "in "+p.Name, d)
				v.Elsewhere = append(v.Elsewhere, p.Name)
			}
		}
	}
	for i := range b.Techniques {
		t := &b.Techniques[i]
		if t.Kind != "stance" || t.ID == v.Technique.ID || (t.FeetStand() == notation.SideBySide) != v.Level {
			continue
		}
		if d, _, known := b.StanceOf(t); known {
			add(t.ID, t.Name, d)
		}
	}
	if d, there := found[v.Beside]; there {
		own, _, _ := b.StanceOf(v.Technique)
		v.Pictures = v.draw(own, &d)
		v.BesideText = words.Stance(d, v.Level)
	} else {
		v.Beside = ""
	}
	return nil
}

// onTheMat holds what was typed from the tape against the definition, and finds what is on record.
func (ch *chapter) onTheMat(r *http.Request, v *stanceView, b *curriculum.Book, f frame.Form) (err error) {
	v.Tape = f
	if f.Of != "tape" {
		v.Tape = frame.Form{Of: "tape", Values: r.URL.Query()}
	}
	d, _, known := b.StanceOf(v.Technique)
	if t, any := readTape(v.Tape.Values, &v.Tape.Problems); any && known && len(v.Tape.Problems) == 0 {
		v.Held = d.Hold(t, v.Who.Body)
	}
	if v.Who.Student.ID != "" {
		v.Past, err = ch.records.TapedOf(r.Context(), v.Who.Student.ID, v.Technique.ID)
	}
	return err
}

// readTape reads what a tape said; any is false where nothing was typed.
func readTape(v url.Values, p *check.Problems) (t floor.Taped, any bool) {
	long := func(field string) int {
		if strings.TrimSpace(v.Get(field)) == "" {
			return floor.Nothing
		}
		any = true
		return p.Tenths(field, v.Get(field))
	}
	angle := func(field string) int {
		if strings.TrimSpace(v.Get(field)) == "" {
			return floor.Nothing
		}
		any = true
		return p.Whole(field, v.Get(field), -90, 180, 0)
	}
	t = floor.Taped{Width: long("taped_width"), Length: long("taped_length"), OutLead: angle("taped_lead"), OutRear: angle("taped_rear")}
	return t, any
}

// stanceTaped puts on record what a tape said.
func (ch *chapter) stanceTaped(w http.ResponseWriter, r *http.Request) {
	t, b, ok := ch.stanceOf(w, r)
	if !ok {
		return
	}
	next := ""
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		s, err := ch.records.Student(r.Context(), v.Get("student"))
		if err != nil {
			return store.Done{}, err
		}
		next = "/techniques/" + t.ID + "/stance?who=" + url.QueryEscape(s.Name) + "#mat"
		var p check.Problems
		taped, any := readTape(v, &p)
		if !any {
			p.Add("taped_width", "nothing was measured; write a width, a length or an angle")
		}
		if len(p) > 0 {
			return store.Done{}, p
		}
		d, _, known := b.StanceOf(t)
		if !known {
			return store.Done{}, check.Problems{{Field: "taped_width", Text: "cannot be held against anything; this stance has no measures yet"}}
		}
		return ch.records.RecordTaped(r.Context(), by, store.Taped{StudentID: s.ID, TechniqueID: t.ID, Held: d.Hold(taped, s.Body()), Fault: check.Tidy(v.Get("fault"))})
	}, func(store.Done) string { return next }, func(status int, f frame.Form) {
		f.Of = "tape"
		ch.stancePage(w, r, status, f)
	})
}

// stanceTapedBack takes back what a tape was said to read.
func (ch *chapter) stanceTapedBack(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(_ url.Values, by store.By) (store.Done, error) {
		return ch.records.WithdrawTaped(r.Context(), by, r.PathValue("taped"))
	}, frame.To("/techniques/"+r.PathValue("technique")+"/stance#mat"), nil)
}

// stanceValues fills the form of a definition.
func stanceValues(d floor.Definition) url.Values {
	bend := func(n int) string {
		if n == floor.Computed {
			return ""
		}
		return fmt.Sprint(n)
	}
	width, angle, weight := d.Tolerances()
	unit := func(u floor.Unit) string { return string(cmp.Or(u, floor.Shoulder)) }
	spot := func(s floor.Spot) string { return string(cmp.Or(s, floor.Heel)) }
	return frame.Values("width", check.Hundredths(d.Width), "width_unit", unit(d.WidthUnit), "width_from", spot(d.WidthFrom),
		"length", check.Hundredths(d.Length), "length_unit", unit(d.LengthUnit), "length_lead", spot(d.LengthLead), "length_rear", spot(d.LengthRear),
		"out_lead", fmt.Sprint(d.OutLead), "out_rear", fmt.Sprint(d.OutRear), "on_lead", fmt.Sprint(d.OnLead),
		"bend_lead", bend(d.BendLead), "bend_rear", bend(d.BendRear), "lead_heel_up", parts.Word(d.LeadHeelUp), "hips", fmt.Sprint(d.Hips),
		"within_width", check.Hundredths(width), "within_angle", fmt.Sprint(angle), "within_weight", fmt.Sprint(weight), "look", d.Look)
}

// readStance reads the form of a definition.
func readStance(v url.Values, level bool) (floor.Definition, check.Problems) {
	var p check.Problems
	unless := func(n, usual int) int { // the usual tolerance is no other one
		if n == usual {
			return 0
		}
		return n
	}
	d := floor.Definition{
		Width: p.Hundredths("width", v.Get("width"), -100, 500, 0), WidthUnit: floor.Unit(v.Get("width_unit")), WidthFrom: floor.Spot(v.Get("width_from")),
		OutLead: p.Whole("out_lead", v.Get("out_lead"), -60, 120, 0), OutRear: p.Whole("out_rear", v.Get("out_rear"), -60, 120, 0),
		OnLead:   p.Whole("on_lead", v.Get("on_lead"), 0, 100, 50),
		BendLead: p.Whole("bend_lead", v.Get("bend_lead"), 0, 150, floor.Computed), BendRear: p.Whole("bend_rear", v.Get("bend_rear"), 0, 150, floor.Computed),
		LeadHeelUp: v.Get("lead_heel_up") != "", Hips: p.Whole("hips", v.Get("hips"), 0, 90, 0),
		WithinWidth: unless(p.Hundredths("within_width", v.Get("within_width"), 1, 100, 0), floor.UsualWithin),
		WithinAngle: unless(p.Whole("within_angle", v.Get("within_angle"), 1, 90, 0), floor.UsualWithinAngle),
		WithinShare: unless(p.Whole("within_weight", v.Get("within_weight"), 1, 50, 0), floor.UsualWithinWeight), Look: check.Tidy(v.Get("look")),
	}
	if !level {
		d.Length, d.LengthUnit = p.Hundredths("length", v.Get("length"), 0, 500, 0), floor.Unit(v.Get("length_unit"))
		d.LengthLead, d.LengthRear = floor.Spot(v.Get("length_lead")), floor.Spot(v.Get("length_rear"))
	}
	// What is usual is not said, so that one definition has one form.
	for _, s := range []*floor.Spot{&d.WidthFrom, &d.LengthLead, &d.LengthRear} {
		if *s == floor.Heel {
			*s = ""
		}
	}
	for _, u := range []*floor.Unit{&d.WidthUnit, &d.LengthUnit} {
		if *u == floor.Shoulder {
			*u = ""
		}
	}
	var more check.Problems
	d.Check(&more)
	for _, x := range more {
		p.Add(x.Field, "%s", x.Text)
	}
	return d, p
}

// stanceSave keeps the measures of a stance, or goes back to the usual ones.
func (ch *chapter) stanceSave(w http.ResponseWriter, r *http.Request) {
	t, _, ok := ch.stanceOf(w, r)
	if !ok {
		return
	}
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		x := *t
		x.Stance = nil
		if v.Get("drop") == "" {
			d, p := readStance(v, t.FeetStand() == notation.SideBySide)
			if len(p) > 0 {
				return store.Done{}, p
			}
			x.Stance = &d
		}
		return ch.records.SaveTechnique(r.Context(), by, x)
	}, frame.To("/techniques/"+t.ID+"/stance"), func(status int, f frame.Form) { ch.stancePage(w, r, status, f) })
}

// stanceDraw draws what somebody types in the form of the measures. It writes nothing.
func (ch *chapter) stanceDraw(w http.ResponseWriter, r *http.Request) {
	v, _, ok := ch.stanceSeen(w, r)
	if !ok {
		return
	}
	d, p := readStance(r.URL.Query(), v.Level)
	out := struct {
		Above, Side, Front, Text string
		Answers                  []string
		Problems                 map[string]string
	}{Problems: map[string]string{}}
	for _, x := range p {
		out.Problems[x.Field] = x.Text
	}
	if len(p) == 0 {
		drawn := v.draw(d, nil)
		out.Above, out.Side, out.Front, out.Text = string(drawn.Above), string(drawn.Side), string(drawn.Front), drawn.Text
		for _, a := range drawn.Answers {
			if !a.Good {
				out.Answers = append(out.Answers, a.Text)
			}
		}
	}
	frame.SendJSON(w, http.StatusOK, out)
}

// tapeView is the page of floor marks for tape.
type tapeView struct {
	stanceView
	Marks []tapeMark
	Notes []string
}

// tapeMark is where a piece of tape goes: centimetres from the rear heel, or the left one, across and ahead.
type tapeMark struct{ What, Across, Ahead, Angle string }

// sideways is a measure to the right, or where it is negative to the left.
func sideways(v float64, unit string, places int) string {
	text := strconv.FormatFloat(math.Abs(v), 'f', places, 64) + unit
	switch {
	case strings.Trim(text, "0. °cm") == "":
		return text
	case v < 0:
		return text + " to the left"
	}
	return text + " to the right"
}

// stanceTape is the print of floor marks in centimetres.
func (ch *chapter) stanceTape(w http.ResponseWriter, r *http.Request) {
	v, b, ok := ch.stanceSeen(w, r)
	if !ok {
		return
	}
	t := v.Technique
	d, _, known := b.StanceOf(t)
	if !known {
		ch.Fail(w, r, store.ErrNotFound)
		return
	}
	stand := d.For(v.Who.Body, t.Name, v.Level).Take(v.Who.Body, v.lead())
	from := stand.Lead.Other()
	if v.Level {
		from = floor.Left
	}
	out := tapeView{stanceView: v}
	origin := stand.Feet[from].Heel
	names := map[floor.Side]string{floor.Left: "Left", floor.Right: "Right"}
	for _, side := range []floor.Side{from, from.Other()} {
		f := stand.Feet[side]
		for _, s := range []struct {
			what string
			at   float64
		}{{"heel", floor.AtHeel}, {"toe", floor.AtToe}} {
			p := f.At(s.at, v.Who.Body).Minus(origin)
			out.Marks = append(out.Marks, tapeMark{names[side] + " " + s.what, sideways(p.X/10, " cm", 1), fmt.Sprintf("%.1f cm", p.Y/10+0), sideways(f.Heading, "°", 0)})
		}
	}
	width, _, _ := d.Tolerances()
	out.Notes = []string{fmt.Sprintf("Up to %s either way is fine.", chart.Centimetres(float64(width)/100*v.Who.Body.Shoulder))}
	if v.Who.Note != "" {
		out.Notes = append(out.Notes, v.Who.Note)
	}
	ch.Show(w, r, http.StatusOK, t.ProgramID, frame.Page{Screen: "tape", Title: "Tape marks: " + t.Name, Nav: "techniques", Body: out, Bare: true})
}
