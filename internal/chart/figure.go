package chart

import (
	"fmt"
	"html"
	"math"
	"strings"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/floor"
)

// sole is the outline of a right foot: across in foot breadths, outwards positive, along in foot lengths from the heel. The
// first point begins, every three more are a curve.
var sole = [][2]float64{
	{-.30, .12}, {-.31, -.03}, {.31, -.04}, {.33, .13}, {.35, .33}, {.33, .44}, {.43, .62}, {.53, .80}, {.42, .93}, {.16, .985}, {-.06, 1.02}, {-.43, 1.02}, {-.48, .86}, {-.52, .70}, {-.30, .60}, {-.24, .45}, {-.21, .33}, {-.29, .24}, {-.30, .12},
}

// foot is the path of a foot that points up, its heel at the origin, in pixels.
func foot(side floor.Side, b body.Parts, scale float64) string {
	way := 1.0
	if side == floor.Left {
		way = -1
	}
	var d strings.Builder
	for i, p := range sole {
		switch {
		case i == 0:
			d.WriteString("M")
		case i%3 == 1:
			d.WriteString("C")
		default:
			d.WriteString(" ")
		}
		fmt.Fprintf(&d, "%.1f %.1f", p[0]*way*b.FootBreadth*scale, -p[1]*b.Foot*scale)
	}
	return d.String() + "Z"
}

// plan is a floor seen from above: where its origin lies and how large a millimetre is, in pixels.
type plan struct{ x, y, scale float64 }

func (p plan) at(q floor.Point) (x, y float64) { return p.x + q.X*p.scale, p.y - q.Y*p.scale }

// print is a foot on the plan.
func (p plan) print(class, id string, f floor.Foot) string {
	x, y := p.at(f.Heel)
	if f.HeelUp {
		class += " up"
	}
	return fmt.Sprintf(`<use href="#%s" class="%s" transform="translate(%.1f %.1f) rotate(%.0f)"/>`, id, class, x, y, f.Heading)
}

// soles are the two feet that prints of a picture use, by an id of their own.
func soles(id string, b body.Parts, scale float64) string {
	return fmt.Sprintf(`<defs><path id="%s0" d="%s"/><path id="%[1]s1" d="%s"/></defs>`, id, foot(floor.Left, b, scale), foot(floor.Right, b, scale))
}

// grid draws the squares of a floor, so many millimetres wide, over a picture.
func (p plan) grid(width, height int, square float64) string {
	var d strings.Builder
	step := square * p.scale
	for x := math.Mod(p.x, step); x < float64(width); x += step {
		if x >= 0 {
			fmt.Fprintf(&d, "M%.1f 0V%d", x, height)
		}
	}
	for y := math.Mod(p.y, step); y < float64(height); y += step {
		if y >= 0 {
			fmt.Fprintf(&d, "M0 %.1fH%d", y, width)
		}
	}
	return fmt.Sprintf(`<path class="grid" d="%s"/>`, d.String())
}

// label is words at a place between pixels.
func label(x, y float64, class, anchor, words string) string {
	return fmt.Sprintf(`<text x="%.1f" y="%.1f" class="%s" text-anchor="%s">%s</text>`, x, y, class, anchor, html.EscapeString(words))
}

// ruler is a measured way with its ends, across or along.
func ruler(x1, y1, x2, y2 float64) string {
	if math.Abs(x1-x2) > math.Abs(y1-y2) {
		return fmt.Sprintf(`<path class="ruler" d="M%.1f %.1fV%.1fM%.1f %.1fV%.1fM%[1]f %.1[7]fH%.1[8]f"/>`, x1, y1-5, y1+5, x2, y2-5, y2+5, y1, x2)
	}
	return fmt.Sprintf(`<path class="ruler" d="M%.1f %.1fH%.1fM%.1f %.1fH%.1fM%.1f %.1fV%.1f"/>`, x1-5, y1, x1+5, x1-5, y2, x1+5, x1, y1, y2)
}

// stick is a line of a figure between two places.
func stick(class string, x1, y1, x2, y2, thick float64) string {
	return fmt.Sprintf(`<line class="%s" x1="%.1f" y1="%.1f" x2="%.1f" y2="%.1f" stroke-width="%.1f"/>`, class, x1, y1, x2, y2, thick)
}

// How thick the parts of a figure are, in body heights.
const thickTrunk, thickLeg, thickArm = .10, .07, .048

// Centimetres are millimetres to the nearest centimetre, with the unit; from a metre on in metres.
func Centimetres(mm float64) string {
	cm := math.Round(mm / 10)
	if math.Abs(cm) >= 100 {
		return fmt.Sprintf("%.2f m", cm/100)
	}
	return fmt.Sprintf("%.0f cm", cm+0)
}

// standalone is how a drawing looks by itself, where no page styles it.
const standalone = `<style>text{font:600 13px sans-serif;fill:#6c5f69}.grid{stroke:#ece3dd;fill:none}.way{fill:none;stroke:#f3e8d3;stroke-width:20;stroke-linecap:round;stroke-linejoin:round}` +
	`.print{fill:#dfd0db;stroke:#3a1a33;stroke-width:1.5}.print.other{fill:#f3ddd1;stroke:#a8481f}.now{fill:#6d3d61;stroke:#3a1a33}.other .now{fill:#d08a6d;stroke:#a8481f}line{stroke:#3a1a33;stroke-linecap:round}` +
	`.other line{stroke:#a8481f}.rests{display:none}.trunk ellipse{fill:#f3ebf1;stroke:#3a1a33;stroke-width:2}.trunk path,.head{fill:#3a1a33}.other .head{fill:#a8481f}.line{stroke:#a8481f;stroke-dasharray:7 6}` +
	`.ruler{stroke:#b48a3c;stroke-width:1.8;fill:none}.mass{fill:none;stroke:#3a1a33;stroke-width:1.8}.mass.dot{fill:#3a1a33}.carries{fill:#f3ebf1}</style>`

// Standalone is a drawing as a file of its own.
func Standalone(svg string) string {
	head, rest, _ := strings.Cut(svg, ">")
	return strings.Replace(head, "<svg ", `<svg xmlns="http://www.w3.org/2000/svg" `, 1) + ">" + standalone + rest
}
