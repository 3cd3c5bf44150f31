package curriculum

import (
	"html/template"
	"net/http"

	"velvetladder/internal/chart"
	"velvetladder/internal/web/frame"
)

type loadView struct {
	Tracks []loadTrack
}

type loadTrack struct {
	Name    string
	Ages    string
	Picture template.HTML
	Bars    []chart.LoadBar
}

func (ch *chapter) loadShow(w http.ResponseWriter, r *http.Request) {
	b, ok := ch.Book(w, r)
	if !ok {
		return
	}
	var v loadView
	at := map[string]int{}
	for _, l := range b.Loads() {
		i, there := at[l.TrackID]
		if !there {
			i = len(v.Tracks)
			at[l.TrackID] = i
			x := loadTrack{Name: "Everybody"}
			if t := b.Track(l.TrackID); t != nil {
				x.Name, x.Ages = t.Name, t.Ages()
			}
			v.Tracks = append(v.Tracks, x)
		}
		v.Tracks[i].Bars = append(v.Tracks[i].Bars, chart.LoadBar{Rung: *b.Rung(l.RungID), New: l.New, Grown: l.Grown, Carried: l.Lines - l.New - l.Grown, Minutes: (l.Seconds + 59) / 60})
	}
	for i := range v.Tracks {
		x := &v.Tracks[i]
		x.Picture = template.HTML(chart.Load("How much each rung asks of "+x.Name, x.Bars))
	}
	ch.Show(w, r, http.StatusOK, b.Program.ID, frame.Page{Screen: "load", Title: "Load curve", Nav: "ladder", Body: v})
}
