package door_test

import (
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/core/office"
	"velvetladder/internal/golden"
	"velvetladder/internal/store"
	"velvetladder/internal/web/webtest"
)

// ownedHouse is a school whose owner has just signed in on a device.
func ownedHouse(t *testing.T) (*webtest.House, *webtest.Visitor, func() *webtest.Visitor) {
	h, browser := webtest.ClosedHouse(t)
	owner := browser()
	w := owner.Do("POST", "/welcome", url.Values{"name": {"Rosa"}, "sign_in": {"rosa"}, "password": {webtest.Secret}}.Encode())
	require.Equal(t, http.StatusSeeOther, w.Code, w.Body.String())
	return h, owner, browser
}

// secretOf is the secret of a second factor that is being set up, as the page shows it.
func secretOf(v *webtest.Visitor) string {
	page := v.Do("GET", "/account/second", "").Body.String()
	return strings.ReplaceAll(regexp.MustCompile(`<code>([A-Z2-7 =]+)</code>`).FindStringSubmatch(page)[1], " ", "")
}

// deedsOf counts the deeds of a kind among the last of the trail.
func deedsOf(h *webtest.House, kind office.DeedKind) (n int) {
	deeds, _, err := h.Store.Deeds(webtest.Ctx, store.TrailQuery{Limit: 100})
	require.NoError(h.T, err)
	for _, d := range deeds {
		if d.Told.Kind == kind {
			n++
		}
	}
	return n
}

// after has the clock of a visitor's school go on.
func after(h *webtest.House, v *webtest.Visitor, d time.Duration) {
	v.H = h.Closed(h.At(webtest.Clock().Add(d)))
}

// TestTheSecondFactor: set up from the picture's secret, then asked for at the door; a code works once and a recovery code too, and
// what was typed before signing in is still there after both questions.
func TestTheSecondFactor(t *testing.T) {
	h, owner, browser := ownedHouse(t)
	secret := secretOf(owner)
	code := func(d time.Duration) string {
		c, err := totp.GenerateCode(secret, webtest.Clock().Add(d))
		require.NoError(t, err)
		return c
	}
	w := owner.Do("POST", "/account/second", "code=12")
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Contains(t, w.Body.String(), "is not the code of this moment")
	assert.Contains(t, w.Body.String(), secret[:4]+" "+secret[4:8], "the same secret is still to be set up")
	w = owner.Do("POST", "/account/second", "code="+code(-30*time.Second))
	require.Equal(t, http.StatusOK, w.Code, w.Body.String())
	codes := regexp.MustCompile(`<code>([A-Z2-7]{4}(?:-[A-Z2-7]{4}){3})</code>`).FindAllStringSubmatch(w.Body.String(), -1)
	require.Len(t, codes, 10)
	assert.NotContains(t, owner.Do("GET", "/account/second", "").Body.String(), codes[0][1], "they are shown once")
	assert.Contains(t, owner.Do("GET", "/people", "").Body.String(), "with a second factor")

	v := browser()
	w = v.SignIn("rosa", webtest.Secret)
	assert.Equal(t, http.StatusOK, w.Code)
	assert.Contains(t, w.Body.String(), "And your code")
	assert.Equal(t, http.StatusSeeOther, v.Do("GET", "/students", "").Code, "half in is not in")
	w = v.Do("POST", "/sign-in/code", "code=000000&back=/classes")
	assert.Equal(t, http.StatusUnauthorized, w.Code)
	assert.Contains(t, w.Body.String(), "is not the code of this moment")
	w = v.Do("POST", "/sign-in/code", "back=/classes&code="+code(0))
	assert.Equal(t, "/classes", w.Header().Get("Location"))
	assert.Equal(t, http.StatusOK, v.Do("GET", "/students", "").Code)
	again := browser()
	again.SignIn("rosa", webtest.Secret)
	assert.Equal(t, http.StatusUnauthorized, again.Do("POST", "/sign-in/code", "code="+code(0)).Code, "it works once")
	w = again.Do("POST", "/sign-in/code", url.Values{"code": {codes[0][1]}, "waits_to": {"/students"}, "waits": {"name=Ada"}}.Encode())
	assert.Contains(t, w.Body.String(), "What you typed is still here")
	assert.Equal(t, http.StatusUnauthorized, browser().Do("POST", "/sign-in/code", "code="+codes[1][1]).Code, "not without the password before it")

	after(h, again, 11*time.Minute)
	w = again.Do("POST", "/prove", url.Values{"password": {webtest.Secret}}.Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code, "the password alone proves nothing")
	assert.Equal(t, http.StatusSeeOther, again.Do("POST", "/prove", url.Values{"password": {webtest.Secret}, "code": {codes[1][1]}}.Encode()).Code)
	assert.Equal(t, http.StatusSeeOther, again.Do("POST", "/account/second", "do=drop").Code)
	assert.Equal(t, http.StatusSeeOther, browser().SignIn("rosa", webtest.Secret).Code, "it is gone")
}

// TestThePasswordIsAskedForOnceMore: what lets people in, takes data out or erases it is not done by a device that was left open.
func TestThePasswordIsAskedForOnceMore(t *testing.T) {
	h, owner, _ := ownedHouse(t)
	record := "/students/" + h.Student + "/record.json"
	assert.Equal(t, http.StatusOK, owner.Do("GET", record, "").Code, "just signed in, it is not asked for")
	after(h, owner, 11*time.Minute)
	w := owner.Do("GET", record, "")
	assert.Equal(t, http.StatusUnauthorized, w.Code)
	assert.Contains(t, w.Body.String(), "Your password once more")
	assert.Equal(t, http.StatusOK, owner.Do("GET", "/students/"+h.Student, "").Code, "the daily work goes on")
	form := url.Values{"name": {"Marek"}, "sign_in": {"marek"}, "role": {"instructor"}, "password": {webtest.Secret}}
	w = owner.Form("/people", form)
	assert.Equal(t, http.StatusUnauthorized, w.Code)
	carried := webtest.FieldsOf(w.Body.String(), `action="/prove"`)
	assert.Equal(t, "/people", carried.Get("waits_to"))
	assert.Contains(t, carried.Get("waits"), "name=Marek")
	assert.NotContains(t, carried.Get("waits"), "password")
	carried.Set("password", "wrong wrong wrong")
	w = owner.Do("POST", "/prove", carried.Encode())
	assert.Equal(t, http.StatusUnprocessableEntity, w.Code)
	assert.Equal(t, carried.Get("waits"), webtest.FieldsOf(w.Body.String(), `action="/prove"`).Get("waits"), "a wrong answer loses nothing")
	carried.Set("password", webtest.Secret)
	w = owner.Do("POST", "/prove", carried.Encode())
	assert.Contains(t, w.Body.String(), `<form method="post" action="/people">`)
	assert.Contains(t, w.Body.String(), `name="name" value="Marek"`)
	assert.Equal(t, http.StatusSeeOther, owner.Form("/people", form).Code)
	after(h, owner, 22*time.Minute)
	file := webtest.FieldsOf(owner.Do("GET", record, "").Body.String(), `action="/prove"`)
	file.Set("password", webtest.Secret)
	assert.Contains(t, owner.Do("POST", "/prove", file.Encode()).Body.String(), `href="`+record+`"`, "a file is offered")
	after(h, owner, 33*time.Minute)
	page := webtest.FieldsOf(owner.Do("GET", "/people", "").Body.String(), `action="/prove"`)
	page.Set("password", webtest.Secret)
	assert.Equal(t, "/people", owner.Do("POST", "/prove", page.Encode()).Header().Get("Location"), "a page is led to")
	all, err := h.Store.People(webtest.Ctx)
	require.NoError(t, err)
	assert.Len(t, all, 2)
}

// TestWhereSomebodyIsSignedIn: each sign-in is listed, can be ended from another device, and only by its own person or the owner.
func TestWhereSomebodyIsSignedIn(t *testing.T) {
	h, owner, browser := ownedHouse(t)
	owner.Do("POST", "/people", url.Values{"name": {"Marek"}, "sign_in": {"marek"}, "role": {"instructor"}, "password": {webtest.Secret}}.Encode())
	marek, second := browser(), browser()
	marek.SignIn("marek", webtest.Secret)
	second.SignIn("marek", webtest.Secret)
	page := marek.Do("GET", "/account", "").Body.String()
	ends := regexp.MustCompile(`action="/signed-in/([0-9a-f]+)/end"`).FindAllStringSubmatch(page, -1)
	require.Len(t, ends, 1, "all but this device's, which has a button of its own")
	require.Equal(t, 1, strings.Count(page, `action="/sign-out"`))
	theirs := regexp.MustCompile(`action="/signed-in/([0-9a-f]+)/end"`).FindAllStringSubmatch(owner.Do("GET", "/people", "").Body.String(), -1)
	require.Len(t, theirs, 3, "the owner sees everybody's")
	own, err := h.Store.SignIns(webtest.Ctx, "")
	require.NoError(t, err)
	for _, x := range own {
		if x.Person == "Rosa" {
			assert.Equal(t, http.StatusNotFound, marek.Do("POST", "/signed-in/"+x.ID+"/end", "people=1").Code, "not an owner's")
		}
	}
	assert.Equal(t, http.StatusSeeOther, marek.Do("POST", "/signed-in/"+ends[0][1]+"/end", "").Code)
	assert.Equal(t, http.StatusSeeOther, second.Do("GET", "/account", "").Code, "out there")
	assert.Equal(t, http.StatusOK, marek.Do("GET", "/account", "").Code, "and still in here")
	for _, x := range own {
		if x.Person == "Marek" {
			owner.Do("POST", "/signed-in/"+x.ID+"/end", "people=1")
		}
	}
	assert.Equal(t, http.StatusSeeOther, marek.Do("GET", "/account", "").Code)
	// Signing out ends it for good: the cookie opens nothing any more.
	kept := owner.Cookie
	owner.Do("POST", "/sign-out", "")
	assert.Equal(t, http.StatusSeeOther, (&webtest.Visitor{T: t, H: owner.H, Cookie: kept}).Do("GET", "/account", "").Code)
}

// TestTriesForOneAccount: however the form is sent and wherever from, an account takes so many tries an hour; its own people come in
// meanwhile from where they came before.
func TestTriesForOneAccount(t *testing.T) {
	golden.Alone(t)
	h, _, browser := ownedHouse(t)
	from := func(address, kind, body string) int {
		v := browser()
		v.From, v.Kind = address, kind
		return v.Do("POST", "/sign-in?sign_in=somebody", body).Code
	}
	const form, parts = "application/x-www-form-urlencoded", "multipart/form-data; boundary=x"
	body := map[string]string{form: "sign_in=rosa&password=wrong", parts: "--x\r\nContent-Disposition: form-data; name=\"sign_in\"\r\n\r\n ROSA\r\n--x\r\nContent-Disposition: form-data; name=\"password\"\r\n\r\nwrong\r\n--x--\r\n"}
	codes := map[int]int{}
	for i := range 40 {
		kind := []string{form, parts}[i%2]
		codes[from("198.51.100."+string(rune('0'+i/10))+string(rune('0'+i%10)), kind, body[kind])]++
	}
	assert.Equal(t, map[int]int{http.StatusUnauthorized: 30, http.StatusTooManyRequests: 10}, codes)
	in := url.Values{"sign_in": {"rosa"}, "password": {webtest.Secret}}.Encode()
	assert.Equal(t, http.StatusTooManyRequests, from("198.51.100.77", form, in), "also with the right password")
	assert.Equal(t, http.StatusSeeOther, from("", form, in), "but from where she came before she comes in")
	assert.Equal(t, 30, deedsOf(h, office.SignInRefused), "each stands on the trail")
}

// TestWhatIsTakenOutIsNoted: who took which file about people.
func TestWhatIsTakenOutIsNoted(t *testing.T) {
	h, owner, _ := ownedHouse(t)
	wants := map[string]string{
		"/students/export.csv": "students, students-2026-11-24.csv", "/students/" + h.Student + "/record.json": "all that is on record of a student, record 2026-11-24.json",
		"/files/school.jsonl": "the whole school,  2026-11-24.jsonl", "/gradings/" + h.Grading + "/grading.json": "a grading, ", "/attendance/export.csv": "attendance, attendance-2026-11-24.csv",
		"/files/curriculum.json": "", "/students/none/record.json": "", "/gradings/none/results.xlsx": "",
	}
	for path, noted := range wants {
		w := owner.Do("GET", path, "")
		require.Equal(t, !strings.Contains(path, "none"), w.Code == http.StatusOK, path)
		deeds, _, err := h.Store.Deeds(webtest.Ctx, store.TrailQuery{Limit: 1})
		require.NoError(t, err)
		if noted == "" {
			continue // it is about nobody, or is not there
		}
		assert.Equal(t, office.Taken, deeds[0].Told.Kind, path)
		assert.Contains(t, deeds[0].Told.What, noted, path)
		assert.Equal(t, "Rosa", deeds[0].Actor)
	}
	assert.Equal(t, 5, deedsOf(h, office.Taken), "and nothing else is")
}

// TestACodeComesTooLate: half in holds for five minutes.
func TestACodeComesTooLate(t *testing.T) {
	h, owner, browser := ownedHouse(t)
	secret := secretOf(owner)
	now := webtest.Clock()
	code := func(d time.Duration) string {
		c, err := totp.GenerateCode(secret, now.Add(d))
		require.NoError(t, err)
		return c
	}
	require.Equal(t, http.StatusOK, owner.Do("POST", "/account/second", "code="+code(0)).Code)
	for d, in := range map[time.Duration]bool{5 * time.Minute: true, 5*time.Minute + time.Second: false, -time.Hour: false} {
		v := browser()
		v.SignIn("rosa", webtest.Secret)
		after(h, v, d)
		w := v.Do("POST", "/sign-in/code", "code="+code(d))
		assert.Equal(t, in, w.Code == http.StatusSeeOther, "%s %d", d, w.Code)
	}
}

// TestAnOpenPageIsUse: a page that is kept told keeps its device signed in, beyond the hours without use; and not beyond the fortnight.
func TestAnOpenPageIsUse(t *testing.T) {
	h, owner, _ := ownedHouse(t)
	var ahead atomic.Int64
	at := func() time.Time { return webtest.Clock().Add(time.Duration(ahead.Load())) }
	db := h.Moving(at)
	closed := h.Closed(db)
	server := httptest.NewServer(closed)
	defer server.Close()
	defer server.CloseClientConnections()
	v := &webtest.Visitor{T: t, H: closed}
	require.Equal(t, http.StatusSeeOther, v.SignIn("rosa", webtest.Secret).Code)
	require.Equal(t, http.StatusOK, v.Listen(server, "/head/"+h.Grading+"/live").StatusCode)
	for hours := 11; hours <= 33; hours += 11 {
		ahead.Store(int64(hours) * int64(time.Hour))
		_, err := db.NoteDeed(webtest.Ctx, webtest.Me, office.BackupMade.Named("x")) // whatever is done has the pages look whether they may still listen
		require.NoError(t, err)
		require.Eventually(t, func() bool {
			all, err := db.SignIns(webtest.Ctx, "")
			require.NoError(t, err)
			return slices.ContainsFunc(all, func(x store.SignIn) bool { return at().Sub(x.Seen) < time.Minute })
		}, 10*time.Second, 20*time.Millisecond, "hour %d", hours)
	}
	assert.Equal(t, http.StatusOK, v.Do("GET", "/account", "").Code, "33 hours after signing in, with nothing but an open page")
	after(h, owner, 33*time.Hour)
	assert.Equal(t, http.StatusSeeOther, owner.Do("GET", "/account", "").Code, "a device without one is out")
	ahead.Store(int64(14*24*time.Hour + time.Second))
	assert.Equal(t, http.StatusSeeOther, v.Do("GET", "/account", "").Code)
}
