package chart

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestBeside(t *testing.T) {
	rows := []BesideRow{
		{Name: "Dorothea <Duvall>", Under: "1,341 marks", Words: "0.4 lower", Mean: -0.42, Low: -0.5, High: -0.34, Enough: true, Sure: true},
		{Name: "Rosalind Castellane", Under: "974 marks", Words: "0.1 higher", Mean: 0.13, Low: 0.02, High: 0.24, Enough: true, Sure: true},
		{Name: "Ferris Loxley", Under: "12 marks", Words: "too few to say", Mean: 0.05},
	}
	golden(t, "beside", Beside("who marks lower", rows))
	assert.Contains(t, Beside("", rows), `x2="342"`, "the line for the others stands in the middle")
	rows[0].Low = -2.2
	far := Beside("", rows)
	assert.Contains(t, far, "3 steps lower", "what is far still has its place")
	assert.Contains(t, far, "1.5")
	assert.Equal(t, 1, strings.Count(far, "row lower"))
	assert.Equal(t, 1, strings.Count(far, "row few"))
}
