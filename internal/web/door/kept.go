package door

import (
	"net/http"
	"strings"

	"velvetladder/internal/core/check"
	"velvetladder/internal/core/gradingday"
	"velvetladder/internal/core/office"
	"velvetladder/internal/store"
	"velvetladder/internal/web/frame"
)

// keptShow is what a device keeps: its script reads it from the device. The page itself holds nothing of the school.
func (ch *chapter) keptShow(w http.ResponseWriter, r *http.Request) {
	ch.Show(w, r, http.StatusOK, "", frame.Page{Screen: "kept", Title: "What this device keeps", Bare: true, Body: frame.PersonOf(r).Role == store.Owner})
}

// keptStored answers which of the entries a device keeps are on record, so that it may let go of them. Ids are made
// at random: whoever knows one made the entry, or has the device.
func (ch *chapter) keptStored(w http.ResponseWriter, r *http.Request) {
	var in struct {
		IDs []string `json:"ids"`
	}
	err := frame.ReadJSON(r, &in)
	if err == nil && (len(in.IDs) == 0 || len(in.IDs) > frame.MaxEntries) {
		err = check.Problems{{Field: "ids", Text: "must be 1 to 500"}}
	}
	for _, id := range in.IDs {
		if err == nil {
			err = gradingday.EntryID(id)
		}
	}
	var stored []string
	if err == nil {
		stored, err = ch.records.EntriesStored(r.Context(), in.IDs)
	}
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	frame.SendJSON(w, http.StatusOK, map[string][]string{"stored": append([]string{}, stored...)})
}

// keptHanded notes that the owner took in what another device had kept.
func (ch *chapter) keptHanded(w http.ResponseWriter, r *http.Request) {
	var in struct {
		Hand string `json:"hand"`
		N    int    `json:"n"`
	}
	err := frame.ReadJSON(r, &in)
	if err == nil && (in.N < 1) {
		err = check.Problems{{Field: "n", Text: "must be how many entries were taken in"}}
	}
	if err == nil {
		_, who, _ := strings.Cut(in.Hand, " ")
		_, err = ch.records.NoteDeed(r.Context(), store.By{Actor: frame.ActorOf(r)}, office.Deed{Kind: office.HandedIn, Who: who, N: in.N})
	}
	if err != nil {
		ch.FailJSON(w, r, err)
		return
	}
	frame.SendJSON(w, http.StatusOK, map[string]bool{"noted": true})
}
