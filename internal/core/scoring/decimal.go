package scoring

import (
	"errors"
	"fmt"
	"math/big"
	"math/bits"
	"strconv"
	"strings"
)

// Decimal is an exact decimal number held in billionths: 1.5 is 1_500_000_000.
// It holds up to nine decimal places between -9_000_000_000 and 9_000_000_000.
// Marks, weights times marks, thresholds and deductions are all Decimals, so that
// no sum near a threshold is ever rounded.
type Decimal int64

// unit is one whole point in billionths.
const unit = 1_000_000_000

// ErrDecimal is wrapped by every error of ParseDecimal.
var ErrDecimal = errors.New("not a decimal number this scheme can hold")

// Whole returns n as a Decimal.
func Whole(n int) Decimal { return Decimal(n) * unit }

// ParseDecimal reads a number such as "49", "48.5", "-2" or "4.85e1". More than nine
// decimal places, or a size over nine thousand million, is an error, never a rounding.
func ParseDecimal(s string) (Decimal, error) {
	text := strings.TrimSpace(s)
	// Bounding the text keeps a hostile exponent from becoming a number of a gigabyte.
	mantissa, exponent, _ := strings.Cut(strings.ToLower(text), "e")
	if text == "" || len(text) > 60 || len(exponent) > 4 || strings.Trim(mantissa, "+-0123456789.") != "" {
		return 0, fmt.Errorf("%w: %q", ErrDecimal, clip(s))
	}
	r, ok := new(big.Rat).SetString(text)
	if !ok {
		return 0, fmt.Errorf("%w: %q", ErrDecimal, clip(s))
	}
	r.Mul(r, big.NewRat(unit, 1))
	if !r.IsInt() {
		return 0, fmt.Errorf("%w: %q has more than nine decimal places", ErrDecimal, clip(s))
	}
	if !r.Num().IsInt64() || r.Num().CmpAbs(big.NewInt(9*unit*unit)) > 0 {
		return 0, fmt.Errorf("%w: %q is larger than nine thousand million", ErrDecimal, clip(s))
	}
	return Decimal(r.Num().Int64()), nil
}

func clip(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:40]) + "…"
	}
	return s
}

// String prints the shortest exact form: "49", "48.5", "-0.25".
func (d Decimal) String() string {
	sign, n := "", uint64(d)
	if d < 0 {
		sign, n = "-", uint64(-d)
	}
	whole, rest := n/unit, n%unit
	if rest == 0 {
		return sign + strconv.FormatUint(whole, 10)
	}
	return sign + strconv.FormatUint(whole, 10) + "." + strings.TrimRight(fmt.Sprintf("%09d", rest), "0")
}

// MarshalJSON writes a Decimal as a JSON number.
func (d Decimal) MarshalJSON() ([]byte, error) { return []byte(d.String()), nil }

// UnmarshalJSON reads a JSON number, or a string that holds one, exactly.
func (d *Decimal) UnmarshalJSON(b []byte) error {
	text := string(b)
	if unquoted, err := strconv.Unquote(text); err == nil {
		text = unquoted
	}
	v, err := ParseDecimal(text)
	if err != nil {
		return err
	}
	*d = v
	return nil
}

// rat returns d as an exact ratio.
func (d Decimal) rat() *big.Rat { return big.NewRat(int64(d), unit) }

// productsCompare compares a×b with c×d in 128 bits. All four must be zero or more.
func productsCompare(a, b, c, d int64) int {
	h1, l1 := bits.Mul64(uint64(a), uint64(b))
	h2, l2 := bits.Mul64(uint64(c), uint64(d))
	switch {
	case h1 != h2 && h1 < h2, h1 == h2 && l1 < l2:
		return -1
	case h1 == h2 && l1 == l2:
		return 0
	}
	return 1
}

// exact prints a ratio as a decimal when it is one of at most nine places, else as a
// fraction such as "146/3".
func exact(r *big.Rat) string {
	scaled := new(big.Rat).Mul(r, big.NewRat(unit, 1))
	if scaled.IsInt() && scaled.Num().IsInt64() {
		return Decimal(scaled.Num().Int64()).String()
	}
	return r.RatString()
}
