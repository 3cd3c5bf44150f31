package exchange

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestWorkedExamples runs every example of docs/formats.md: the first block is the input,
// the second a part of the output.
func TestWorkedExamples(t *testing.T) {
	text, err := os.ReadFile("../../docs/formats.md")
	require.NoError(t, err)
	examples := regexp.MustCompile("(?s)#### ([^\n]+)\n.*?```json\n(.*?)```\n\ncomes to\n\n```json\n(.*?)```").FindAllStringSubmatch(string(text), -1)
	require.GreaterOrEqual(t, len(examples), 12)
	for _, e := range examples {
		t.Run(e[1], func(t *testing.T) {
			var want, got any
			require.NoError(t, json.Unmarshal([]byte(e[3]), &want))
			require.NoError(t, json.Unmarshal([]byte(tally(t, e[2])), &got))
			holds(t, "$", want, got)
		})
	}
}

func tally(t *testing.T, in string) string {
	p, x, err := ReadTally(strings.NewReader(in))
	require.NoError(t, err)
	r, err := p.Decide(x)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, WriteTally(&out, x, r))
	return out.String()
}

// holds expects got to have at least what want has; lists from their first element on.
func holds(t *testing.T, path string, want, got any) {
	switch want := want.(type) {
	case map[string]any:
		have, ok := got.(map[string]any)
		require.True(t, ok, path)
		for k, v := range want {
			if assert.Contains(t, have, k, path) {
				holds(t, path+"."+k, v, have[k])
			}
		}
	case []any:
		have, ok := got.([]any)
		require.True(t, ok, path)
		require.GreaterOrEqual(t, len(have), len(want), path)
		if len(want) == 0 {
			assert.Empty(t, have, path)
		}
		for i, v := range want {
			holds(t, fmt.Sprintf("%s[%d]", path, i), v, have[i])
		}
	default:
		assert.Equal(t, want, got, path)
	}
}

const good = `{"scale":{"lowest":0,"highest":4,"step":1,"failing":1},"rules":{"threshold":2.5,"allowed_failing":1},
"panel":{"examiners":["A","B"],"chief":"A"},"items":[{"id":"bow"},{"id":"kick","weight":2}],
"sheets":[{"examiner":"A","marks":{"bow":2,"kick":3}},{"examiner":"B","marks":{"bow":1,"kick":null},"deductions":[1]}]}`

func TestRefusedTalliesNameThePlace(t *testing.T) {
	for _, c := range []struct{ from, to, said string }{
		{`"failing":1`, `"fails":1`, `$.scale.fails: is not a field`},
		{`"kick":3`, `"kick":5`, `$.sheets[0].marks.kick: is 5; the scale is 0 to 4 in steps of 1`},
		{`"kick":3`, `"kick":2.5`, `$.sheets[0].marks.kick: is 2.5`},
		{`"bow":2,`, `"bow":2,"bow":3,`, `$.sheets[0].marks.bow: this name stands twice`},
		{`"bow":2,`, `"bau":2,"bow":2,`, `$.sheets[0].marks.bau: no item has this id`},
		{`"bow":2,`, ``, `$.sheets[0].marks.bow: is missing`},
		{`"examiner":"B"`, `"examiner":"A"`, `$.sheets[1].examiner: "A" has a sheet already`},
		{`"examiner":"B"`, `"examiner":"Z"`, `$.sheets[1].examiner: "Z" is not among`},
		{`["A","B"]`, `["A","B","A"]`, `$.panel.examiners[2]: "A" stands twice`},
		{`["A","B"]`, `["A","B",""]`, `$.panel.examiners[2]: is empty`},
		{`"chief":"A"`, `"chief":"Z"`, `$.panel.chief: "Z" is not among`},
		{`"chief":"A"`, `"chief":"A","rule":"dice"`, `$.panel.rule: is "dice"`},
		{`"chief":"A"`, `"chief":"A","quorum":0`, `$.panel.quorum: is 0`},
		{`"weight":2`, `"weight":0`, `$.items[1].weight: is 0`},
		{`"weight":2`, `"weight":1.5`, `$.items[1].weight: does not fit`},
		{`{"id":"kick","weight":2}`, `{"id":"bow"}`, `$.items[1].id: "bow" stands twice`},
		{`[1]`, `[-1]`, `$.sheets[1].deductions[0]: is -1`},
		{`2.5`, `"lots"`, `$.rules.threshold: not a decimal number`},
		{`2.5`, `0.12345678901`, `$.rules.threshold: not a decimal number this scheme can hold: "0.12345678901" has more than nine decimal places`},
		{`2.5`, `-1`, `$.rules.threshold: is -1`},
		{`"step":1`, `"step":3`, `$.scale.step: is 3`},
		{`"step":1`, `"step":0`, `$.scale.step: is 0`},
		{`"allowed_failing":1`, `"section_minima":[{"section":"x","ratio":0.5}]`, `$.rules.section_minima[0].section: no item is in section "x"`},
		{`[1]}]}`, `[1]}]`, `$`},
		{good, ``, `$`},
		{good, `[]`, `$: does not fit`},
		{good, good + good, `$`},
	} {
		broken := strings.Replace(good, c.from, c.to, 1)
		require.NotEqual(t, good, broken, c.from)
		_, _, err := ReadTally(strings.NewReader(broken))
		var at *TallyError
		if assert.ErrorAs(t, err, &at, c.to) {
			assert.True(t, strings.HasPrefix(at.Error(), c.said), "%s\nsaid %s", c.to, at)
		}
	}
}

func FuzzReadTally(f *testing.F) {
	f.Add(good)
	f.Add(`{}`)
	f.Fuzz(func(t *testing.T, in string) {
		p, x, err := ReadTally(strings.NewReader(in))
		if err != nil {
			var at *TallyError
			require.ErrorAs(t, err, &at)
			return
		}
		if len(x.Items) > 12 || len(x.Sheets) > 5 {
			return
		}
		_, err = p.Decide(x)
		require.NoError(t, err, "what is read can be decided")
	})
}
