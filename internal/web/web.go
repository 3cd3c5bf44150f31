// Package web is the school's screens: handlers, templates and what browsers load.
package web

import (
	"context"
	"log/slog"
	"net"
	"net/http"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httprate"

	"velvetladder/internal/store"
)

// role says who may use a route.
type role string

const (
	anyone     role = "anyone"     // files without anything about people in them
	owner      role = "owner"      // defines the curriculum, decides
	instructor role = "instructor" // and the owner
	examiner   role = "examiner"   // a device that came in by a code, for its own sheets; and the owner
	ringside   role = "ringside"   // such a device, for its own ring; and whoever teaches
	family     role = "family"     // whoever holds an unguessable link; the handler looks it up first of all
)

// route is one line of the table of contents.
type route struct {
	method, path string
	may          role
	handle       http.HandlerFunc
}

func (a *app) routes() []route {
	return []route{
		{"GET", "/welcome", anyone, a.welcomeShow},
		{"POST", "/welcome", anyone, a.welcomeSave},
		{"GET", "/sign-in", anyone, a.signInShow},
		{"POST", "/sign-in", anyone, a.signInSave},
		{"POST", "/sign-out", anyone, a.signOut},
		{"GET", "/account", instructor, a.accountShow},
		{"POST", "/account", instructor, a.accountSave},
		{"GET", "/people", owner, a.peopleShow},
		{"POST", "/people", owner, a.peopleSave},
		{"POST", "/people/{person}", owner, a.peopleSave},
		{"POST", "/people/{person}/delete", owner, a.peopleDelete},

		{"GET", "/", instructor, a.home},
		{"GET", "/ladder", instructor, a.ladderHome},
		{"GET", "/ladder/{rung}", instructor, a.ladderShow},
		{"GET", "/find", instructor, a.findShow},
		{"POST", "/undo", owner, a.undo},

		{"GET", "/programs/new", owner, a.programsNew},
		{"POST", "/programs/new", owner, a.programsSave},
		{"GET", "/programs/{program}", owner, a.programsShow},
		{"POST", "/programs/{program}", owner, a.programsSave},
		{"POST", "/programs/{program}/details", owner, a.programsDetails},
		{"POST", "/programs/{program}/delete", owner, a.programsDelete},
		{"POST", "/programs/{program}/sections", owner, a.sectionsSave},
		{"POST", "/sections/{section}/move", owner, a.sectionsMove},
		{"POST", "/sections/{section}/delete", owner, a.sectionsDelete},

		{"GET", "/rungs/new", owner, a.rungsNew},
		{"POST", "/rungs/new", owner, a.rungsSave},
		{"GET", "/rungs/{rung}", owner, a.rungsShow},
		{"POST", "/rungs/{rung}", owner, a.rungsSave},
		{"POST", "/rungs/{rung}/move", owner, a.rungsMove},
		{"POST", "/rungs/{rung}/delete", owner, a.rungsDelete},

		{"POST", "/requirements/new", owner, a.requirementsAdd},
		{"GET", "/requirements/{requirement}", owner, a.requirementsShow},
		{"POST", "/requirements/{requirement}", owner, a.requirementsSave},
		{"POST", "/requirements/{requirement}/move", owner, a.requirementsMove},
		{"POST", "/requirements/{requirement}/delete", owner, a.requirementsDelete},
		{"GET", "/sheet/{rung}", instructor, a.sheetShow},
		{"GET", "/binder/{rung}", owner, a.binderShow},
		{"POST", "/binder/{rung}", owner, a.binderSave},
		{"POST", "/binder/{rung}/read", owner, a.binderRead},
		{"GET", "/difference/{rung}", instructor, a.differenceRung},

		{"GET", "/check", owner, a.checkShow},
		{"POST", "/check/silence", owner, a.checkSilence},
		{"GET", "/coverage", instructor, a.coverageShow},
		{"GET", "/load", owner, a.loadShow},
		{"GET", "/versions", owner, a.versionsShow},
		{"POST", "/versions/publish", owner, a.versionsPublish},
		{"POST", "/versions/move", owner, a.versionsMove},
		{"GET", "/difference", owner, a.differenceVersions},
		{"GET", "/glossary", instructor, a.glossaryShow},
		{"GET", "/booklet", instructor, a.bookletShow},
		{"GET", "/booklet/{rung}", instructor, a.bookletShow},
		{"GET", "/files", owner, a.filesShow},
		{"GET", "/files/curriculum.json", owner, a.filesCurriculum},
		{"GET", "/files/requirements.csv", owner, a.filesRequirements},
		{"POST", "/files/curriculum", owner, a.filesReadCurriculum},
		{"POST", "/files/requirements", owner, a.filesReadRequirements},
		{"POST", "/notation", instructor, a.notationRead},
		{"GET", "/notation/names", instructor, a.notationNames},

		{"GET", "/techniques", instructor, a.techniquesList},
		{"GET", "/techniques/many", owner, a.manyShow},
		{"POST", "/techniques/many", owner, a.manySave},
		{"GET", "/numbers", owner, a.numbersShow},
		{"POST", "/numbers", owner, a.numbersSave},
		{"POST", "/techniques/{technique}/unnumber", owner, a.techniquesUnnumber},
		{"POST", "/check/read", owner, a.checkRead},
		{"POST", "/eligible/seen", owner, a.eligibleSeen},
		{"POST", "/students/{student}/stance", instructor, a.studentsStance},
		{"GET", "/techniques/new", owner, a.techniquesNew},
		{"POST", "/techniques/new", owner, a.techniquesSave},
		{"GET", "/techniques/{technique}", instructor, a.techniquesShow},
		{"GET", "/techniques/{technique}/edit", owner, a.techniquesEdit},
		{"POST", "/techniques/{technique}/edit", owner, a.techniquesSave},
		{"POST", "/techniques/{technique}/delete", owner, a.techniquesDelete},

		{"GET", "/students", instructor, a.studentsList},
		{"GET", "/eligible", instructor, a.eligibleShow},
		{"GET", "/students/new", owner, a.studentsNew},
		{"POST", "/students/new", owner, a.studentsSave},
		{"GET", "/students/import", owner, a.importShow},
		{"POST", "/students/import", owner, a.importSave},
		{"GET", "/students/export.csv", owner, a.studentsExport},
		{"GET", "/students/{student}", instructor, a.studentsShow},
		{"GET", "/students/{student}/edit", owner, a.studentsEdit},
		{"POST", "/students/{student}/edit", owner, a.studentsSave},
		{"POST", "/students/{student}/delete", owner, a.studentsDelete},
		{"POST", "/students/{student}/enrol", owner, a.studentsEnrol},
		{"POST", "/enrolments/{enrolment}/correct", owner, a.enrolmentsCorrect},
		{"POST", "/enrolments/{enrolment}/end", owner, a.enrolmentsEnd},
		{"POST", "/enrolments/{enrolment}/track", owner, a.enrolmentsTrack},
		{"POST", "/enrolments/{enrolment}/merit", owner, a.enrolmentsMerit},
		{"POST", "/enrolments/{enrolment}/adapt", owner, a.enrolmentsAdapt},
		{"POST", "/adaptations/{adaptation}/end", owner, a.adaptationsEnd},
		{"POST", "/enrolments/{enrolment}/waive", owner, a.enrolmentsWaive},
		{"POST", "/enrolments/{enrolment}/word", instructor, a.enrolmentsWord},
		{"POST", "/given/{given}/withdraw", owner, a.givenWithdraw},

		{"POST", "/enrolments/{enrolment}/example", instructor, a.enrolmentsExample},
		{"POST", "/enrolments/{enrolment}/signoff", instructor, a.enrolmentsSignOff},
		{"POST", "/enrolments/{enrolment}/stripes", instructor, a.enrolmentsStripes},
		{"POST", "/students/{student}/evidence", instructor, a.studentsEvidence},

		{"GET", "/classes", instructor, a.classesShow},
		{"GET", "/classes/new", owner, a.classesNew},
		{"POST", "/classes/new", owner, a.classesSave},
		{"GET", "/classes/{class}/edit", owner, a.classesEdit},
		{"POST", "/classes/{class}/edit", owner, a.classesSave},
		{"POST", "/classes/{class}/delete", owner, a.classesDelete},
		{"POST", "/closures/new", owner, a.closuresSave},
		{"POST", "/closures/{closure}/delete", owner, a.closuresDelete},
		{"GET", "/attendance/import", owner, a.attendanceImport},
		{"POST", "/attendance/import", owner, a.attendanceRead},
		{"GET", "/attendance/export.csv", owner, a.attendanceExport},
		{"GET", "/register/{class}/{on}", instructor, a.registerShow},
		{"POST", "/register/{class}/{on}", instructor, a.registerSave},
		{"POST", "/register/{class}/{on}/entries", instructor, a.registerEntries},
		{"GET", "/checkin/{class}/{on}", instructor, a.checkinShow},
		{"POST", "/checkin/{class}/{on}", instructor, a.checkinNumber},
		{"GET", "/signoffs/{class}/{on}", instructor, a.signoffsShow},
		{"POST", "/signoffs/{class}/{on}/entries", instructor, a.signoffsEntries},
		{"POST", "/signoffs/{class}/{on}/taught", instructor, a.signoffsTaught},
		{"GET", "/stripes", instructor, a.stripesShow},
		{"POST", "/stripes", instructor, a.stripesAward},
		{"POST", "/stripes/{stripe}/withdraw", instructor, a.stripesWithdraw},

		{"GET", "/insights", owner, a.insightsShow},
		{"GET", "/insights/forecasts", owner, a.forecastsShow},
		{"GET", "/plan/{class}/{on}", instructor, a.planShow},
		{"POST", "/plan/{class}/{on}/theme", instructor, a.planTheme},
		{"GET", "/practice/{enrolment}", instructor, a.practiceShow},
		{"POST", "/practice/{enrolment}/link", owner, a.practiceLink},
		{"POST", "/practice/{enrolment}/answer", instructor, a.practiceAnswer},
		{"POST", "/practice/{enrolment}/tick", instructor, a.practiceTick},
		{"POST", "/practice/{enrolment}/clip", instructor, a.practiceClip},
		{"POST", "/practice/{enrolment}/choice", instructor, a.practiceChoose},
		{"POST", "/family-links/{link}/revoke", owner, a.practiceRevoke},
		{"GET", "/family/{token}", family, a.familyShow},
		{"GET", "/family/{token}/caller", family, a.familyCaller},
		{"GET", "/family/{token}/result/{candidate}", family, a.familyResult},
		{"POST", "/family/{token}/tick", family, a.familyTick},
		{"POST", "/family/{token}/clip", family, a.familyClip},
		{"POST", "/family/{token}/choice", family, a.familyChoose},
		{"GET", "/caller/{rung}", instructor, a.callerShow},
		{"GET", "/combinations", instructor, a.combinationsShow},
		{"POST", "/combinations/drill", instructor, a.combinationsDrill},

		{"GET", "/gradings", instructor, a.gradingsList},
		{"GET", "/gradings/new", owner, a.gradingsNew},
		{"POST", "/gradings/new", owner, a.gradingsSave},
		{"GET", "/gradings/{grading}", instructor, a.gradingsShow},
		{"GET", "/gradings/{grading}/edit", owner, a.gradingsEdit},
		{"POST", "/gradings/{grading}/edit", owner, a.gradingsSave},
		{"POST", "/gradings/{grading}/delete", owner, a.gradingsDelete},
		{"POST", "/gradings/{grading}/candidates", owner, a.candidatesAdd},
		{"POST", "/candidates/{candidate}/withdraw", owner, a.candidatesWithdraw},
		{"POST", "/gradings/{grading}/begin", owner, a.gradingsBegin},

		{"POST", "/groups/{group}/ring", owner, a.groupsMove},

		{"GET", "/day/{grading}", instructor, a.dayShow},
		{"POST", "/day/{grading}", owner, a.dayMake},
		{"POST", "/day/{grading}/move", owner, a.dayMove},
		{"POST", "/day/{grading}/groups", owner, a.dayGroups},
		{"GET", "/officers", owner, a.officersShow},
		{"POST", "/officers", owner, a.officersSave},
		{"POST", "/officers/{officer}", owner, a.officersSave},
		{"POST", "/officers/{officer}/delete", owner, a.officersDelete},
		{"GET", "/checklist/{grading}", instructor, a.checklistShow},
		{"POST", "/checklist/{grading}/write", owner, a.checklistWrite},
		{"GET", "/pairs/{grading}", instructor, a.pairsShow},
		{"POST", "/pairs/{grading}", owner, a.pairsMake},
		{"GET", "/lineup/{grading}", instructor, a.lineupShow},
		{"GET", "/belts/{grading}", owner, a.beltsShow},
		{"GET", "/belts/{grading}/order.csv", owner, a.beltsOrder},
		{"POST", "/belts/{grading}/stock", owner, a.beltsStock},
		{"GET", "/papers/{grading}", instructor, a.papersShow},
		{"GET", "/papers/{grading}/{kind}", instructor, a.papersFile},
		{"POST", "/papers/{grading}/letters", owner, a.papersLetters},
		{"GET", "/gradings/{grading}/results.xlsx", owner, a.resultsXLSX},
		{"GET", "/gradings/{grading}/grading.json", owner, a.gradingFile},
		{"GET", "/files/calendar.ics", instructor, a.calendarFile},
		{"GET", "/files/school.jsonl", owner, a.schoolFile},
		{"GET", "/students/{student}/record", owner, a.recordShow},
		{"GET", "/students/{student}/record.json", owner, a.recordExport},
		{"POST", "/students/{student}/record/erase", owner, a.recordErase},
		{"GET", "/backups", owner, a.backupsShow},
		{"POST", "/backups", owner, a.backupsMake},
		{"GET", "/backups/{name}", owner, a.backupsFile},
		{"GET", "/settings", owner, a.settingsShow},
		{"POST", "/settings", owner, a.settingsSave},
		{"GET", "/outbox", owner, a.outboxShow},
		{"GET", "/outbox/{message}", owner, a.outboxMessage},
		{"GET", "/outbox/{message}/message.eml", owner, a.outboxEML},
		{"POST", "/outbox/{message}", owner, a.outboxSettle},
		{"POST", "/outbox/send", owner, a.outboxSend},

		{"GET", "/head/{grading}", instructor, a.headShow},
		{"GET", "/head/{grading}/live", instructor, a.headLive},
		{"POST", "/gradings/{grading}/codes", owner, a.codesMake},
		{"POST", "/gradings/{grading}/close", owner, a.gradingsClose},
		{"POST", "/seats/{seat}/end", owner, a.seatsEnd},
		{"GET", "/join", anyone, a.joinShow},
		{"GET", "/join/{code}", anyone, a.joinShow},
		{"POST", "/join", anyone, a.joinSave},
		{"POST", "/leave", anyone, a.joinLeave},
		{"GET", "/now", anyone, a.nowShow},

		{"GET", "/scoring/{examiner}/{group}", examiner, a.scoringShow},
		{"GET", "/scoring/{examiner}/{group}/state", examiner, a.scoringState},
		{"GET", "/scoring/{examiner}/{group}/live", examiner, a.scoringLive},
		{"POST", "/scoring/{examiner}/{group}/marks", examiner, a.scoringMarks},
		{"POST", "/scoring/{examiner}/{group}/faults", examiner, a.scoringFaults},
		{"POST", "/scoring/{examiner}/{group}/sign", examiner, a.scoringSign},
		{"POST", "/scoring/{examiner}/{group}/reopen", examiner, a.scoringReopen},
		{"GET", "/paper/{examiner}/{group}", examiner, a.paperShow},
		{"POST", "/paper/{examiner}/{group}/checked", examiner, a.paperChecked},

		{"GET", "/ring/{ring}", ringside, a.ringShow},
		{"GET", "/ring/{ring}/live", ringside, a.ringLive},
		{"GET", "/ring/{ring}/again", ringside, a.ringAgain},
		{"POST", "/ring/{ring}/call", ringside, a.ringCall},
		{"POST", "/ring/{ring}/clock", ringside, a.ringClock},
		{"GET", "/bouts/{ring}", ringside, a.boutsShow},
		{"POST", "/bouts/{ring}", ringside, a.boutsBegin},
		{"POST", "/bouts/{ring}/events", ringside, a.boutsEvents},
		{"POST", "/bouts/{ring}/faults", ringside, a.boutsFaults},

		{"GET", "/review/{grading}", owner, a.reviewShow},
		{"POST", "/review/{grading}/decide", owner, a.reviewDecide},
		{"POST", "/review/{grading}/agree", owner, a.reviewAgree},
		{"POST", "/review/{grading}/hold", owner, a.reviewHold},
		{"POST", "/review/{grading}/undo", owner, a.reviewUndo},
		{"POST", "/review/{grading}/fault", owner, a.reviewFault},
		{"POST", "/review/{grading}/announce", owner, a.reviewAnnounce},
		{"POST", "/review/{grading}/announce-at", owner, a.reviewAnnounceAt},
		{"POST", "/review/{grading}/correct", owner, a.reviewCorrect},
		{"POST", "/review/{grading}/referral", owner, a.reviewReferral},
		{"GET", "/result/{candidate}", owner, a.resultShow},
		{"GET", "/lab/{grading}", owner, a.labShow},
		{"GET", "/trail", owner, a.trailShow},

		{"GET", "/static/*", anyone, a.static},
		{"GET", "/sw.js", anyone, a.worker},
	}
}

// Bounds on what a request may take. There is no write timeout: streams will come.
const (
	maxBody       = 8 << 20 // bytes; the curriculum of 3,000 techniques, or a CSV of 40,000 students
	headerTimeout = 10 * time.Second
	readTimeout   = 60 * time.Second
	idleTimeout   = 2 * time.Minute
	maxHeader     = 32 << 10
)

// New returns the whole application over a store, for those whom access lets in. It fails when a template does not parse
// or a route has no role.
func New(s *store.Store, log *slog.Logger, access Access) (http.Handler, error) {
	a := &app{store: s, log: log, access: access}
	a.sessions = a.sessionManager(access)
	if err := a.parse(); err != nil {
		return nil, err
	}
	r := chi.NewRouter()
	r.Use(a.recoverer, a.secure, http.NewCrossOriginProtection().Handler, middleware.RequestSize(maxBody), middleware.GetHead, a.sessions.LoadAndSave, a.whoever)
	slow := a.slowDown()
	joining := httprate.LimitBy(codeTries, triesInterval, address)
	guessing := httprate.LimitBy(linkTries, triesInterval, address)
	for _, rt := range a.routes() {
		switch rt.may {
		case anyone, family, owner, instructor, examiner, ringside:
		default:
			panic("the route " + rt.method + " " + rt.path + " declares no role")
		}
		handle := http.Handler(a.guard(rt.may, rt.handle))
		if rt.may == family {
			handle = guessing(handle)
		}
		if rt.path == "/join" && rt.method == http.MethodPost || rt.path == "/join/{code}" {
			handle = joining(handle)
		}
		if rt.method == http.MethodPost && (rt.path == "/sign-in" || rt.path == "/welcome") {
			handle = slow(handle)
		}
		r.Method(rt.method, rt.path, handle)
	}
	r.NotFound(func(w http.ResponseWriter, r *http.Request) { a.fail(w, r, store.ErrNotFound) })
	r.MethodNotAllowed(func(w http.ResponseWriter, r *http.Request) {
		a.message(w, r, http.StatusMethodNotAllowed, "This address takes no such request", "The page you came from may be out of date; go back and load it again.")
	})
	return r, nil
}

// NewServer is New with the bounds a server needs.
func NewServer(h http.Handler, log *slog.Logger) *http.Server {
	stop := make(chan struct{})
	server := &http.Server{
		BaseContext: func(net.Listener) context.Context {
			return context.WithValue(context.Background(), stoppingKey{}, stop)
		},
		Handler: h, ReadHeaderTimeout: headerTimeout, ReadTimeout: readTimeout, IdleTimeout: idleTimeout, MaxHeaderBytes: maxHeader,
		ErrorLog: slog.NewLogLogger(log.Handler(), slog.LevelWarn),
	}
	server.RegisterOnShutdown(sync.OnceFunc(func() { close(stop) }))
	return server
}

// policy lets a page load only what ships with the application, run no inline script or
// style, and be framed by nobody.
const policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; connect-src 'self'; worker-src 'self'; manifest-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"

func (a *app) secure(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cache-Control", "no-store") // pages hold children's data; static files say otherwise
		next.ServeHTTP(w, r)
	})
}

// recoverer turns a panic into a page and a log line; nothing is half-written, because
// every write is one transaction.
func (a *app) recoverer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if v := recover(); v != nil {
				if v == http.ErrAbortHandler {
					panic(v)
				}
				a.log.Error("a handler gave up", "panic", v, "path", r.URL.Path)
				a.message(w, r, http.StatusInternalServerError, "Something went wrong here", "Nothing was changed. Go back and try again; the log says more.")
			}
		}()
		next.ServeHTTP(w, r)
	})
}
