package gradingday

import (
	"cmp"
	"math/big"
	"slices"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/curriculum"
)

// SizeRow gives a belt size up to a height or a waist, in centimetres; 0 is no such limit.
type SizeRow struct {
	Size   string `json:"size"`
	Height int    `json:"height_cm,omitempty"`
	Waist  int    `json:"waist_cm,omitempty"`
}

// UsualSizes is a table to begin with; makers differ, so a school edits it.
var UsualSizes = []SizeRow{{"000", 105, 50}, {"00", 115, 54}, {"0", 125, 58}, {"1", 135, 64}, {"2", 150, 70}, {"3", 160, 78}, {"4", 170, 86}, {"5", 180, 96}, {"6", 190, 106}, {"7", 260, 200}}

// CheckSizes notes what is wrong with a table of sizes.
func CheckSizes(rows []SizeRow) check.Problems {
	var p check.Problems
	if len(rows) == 0 || len(rows) > 30 {
		p.Add("sizes", "has %d rows; 1 to 30 are possible", len(rows))
	}
	names := map[string]bool{}
	for i, r := range rows {
		if r.Size == "" || names[r.Size] {
			p.Add("sizes", "row %d: %q is no name of its own for a size", i+1, r.Size)
		}
		names[r.Size] = true
		p.Line("sizes", r.Size, 20)
		if r.Height < 0 || r.Height > 260 || r.Waist < 0 || r.Waist > 250 || r.Height == 0 && r.Waist == 0 {
			p.Add("sizes", "row %d: up to %d cm of height and %d cm of waist; heights go to 260, waists to 250, and one of them is needed", i+1, r.Height, r.Waist)
		}
		if i > 0 && (r.Height != 0 && r.Height <= rows[i-1].Height || r.Waist != 0 && r.Waist <= rows[i-1].Waist) {
			p.Add("sizes", "row %d is not larger than the row above; write the smallest size first", i+1)
		}
	}
	return p
}

// How a belt size was found.
const (
	SizeNoted  = "noted" // on the student's record
	SizeWaist  = "waist"
	SizeHeight = "height"
)

// SizeBy is how a belt size was found: by what was measured, and up to what the size goes, in centimetres.
type SizeBy struct {
	Kind     string
	CM, UpTo int
}

// SizeOf is the belt size of someone: as noted by hand, else by the waist, else by the height.
// by is how it was found; the zero value is unknown.
func SizeOf(rows []SizeRow, noted string, waist, height int) (size string, by SizeBy) {
	if noted != "" {
		return noted, SizeBy{Kind: SizeNoted}
	}
	for _, r := range rows {
		if waist > 0 && r.Waist > 0 && waist <= r.Waist {
			return r.Size, SizeBy{SizeWaist, waist, r.Waist}
		}
	}
	for _, r := range rows {
		if height > 0 && r.Height > 0 && height <= r.Height {
			return r.Size, SizeBy{SizeHeight, height, r.Height}
		}
	}
	return "", SizeBy{}
}

// Chance is how likely a pass is, in thousandths: what was seen of so many tests, drawn towards
// 8 in 10 as if five tests more had gone that way, so that a few say little. Rounded down.
func Chance(passed, tested int) int { return (passed*1000 + 5*800) / (tested + 5) }

// BeltWish is a candidate who needs a belt if they pass.
type BeltWish struct {
	RungID, Rung string
	Cloth        curriculum.Cloth
	Size         string // "" unknown
	Name         string
	Chance       int // thousandths
}

// Lacking is the kit that is asked for and not owned, by name; letters and blanks as people write them play no part.
func Lacking(asked, owned []string) (out []string) {
	for _, k := range asked {
		if !slices.ContainsFunc(owned, func(o string) bool { return check.Key(o) == check.Key(k) }) {
			out = append(out, k)
		}
	}
	return out
}

// BeltKey is a kind of belt in stock.
type BeltKey struct{ RungID, Size string }

// BeltOrder is what is to be ordered of one belt in one size.
type BeltOrder struct {
	BeltKey
	Rung   string
	Cloth  curriculum.Cloth
	Names  []string // of the candidates
	Likely int      // expected passes, in thousandths
	Cover  int      // belts that are enough with the certainty asked for
	Stock  int
	Order  int // Cover less Stock, never below 0
	Enough int // how certain it is that Stock and Order are enough, in thousandths, rounded down
}

// Belts counts belts to order. certain is the chance, in thousandths (1 to 1000), with which the belts of each kind
// should be enough. The number who pass is taken as the sum of independent chances, and its distribution worked out
// exactly.
func Belts(wishes []BeltWish, stock map[BeltKey]int, certain int) (out []BeltOrder) {
	chances := map[BeltKey][]int{}
	for _, w := range wishes {
		key := BeltKey{w.RungID, w.Size}
		if len(chances[key]) == 0 {
			out = append(out, BeltOrder{BeltKey: key, Rung: w.Rung, Cloth: w.Cloth})
		}
		chances[key] = append(chances[key], w.Chance)
		i := slices.IndexFunc(out, func(o BeltOrder) bool { return o.BeltKey == key })
		out[i].Names = append(out[i].Names, w.Name)
		out[i].Likely += w.Chance
	}
	for i := range out {
		o := &out[i]
		o.Stock = stock[o.BeltKey]
		passes := distribution(chances[o.BeltKey])
		o.Cover = covered(passes, certain)
		o.Order = max(0, o.Cover-o.Stock)
		o.Enough = atMost(passes, o.Order+o.Stock)
	}
	return out
}

// distribution is, for each number of passes, its chance in units of 1000^-n.
func distribution(chances []int) []*big.Int {
	out := []*big.Int{big.NewInt(1)}
	for _, c := range chances {
		next := make([]*big.Int, len(out)+1)
		for i := range next {
			next[i] = new(big.Int)
		}
		for i, x := range out {
			next[i].Add(next[i], new(big.Int).Mul(x, big.NewInt(int64(1000-c))))
			next[i+1].Add(next[i+1], new(big.Int).Mul(x, big.NewInt(int64(c))))
		}
		out = next
	}
	return out
}

func whole(passes []*big.Int) *big.Int {
	all := new(big.Int)
	for _, x := range passes {
		all.Add(all, x)
	}
	return all
}

// covered is the least number that is not exceeded with a chance of at least certain thousandths.
func covered(passes []*big.Int, certain int) int {
	need := new(big.Int).Mul(whole(passes), big.NewInt(int64(certain)))
	sum := new(big.Int)
	for k, x := range passes {
		sum.Add(sum, new(big.Int).Mul(x, big.NewInt(1000)))
		if sum.Cmp(need) >= 0 {
			return k
		}
	}
	return len(passes) - 1
}

func atMost(passes []*big.Int, n int) int {
	sum := new(big.Int)
	for k, x := range passes {
		if k <= n {
			sum.Add(sum, x)
		}
	}
	sum.Mul(sum, big.NewInt(1000))
	return int(sum.Quo(sum, whole(passes)).Int64())
}

// SortBelts orders a list by ladder and size: ladder gives a rung's place, rows the sizes' order.
func SortBelts(list []BeltOrder, ladder map[string]int, rows []SizeRow) {
	size := func(s string) int { return slices.IndexFunc(rows, func(r SizeRow) bool { return r.Size == s }) }
	slices.SortStableFunc(list, func(a, b BeltOrder) int {
		return cmp.Or(cmp.Compare(ladder[a.RungID], ladder[b.RungID]), cmp.Compare(size(a.Size), size(b.Size)), cmp.Compare(a.Size, b.Size))
	})
}
