package webtest

import (
	"encoding/json"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Same compares as JSON: nothing and an empty list are one.
func Same(t *testing.T, want, got any, what string) {
	t.Helper()
	x, err := json.Marshal(want)
	require.NoError(t, err)
	y, err := json.Marshal(got)
	require.NoError(t, err)
	assert.JSONEq(t, string(x), string(y), what)
}

// Says expects a page's main part to say something, and shows only that part where it does not.
func Says(t *testing.T, page, said string, what ...any) {
	t.Helper()
	_, body, found := strings.Cut(page, "</header>")
	if !found {
		body = page
	}
	body, _, _ = strings.Cut(body, "<dialog")
	body = Text(body)
	assert.True(t, strings.Contains(body, said), "%v: %q is not said by: %s", what, said, body[:min(len(body), 1500)])
}

// What of a page's markup holds what a browser would send.
var (
	Inputs       = regexp.MustCompile(`<input[^>]*>`)
	Areas        = regexp.MustCompile(`(?s)<textarea[^>]* name="([^"]+)"[^>]*>(.*?)</textarea>`)
	Selects      = regexp.MustCompile(`(?s)<select[^>]* name="([^"]+)"[^>]*>(.*?)</select>`)
	ChosenOption = regexp.MustCompile(`<option value="([^"]*)" selected`)
	Attribute    = func(name string) *regexp.Regexp { return regexp.MustCompile(` ` + name + `="([^"]*)"`) }
)

// Fields are what a browser would send of a page's largest form.
func Fields(page string) url.Values { return FieldsOf(page, `class="sheet-form"`) }

// FieldsOf are the fields of the form on a page that is marked so, as a browser would send them, without its request id.
func FieldsOf(page, marked string) url.Values {
	v := url.Values{}
	_, page, _ = strings.Cut(page, marked)
	page, _, _ = strings.Cut(page, "</form>")
	plain := strings.NewReplacer("&#34;", `"`, "&#39;", "'", "&amp;", "&", "&lt;", "<", "&gt;", ">", "&#43;", "+").Replace
	for _, in := range Inputs.FindAllString(page, -1) {
		name := Attribute("name").FindStringSubmatch(in)
		value := Attribute("value").FindStringSubmatch(in)
		if name == nil || name[1] == "request" || (strings.Contains(in, `type="checkbox"`) || strings.Contains(in, `type="radio"`)) && !strings.Contains(in, " checked") {
			continue
		}
		if value == nil {
			value = []string{"", ""}
		}
		v.Add(name[1], plain(value[1]))
	}
	for _, a := range Areas.FindAllStringSubmatch(page, -1) {
		v.Add(a[1], plain(a[2]))
	}
	for _, s := range Selects.FindAllStringSubmatch(page, -1) {
		if o := ChosenOption.FindStringSubmatch(s[2]); o != nil {
			v.Add(s[1], plain(o[1]))
		}
	}
	return v
}

// Flat are form values as pairs.
func Flat(v url.Values) (pairs []string) {
	for name, values := range v {
		for _, x := range values {
			pairs = append(pairs, name, x)
		}
	}
	return pairs
}

// DayForm are the rules of a grading day as its form sends them.
var DayForm = url.Values{"open": {"9:00"}, "close": {"18:00"}, "warmup": {"15"}, "rest": {"10"}, "change": {"3"}, "order": {"youngest_first"}}

// Changed is a form with some of its values changed, as it is sent.
func Changed(v url.Values, pairs ...string) string {
	out := url.Values{}
	for k, x := range v {
		out[k] = x
	}
	for i := 0; i < len(pairs); i += 2 {
		out.Set(pairs[i], pairs[i+1])
	}
	return out.Encode()
}

// Values makes form values from pairs.
func Values(pairs ...string) url.Values {
	v := url.Values{}
	for i := 0; i+1 < len(pairs); i += 2 {
		v.Add(pairs[i], pairs[i+1])
	}
	return v
}

// WrongWords are what a page says is wrong.
func WrongWords(page string) string {
	return strings.Join(regexp.MustCompile(`(?s)class="wrong"[^>]*>(.*?)<`).FindAllString(page, -1), "\n")
}
