// Package e2e drives the real program in a real browser.
package e2e

import (
	"bufio"
	"bytes"
	"context"
	_ "embed"
	"fmt"
	"io"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	goruntime "runtime"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/require"

	"velvetladder/internal/golden"
)

// ids are what addresses have that differs from run to run.
var ids = regexp.MustCompile(`[0-9a-f]{16,}|\d{4}-\d\d-\d\d`)

//go:embed vendor/axe.min.js
var axe string

// program is the built binary; browser the one browser of the package.
var (
	program     string
	archived    bool // the program comes out of the archive that schools download
	browser     context.Context
	startOnce   sync.Once
	stopBrowser = func() {}
)

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "velvetladder-e2e-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	if program, archived, err = fromArchive(dir); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	code := m.Run()
	stopBrowser()
	os.RemoveAll(dir)
	os.Exit(code)
}

// fromArchive makes the archive that a school downloads for a computer such as this one, and unpacks it into an empty folder: that is
// the program that is tested. Where there is no commit to make it of, the program is built as it stands.
func fromArchive(dir string) (program string, archived bool, err error) {
	run := func(name string, args ...string) error {
		c := exec.Command(name, args...)
		c.Dir = filepath.Join("..", "..")
		if out, err := c.CombinedOutput(); err != nil {
			return fmt.Errorf("%s %v: %w\n%s", name, args, err, out)
		}
		return nil
	}
	if run("git", "log", "-1") != nil {
		program = filepath.Join(dir, "velvetladder")
		return program, false, run("go", "build", "-trimpath", "-o", program, "./cmd/velvetladder")
	}
	if err := run("go", "run", "./scripts/dist", dir, goruntime.GOOS+"/"+goruntime.GOARCH); err != nil {
		return "", false, err
	}
	packed, err := filepath.Glob(filepath.Join(dir, "*.tar.gz"))
	if err != nil || len(packed) != 1 {
		return "", false, fmt.Errorf("one archive is expected, not %v: %w", packed, err)
	}
	if err := run("tar", "-xzf", packed[0], "-C", dir); err != nil {
		return "", false, err
	}
	return filepath.Join(strings.TrimSuffix(packed[0], ".tar.gz"), "velvetladder"), true, nil
}

// server is a running program.
type server struct {
	t    *testing.T
	url  string
	code string // of the first owner; "" there is one
	cmd  *exec.Cmd
	log  *bytes.Buffer
	args []string
}

// start runs the program and waits for the address it prints.
func start(t *testing.T, args ...string) *server {
	s := &server{t: t, args: args}
	s.run()
	t.Cleanup(s.kill)
	return s
}

var (
	demoOnce sync.Once
	demoFile []byte // the demo school as it was built
)

// demoDay is the day on which the demo school stands: on another one others test, by other rungs.
const demoDay = "2026-11-28"

// startDemo runs the program over a fresh copy of the demo school, which is built once.
func startDemo(t *testing.T) *server {
	demoOnce.Do(func() {
		path := filepath.Join(t.TempDir(), "demo.db")
		s := start(t, "demo", "--on", demoDay, "--db", path)
		s.stop() // so that all of it stands in the one file
		var err error
		demoFile, err = os.ReadFile(path)
		require.NoError(t, err)
	})
	path := filepath.Join(t.TempDir(), "school.db")
	require.NoError(t, os.WriteFile(path, demoFile, 0o600))
	return start(t, "demo", "--on", demoDay, "--db", path)
}

func (s *server) run() {
	s.log = &bytes.Buffer{}
	s.cmd = exec.Command(program, s.args...)
	s.cmd.Stderr = s.log
	out, err := s.cmd.StdoutPipe()
	require.NoError(s.t, err)
	require.NoError(s.t, s.cmd.Start())
	line, lines := "", bufio.NewReader(out)
	for !strings.Contains(line, "http://") {
		line, err = lines.ReadString('\n')
		require.NoError(s.t, err, "the program printed no address: %s", s.log)
	}
	go io.Copy(io.Discard, out)
	at := strings.Index(line, "http://")
	require.GreaterOrEqual(s.t, at, 0, line)
	address, err := url.Parse(strings.Fields(line[at:])[0])
	require.NoError(s.t, err)
	s.url, s.code = address.Scheme+"://"+address.Host, address.Query().Get("code")
}

// kill ends the program as a power cut would, without a chance to tidy up.
func (s *server) kill() {
	s.cmd.Process.Kill()
	s.cmd.Wait()
}

// db is the file that the program keeps its school in.
func (s *server) db() string {
	at := slices.Index(s.args, "--db")
	require.GreaterOrEqual(s.t, at, 0)
	return s.args[at+1]
}

// restart starts the program again where it was, after kill.
func (s *server) restart() {
	at := strings.TrimPrefix(s.url, "http://")
	args := []string{}
	for i := 0; i < len(s.args); i++ {
		if s.args[i] == "--addr" {
			i++
			continue
		}
		args = append(args, s.args[i])
	}
	s.args = append(args, "--addr", at)
	s.run()
}

// stop asks the program to end and expects it to.
func (s *server) stop() {
	require.NoError(s.t, s.cmd.Process.Signal(syscall.SIGTERM))
	require.NoError(s.t, s.cmd.Wait(), s.log)
}

// tab is one tab of the browser.
type tab struct {
	t      *testing.T
	ctx    context.Context
	url    string
	code   string // of the first owner
	mu     sync.Mutex
	thrown []string
}

// stepTime bounds one step in the browser on a slow machine.
const stepTime = 30 * time.Second

// chromium is the browser without a window where it is installed: it takes a third less work than the other.
func chromium() string {
	if path, err := exec.LookPath("chromium-headless-shell"); err == nil {
		return path
	}
	return "chromium"
}

// onlyLong leaves to make test-long what other tests go through in part: its arithmetic is the core's, its screens are seen elsewhere.
func onlyLong(t *testing.T) {
	t.Helper()
	if !golden.Long() {
		t.Skip("make test-long")
	}
}

// open makes a tab on a server, with cookies and a store of its own, as another device has them:
// cookies know no ports, and tests run beside each other. A script's exception fails the test.
func open(t *testing.T, s *server, width, height int64) *tab {
	startOnce.Do(func() {
		allocator, stop := chromedp.NewExecAllocator(context.Background(), append(chromedp.DefaultExecAllocatorOptions[:],
			chromedp.ExecPath(chromium()), chromedp.NoSandbox, chromedp.DisableGPU, chromedp.NoFirstRun, chromedp.Flag("disable-quic", true), chromedp.Flag("disable-background-networking", true),
			chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true), chromedp.Flag("hide-scrollbars", true),
			chromedp.Flag("host-resolver-rules", "MAP * ~NOTFOUND, EXCLUDE 127.0.0.1"))...)
		ctx, cancel := chromedp.NewContext(allocator)
		require.NoError(t, chromedp.Do(ctx, chromedp.Navigate("about:blank")))
		browser, stopBrowser = ctx, func() { cancel(); stop() }
	})
	require.NotNil(t, browser, "the browser did not start")
	ctx, cancel := chromedp.NewContext(browser, chromedp.WithNewBrowserContext())
	x := &tab{t: t, ctx: ctx, url: s.url, code: s.code}
	require.NoError(t, chromedp.Listen(ctx, func(ev any) {
		if e, ok := ev.(*runtime.EventExceptionThrown); ok {
			x.mu.Lock()
			defer x.mu.Unlock()
			x.thrown = append(x.thrown, fmt.Sprintf("%s %+v", e.ExceptionDetails.Text, e.ExceptionDetails.Exception))
		}
	}))
	x.do(chromedp.EmulateViewport(width, height))
	_, err := chromedp.Call(ctx, emulation.SetFocusEmulationEnabled, emulation.SetFocusEmulationEnabledParams{Enabled: true}) // the tab of another test may be in front
	require.NoError(t, err)
	t.Cleanup(func() {
		x.mu.Lock()
		defer x.mu.Unlock()
		require.Empty(t, x.thrown, "scripts must not throw")
		cancel()
	})
	return x
}

func (x *tab) do(steps ...chromedp.Action[chromedp.Void]) {
	x.t.Helper()
	ctx, cancel := context.WithTimeout(x.ctx, stepTime)
	defer cancel()
	require.NoError(x.t, chromedp.Do(ctx, steps...))
}

// visit loads a page of the server.
func (x *tab) visit(path string) {
	x.t.Helper()
	x.do(chromedp.Navigate(x.url + path))
}

// eval runs an expression in the page.
func eval[T any](x *tab, expression string) T {
	x.t.Helper()
	ctx, cancel := context.WithTimeout(x.ctx, stepTime)
	defer cancel()
	v, err := chromedp.Run(ctx, chromedp.Evaluate[T](expression, chromedp.EvalAwaitPromise))
	require.NoError(x.t, err, expression)
	return v
}

// until waits for an expression to become true, across pages.
func (x *tab) until(expression string) {
	x.t.Helper()
	ctx, cancel := context.WithTimeout(x.ctx, stepTime)
	defer cancel()
	for {
		// A poll ends with an error when the page it runs in goes away: ask the next page.
		_, err := chromedp.Run(ctx, chromedp.Poll[bool](`document.readyState === "complete" && (`+expression+`)`))
		if err == nil {
			return
		}
		if ctx.Err() != nil { // only now is the page asked what it says: while it goes away it cannot answer
			require.NoError(x.t, ctx.Err(), "never true: %s\npage: %s", expression, eval[string](x, `document.body?.innerText.slice(0, 1500) ?? ""`))
		}
	}
}

// fill sets a field by its name.
func (x *tab) fill(name, value string) {
	x.t.Helper()
	x.do(chromedp.SetValue(chromedp.CSS(fmt.Sprintf(`main [name="%s"]`, name)), value))
}

// submit presses the button and waits for the page it leads to.
func (x *tab) submit(button string) {
	x.t.Helper()
	eval[bool](x, `(window.before = true)`)
	x.do(chromedp.Click(chromedp.CSS(button)))
	x.until(`window.before === undefined && document.readyState === "complete"`)
}

// text is all that the page says.
func (x *tab) text() string { return eval[string](x, `document.body.innerText`) }

// keys presses keys one after the other.
func (x *tab) keys(keys string) { x.do(chromedp.KeyEvent(keys)) }

// accessible expects axe-core to find nothing on the page. Contrast and the size of what is pressed, for which it lays out the whole page once more
// and which come from the same few styles everywhere, are measured on a third of them, by the length of what it is called, and in make
// test-long on all.
func (x *tab) accessible(what string) {
	x.t.Helper()
	eval[bool](x, axe+`;true`)
	// Letters have arrived and nothing moves any more: what is measured is what stands there.
	eval[bool](x, `document.fonts.ready.then(() => Promise.allSettled(document.getAnimations().map((a) => a.finished))).then(() => new Promise((done) => requestAnimationFrame(() => done(true))))`)
	drawn := strconv.FormatBool(strings.Contains(what, "dark") || golden.Sample(len(ids.ReplaceAllString(what, "")), 3))
	found := eval[string](x, `axe.run(document, {runOnly: ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"], rules: {region: {enabled: false}, "color-contrast": {enabled: `+drawn+`}, "target-size": {enabled: `+drawn+`}}, resultTypes: ["violations"], selectors: false})
		.then(r => r.violations.map(v => v.id + ": " + v.help + " " + v.nodes.map(n => n.html.slice(0, 160) + " " + (n.any[0]?.message ?? "")).join(" | ")).join("\n"))`)
	require.Empty(x.t, found, what)
}

// picture saves what the tab shows.
func (x *tab) picture(path string) {
	x.t.Helper()
	ctx, cancel := context.WithTimeout(x.ctx, stepTime)
	defer cancel()
	png, err := chromedp.Run(ctx, chromedp.CaptureScreenshot())
	require.NoError(x.t, err)
	require.NoError(x.t, os.MkdirAll(filepath.Dir(path), 0o755))
	require.NoError(x.t, os.WriteFile(path, png, 0o644))
}

// runProgram runs a command of the program to its end.
func runProgram(args ...string) (string, error) {
	out, err := exec.Command(program, args...).CombinedOutput()
	return string(out), err
}
