package frame

import (
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"html/template"
	"io"
	"maps"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"golang.org/x/text/unicode/norm"

	"velvetladder/internal/core/check"
	"velvetladder/internal/store"
)

// Form is what people typed and what is wrong with it.
type Form struct {
	Values   url.Values
	Problems check.Problems
	General  string
	Of       string // which form it is where a page has several; empty for the only one

	was       url.Values // the record it was made from
	overtaken bool       // somebody has changed the record since
}

// Filled is the form of a record: as the record stands where nothing was typed. Where somebody has changed the record since
// the form was made, the two are merged: what only the other changed is taken over; of what both changed stands what was
// typed, with the other's beside it.
func (f Form) Filled(record url.Values) Form {
	if f.Values == nil {
		f.Values, f.was = record, maps.Clone(record)
		return f
	}
	f.was, _ = url.ParseQuery(f.Values.Get("was"))
	if !f.overtaken {
		return f
	}
	var taken []string
	both := 0
	for _, name := range slices.Sorted(maps.Keys(merged(record, f.was))) {
		theirs, mine, was := record[name], f.Values[name], f.was[name]
		switch {
		case alike(theirs, was) || alike(theirs, mine):
		case alike(mine, was):
			f.Values[name], taken = theirs, append(taken, quoted(theirs))
		default:
			both++
			f.Problems.Add(name, "is %s since then; yours stands here", quoted(theirs))
			f.General += " They wrote " + quoted(theirs) + " where you wrote " + quoted(mine) + "."
		}
	}
	f.was = record
	if len(taken) > 0 {
		f.General += " Taken over from them: " + strings.Join(taken, ", ") + "."
	}
	if both > 0 {
		f.General += " Yours stands in the form; save again to keep it."
	} else {
		f.General += " Nothing of it collides with what you typed; save again."
	}
	return f
}

func merged(a, b url.Values) url.Values {
	out := maps.Clone(a)
	if out == nil {
		out = url.Values{}
	}
	maps.Copy(out, b)
	return out
}

// alike compares what a field has in two forms, whatever way a browser ends its lines; nothing and an empty text are one.
func alike(a, b []string) bool { return slices.Equal(plain(a), plain(b)) }

func plain(values []string) (out []string) {
	for _, v := range values {
		if v = strings.TrimSpace(strings.ReplaceAll(v, "\r\n", "\n")); v != "" {
			out = append(out, v)
		}
	}
	return out
}

// quoted is what a field holds, in one line that is not too long.
func quoted(values []string) string {
	text := []rune(check.Tidy(strings.Join(plain(values), ", ")))
	if len(text) == 0 {
		return "nothing"
	}
	if len(text) > 100 {
		text = append(text[:99], '…')
	}
	return "“" + string(text) + "”"
}

// madeFrom are the hidden fields that say what a form was made from: the record, what was last done at that time, and how
// it stood.
func madeFrom(seen int64, f Form, record string) template.HTML {
	if record == "" {
		return ""
	}
	return template.HTML(fmt.Sprintf(`<input type="hidden" name="seen" value="%d %s"><input type="hidden" name="was" value="%s">`,
		seen, template.HTMLEscapeString(record), template.HTMLEscapeString(f.was.Encode())))
}

// For is the form as typed when it is the one so called, and an empty one otherwise.
func (f Form) For(of string) Form {
	if f.Of != of {
		return Form{Of: of}
	}
	return f
}

// Get is the typed value of a field.
func (f Form) Get(name string) string { return f.Values.Get(name) }

// Has reports whether a field has a value among several.
func (f Form) Has(name, value string) bool { return slices.Contains(f.Values[name], value) }

// Problem is what is wrong with a field.
func (f Form) Problem(name string) string { return f.Problems.Of(name) }

// Option is one choice of a field.
type Option struct{ Value, Label string }

// field is one labelled input for the partials.
type field struct {
	Form                    Form
	Name, Label, Type, Hint string
	Options                 []Option
}

// ID is the field's name within the page.
func (f field) ID() string {
	if f.Form.Of == "" {
		return f.Name
	}
	return f.Name + "-" + f.Form.Of
}

// Values makes form values from pairs.
func Values(pairs ...string) url.Values {
	v := url.Values{}
	for i := 0; i+1 < len(pairs); i += 2 {
		v.Add(pairs[i], pairs[i+1])
	}
	return v
}

// Options are choices with the words for each.
func Options[T ~string](list []T, words func(T) string) (out []Option) {
	for _, x := range list {
		out = append(out, Option{string(x), words(x)})
	}
	return out
}

// Posted reads a form and says who sent it. The digest covers all that was typed, so that
// the same form sent twice is answered once.
func Posted(r *http.Request) (url.Values, store.By, error) {
	var err error
	if strings.HasPrefix(r.Header.Get("Content-Type"), "multipart/form-data") {
		err = r.ParseMultipartForm(MaxBody)
	} else {
		err = r.ParseForm()
	}
	if err != nil {
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			return nil, store.By{}, err
		}
		return nil, store.By{}, check.Problems{{Field: "form", Text: "could not be read; load the page again"}}
	}
	v := r.PostForm
	for name, all := range v { // a field that comes several times is a list of what was ticked: what is ticked twice is ticked
		if !slices.Contains(notCarried, name) { // an é is one letter, however a device puts it together
			for i := range all {
				all[i] = norm.NFC.String(all[i])
			}
		}
		v[name] = unique(all)
	}
	id := v.Get("request")
	v.Del("request")
	by := store.By{Actor: ActorOf(r), Request: id}
	fmt.Sscan(v.Get("seen"), &by.Seen, &by.Record) // what cannot be read asks for no care
	v.Del("seen")
	by.Digest = digestOf(r.URL.Path, v)
	return v, by, nil
}

func unique(all []string) []string {
	if len(all) < 2 {
		return all
	}
	out, had := all[:0], map[string]bool{}
	for _, x := range all {
		if !had[x] {
			had[x] = true
			out = append(out, x)
		}
	}
	return out
}

// digestKey is of this start of the program.
var digestKey = []byte(rand.Text())

// digestOf is what a form is known by when it comes again. One with a password is known only to this start: the digest is
// kept, and passwords could be tried against it.
func digestOf(path string, v url.Values) string {
	sum := sha256.New()
	if slices.ContainsFunc(notCarried, v.Has) {
		sum = hmac.New(sha256.New, digestKey)
	}
	io.WriteString(sum, path+"?"+v.Encode())
	return hex.EncodeToString(sum.Sum(nil))
}

// Save runs a form's write. On success it goes to the address that next gives; what is wrong
// with the fields goes back to again, which shows the form with its input kept.
func (fr *Frame) Save(w http.ResponseWriter, r *http.Request, write func(url.Values, store.By) (store.Done, error), next func(store.Done) string, again func(status int, f Form)) {
	v, by, err := Posted(r)
	if err != nil {
		fr.Fail(w, r, err)
		return
	}
	done, err := write(v, by)
	if err == nil {
		to := next(done)
		mark := "?"
		if strings.Contains(to, "?") {
			mark = "&"
		}
		to, anchor, _ := strings.Cut(to, "#")
		if to += mark + "done=" + done.Audit; anchor != "" {
			to += "#" + anchor
		}
		http.Redirect(w, r, to, http.StatusSeeOther)
		return
	}
	var problems check.Problems
	var refused *store.Refused
	var invalid *store.InvalidCurriculum
	var overtaken *store.Overtaken
	status, _, text := Explain(err)
	switch {
	case errors.Is(err, store.ErrNotFound) && fromForm(r) && again != nil:
		fr.keepForm(w, r, status, waitingView{Gone: true, Title: "This is not on record any more", Text: "Somebody has deleted it meanwhile, or it never was. What you typed stands below, to be copied; who deleted it stands on the audit trail, where it can be undone."})
	case again != nil && errors.As(err, &overtaken) && strings.Contains(by.Record, ":"):
		again(status, Form{Values: v, General: text + " Look at it, and send yours once more where it still holds."})
	case again != nil && errors.As(err, &overtaken):
		again(status, Form{Values: v, General: text, overtaken: true})
	case again != nil && errors.As(err, &problems):
		again(status, Form{Values: v, Problems: problems})
	case again != nil && (errors.As(err, &refused) || errors.As(err, &invalid)):
		again(status, Form{Values: v, General: text})
	default:
		fr.Fail(w, r, err)
	}
}

// To is a constant next address.
func To(address string) func(store.Done) string { return func(store.Done) string { return address } }
