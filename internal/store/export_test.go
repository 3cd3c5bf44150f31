package store

import (
	"database/sql"
	"sync"

	"github.com/ncruces/go-sqlite3"
	"github.com/ncruces/go-sqlite3/driver"
)

// Watch opens the file anew, for reading and writing, and keeps every statement that is run from now on.
func (s *Store) Watch() (ran func() []string, err error) {
	var mu sync.Mutex
	seen := map[string]bool{}
	var order []string
	watched := func(dsn string) (*sql.DB, error) {
		return driver.Open(dsn, func(c *sqlite3.Conn) error {
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
	}
	s.r.Close()
	if s.r, err = watched(s.dsn + "&_pragma=query_only(on)&_txlock=deferred"); err != nil {
		return nil, err
	}
	s.w.Close()
	if s.w, err = watched(s.dsn + "&_txlock=immediate"); err != nil {
		return nil, err
	}
	s.w.SetMaxOpenConns(1)
	return func() []string { mu.Lock(); defer mu.Unlock(); return order }, nil
}

// Apart are the tables that nobody's climb is judged by.
var Apart = apart
