package words

import (
	"fmt"
	"math"
	"strings"

	"velvetladder/internal/core/body"
	"velvetladder/internal/core/check"
	"velvetladder/internal/core/floor"
	"velvetladder/internal/core/progress"
)

// Estimate says what a drawing guesses at.
func Estimate(e progress.Estimate) string {
	switch e {
	case progress.NoHeight:
		return "No height is on record, so this is drawn for the usual one. Measure height, shoulders, leg and foot to draw it truly."
	case progress.ChildParts:
		return "Under 14 the proportions are not those of grown people, from which this is drawn: measure shoulders, leg and foot, and they count instead."
	}
	return ""
}

// Either are things of which one is meant: "A, B or C".
func Either(all []string) string {
	if len(all) < 2 {
		return strings.Join(all, "")
	}
	return strings.Join(all[:len(all)-1], ", ") + " or " + all[len(all)-1]
}

// Span is a width or a length as a definition says it: "1.5 shoulders".
func Span(hundredths int, u floor.Unit) string {
	unit := string(u)
	if unit == "" {
		unit = string(floor.Shoulder)
	}
	many := unit + "s"
	if u == floor.FootLong {
		many = "feet"
	}
	if max(hundredths, -hundredths) == 100 {
		many = unit
	}
	return check.Hundredths(hundredths) + " " + many
}

// spots are the points of a foot, of one and of both.
var spots = map[floor.Spot][2]string{"": {"heel", "heels"}, floor.Heel: {"heel", "heels"}, floor.Middle: {"middle", "middles"}, floor.Ball: {"ball", "balls"}, floor.Toe: {"toe", "toes"}, floor.Inner: {"inner edge", "inner edges"}, floor.Outer: {"outer edge", "outer edges"}}

// Between are the points that a tape is laid between: "between the heels", "front toe to rear heel".
func Between(lead, rear floor.Spot) string {
	if spots[lead] == spots[rear] {
		return "between the " + spots[lead][1]
	}
	return "front " + spots[lead][0] + " to rear " + spots[rear][0]
}

// Held says how one measure of a stance stands to its definition, and what would be fine.
func Held(h floor.Held) string {
	name := map[string]string{"width": "Width", "length": "Length", "lead": "Front foot", "rear": "Rear foot"}[h.What]
	off := max(h.Off, -h.Off)
	if h.What == "lead" || h.What == "rear" {
		way := map[bool]string{true: "further out", false: "further in"}[h.Off > 0]
		switch {
		case h.Off == 0:
			return name + " as it should be"
		case h.Fine():
			return fmt.Sprintf("%s fine: %d° %s than %d°", name, off, way, h.Wanted)
		}
		return fmt.Sprintf("%s %d° %s than %d°; up to %d° is fine", name, off, way, h.Wanted, h.Within)
	}
	much, little := "long", "short"
	if h.What == "width" {
		much, little = "wide", "narrow"
	}
	way := map[bool]string{true: much, false: little}[h.Off > 0]
	cm := func(mm int) string { return check.Hundredths(mm*10) + " cm" }
	switch {
	case h.Off == 0:
		return name + " as it should be"
	case h.Fine():
		return fmt.Sprintf("%s fine: %s %s (up to %s is fine)", name, cm(off), map[bool]string{true: "over", false: "under"}[h.Off > 0], cm(h.Within))
	}
	return fmt.Sprintf("%s too %s, %s of a shoulder; up to %s is fine", cm(off), way, check.Hundredths(max(h.Shoulders, -h.Shoulders)), cm(h.Within))
}

// Degrees is an angle to the nearest degree.
func Degrees(v float64) string { return fmt.Sprintf("%.0f°", math.Round(v)+0) }

// KneeOver says where a knee is over its foot, in centimetres.
func KneeOver(ahead, ankleToToe float64) string {
	switch {
	case ahead < 0:
		return fmt.Sprintf("%.0f cm behind the ankle", -ahead/10)
	case ahead > ankleToToe:
		return fmt.Sprintf("%.0f cm beyond the toes", (ahead-ankleToToe)/10)
	}
	return "over the foot"
}

// Lower is a name in the middle of a sentence.
func Lower(name string) string { return strings.ToLower(name) }

// facings are the quarters of a turn from the start, clockwise.
var facings = []string{"ahead, as at the start", "to the right", "to the back", "to the left"}

// Facing says where somebody faces, from where they faced at the start.
func Facing(degrees float64) string {
	n := (int(math.Round(degrees))%360 + 360) % 360
	if n%90 == 0 {
		return facings[n/90]
	}
	if n > 180 {
		return fmt.Sprintf("%d° to the left", 360-n)
	}
	return fmt.Sprintf("%d° to the right", n)
}

// Standing says where somebody stands and how, for those who cannot see it.
func Standing(x *floor.Stand, b body.Parts) string {
	at := Away(x.Feet[floor.Left].At(floor.AtMiddle, b).Plus(x.Feet[floor.Right].At(floor.AtMiddle, b)).Times(.5))
	lead := "left foot in front"
	switch {
	case x.Stance.Level:
		lead = "feet level"
	case x.Lead == floor.Right:
		lead = "right foot in front"
	}
	if at == "0 cm" {
		at = "at the start"
	}
	return fmt.Sprintf("%s, %s, facing %s, %s", at, Lower(x.Stance.Name), Facing(x.Facing), lead)
}

// Stance is a definition in
func Stance(d floor.Definition, level bool) string {
	all := []string{fmt.Sprintf("%s wide %s", Span(d.Width, d.WidthUnit), Between(d.WidthFrom, d.WidthFrom))}
	if !level {
		all = append(all, fmt.Sprintf("%s long %s", Span(d.Length, d.LengthUnit), Between(d.LengthLead, d.LengthRear)))
	}
	bend := func(n int) string {
		if n == floor.Computed {
			return "as it comes out"
		}
		return fmt.Sprintf("%d°", n)
	}
	all = append(all, fmt.Sprintf("feet %d° and %d° out", d.OutLead, d.OutRear), fmt.Sprintf("weight %d : %d", d.OnLead, 100-d.OnLead),
		fmt.Sprintf("knees bent %s and %s", bend(d.BendLead), bend(d.BendRear)))
	if d.LeadHeelUp {
		all = append(all, "front heel up")
	}
	if d.Hips > 0 {
		all = append(all, fmt.Sprintf("hips turned %d°", d.Hips))
	}
	if d.Look != "" {
		all = append(all, d.Look)
	}
	return strings.Join(all, ", ")
}

// Trouble is what a stance contradicts.
func Trouble(x floor.Trouble) string {
	leg := "rear"
	if x.Lead {
		leg = "front"
	}
	cm := func(mm float64) float64 { return math.Round(mm / 10) }
	switch x.Kind {
	case floor.TooShort:
		return fmt.Sprintf("The %s leg cannot reach: from hip to ankle it would have to be %.0f cm, and is %.0f cm when straight.", leg, cm(x.Needs), cm(x.Has))
	case floor.HeelRises:
		return fmt.Sprintf("The %s heel must rise: with it down the leg would have to be %.0f cm, and is %.0f cm when straight.", leg, cm(x.Needs), cm(x.Has))
	case floor.BendDiffers:
		return fmt.Sprintf("The %s knee is said to bend %.0f°, and with the other as it is said it bends %.0f°.", leg, x.Has, x.Needs)
	}
	return "The feet would stand on one another."
}

// Away is how far a point lies from the start: "0 cm", "40 cm left", "1.20 m ahead and 10 cm right".
func Away(p floor.Point) string {
	far := func(mm float64, way string) string {
		switch cm := math.Round(math.Abs(mm) / 10); {
		case cm >= 100:
			return fmt.Sprintf("%.2f m %s", cm/100, way)
		case cm > 0:
			return fmt.Sprintf("%.0f cm %s", cm, way)
		}
		return ""
	}
	across, along := "right", "ahead"
	if p.X < 0 {
		across = "left"
	}
	if p.Y < 0 {
		along = "behind"
	}
	x, y := far(p.X, across), far(p.Y, along)
	switch {
	case x == "" && y == "":
		return "0 cm"
	case x == "" || y == "":
		return y + x
	}
	return y + " and " + x
}
