package binder

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestATableOfAllBelts: of a table with a column for each belt, the page of a rung is its own column; a table with other columns is not one.
func TestATableOfAllBelts(t *testing.T) {
	b := island(nil) // White, Yellow
	said := func(rung, text string) (out []string) {
		lines, _ := b.PageFor(rung, text)
		for _, l := range lines {
			if l.Aside == "" {
				out = append(out, l.Name+", "+l.Quantity.String()+l.Problem)
			}
		}
		return out
	}
	grid := "Technique\tWhite\tYellow\tGreen belt\nKicks\nSide kick\t\t10\t15\nFront kick\t10 a side\t15 a side\t20\nHook kick\t-\t-\t5\nForms\nHeron Form\tx\tx\tx"
	assert.Equal(t, []string{"Front kick, 10 a side", "Heron Form, once"}, said("w", grid))
	assert.Equal(t, []string{"Side kick, 10 times", "Front kick, 15 a side", "Heron Form, once"}, said("y", grid))
	pipes := "| What | 9th kyu | Yellow | 7th kyu |\n| Side kick | 5 | 10 | 15 |\n| Jab | | 20 | 30 |"
	assert.Equal(t, []string{"Side kick, 10 times", "Jab, 20 times"}, said("y", pipes))
	assert.Equal(t, []string{", 0 × 0 snone of these columns is called White, for which the page is read; they are 9th kyu, Yellow, 7th kyu. Write White at the head of its column"}, said("w", pipes))
	chosen, _ := b.PageFor("y", grid+"\nBog step\t5\t5\t5 [kind footwork]")
	assert.Equal(t, Kind("footwork"), chosen[len(chosen)-1].Kind)
	named := "\tWhite\tYellow\tGreen\nKicks\tFront\tFront, Round\tFront, Round, Side\nForm\t-\tHeron Form\tReed Form\nSparring\t-\t-\t2 x 1 min"
	assert.Equal(t, []string{"Front kick, 5 a side", "Round kick, 5 a side", "Heron Form, once"}, said("y", named), "a corner that is empty, and cells that name what is asked")
	assert.Equal(t, []string{"Front kick, 5 a side"}, said("w", named))
	mixed := "Technique | White | Yellow\nForm | Reed Form | Heron Form\nSkips | 100 | 250\nOak stance | 3 | 5"
	assert.Equal(t, []string{"Heron Form, once", "Skips, 250 times", "Oak stance, 5 times"}, said("y", mixed))
	lines, _ := b.PageFor("y", mixed)
	assert.Equal(t, []Kind{"form", "fitness", "stance"}, []Kind{lines[1].Kind, lines[2].Kind, lines[3].Kind}, "a row of forms heads nothing below it")
	plain := "Technique\tYellow\tAmount\nSide kick\tx\t10"
	assert.Equal(t, said("w", plain), said("y", plain), "a column of amounts is no belt")
	wide := "Section,Item,White,Yellow,Notes\nKicks,Side kick,1,10 each,hips first\n,Oak kick,-,3 each,\nForms,Heron Form,1,1,\nFitness,Push ups,10,20,"
	assert.Equal(t, []string{"Side kick, 10 a side", "Oak kick, 3 a side", "Heron Form, once", "Push ups, 20 times"}, said("y", strings.ReplaceAll(wide, ",", "\t")))
	assert.Equal(t, []string{"Side kick, once", "Heron Form, once", "Push ups, 10 times"}, said("w", strings.ReplaceAll(wide, ",", ";")), "1 is how often where other rows say more")
	lines, _ = b.PageFor("y", strings.ReplaceAll(wide, ",", " | "))
	assert.Equal(t, []string{"hips first", "Kicks"}, []string{lines[1].Note, lines[2].Section}, "the other columns stay, and a section stands for the rows below it")
	assert.Contains(t, said("w", "Section\tItem\t9th kyu\tYellow\nKicks\tSide kick\t1\t2")[0], "they are 9th kyu, Yellow.")
	lines, _ = b.PageFor("y", grid)
	assert.Equal(t, 3, lines[1].Number, "lines keep their numbers")
}
