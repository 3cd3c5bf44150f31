package frame

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestPosted: what is ticked twice is ticked, in the order it came; the digest of a form with a password is of this start of the program
// alone, so that nobody who has the file tries passwords against it.
func TestPosted(t *testing.T) {
	post := func(body string) (map[string][]string, string) {
		r := httptest.NewRequest(http.MethodPost, "/x", strings.NewReader(body))
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		v, by, err := Posted(r)
		require.NoError(t, err)
		return v, by.Digest
	}
	v, same := post("stripe=b&stripe=a&stripe=b&name=x&request=r1")
	assert.Equal(t, map[string][]string{"stripe": {"b", "a"}, "name": {"x"}}, v)
	v, _ = post("name=Zoe%CC%88&password=nai%CC%88ve")
	assert.Equal(t, map[string][]string{"name": {"Zo\u00eb"}, "password": {"nai\u0308ve"}}, v, "an ë is one letter; what is secret is left as it was typed")
	_, again := post("name=x&stripe=b&stripe=a&request=r2")
	assert.Equal(t, same, again)
	_, secret := post("name=x&password=four")
	key := digestKey
	defer func() { digestKey = key }()
	digestKey = []byte("another start")
	_, later := post("name=x&password=four")
	assert.NotEqual(t, secret, later)
	_, again = post("name=x&stripe=b&stripe=a")
	assert.Equal(t, same, again, "others are known again after a restart")
}
