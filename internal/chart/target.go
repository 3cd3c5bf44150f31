package chart

import (
	"fmt"
	"html"
	"slices"
	"strings"
)

// Target is a place on a body that a technique goes to.
type Target struct {
	Name string
	Care bool // shown, not struck
}

// bodySpot is where a target is on a figure: how far from the middle and how high, in hundredths of the height.
type bodySpot struct {
	across, up int
	both       bool // on either side of the middle
	back       bool // seen from the back
}

// bodySpots are the targets that people name, in the singular.
var bodySpots = map[string]bodySpot{
	"head": {0, 95, false, false}, "temple": {4, 94, true, false}, "eye": {2, 94, true, false}, "ear": {5, 93, true, false}, "face": {0, 92, false, false}, "nose": {0, 92, false, false},
	"jaw": {3, 89, true, false}, "chin": {0, 88, false, false}, "cheek": {3, 91, true, false}, "throat": {0, 85, false, false}, "windpipe": {0, 85, false, false}, "neck": {3, 85, true, false},
	"collarbone": {7, 82, true, false}, "shoulder": {12, 81, true, false}, "lapel": {4, 78, true, false}, "chest": {0, 75, false, false}, "breastbone": {0, 74, false, false}, "solar plexus": {0, 70, false, false},
	"body": {0, 70, false, false}, "trunk": {0, 70, false, false}, "rib": {8, 69, true, false}, "floating rib": {8, 65, true, false}, "stomach": {0, 63, false, false}, "belly": {0, 60, false, false}, "hip": {8, 53, true, false}, "groin": {0, 50, false, false},
	"upper arm": {15, 73, true, false}, "biceps": {15, 73, true, false}, "elbow": {17, 64, true, false}, "forearm": {19, 58, true, false}, "wrist": {20, 52, true, false}, "sleeve": {18, 60, true, false}, "hand": {20, 48, true, false}, "thumb": {19, 48, true, false}, "finger": {21, 46, true, false},
	"thigh": {6, 40, true, false}, "leg": {6, 36, true, false}, "knee": {6, 28, true, false}, "kneecap": {6, 28, true, false}, "shin": {6, 17, true, false}, "ankle": {6, 5, true, false}, "instep": {7, 3, true, false}, "foot": {7, 2, true, false}, "toe": {8, 1, true, false},
	"back of the head": {0, 95, false, true}, "nape": {0, 86, false, true}, "back": {0, 72, false, true}, "spine": {0, 66, false, true}, "shoulder blade": {6, 76, true, true}, "kidney": {5, 62, true, true}, "back of the knee": {6, 28, true, true}, "calf": {6, 18, true, true}, "heel": {6, 2, true, true},
}

// spotOf is where a target is; false where nobody knows it.
func spotOf(name string) (bodySpot, bool) {
	name = strings.ToLower(strings.TrimSpace(name))
	for _, as := range []string{name, strings.TrimSuffix(name, "s"), strings.TrimSuffix(name, "es"), strings.TrimSuffix(name, "ves") + "f"} {
		if s, known := bodySpots[as]; known {
			return s, true
		}
	}
	// "side of the neck", "outer thigh": the longest name at its end.
	words := strings.Fields(name)
	for i := 1; i < len(words); i++ {
		if s, known := spotOf(strings.Join(words[i:], " ")); known {
			return s, true
		}
	}
	return bodySpot{}, false
}

// The measures of a figure, in pixels.
const targetWidth, targetHeight, targetFigure = 300, 330, 300

// Targets draws a figure from the front and from the back with a technique's targets; those that are shown and not struck have
// a shape of their own. It is empty where nobody knows any of them.
func Targets(label string, all []Target) string {
	known := slices.DeleteFunc(slices.Clone(all), func(t Target) bool { _, there := spotOf(t.Name); return !there })
	if len(known) == 0 {
		return ""
	}
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="targets" width="%d" height="%d" viewBox="0 0 %[1]d %[2]d" role="img" aria-label="%s">`, targetWidth, targetHeight, html.EscapeString(label))
	for n, side := range []string{"front", "back"} {
		x := targetWidth/4 + n*targetWidth/2
		b.WriteString(silhouette(x))
		b.WriteString(text(x, targetHeight-6, "side", "middle", side))
	}
	for _, t := range known {
		s, _ := spotOf(t.Name)
		x, y := targetWidth/4, 12+targetFigure-s.up*targetFigure/100
		if s.back {
			x += targetWidth / 2
		}
		ways := []int{0}
		if off := s.across * targetFigure / 100; s.both {
			ways = []int{-off, off}
		}
		for _, off := range ways {
			if t.Care {
				fmt.Fprintf(&b, `<path class="spot care" d="M%d %dl7 12h-14z"><title>%s: shown, not struck</title></path>`, x+off, y-8, html.EscapeString(t.Name))
			} else {
				fmt.Fprintf(&b, `<circle class="spot" cx="%d" cy="%d" r="5"><title>%s</title></circle>`, x+off, y, html.EscapeString(t.Name))
			}
		}
	}
	b.WriteString(`</svg>`)
	return b.String()
}

// silhouette is a standing figure around a middle.
func silhouette(x int) string {
	at := func(across, up float64) string {
		return fmt.Sprintf("%.1f %.1f", float64(x)+across*targetFigure/100, 12+targetFigure*(1-up/100))
	}
	limb := func(width float64, points ...[2]float64) string {
		d := ""
		for i, p := range points {
			d += map[bool]string{true: "M", false: "L"}[i == 0] + at(p[0], p[1])
		}
		return fmt.Sprintf(`<path class="limb" stroke-width="%.1f" d="%s"/>`, width*targetFigure/100, d)
	}
	out := ""
	for _, s := range []float64{-1, 1} {
		out += limb(7, [2]float64{s * 6, 50}, [2]float64{s * 6, 28}, [2]float64{s * 6, 5}, [2]float64{s * 8, 2})
		out += limb(5, [2]float64{s * 12, 80}, [2]float64{s * 17, 64}, [2]float64{s * 20, 50})
	}
	out += fmt.Sprintf(`<path class="body" d="M%sL%sL%sL%sZ"/>`, at(-12, 82), at(12, 82), at(9, 50), at(-9, 50))
	out += limb(5, [2]float64{0, 88}, [2]float64{0, 82})
	hx, hy, _ := strings.Cut(at(0, 93), " ")
	return out + fmt.Sprintf(`<ellipse class="body" cx="%s" cy="%s" rx="%.1f" ry="%.1f"/>`, hx, hy, 5.2*targetFigure/100, 6.5*targetFigure/100)
}
