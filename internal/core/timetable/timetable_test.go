package timetable

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"velvetladder/internal/core/civil"
)

var day = civil.MustParse

func TestCheck(t *testing.T) {
	good := Class{Name: "Evening", Kind: "general", Weekday: 2, Start: 1080, Minutes: 60, From: day("2026-01-01")}
	assert.Empty(t, good.Check())
	for field, change := range map[string]func(*Class){
		"name": func(c *Class) { c.Name = "" }, "kind": func(c *Class) { c.Kind = "" }, "weekday": func(c *Class) { c.Weekday = 8 }, "start": func(c *Class) { c.Start = 1440 },
		"minutes": func(c *Class) { c.Minutes = 4 }, "from": func(c *Class) { c.From = civil.Date{} }, "to": func(c *Class) { c.To = day("2025-12-31") },
	} {
		c := good
		change(&c)
		assert.NotEmpty(t, c.Check().Of(field), field)
	}
	c := good
	c.From, c.To = day("2026-11-25"), day("2026-11-30")
	assert.Equal(t, "no Tuesday lies between Wed 25 Nov 2026 and Mon 30 Nov 2026", c.Check().Of("to"))
	assert.Empty(t, Closure{From: day("2026-12-20"), To: day("2027-01-03"), Reason: "Winter"}.Check())
	assert.NotEmpty(t, Closure{From: day("2026-12-20"), To: day("2026-12-19"), Reason: "Winter"}.Check().Of("to"))
	assert.NotEmpty(t, Closure{From: day("2026-12-20"), To: day("2028-12-19"), Reason: "Winter"}.Check().Of("to"))
	assert.Len(t, Closure{}.Check(), 2)
}

func TestClock(t *testing.T) {
	for in, want := range map[string]int{"18:30": 1110, "9:05": 545, "1830": 1110, "00:00": 0, " 23:59 ": 1439, "18.30": 1110, "6.30 pm": 1110, "6pm": 1080, "6 p.m.": 1080, "12am": 0, "12:15 pm": 735, "9.05 AM": 545, "11 pm": 1380} {
		got, err := ParseClock(in)
		require.NoError(t, err, in)
		assert.Equal(t, want, got)
	}
	for _, in := range []string{"", "24:00", "18:60", "18:3", "6", "18", "13pm", "0 am", "6.60pm", "-1:00", "183", "123", "123:00", "6xm"} {
		_, err := ParseClock(in)
		assert.ErrorContains(t, err, "write it as 18:30", in)
	}
}

// TestOverMidnightAndAChangeOfTheClock: such a class belongs to the day on which it begins,
// and lasts its minutes.
func TestOverMidnightAndAChangeOfTheClock(t *testing.T) {
	zone, err := time.LoadLocation("Europe/London")
	require.NoError(t, err)
	night := Class{Name: "Night", Kind: "general", Weekday: 6, Start: 23*60 + 30, Minutes: 120, From: day("2026-01-01")}
	assert.Equal(t, "23:30–01:30 next day", night.Hours())
	assert.Equal(t, "18:00–19:00", Class{Start: 1080, Minutes: 60}.Hours())
	assert.True(t, night.HeldOn(day("2026-03-28")))
	assert.False(t, night.HeldOn(day("2026-03-29")))
	for _, x := range []struct {
		name    string
		start   int
		on      string
		begin   string
		end     string
		skipped bool
	}{
		{"an evening", 1080, "2026-11-24", "2026-11-24 18:00", "2026-11-24 20:00", false},
		{"over midnight", 1410, "2026-11-24", "2026-11-24 23:30", "2026-11-25 01:30", false},
		{"over the hour that is missing", 1410, "2026-03-28", "2026-03-28 23:30", "2026-03-29 02:30", false},
		{"begins in the hour that is missing", 90, "2026-03-29", "2026-03-29 02:30", "2026-03-29 04:30", true},
		{"over the hour that comes twice", 1410, "2026-10-24", "2026-10-24 23:30", "2026-10-25 01:30", false},
	} {
		begin, end, skipped := Class{Start: x.start, Minutes: 120}.Instants(day(x.on), zone)
		const layout = "2006-01-02 15:04"
		assert.Equal(t, []any{x.begin, x.end, x.skipped}, []any{begin.Format(layout), end.In(zone).Format(layout), skipped}, x.name)
		assert.Equal(t, 2*time.Hour, end.Sub(begin), x.name)
	}
}

// TestAhead: the days ahead are those that a walk over the days finds, closures left out.
func TestAhead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		from := day("2026-01-01").AddDays(rapid.IntRange(0, 400).Draw(t, "from"))
		var table Table
		for i := range rapid.IntRange(0, 5).Draw(t, "classes") {
			c := Class{ID: string(rune('a' + i)), Name: "C", Kind: rapid.SampledFrom([]string{"General", "Sparring"}).Draw(t, "kind"), Weekday: rapid.IntRange(1, 7).Draw(t, "weekday"), Start: rapid.IntRange(0, 1439).Draw(t, "start"), Minutes: 60,
				From: from.AddDays(rapid.IntRange(-50, 50).Draw(t, "first"))}
			if rapid.Bool().Draw(t, "ends") {
				c.To = c.From.AddDays(rapid.IntRange(7, 200).Draw(t, "last"))
			}
			if rapid.Bool().Draw(t, "bound") {
				c.Programs, c.Tracks = []string{"kenpo"}, []string{"cubs"}
			}
			table.Classes = append(table.Classes, c)
		}
		closed := from.AddDays(rapid.IntRange(0, 100).Draw(t, "closed"))
		table.Closures = []Closure{{From: closed, To: closed.AddDays(10)}, {ClassID: "a", From: from, To: from.AddDays(20)}}
		ahead := table.Ahead(from, "karate", "cubs")
		n := 0
		for d := from; from.DaysTo(d) < 300; d = d.AddDays(1) {
			slots := table.On(d)
			for i, s := range slots {
				require.True(t, i == 0 || slots[i-1].Start <= s.Start)
				if !s.Off && s.For("karate", "cubs") {
					n++
					got, found := ahead.Nth("", n)
					require.True(t, found)
					require.Equal(t, d, got)
				}
			}
		}
		require.Equal(t, len(ahead[""]), len(ahead["general"])+len(ahead["sparring"]))
		_, found := ahead.Nth("SPARRING", len(ahead["sparring"])+1)
		require.False(t, found)
	})
}

// FuzzClock: a time of day lies in the day, and is read the same from how it is written.
func FuzzClock(f *testing.F) {
	for _, seed := range []string{"18:30", "18.30", "1830", "9:05", "6.30 pm", "6pm", "12 am", "12pm", "0:00", "24:00", "23:60", "13 pm"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, in string) {
		m, err := ParseClock(in)
		if err != nil {
			return
		}
		if m < 0 || m >= 24*60 {
			t.Fatalf("%q is minute %d", in, m)
		}
		if same, err := ParseClock(Clock(m)); err != nil || same != m {
			t.Fatalf("%q is %s, which is read as %d, %v", in, Clock(m), same, err)
		}
	})
}
