package frame

import (
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestBack(t *testing.T) {
	for in, out := range map[string]string{
		"/students?text=a b": "/students?text=a b", "/classes": "/classes", "/gradings/9f?x=//y": "/gradings/9f?x=//y", "/find?q=%2F%2Fa": "/find?q=%2F%2Fa",
		"": "/", "//evil.example": "/", "///evil.example": "/", `/\evil.example`: "/", `\\evil.example`: "/", "https://evil.example/": "/", "https:evil.example": "/", "javascript:alert(1)": "/",
		"/\t/evil.example": "/", "/%09/evil.example": "/", "/%5Cevil.example": "/", "/%0d%0aSet-Cookie:x": "/", "students": "/", "?x": "/", "/students#a": "/students", "http://%zz": "/",
	} {
		assert.Equal(t, out, Back(in), in)
	}
}

// FuzzBack: whatever is asked for, a browser stays on this site. Browsers drop tabs and line ends, and read \ as /.
func FuzzBack(f *testing.F) {
	for _, seed := range []string{"/a?b", "//x", `/\x`, "/\t/x", "http://x", "/%5c", "/a//b", ";//x", "/@x", "\x00//x"} {
		f.Add(seed)
	}
	site, _ := url.Parse("https://ladder.example/sign-in")
	f.Fuzz(func(t *testing.T, in string) {
		at := Back(in)
		seen := strings.NewReplacer("\t", "", "\n", "", "\r", "", `\`, "/").Replace(strings.Trim(at, "\x00 \t\n\r"))
		to, err := site.Parse(seen)
		if err != nil {
			t.Fatalf("%q leads to %q, which is no address: %v", in, at, err)
		}
		if to.Host != site.Host || to.Scheme != site.Scheme || strings.ContainsAny(at, "\r\n") {
			t.Fatalf("%q leads to %q", in, to)
		}
	})
}
