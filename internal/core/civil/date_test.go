package civil

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

func TestDates(t *testing.T) {
	assert.Equal(t, "Sat 12 Dec 2026", MustParse("2026-12-12").Long())
	assert.Equal(t, "12 December 2026", MustParse("2026-12-12").Full())
	assert.Equal(t, "", Date{}.Long()+Date{}.Full()+Date{}.String())
	for _, in := range []string{"", "2026-13-01", "2026-02-30", "12.12.2026", "1899-12-31", "2200-01-01", "2026-1-1", "20261212"} {
		_, err := Parse(in)
		assert.ErrorIs(t, err, ErrDate, in)
	}
	zone := time.FixedZone("east", 11*3600)
	assert.Equal(t, "2026-11-25", On(time.Date(2026, 11, 24, 20, 0, 0, 0, time.UTC).In(zone)).String(), "the day where the school is")
}

func TestMonthsClampAndAgesCount(t *testing.T) {
	for _, c := range []struct {
		from   string
		months int
		want   string
	}{{"2026-01-31", 1, "2026-02-28"}, {"2024-01-31", 1, "2024-02-29"}, {"2026-03-31", -1, "2026-02-28"}, {"2026-11-30", 3, "2027-02-28"}, {"2026-05-15", 12, "2027-05-15"}} {
		assert.Equal(t, c.want, MustParse(c.from).AddMonths(c.months).String(), c.from)
	}
	for _, c := range []struct {
		born, on string
		age      int
	}{{"2016-02-29", "2026-02-28", 9}, {"2016-02-29", "2026-03-01", 10}, {"2016-02-29", "2024-02-29", 8}, {"2016-11-24", "2026-11-24", 10}, {"2016-11-25", "2026-11-24", 9}} {
		assert.Equal(t, c.age, MustParse(c.born).Age(MustParse(c.on)), c.born+" on "+c.on)
	}
}

func TestLawDaysAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := MustParse("1950-01-01").AddDays(rapid.IntRange(0, 60_000).Draw(t, "day"))
		n := rapid.IntRange(-20_000, 20_000).Draw(t, "days")
		assert.Equal(t, n, d.DaysTo(d.AddDays(n)))
		back, err := Parse(d.String())
		assert.NoError(t, err)
		assert.Equal(t, d, back)
		assert.Equal(t, "01", d.FirstOfMonth().String()[8:])
	})
}

// FuzzDate: what is read is a day of the calendar, and is read the same from how it is written.
func FuzzDate(f *testing.F) {
	for _, seed := range []string{"2026-02-29", "2028-02-29", "0001-01-01", "9999-12-31", "2026-1-1", "20260101", "2026-13-01", "2026-00-00"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, in string) {
		d, err := Parse(in)
		if err != nil {
			return
		}
		same, err := Parse(d.String())
		if err != nil || same != d {
			t.Fatalf("%q is %s, which is read as %s, %v", in, d, same, err)
		}
		if d.AddDays(1).AddDays(-1) != d {
			t.Fatalf("%q: a day on and a day back is another day", in)
		}
	})
}
