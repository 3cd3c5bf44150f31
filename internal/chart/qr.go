package chart

import (
	"fmt"
	"html"
	"strings"

	"github.com/skip2/go-qrcode"
)

// QR draws a text as a QR code, dark on light with the quiet zone it needs, so that a camera
// reads it from a screen or from paper. The text has to be said beside it for those who cannot
// scan. It fails where the text is too long.
func QR(text, label string) (string, error) {
	code, err := qrcode.New(text, qrcode.Medium)
	if err != nil {
		return "", fmt.Errorf("drawing a code: %w", err)
	}
	rows := code.Bitmap()
	var path strings.Builder
	for y, row := range rows {
		for x := 0; x < len(row); x++ {
			if !row[x] {
				continue
			}
			from := x
			for x+1 < len(row) && row[x+1] {
				x++
			}
			fmt.Fprintf(&path, "M%d %dh%dv1h-%dz", from, y, x-from+1, x-from+1)
		}
	}
	n := len(rows)
	return fmt.Sprintf(`<svg class="qr" viewBox="0 0 %d %d" role="img" aria-label="%s" shape-rendering="crispEdges"><rect width="%d" height="%d" fill="#ffffff"/><path d="%s" fill="#251b23"/></svg>`, n, n, html.EscapeString(label), n, n, path.String()), nil
}
