package exchange

import (
	"fmt"
	"io"
	"strconv"

	"velvetladder/internal/core/gradingday"
)

// BeltColumns are the columns of the purchase list, in their order.
var BeltColumns = []string{"belt", "size", "order", "candidates", "likely", "enough_for", "stock", "certain_percent"}

// WriteBelts writes the purchase list, a row for each belt and size, also those of which nothing
// is to be ordered. likely is the expected number of passes with two decimals, rounded down;
// certain_percent says how certain it is that stock and order together are enough, rounded down. Cells that a
// spreadsheet would take for a formula begin with an apostrophe.
func WriteBelts(w io.Writer, orders []gradingday.BeltOrder) error {
	out := newCSV(w)
	if err := out.Write(BeltColumns); err != nil {
		return err
	}
	for _, o := range orders {
		size := o.Size
		if size == "" {
			size = "not known"
		}
		record := []string{safeCell(o.Rung), safeCell(size), strconv.Itoa(o.Order), strconv.Itoa(len(o.Names)), fmt.Sprintf("%d.%02d", o.Likely/1000, o.Likely%1000/10), strconv.Itoa(o.Cover), strconv.Itoa(o.Stock), strconv.Itoa(o.Enough / 10)}
		if err := out.Write(record); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}
