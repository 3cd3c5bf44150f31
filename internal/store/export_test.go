package store

import (
	"sync"

	"github.com/ncruces/go-sqlite3"
	"github.com/ncruces/go-sqlite3/driver"
)

// Watch opens the readers anew and keeps every statement they run from now on.
func (s *Store) Watch() (ran func() []string, err error) {
	var mu sync.Mutex
	seen := map[string]bool{}
	var order []string
	db, err := driver.Open(s.dsn+"&_pragma=query_only(on)&_txlock=deferred", func(c *sqlite3.Conn) error {
		return c.Trace(sqlite3.TRACE_STMT, func(_ sqlite3.TraceEvent, _, query any) error {
			mu.Lock()
			defer mu.Unlock()
			if q := query.(string); !seen[q] {
				seen[q] = true
				order = append(order, q)
			}
			return nil
		})
	})
	if err != nil {
		return nil, err
	}
	s.r.Close()
	s.r = db
	return func() []string { mu.Lock(); defer mu.Unlock(); return order }, nil
}

// Apart are the tables that nobody's climb is judged by.
var Apart = apart
