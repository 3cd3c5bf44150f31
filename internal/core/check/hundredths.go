package check

import (
	"fmt"
	"strconv"
	"strings"
)

// Hundredths is a number of hundredths as people write it: 150 is 1.5, 25 is 0.25.
func Hundredths(n int) string {
	sign := ""
	if n < 0 {
		sign, n = "-", -n
	}
	text := fmt.Sprintf("%s%d.%02d", sign, n/100, n%100)
	return strings.TrimSuffix(strings.TrimRight(text, "0"), ".")
}

// fractions are the signs people write for parts of one, in hundredths.
var fractions = map[string]int{"½": 50, "¼": 25, "¾": 75}

// Hundredths reads a number with up to two decimal places, a point or a comma before them, or a sign such as ½ behind
// it, as hundredths from least to most. An empty text is other.
func (p *Problems) Hundredths(field, value string, least, most, other int) int {
	text := strings.Replace(strings.TrimSpace(value), ",", ".", 1)
	if text == "" {
		return other
	}
	n, ok := hundredths(text)
	switch {
	case !ok:
		p.Add(field, "%q is not a number with up to two decimal places; write one such as 1.5", clip(value))
		return other
	case n < least || n > most:
		p.Add(field, "is %s; it must be from %s to %s", Hundredths(n), Hundredths(least), Hundredths(most))
	}
	return n
}

func hundredths(text string) (n int, ok bool) {
	for sign, part := range fractions {
		if whole, found := strings.CutSuffix(text, sign); found {
			if whole = strings.TrimSpace(whole); whole == "" {
				return part, true
			}
			n, err := strconv.ParseUint(whole, 10, 16)
			return int(n)*100 + part, err == nil
		}
	}
	minus := strings.HasPrefix(text, "-")
	whole, part, _ := strings.Cut(strings.TrimPrefix(text, "-"), ".")
	if len(part) > 2 || whole == "" && part == "" {
		return 0, false
	}
	w, err := strconv.ParseUint("0"+whole, 10, 16)
	f, wrong := strconv.ParseUint((part + "00")[:2], 10, 8)
	if n = int(w)*100 + int(f); minus {
		n = -n
	}
	return n, err == nil && wrong == nil
}

// mostTenths bounds a measure that is typed in centimetres.
const mostTenths = 10_000

// Tenths reads a measure typed in centimetres, with one decimal place at most, as whole millimetres; 0 where nothing is typed.
func (p *Problems) Tenths(field, value string) int {
	n := p.Hundredths(field, value, 0, mostTenths*10, 0)
	if n%10 != 0 {
		p.Add(field, "%q has two decimal places; millimetres are exact enough, such as 22.5", clip(value))
	}
	return n / 10
}
