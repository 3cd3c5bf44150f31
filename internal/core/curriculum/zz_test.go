package curriculum

import (
	"fmt"
	"os"
	"strings"
	"testing"
)

func TestZZ(t *testing.T) {
	b, _ := typedPage(t, "testdata/typed/ridge.txt")
	for _, l := range b.ParsePage(strings.ReplaceAll(os.Getenv("ZZ"), "\\n", "\n")) {
		fmt.Println(l.Number, l.Aside, l.Problem, l.Doubts, l.Asked, "|", understood(b, l), "|", l.Moves, "|", l.Attacks)
	}
}
