package chart

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/progress"
)

// Calibration draws what came of the chances that were told: a dot for those of about one size,
// the larger the more there were. On the line a chance comes true as often as it says.
func Calibration(all []progress.ChanceOf) string {
	const width, height, left, bottom, top = 420, 300, 56, 40, 14
	x := func(share float64) int { return left + int(share*float64(width-left-20)+0.5) }
	y := func(share float64) int { return top + int((1-share)*float64(height-top-bottom)+0.5) }
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="calibration" viewBox="0 0 %d %d" role="img" aria-label="Chances told and what came of them; the table beside has the figures">`, width, height)
	for n := 0; n <= 100; n += 25 {
		at := float64(n) / 100
		fmt.Fprintf(&b, `<line class="grid" x1="%d" x2="%d" y1="%d" y2="%[3]d"/><line class="grid" x1="%[4]d" x2="%[4]d" y1="%[5]d" y2="%[6]d"/>`, left, x(1), y(at), x(at), y(0), y(1))
		b.WriteString(text(left-8, y(at)+4, "tick", "end", fmt.Sprintf("%d %%", n)))
		b.WriteString(text(x(at), height-bottom+18, "tick", "middle", fmt.Sprintf("%d %%", n)))
	}
	b.WriteString(text(x(0.5), height-4, "name", "middle", "told"))
	b.WriteString(text(left+6, top+16, "name", "start", "came"))
	fmt.Fprintf(&b, `<line class="true" x1="%d" y1="%d" x2="%d" y2="%d"/>`, x(0), y(0), x(1), y(1))
	most := 1
	for _, c := range all {
		most = max(most, c.N)
	}
	for _, c := range all {
		fmt.Fprintf(&b, `<circle class="dot" cx="%d" cy="%d" r="%d"><title>told %.0f percent, came %.0f percent of %d</title></circle>`, x(c.Told), y(c.Came), 4+8*c.N/most, 100*c.Told, 100*c.Came, c.N)
	}
	b.WriteString(`</svg>`)
	return b.String()
}
