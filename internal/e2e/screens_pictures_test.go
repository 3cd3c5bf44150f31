package e2e

import (
	"fmt"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// screensOn is the day on which the screens are taken, so that those of two versions can be compared.
const screensOn = "2026-11-24"

// TestScreens takes a picture of every kind of page that can be reached from the home screen of the demo
// school, on a desktop and on a phone, and with VELVETLADDER_AGAINST says in how many pixels each differs
// from the picture of that name in another folder. It runs on request only (make screens).
func TestScreens(t *testing.T) {
	into, against := os.Getenv("VELVETLADDER_SCREENS"), os.Getenv("VELVETLADDER_AGAINST")
	if into == "" {
		t.Skip("set VELVETLADDER_SCREENS to the folder for the pictures")
	}
	s := start(t, "demo", "--on", screensOn)
	sizes := map[string][2]int64{"desk": {1280, 800}, "phone": {390, 844}}
	desk, phone := open(t, s, sizes["desk"][0], sizes["desk"][1]), open(t, s, sizes["phone"][0], sizes["phone"][1])
	ids := regexp.MustCompile(`[0-9a-f]{16,}|\d{4}-\d\d-\d\d`)
	names := regexp.MustCompile(`[^a-z]+`)
	seen := map[string]bool{}
	taken, differ := 0, 0
	for todo := []string{"/"}; len(todo) > 0; todo = todo[1:] {
		path, _, _ := strings.Cut(todo[0], "?")
		kind := strings.Trim(names.ReplaceAllString(ids.ReplaceAllString(path, "one"), "-"), "-")
		if kind == "" {
			kind = "home"
		}
		if seen[kind] || strings.Contains(path, ".") || strings.HasPrefix(path, "/static") {
			continue
		}
		seen[kind] = true
		for size, x := range map[string]*tab{"desk": desk, "phone": phone} {
			x.visit(todo[0])
			eval[bool](x, `document.fonts.ready.then(() => { for (const c of document.querySelectorAll("[data-clock], [data-ring-clock]")) c.style.visibility = "hidden"; return new Promise((done) => setTimeout(() => done(true), 300)) })`)
			name := kind + "-" + size + ".png"
			x.picture(filepath.Join(into, name))
			if taken++; against == "" {
				continue
			}
			if n := unlike(t, filepath.Join(into, name), filepath.Join(against, name)); n > 0 {
				differ++
				fmt.Printf("%s: %d pixels differ\n", name, n)
			}
		}
		todo = append(todo, eval[[]string](desk, `[...document.querySelectorAll("a[href^='/']")].map((a) => a.pathname + a.search)`)...)
	}
	fmt.Printf("%d pictures of %d kinds of page; %d differ\n", taken, len(seen), differ)
	assert.Greater(t, len(seen), 65, "the demo has every screen")
}

// unlike is in how many pixels two pictures differ; all of one where there is no other.
func unlike(t *testing.T, one, other string) (n int) {
	read := func(path string) image.Image {
		f, err := os.Open(path)
		if os.IsNotExist(err) {
			return image.NewRGBA(image.Rectangle{})
		}
		require.NoError(t, err)
		defer f.Close()
		img, err := png.Decode(f)
		require.NoError(t, err)
		return img
	}
	a, b := read(one), read(other)
	for y := range max(a.Bounds().Dy(), b.Bounds().Dy()) {
		for x := range max(a.Bounds().Dx(), b.Bounds().Dx()) {
			if color.RGBAModel.Convert(a.At(x, y)) != color.RGBAModel.Convert(b.At(x, y)) {
				n++
			}
		}
	}
	return n
}
