package curriculum_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	. "velvetladder/internal/core/curriculum"
)

// TestAmountsInAnyOrder: how often and on which side are said in any order and with any of the usual words, and mean the same.
func TestAmountsInAnyOrder(t *testing.T) {
	counts := []string{"%d", "%d x", "%dx", "x%d", "%d times", "%d reps", "%d repetitions", "x %d reps"}
	sides := map[SideMeaning][]string{
		"":     {"each side", "a side", "per side", "both sides", "on each side", "on both sides", "every side", "to each side", "L/R", "R & L", "left and right", "right/left"},
		ByLimb: {"each leg", "per arm", "each hand", "on each foot", "with each hand", "both legs", "for each arm", "each knee"}, ByDirection: {"each way", "in each direction", "up and down", "forward and back"}, ByStance: {"each stance", "in both stances"},
	}
	for means, words := range sides {
		for _, side := range words {
			for i, count := range counts {
				n := 3 + i
				want := Quantity{Measure: RepsPerSide, Reps: n, Side: means}
				for _, order := range []string{"%s %s", "%[2]s %[1]s", "%[1]s, %[2]s", "%[2]s, %[1]s"} {
					said := fmt.Sprintf(order, fmt.Sprintf(count, n), side)
					got, err := ParseQuantity(said)
					assert.NoError(t, err)
					assert.Equal(t, want, got, said)
				}
			}
			for _, order := range []string{"30 s %s", "%s 30 secs", "hold 30 seconds %s", "%s, hold for 30 s"} {
				said := fmt.Sprintf(order, side)
				got, err := ParseQuantity(said)
				assert.NoError(t, err)
				assert.Equal(t, Quantity{Measure: TimedSide, Seconds: 30, Side: means}, got, said)
			}
		}
	}
}

// TestAmountsOtherwiseSaid: each line is what people write and what Quantity prints of it; "" is no amount.
func TestAmountsOtherwiseSaid(t *testing.T) {
	for said, want := range map[string]string{
		"10 reps/side": "10 a side", "8 ea. leg": "8 each limb", "8R 8L": "8 a side", "10 L / 10 R": "10 a side", "R x 5, L x 5": "5 a side", "8+8": "8 a side", "5/5": "5 a side", "5 forward, 5 back": "5 each way", "4x forward 4x backward": "4 each way",
		"ten times each leg": "10 each limb", "twenty-five": "", "twenty-five times": "25 times", "thirty five reps": "35 times", "five": "", "100 in all": "100 times", "12 in total": "12 times", "thrice": "3 times", "4 apiece": "4 a side", "alternating 10": "10 alternating",
		"1 min 30": "90 s", "1 min 30 s": "90 s", "1m30s": "90 s", "1:30 min": "90 s", "1.5 min": "90 s", "2 ½ min": "150 s", "2-minute": "120 s", "2′ 30″": "150 s", "a minute and a half": "90 s", "3 rounds of one and a half minutes": "3 × 90 s", "one minute": "60 s", "30″": "30 s", "half a minute": "30 s",
		"2 rnds x 90s": "2 × 90 s", "3 rounds of two minutes": "3 × 120 s", "3 rounds, 2 min each": "3 × 120 s", "three 2-minute rounds": "3 × 120 s", "one 2-minute round": "1 × 120 s", "2 min x 3 rounds": "3 × 120 s", "2-minute rounds x 3": "3 × 120 s", "2 rounds at 90 secs each round": "2 × 90 s",
		"3 x 2 min, 1 min rest": "3 × 120 s, 60 s rest", "3 x 2 min with 30 s rest": "3 × 120 s, 30 s rest", "3 rounds of 2 min with 1 min rest between rounds": "3 × 120 s, 60 s rest", "3 x 3:00/1:00": "3 × 180 s, 60 s rest", "2 x 2 min rest 30 s": "2 × 120 s, 30 s rest",
		"40 push in 90 s": "", "40 in 90 seconds": "40 in 90 s", "40 reps within 1 min": "40 in 60 s", "18 per minute": "18 in 60 s", "3 x 10 s hold": "3 holds of 10 s", "3 holds 10 s": "3 holds of 10 s", "5 each leg without touching down": "5 each limb without touching down",
		"10 left, 8 right": "", "5 forward, 6 back": "", "1A": "", "3rd": "", "each side": "", "a": "", "leg 10": "", "2 minute rounds": "", "10 m": "", "4 x 10": "", "3 sets of 10": "", "10 ......": "", "½": "", "½ s": "", "of 2 min": "", "one": "", "10 each side each leg": "", "5 5": "", "2 min 30 times": "", "1 min 30 x": "",
	} {
		q, err := ParseQuantity(said)
		if want == "" {
			assert.ErrorIs(t, err, ErrQuantity, said)
			continue
		}
		assert.NoError(t, err, said)
		assert.Equal(t, want, q.String(), said)
	}
}
