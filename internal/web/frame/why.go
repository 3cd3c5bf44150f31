package frame

// whys say why somebody was led to another page than the one they asked for.
var whys = map[string]string{
	"no-program": "There is no program yet, and that page is about one. Begin one here; it takes a minute.",
	"no-rungs":   "That page needs a ladder with rungs; this one is still empty.",
	"sign-in":    "Sign in first; then the page you asked for opens.",
	"have-owner": "This school has its owner already: sign in.",
	"no-owner":   "Nobody owns this school yet: begin here.",
	"sent-home":  "This device was sent home, or its grading is over. For another, type the code from the head table.",
	"in-place":   "This device sits at a table: here is its place.",
	"rebuilt":    "The file was written anew: nothing of whom you erased is left in it.",
	"file-gone": "That file is not here any more: a file that was looked at waits for two hours, and not over a new start of the program. " +
		"If it was being read in, the audit trail says whether it arrived. Else choose it again.",
	"factor-gone": "There was nothing to confirm any more; this is how your account stands.",
}
