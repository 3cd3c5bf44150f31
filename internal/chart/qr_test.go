package chart

import (
	"encoding/xml"
	"io"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/skip2/go-qrcode"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestQR draws a code and reads the picture back, module by module.
func TestQR(t *testing.T) {
	const text = "https://mill.example:8484/join/BCDFG-HJKLM"
	svg, err := QR(text, `Code for "Vane" & <co>`)
	require.NoError(t, err)
	dec := xml.NewDecoder(strings.NewReader(svg))
	for {
		if _, err := dec.Token(); err == io.EOF {
			break
		} else {
			require.NoError(t, err)
		}
	}
	assert.Contains(t, svg, `aria-label="Code for &#34;Vane&#34; &amp; &lt;co&gt;"`)
	code, err := qrcode.New(text, qrcode.Medium)
	require.NoError(t, err)
	want := code.Bitmap()
	dark := map[[2]int]bool{}
	for _, m := range regexp.MustCompile(`M(\d+) (\d+)h(\d+)v1h-(\d+)z`).FindAllStringSubmatch(svg, -1) {
		n := [4]int{}
		for i := range n {
			n[i], _ = strconv.Atoi(m[i+1])
		}
		require.Equal(t, n[2], n[3])
		for x := n[0]; x < n[0]+n[2]; x++ {
			dark[[2]int{x, n[1]}] = true
		}
	}
	for y, row := range want {
		for x, is := range row {
			require.Equal(t, is, dark[[2]int{x, y}], "%d,%d", x, y)
		}
	}
	assert.False(t, want[0][0] || want[3][3], "a quiet zone of four is kept")
	_, err = QR(strings.Repeat("x", 5000), "")
	assert.Error(t, err)
}
