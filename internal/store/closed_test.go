package store

import (
	"context"
	"io"
	"path/filepath"
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// untroubled are methods that need none of the store's own connections.
var untroubled = map[string]string{"Backup": "reads the file by itself"}

// asked calls each method that asks the records, with texts that name nothing and nothing else.
func asked(t *testing.T, s *Store, look func(name string, err error)) {
	kind, wrong, n := reflect.TypeOf(s), reflect.TypeFor[error](), 0
	text := filepath.Join(t.TempDir(), "x")
	for i := range kind.NumMethod() {
		m := kind.Method(i)
		if m.Type.NumIn() < 2 || m.Type.In(1) != reflect.TypeFor[context.Context]() || m.Type.NumOut() == 0 || m.Type.Out(m.Type.NumOut()-1) != wrong {
			continue
		}
		args := []reflect.Value{reflect.ValueOf(s), reflect.ValueOf(context.Background())}
		for k := 2; k < m.Type.NumIn(); k++ {
			in := m.Type.In(k)
			x := reflect.New(in).Elem()
			switch {
			case in == reflect.TypeFor[By]():
				x.Set(reflect.ValueOf(By{Actor: "owner"}))
			case in.Kind() == reflect.String:
				x.SetString(text)
			case in == reflect.TypeFor[io.Writer]():
				x.Set(reflect.ValueOf(io.Discard))
			case in == reflect.TypeFor[TrailQuery]():
				x.Set(reflect.ValueOf(TrailQuery{Limit: 1}))
			case in.Kind() == reflect.Func:
				x.Set(reflect.MakeFunc(in, func([]reflect.Value) (out []reflect.Value) {
					for o := range in.NumOut() {
						out = append(out, reflect.Zero(in.Out(o)))
					}
					return out
				}))
			}
			args = append(args, x)
		}
		n++
		assert.NotPanics(t, func() {
			call := m.Func.Call
			if m.Type.IsVariadic() {
				call = m.Func.CallSlice
			}
			out := call(args)
			err, _ := out[len(out)-1].Interface().(error)
			look(m.Name, err)
		}, m.Name)
	}
	require.Greater(t, n, 100)
}

// TestTroubleWithTheFileIsTold: each method, called when the records can no longer be asked,
// returns an error and falls over nothing.
func TestTroubleWithTheFileIsTold(t *testing.T) {
	s, err := Open(context.Background(), filepath.Join(t.TempDir(), "school.db"), clock)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	asked(t, s, func(name string, err error) {
		assert.Equal(t, untroubled[name] == "", err != nil, "%s: %v", name, err)
	})
}

// TestWhatIsNotThereIsSaidInWords: each method, asked in an empty school for what is not there,
// answers or refuses in words; nothing of the database comes through.
func TestWhatIsNotThereIsSaidInWords(t *testing.T) {
	s, err := Open(context.Background(), filepath.Join(t.TempDir(), "school.db"), clock)
	require.NoError(t, err)
	defer s.Close()
	asked(t, s, func(name string, err error) {
		if err != nil {
			assert.NotContains(t, err.Error(), "sqlite3:", name)
			assert.NotContains(t, err.Error(), "sql:", name)
		}
	})
}
