package chart

import (
	"fmt"
	"strings"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/words"
)

// LineUp draws people on the hall's floor, to scale: a foot's width is a foot's width. Names and
// cloths are by the index of who stands there.
func LineUp(l gradingday.LineUp, h gradingday.Hall, names []string, cloths []curriculum.Cloth) string {
	const width, margin, gutter = 1000, 30, 74
	scale := func(mm int) int { return mm * (width - margin - gutter) / (h.WidthCM * 10) }
	depth := max(l.Depth, 1500)
	if d := h.DepthCM * 10; d >= l.Depth && d < l.Depth*3/2 {
		depth = d
	}
	height := scale(depth) + 150
	top := 74
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="lineup" viewBox="0 0 %d %d" role="img" aria-label="Line-up to scale: %d rows in a hall %s wide; the list below names everybody">`, width, height, len(l.Rows), words.Metres(h.WidthCM*10))
	fmt.Fprintf(&b, `<rect class="floor" x="%d" y="%d" width="%d" height="%d" rx="3"/>`, margin, top-36, width-margin-gutter, height-top)
	b.WriteString(text(margin+(width-margin-gutter)/2, 16, "tick", "middle", "front: those who teach and examine"))
	fmt.Fprintf(&b, `<line class="front" x1="%d" x2="%d" y1="26" y2="26"/>`, margin, width-gutter)
	for _, row := range l.Rows {
		for k, s := range row.Stands {
			if k == 0 {
				y := top + scale(s.Y)
				fmt.Fprintf(&b, `<line class="row" x1="%d" x2="%d" y1="%d" y2="%[3]d"/>`, margin, width-gutter, y)
				if row.Behind > 0 {
					above := y - scale(row.Behind)
					fmt.Fprintf(&b, `<path class="measure" d="M%d %dv%dm-4 0h8m-4 %dm-4 0h8"/>`, width-gutter+12, above, y-above, above-y)
					b.WriteString(text(width-gutter+18, (above+y)/2+4, "tick", "start", words.Metres(row.Behind)))
				}
			}
			x, y := margin+scale(s.X), top+scale(s.Y)
			if k > 0 {
				before := row.Stands[k-1]
				a, z := margin+scale(before.X), x
				if a > z {
					a, z = z, a
				}
				gap := before.X - s.X
				if gap < 0 {
					gap = -gap
				}
				if z-a > 46 {
					b.WriteString(text((a+z)/2, y-6, "gap", "middle", words.Metres(gap)))
				}
			}
			half, foot := max(scale(s.Shoulder)/2, 4), max(scale(s.Foot)/2, 3)
			class := "body"
			if s.Guessed {
				class += " guessed"
			}
			fmt.Fprintf(&b, `<ellipse class="%s" cx="%d" cy="%d" rx="%d" ry="%d"/>`, class, x, y, half, max(half*2/5, 3))
			for _, side := range []int{-1, 1} {
				fmt.Fprintf(&b, `<ellipse class="foot" cx="%d" cy="%d" rx="%d" ry="%d"/>`, x+side*half/2, y-foot/2, max(foot/3, 2), foot)
			}
			b.WriteString(cloth(cloths[s.Who], x-half, y+max(half*2/5, 3)+3, 2*half, 6))
			letters := max(8, 2*scale(s.Shoulder+s.Arm)/7)
			dy := 24
			if k%2 == 1 { // neighbours' names do not run into each other
				dy = 36
			}
			b.WriteString(text(x, y+max(half*2/5, 3)+dy, "who", "middle", shorten(names[s.Who], letters)))
		}
	}
	fmt.Fprintf(&b, `<path class="measure" d="M%d %dh%dm0 -4v8m%d -4"/>`, margin, height-18, scale(1000), -scale(1000))
	b.WriteString(text(margin+scale(1000)+6, height-14, "tick", "start", "1 m"))
	b.WriteString(`</svg>`)
	return b.String()
}
