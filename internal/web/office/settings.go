package office

import (
	"cmp"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/exchange"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

type settingsView struct {
	Form         frame.Form
	Papers       []frame.Option
	Placeholders []frame.Option
	Preview      template.HTML
	LongGone     []store.LongGone
	Retention    int
}

func (ch *chapter) settingsShow(w http.ResponseWriter, r *http.Request) {
	ch.settingsPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) settingsPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	ctx := r.Context()
	set, err := ch.records.Settings(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	name, err := ch.records.School(ctx)
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	v := settingsView{Form: f, Retention: set.Retention, Papers: []frame.Option{{Value: "A4", Label: "A4, 210 × 297 mm"}, {Value: "Letter", Label: "Letter, 8½ × 11 in"}}}
	v.Form = f.Filled(settingsValues(name, set))
	for _, p := range office.Placeholders {
		v.Placeholders = append(v.Placeholders, frame.Option{Value: p.Name, Label: p.Means})
	}
	if v.LongGone, err = ch.records.DueForErasing(ctx); err != nil {
		ch.Fail(w, r, err)
		return
	}
	if v.Preview, err = ch.sample(r, name, set); err != nil {
		ch.Fail(w, r, err)
		return
	}
	ch.Show(w, r, status, "", frame.Page{Screen: "settings", Title: "Settings", Body: v})
}

// sample is the certificate of somebody made up, as it stands.
func (ch *chapter) sample(r *http.Request, name string, set office.Settings) (template.HTML, error) {
	b, rank, rung := &curriculum.Book{}, "Orange belt", ""
	program, err := ch.Program(r)
	if err != nil {
		return "", err
	}
	if program.ID != "" {
		if b, err = ch.records.Book(r.Context(), program.ID); err != nil {
			return "", err
		}
		if n := len(b.Rungs); n > 0 {
			rank, rung = b.Rungs[n/2].Name, b.Rungs[n/2].ID
		}
	}
	c := exchange.NewCertificate(cmp.Or(name, "Your school"), set, b, exchange.Promoted{Name: "Ada Rillington", Rung: rung, Rank: rank, On: ch.records.Today()})
	c.Signs = []exchange.Sign{{Title: set.Head}, {Title: set.Examiner}}
	c.Preview = true
	for _, s := range exchange.PreviewCertificates([]exchange.Certificate{c}, set.Paper, 1) {
		return template.HTML(s), nil
	}
	return "", nil
}

func settingsValues(name string, s office.Settings) url.Values {
	var sizes strings.Builder
	for _, x := range s.Sizes {
		fmt.Fprintf(&sizes, "%s, %s, %s\n", x.Size, orDash(x.Height), orDash(x.Waist))
	}
	v := frame.Values("school", name, "seal", s.Seal, "seal_colour", s.SealColour, "head", s.Head, "head_name", s.HeadName,
		"examiner", s.Examiner, "grading_word", s.GradingWord, "paper", string(s.Paper), "title", s.Title,
		"wording", s.Wording,
		"mail_from", s.MailFrom, "retention", strconv.Itoa(s.Retention), "certain", strconv.Itoa(s.Certain),
		"sizes", strings.TrimSpace(sizes.String()), "width_cm", strconv.Itoa(s.Hall.WidthCM),
		"depth_cm", strconv.Itoa(s.Hall.DepthCM), "week", "monday", "side", "right")
	if s.Sunday {
		v.Set("week", "sunday")
	}
	if s.Hall.Left {
		v.Set("side", "left")
	}
	return v
}

func orDash(n int) string {
	if n == 0 {
		return "-"
	}
	return strconv.Itoa(n)
}

func readSettings(v url.Values) (office.Settings, check.Problems) {
	var p check.Problems
	s := office.Settings{Seal: v.Get("seal"), SealColour: strings.ToLower(v.Get("seal_colour")), Head: v.Get("head"), HeadName: check.Tidy(v.Get("head_name")),
		Examiner: v.Get("examiner"), GradingWord: v.Get("grading_word"), Paper: office.Paper(v.Get("paper")), Title: v.Get("title"),
		Wording: strings.TrimSpace(strings.ReplaceAll(v.Get("wording"), "\r\n", "\n")), MailFrom: v.Get("mail_from"),
		Retention: p.Whole("retention", v.Get("retention"), 0, 30, 0), Certain: p.Whole("certain", v.Get("certain"), 50, 99, 0), Sunday: v.Get("week") == "sunday",
		Hall: gradingday.Hall{WidthCM: p.Whole("width_cm", v.Get("width_cm"), 200, 10000, 0), DepthCM: p.Whole("depth_cm", v.Get("depth_cm"), 200, 10000, 0), Left: v.Get("side") == "left"}}
	n := 0
	for line := range strings.Lines(v.Get("sizes")) {
		n++
		if line = check.Tidy(line); line == "" {
			continue
		}
		parts := strings.Split(line, ",")
		if len(parts) != 3 {
			p.Add("sizes", "line %d has %d parts; write size, height, waist, with a comma between and - for none: 3, 160, 78", n, len(parts))
			continue
		}
		row := gradingday.SizeRow{Size: check.Tidy(parts[0])}
		for k, into := range []*int{&row.Height, &row.Waist} {
			if text := strings.TrimSpace(parts[k+1]); text != "-" && text != "" {
				number, err := strconv.Atoi(text)
				if err != nil {
					p.Add("sizes", "line %d: %q is no whole number of centimetres", n, text)
				}
				*into = number
			}
		}
		s.Sizes = append(s.Sizes, row)
	}
	return s, p
}

// asTheyStand fills in the settings that were not sent at all: an empty field clears one, a missing field does not.
func (ch *chapter) asTheyStand(r *http.Request, v url.Values) error {
	set, err := ch.records.Settings(r.Context())
	if err != nil {
		return err
	}
	name, err := ch.records.School(r.Context())
	if err != nil {
		return err
	}
	for field, stands := range settingsValues(name, set) {
		if !v.Has(field) {
			v[field] = stands
		}
	}
	return nil
}

func (ch *chapter) settingsSave(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		if err := ch.asTheyStand(r, v); err != nil {
			return store.Done{}, err
		}
		s, p := readSettings(v)
		if len(p) > 0 {
			full := s
			full.Fill()
			for _, x := range full.Check(exchange.Printable) {
				p.Add(x.Field, "%s", x.Text)
			}
			return store.Done{}, p
		}
		return ch.records.SaveSettings(r.Context(), by, v.Get("school"), s, exchange.Printable)
	}, frame.To("/settings"), func(status int, f frame.Form) { ch.settingsPage(w, r, status, f) })
}
