package web

import (
	"cmp"
	"slices"

	"velvetladder/internal/web/frame"
)

// Routes are those of all chapters, by address.
func Routes() (out []frame.Route) {
	for _, c := range chapters(&frame.Frame{}, nil) {
		out = append(out, c.Routes...)
	}
	slices.SortFunc(out, func(x, y frame.Route) int {
		return cmp.Or(cmp.Compare(x.Path, y.Path), cmp.Compare(x.Method, y.Method))
	})
	return out
}
