package store_test

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/json"
	"fmt"
	"reflect"
	"regexp"
	"testing"

	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/civil"
	"velvetladder/internal/demotest"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
)

// places are addresses in memory.
var places = regexp.MustCompile(`0x[0-9a-f]+`)

// demoRecords are the demo school's on one day, and its file.
func demoRecords(t *testing.T) (*store.Store, *sql.DB) {
	path := demotest.Copy(t)
	s, err := store.Open(context.Background(), path, demotest.Now)
	require.NoError(t, err)
	t.Cleanup(func() { s.Close() })
	db, err := sql.Open("sqlite3", "file:"+path)
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	return s, db
}

// TestTheRecordsAsTheyWereLookedAt asks the demo school everything that can be asked with an id,
// two of each table, and holds the answers to what they were when somebody looked last: their
// beginning, and the rest as a sum.
func TestTheRecordsAsTheyWereLookedAt(t *testing.T) {
	golden.Alone(t)
	s, db := demoRecords(t)
	var out []string
	askAll(t, s, db, func(what string, answers []reflect.Value) {
		said := ""
		for _, a := range answers {
			if a.IsZero() || (a.Kind() == reflect.Slice || a.Kind() == reflect.Map) && a.Len() == 0 {
				continue
			}
			x, err := json.Marshal(a.Interface())
			if err != nil { // keys that are no texts
				x = places.ReplaceAll(fmt.Appendf(nil, "%+v", a.Interface()), nil)
			}
			said += " " + string(x)
		}
		if said != "" {
			out = append(out, fmt.Sprintf("%s: %x %.300s", what, sha256.Sum256([]byte(said)), said))
		}
	})
	golden.Hold(t, "testdata/records.txt", out, nil)
}

// askAll asks the records everything that can be asked with ids, a day, a number: of each table
// the first and the last row. told gets what was asked, and the answers that were no error.
func askAll(t *testing.T, s *store.Store, db *sql.DB, told func(what string, answers []reflect.Value)) {
	ctx := context.Background()
	texts := func(query string) []string { return golden.Texts(t, db, query) }
	type named struct{ table, id string }
	ids := []named{{"nothing", ""}}
	for _, table := range []string{"program", "rung", "section", "technique", "requirement", "student", "enrolment", "class", "grading", "panel", "examiner", "candidate_group", "candidate", "test_sheet", "test_item", "version", "officer", "bout"} {
		for _, end := range []string{"ASC", "DESC"} {
			for _, id := range texts("SELECT id FROM " + table + " ORDER BY rowid " + end + " LIMIT 1") {
				ids = append(ids, named{table + " " + end, id})
			}
		}
	}
	text := reflect.TypeFor[string]()
	kind := reflect.TypeOf(s)
	for i := range kind.NumMethod() {
		m := kind.Method(i)
		if m.Type.NumIn() < 2 || m.Type.In(1) != reflect.TypeFor[context.Context]() || m.Type.NumOut() < 2 || m.Type.IsVariadic() || m.Name == "KeepBackup" || m.Name == "SignIn" {
			continue
		}
		args, holes, plain := []reflect.Value{reflect.ValueOf(s), reflect.ValueOf(ctx)}, []int{}, true
		for k := 2; k < m.Type.NumIn(); k++ {
			in := m.Type.In(k)
			x := reflect.New(in).Elem()
			switch {
			case in == text:
				holes = append(holes, k)
			case in == reflect.TypeFor[civil.Date]():
				x.Set(reflect.ValueOf(demotest.On))
			case in.Kind() == reflect.Int:
				x.SetInt(20)
			case in.Kind() == reflect.Bool:
			default:
				plain = false
			}
			args = append(args, x)
		}
		if !plain || len(holes) > 2 {
			continue
		}
		ask := func(what string) {
			answers := m.Func.Call(args)
			if err, _ := answers[len(answers)-1].Interface().(error); err != nil {
				return
			}
			told(m.Name+" of "+what, answers[:len(answers)-1])
		}
		switch len(holes) {
		case 0:
			ask("all")
		case 1:
			for _, x := range ids {
				args[holes[0]] = reflect.ValueOf(x.id)
				ask(x.table)
			}
		case 2:
			for _, x := range ids {
				for _, y := range ids {
					args[holes[0]], args[holes[1]] = reflect.ValueOf(x.id), reflect.ValueOf(y.id)
					ask(x.table + " and " + y.table)
				}
			}
		}
	}
}
