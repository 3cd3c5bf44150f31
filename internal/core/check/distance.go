package check

// Distance is the least number of letters to put in, take out, replace or exchange with the next, to make one word of another.
func Distance(a, b string) int {
	x, y := []rune(a), []rune(b)
	for len(x) > 0 && len(y) > 0 && x[0] == y[0] { // what is the same at both ends costs nothing
		x, y = x[1:], y[1:]
	}
	for len(x) > 0 && len(y) > 0 && x[len(x)-1] == y[len(y)-1] {
		x, y = x[:len(x)-1], y[:len(y)-1]
	}
	if len(x) == 0 || len(y) == 0 {
		return len(x) + len(y)
	}
	n := len(y) + 1
	cells := make([]int, 3*n) // the row, the one before, and the one before that
	before, last, row := cells[:n], cells[n:2*n], cells[2*n:]
	for j := range last {
		last[j] = j
	}
	for i := 1; i <= len(x); i++ {
		row[0] = i
		for j := 1; j <= len(y); j++ {
			cost := 1
			if x[i-1] == y[j-1] {
				cost = 0
			}
			row[j] = min(last[j]+1, row[j-1]+1, last[j-1]+cost)
			if i > 1 && j > 1 && x[i-1] == y[j-2] && x[i-2] == y[j-1] {
				row[j] = min(row[j], before[j-2]+1)
			}
		}
		before, last, row = last, row, before
	}
	return last[len(y)]
}
