package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestShortWords: short words that a line of the page tells are written out wherever they stand by themselves; a line that tells nothing others
// use, or an amount, stays.
func TestShortWords(t *testing.T) {
	for page, want := range map[string]string{
		"zk = zenkutsu dachi, kk = kokutsu dachi|zk oi zuki|kk shuto uke, 5|oi zuki (zk)":   "-|oi zuki, in zenkutsu dachi|shuto uke, 5, in kokutsu dachi|oi zuki (zenkutsu dachi)",
		"(Key: fs = fighting stance; rp = reverse punch)|- fs jab x 5|block + rp|zkrp, frp": "-|- jab x 5, in fighting stance|block + reverse punch|zkrp, frp",
		"zk = zenkutsu dachi|Front kick": "zk = zenkutsu dachi|Front kick",
		"M = must|Front kick M":          "-|Front kick must",
		"abc = abd|abc":                  "abc = abd|abc",
		"abcd = abc|abcd kick":           "abcd = abc|abcd kick",
		"1 = jab|1":                      "1 = jab|1",
		"zk":                             "zk",
	} {
		lines, legend := shortWords(strings.Split(page, "|"))
		for i := range lines {
			if legend[i] != "" {
				lines[i] = "-"
			}
		}
		assert.Equal(t, want, strings.Join(lines, "|"), page)
	}
	read := island(nil).ParsePage("zk = zenkutsu dachi\nStrikes\nzk Reed jab, 5")
	assert.Equal(t, []string{"what its short words mean: zk is zenkutsu dachi", "Reed jab", "in zenkutsu dachi"}, []string{read[0].Aside, read[1].Name, read[1].Note})
	assert.Empty(t, read[1].Doubts)
}
