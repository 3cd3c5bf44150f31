// Package chart draws core values as SVG. Nothing here is styled inline: colours are
// attributes, text takes its face from the page.
package chart

import (
	"fmt"
	"html"
	"strings"

	"velvetladder/internal/core/curriculum"
)

// Belt draws a piece of belt of the given size in pixels. It is decoration beside the
// rank's words and hidden from screen readers.
func Belt(c curriculum.Cloth, width, height int) string {
	return fmt.Sprintf(`<svg class="belt" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" preserveAspectRatio="none" aria-hidden="true" focusable="false">%s</svg>`, width, height, cloth(c, 0, 0, width, height))
}

// cloth draws the belt at a place of a larger picture.
func cloth(c curriculum.Cloth, x, y, w, h int) string {
	var b strings.Builder
	rect := func(x, y, w, h int, fill, more string) {
		fmt.Fprintf(&b, `<rect x="%d" y="%d" width="%d" height="%d" fill="%s"%s/>`, x, y, w, h, html.EscapeString(fill), more)
	}
	fmt.Fprintf(&b, `<rect x="%d" y="%d" width="%d" height="%d" rx="%d" fill="%s"/>`, x, y, w, h, min(3, h/4), html.EscapeString(c.Colour))
	switch c.Weave {
	case curriculum.Halves:
		rect(x, y+h/2, w, h-h/2, c.Second, "")
	case curriculum.CoreLine:
		core := max(h/4, 2)
		rect(x, y+(h-core)/2, w, core, c.Second, "")
	}
	if m := c.Marks; m != nil {
		if m.Place == curriculum.Lengthwise {
			line := max(h/(2*m.Count+3), 1)
			for i := range m.Count {
				rect(x, y+(i+1)*h/(m.Count+1)-line/2, w, line, m.Colour, "")
			}
		} else {
			bar := max(w/26, 2)
			if m.Count <= 3 {
				bar = max(w/18, 3)
			}
			for i := range m.Count {
				rect(x+w-bar*(2*i+3), y, bar, h, m.Colour, "")
			}
		}
	}
	rect(x, y, w, max(h/4, 1), "#ffffff", ` fill-opacity="0.22"`)
	rect(x, y+h-max(h/4, 1), w, max(h/4, 1), "#000000", ` fill-opacity="0.14"`)
	// The thin grey edge lets white cloth stand out on paper and black cloth on velvet.
	fmt.Fprintf(&b, `<rect x="%d.5" y="%d.5" width="%d" height="%d" rx="%d" fill="none" stroke="#8d7f88" stroke-opacity="0.55"/>`, x, y, w-1, h-1, min(3, h/4))
	return b.String()
}

// text is a text element with its content escaped.
func text(x, y int, class, anchor, content string) string {
	return fmt.Sprintf(`<text x="%d" y="%d" class="%s" text-anchor="%s">%s</text>`, x, y, class, anchor, html.EscapeString(content))
}
