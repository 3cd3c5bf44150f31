package classes

import (
	"fmt"
	"html/template"
	"math"
	"net/http"

	"velvetladder/internal/chart"
	"velvetladder/internal/core/progress"
	"velvetladder/internal/web/frame"
)

// forecastsView is how forecasts of the past held against what came.
type forecastsView struct {
	Report   progress.Report
	Climbs   int
	Inside   string
	Early    string
	Late     string
	Free     string // before the early day, of those that can be
	Error    int    // days, of the likely day
	Rival    int    // and of the own last twelve weeks on the timetable
	Naive    int    // and of a constant rate
	Rows     []chanceRow
	Picture  template.HTML
	Promised bool // the span holds what it promises, within five in a hundred
}

type chanceRow struct{ Told, Came, N int }

// forecastsShow replays the forecasts of the past over the school's own records.
func (ch *chapter) forecastsShow(w http.ResponseWriter, r *http.Request) {
	climbs, calendars, err := ch.records.Replays(r.Context())
	if err != nil {
		ch.Fail(w, r, err)
		return
	}
	x := progress.Replay(climbs, calendars)
	v := forecastsView{Report: x, Climbs: len(climbs), Inside: permille(x.Inside), Early: permille(x.Early),
		Late: permille(x.Late), Free: permille(x.EarlyFree), Error: int(math.Round(x.Error)), Rival: int(math.Round(x.Rival)), Naive: int(math.Round(x.Naive)),
		Promised: x.Inside >= 750 && x.Inside <= 850, Picture: template.HTML(chart.Calibration(x.Tenths))}
	for _, c := range x.Tenths {
		v.Rows = append(v.Rows, chanceRow{int(math.Round(100 * c.Told)), int(math.Round(100 * c.Came)), c.N})
	}
	ch.Show(w, r, http.StatusOK, "", frame.Page{Screen: "forecasts", Title: "How good the forecasts were", Nav: "insights", Body: v})
}

// permille is a share in hundredths with a tenth: 81.2.
func permille(n int) string { return fmt.Sprintf("%d.%d", n/10, n%10) }
