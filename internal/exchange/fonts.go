package exchange

import (
	_ "embed"
	"sync"
	"unicode"

	"golang.org/x/image/font/sfnt"
)

// The faces of printed papers. A PDF carries only the letters it uses.
//
//go:embed fonts/SourceSans3_400Regular.ttf
var sansFont []byte

//go:embed fonts/SourceSans3_700Bold.ttf
var boldFont []byte

//go:embed fonts/Fraunces_600SemiBold.ttf
var serifFont []byte

//go:embed fonts/Kosugi_400Regular.ttf
var kanjiFont []byte

//go:embed fonts/NanumGothic_400Regular.ttf
var hangulFont []byte

// face is one of them.
type face string

const (
	sans   face = "sans"
	bold   face = "bold"
	serif  face = "serif"
	kanji  face = "kanji"
	hangul face = "hangul"
)

var faceFiles = map[face][]byte{sans: sansFont, bold: boldFont, serif: serifFont, kanji: kanjiFont, hangul: hangulFont}

// others are looked into, in their order, for what a face has no letter for.
var others = map[face][]face{sans: {sans, hangul, kanji}, bold: {bold, hangul, kanji}, serif: {serif, bold, hangul, kanji}}

// letters are the fonts as read, once somebody asks.
var letters = sync.OnceValue(func() map[face]*sfnt.Font {
	out := map[face]*sfnt.Font{}
	for name, data := range faceFiles {
		f, err := sfnt.Parse(data)
		if err != nil {
			panic("a font that ships with the program cannot be read: " + err.Error())
		}
		out[name] = f
	}
	return out
})

// letter is a character in a face.
type letter struct {
	face face
	r    rune
}

// found remembers which letters there are: a page asks for the same ones thousands of times.
var found sync.Map

// has reports whether a face has a letter.
func (f face) has(r rune) bool {
	if has, asked := found.Load(letter{f, r}); asked {
		return has.(bool)
	}
	var b sfnt.Buffer
	i, err := letters()[f].GlyphIndex(&b, r)
	has := err == nil && i != 0
	found.Store(letter{f, r}, has)
	return has
}

// Printable reports whether printed papers have a letter for a character.
func Printable(r rune) bool {
	if r == '\u200b' || r == '\ufe0f' || unicode.IsControl(r) {
		return false
	}
	for _, f := range others[sans] {
		if f.has(r) {
			return true
		}
	}
	return false
}

// run is a piece of text in one face.
type run struct {
	face face
	text string
}

// runs parts a text by the faces that have its letters. What none has is printed as "□", so that
// nothing goes missing unseen.
func runs(f face, text string) (out []run) {
	for _, r := range text {
		at, there := f, false
		for _, o := range others[f] {
			if o.has(r) {
				at, there = o, true
				break
			}
		}
		if !there {
			r = '□'
			if !f.has(r) {
				at = kanji
			}
		}
		if n := len(out); n > 0 && out[n-1].face == at {
			out[n-1].text += string(r)
			continue
		}
		out = append(out, run{at, string(r)})
	}
	return out
}
