package frame

import (
	"net/http"
	"time"

	"github.com/go-chi/httprate"

	"velvetladder/internal/core/check"
)

// Tries a minute: at the door for one name from one address and for all names from it, and of what is
// guessed.
const (
	TriesAName    = 6
	triesAll      = 30
	linkTries     = 240 // of family links, from one address
	triesInterval = time.Minute
)

func asker(r *http.Request) (string, error) { return Asker(r), nil }

// ByAddress bounds the requests a minute from one address, over all routes it is put on.
func (fr *Frame) ByAddress(tries int) func(http.Handler) http.Handler {
	return httprate.LimitBy(tries, triesInterval, asker)
}

// ByPerson bounds the requests a minute of one who is signed in, over all routes it is put on.
func (fr *Frame) ByPerson(tries int) func(http.Handler) http.Handler {
	return httprate.LimitBy(tries, triesInterval, func(r *http.Request) (string, error) { return PersonOf(r).ID, nil },
		httprate.WithLimitHandler(func(w http.ResponseWriter, r *http.Request) {
			fr.Message(w, r, http.StatusTooManyRequests, "Too many tries", "Wait a minute, then try again. Nothing was changed.")
		}))
}

// ByAccount bounds the tries an hour for one account, from wherever they come: it counts one, and reports whether it is too many.
func (fr *Frame) ByAccount(tries int) func(w http.ResponseWriter, r *http.Request, account string) bool {
	return httprate.NewRateLimiter(tries, time.Hour).OnLimit
}

// SlowDown bounds the tries at the door, over all routes it is put on.
func (fr *Frame) SlowDown() func(http.Handler) http.Handler {
	told := httprate.WithLimitHandler(func(w http.ResponseWriter, r *http.Request) {
		fr.Message(w, r, http.StatusTooManyRequests, "Too many tries", "Wait a minute, then try again. If the password is forgotten, the owner can set a new one.")
	})
	byName := httprate.LimitBy(TriesAName, triesInterval, func(r *http.Request) (string, error) {
		return Asker(r) + " " + check.Key(r.FormValue("sign_in")), nil
	}, told)
	all := httprate.LimitBy(triesAll, triesInterval, asker, told)
	return func(next http.Handler) http.Handler { return all(byName(next)) }
}
