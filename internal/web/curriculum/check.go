package curriculum

import (
	"net/http"
	"net/url"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
	"velvetladder/internal/words"
)

type checkView struct {
	Kinds    []findingKind
	Silenced []finding
	Open     int
	Rungs    int
	Form     frame.Form
	Quiet    string   // key of the finding whose reason was refused
	Kept     []string // kinds that were looked for and not found
}

// findingKind are the findings of one kind.
type findingKind struct {
	Kind     curriculum.FindingKind
	Title    string
	Findings []finding
}

type finding struct {
	curriculum.Finding
	Title, Place, Reason, Mend string
	Spot                       string // address of the place
}

func findingOf(f curriculum.Finding) finding {
	reason, mend := words.Finding(f)
	return finding{f, words.FindingKind(f.Kind), words.Where(f.Where), reason, mend, spot(f)}
}

// spot is the page where a finding can be mended.
func spot(f curriculum.Finding) string {
	switch {
	case f.Requirement != "":
		return "/requirements/" + f.Requirement
	case f.Kind == curriculum.NoKit || f.Kind == curriculum.NoRule:
		return "/rungs/" + f.RungID
	case f.TechniqueID != "":
		return "/techniques/" + f.TechniqueID + "/edit"
	case f.RungID != "":
		return "/ladder/" + f.RungID
	}
	return "/techniques"
}

func (ch *chapter) checkShow(w http.ResponseWriter, r *http.Request) {
	ch.checkPage(w, r, http.StatusOK, frame.Form{})
}

func (ch *chapter) checkPage(w http.ResponseWriter, r *http.Request, status int, f frame.Form) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	v := checkView{Rungs: len(b.Rungs), Form: f, Quiet: f.Get("finding")}
	seen := map[curriculum.FindingKind]bool{}
	for _, x := range b.Check() {
		seen[x.Kind] = true
		y := findingOf(x)
		if x.Silenced != "" {
			v.Silenced = append(v.Silenced, y)
			continue
		}
		v.Open++
		if n := len(v.Kinds); n == 0 || v.Kinds[n-1].Kind != x.Kind {
			v.Kinds = append(v.Kinds, findingKind{Kind: x.Kind, Title: y.Title})
		}
		last := &v.Kinds[len(v.Kinds)-1]
		last.Findings = append(last.Findings, y)
	}
	for _, k := range curriculum.FindingKinds {
		if !seen[k] {
			v.Kept = append(v.Kept, words.FindingKind(k))
		}
	}
	ch.Show(w, r, status, b.Program.ID, frame.Page{Screen: "check", Title: "Ladder check", Nav: "ladder", Body: v})
}

// checkRead notes that the owner has seen which moves are read differently since an upgrade.
func (ch *chapter) checkRead(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		return ch.records.ChangeProgram(r.Context(), by, v.Get("program"), office.Deed{Kind: office.MovesLookedThrough}, func(d *curriculum.ProgramDetails) error {
			d.ReadAnew = false
			return nil
		})
	}, frame.To("/check"), func(status int, f frame.Form) { ch.checkPage(w, r, status, f) })
}

// checkSilence keeps one finding quiet, or with take lets it speak again.
func (ch *chapter) checkSilence(w http.ResponseWriter, r *http.Request) {
	ch.Save(w, r, func(v url.Values, by store.By) (store.Done, error) {
		key, reason := v.Get("finding"), check.Tidy(v.Get("reason"))
		b, err := ch.records.Book(r.Context(), v.Get("program"))
		if err != nil {
			return store.Done{}, err
		}
		found := b.Check()
		at := slices.IndexFunc(found, func(f curriculum.Finding) bool { return f.Key() == key })
		if at < 0 {
			return store.Done{}, &store.Refused{Reason: "This finding is gone; somebody has mended it."}
		}
		speak := v.Get("take") != ""
		var p check.Problems
		if reason == "" && !speak {
			p.Add("reason", "is empty; say why this is as it should be, so that the next reader knows")
		}
		if p.Line("reason", reason, check.LineLength); len(p) > 0 {
			return store.Done{}, p
		}
		deed := office.Deed{Kind: office.FindingSilenced, In: words.FindingKind(found[at].Kind), What: words.Where(found[at].Where)}
		if speak {
			deed.Kind = office.FindingHeard
		}
		return ch.records.ChangeProgram(r.Context(), by, b.Program.ID, deed, func(d *curriculum.ProgramDetails) error {
			d.Silenced = slices.DeleteFunc(d.Silenced, func(s curriculum.Silence) bool { return s.Finding == key })
			if !speak {
				d.Silenced = append(d.Silenced, curriculum.Silence{Finding: key, Reason: reason})
			}
			return nil
		})
	}, frame.To("/check"), func(status int, f frame.Form) { ch.checkPage(w, r, status, f) })
}
