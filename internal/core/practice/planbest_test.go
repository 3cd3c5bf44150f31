package practice

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestTheBestOfASort: the topic worth most a minute that fits and is wanted, the first of equals; none where none is.
func TestTheBestOfASort(t *testing.T) {
	all := func(*Topic) bool { return true }
	pool := []Topic{{ID: "a", Minutes: 4}, {ID: "b", Minutes: 4}, {ID: "c", Minutes: 8, Themed: true}, {ID: "d", Minutes: 2}}
	for _, x := range []struct {
		alone  []int
		room   int
		wanted func(*Topic) bool
		want   int
	}{
		{[]int{3, 1, 1, 1}, 9, all, 0}, {[]int{1, 3, 1, 1}, 9, all, 1}, {[]int{2, 2, 4, 1}, 9, all, 0}, {[]int{2, 2, 5, 1}, 9, all, 2}, {[]int{2, 2, 5, 1}, 8, all, 2}, {[]int{2, 2, 5, 1}, 7, all, 0},
		{[]int{2, 2, 5, 2}, 9, all, 3}, {[]int{0, 0, 1, 0}, 9, all, 2}, {[]int{0, 0, 0, 0}, 9, all, -1}, {[]int{9, 9, 1, 9}, 9, always[1], 2}, {[]int{9, 9, 1, 9}, 9, always[0], -1},
	} {
		assert.Equal(t, x.want, best(pool, x.alone, x.room, x.wanted), "%v in %d", x.alone, x.room)
	}
}
