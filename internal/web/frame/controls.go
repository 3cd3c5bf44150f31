package frame

import (
	"fmt"
	"net/http"
	"regexp"
	"strings"

	"velvetladder/internal/store"
)

// offered are the elements that lead to a route of a method, and the attribute that says where.
var offered = map[string][][2]string{
	http.MethodGet:  {{"a", "href"}},
	http.MethodPost: {{"form", "action"}, {"button", "formaction"}},
}

var parameter = regexp.MustCompile(`\{[a-z]+\}`)

// ownersOnly is the style sheet that does not offer an instructor what only the owner may do: it follows
// from the roles of the routes. The server refuses it in any case.
func ownersOnly(chapters []Chapter) string {
	var routes []Route
	var samples []string // an address of each route
	for _, c := range chapters {
		for _, x := range c.Routes {
			routes, samples = append(routes, x), append(samples, parameter.ReplaceAllString(x.Path, "x"))
		}
	}
	var selectors []string
	for _, x := range routes {
		if x.May != Owner {
			continue
		}
		before, after, several := around(x.Path)
		for _, of := range offered[x.Method] {
			but := ""
			for i, y := range routes { // what an instructor may use stays, where it begins and ends as this does
				covered := several && strings.HasPrefix(samples[i], before) && strings.HasSuffix(samples[i], after)
				if covered && y.Method == x.Method && y.May.Allows(store.Instructor) {
					but += ":not(" + leadingTo(y.Path, "", of[1])[0] + ")"
				}
			}
			for _, s := range leadingTo(x.Path, of[0], of[1]) {
				selectors = append(selectors, s+but)
			}
		}
	}
	return fmt.Sprintf("[data-role=\"instructor\"] :is(%s) { display: none; }\n", strings.Join(selectors, ",\n"))
}

// around is what stands before the first parameter of a path and after the last.
func around(path string) (before, after string, found bool) {
	at := parameter.FindAllStringIndex(path, -1)
	if len(at) == 0 {
		return path, "", false
	}
	return path[:at[0][0]], path[at[len(at)-1][1]:], true
}

// leadingTo are the selectors of an element whose attribute leads to a route, with a query or an anchor
// behind it too; the first is without.
func leadingTo(path, element, attribute string) []string {
	before, after, found := around(path)
	switch {
	case !found:
		return []string{
			fmt.Sprintf(`%s[%s="%s"]`, element, attribute, path),
			fmt.Sprintf(`%s[%s^="%s?"]`, element, attribute, path),
			fmt.Sprintf(`%s[%s^="%s#"]`, element, attribute, path),
		}
	case after == "":
		return []string{fmt.Sprintf(`%s[%s^="%s"]`, element, attribute, before)}
	}
	return []string{
		fmt.Sprintf(`%s[%s^="%s"][%s$="%s"]`, element, attribute, before, attribute, after),
		fmt.Sprintf(`%s[%s^="%s"][%s*="%s?"]`, element, attribute, before, attribute, after),
		fmt.Sprintf(`%s[%s^="%s"][%s*="%s#"]`, element, attribute, before, attribute, after),
	}
}
