package binder

import (
	"cmp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/pattern"
)

// An amount or a remark in a way that is not read is written in the way that is.

// someTime is so long, as a group; aGrab a hold, whichGrab and grabHow tell one of them from another; eachSign are both sides in signs.
const (
	someTime  = `(\d{1,3} ?(?:secs?|seconds?|s|mins?|minutes?)|(?:a |one |two |three |five |ten )(?:count|seconds?)(?: of (?:\d+|two|three|five|ten))?)`
	aGrab     = `(?:grab|hug|choke|hold|headlock|strangle|push|pull)s?`
	whichGrab = `(?:single|double|cross|straight|same side|opposite side)`
	grabHow   = `(?:(?:over|under)(?: the)? arms|arms (?:free|pinned|trapped|in|out))`
	eachSign  = `(?:l ?[&/+] ?r|r ?[&/+] ?l|left ?[/&+] ?right|right ?[/&+] ?left)`
)

// cardLabel is the number of a card, and of which kind what stands on it is.
var cardLabel = pattern.Of(`(?i)^(\s*)(?:card|station|sheet|task|box|slot) \d{1,2} ?[\[(](\pL[\pL -]*)[\])]: ?(\S)`)

// rewrites are such ways, each with how it is written.
var rewrites = []struct {
	said  *pattern.Pattern
	plain string
}{
	// R2 - jab, cross: which round
	{pattern.Of(`^(\s*)R(?:d\.? ?)?\d{1,2} ?[-–—:.)] ?(\pL|\d-)`), "$1$2"},
	// fwd L/R, bwd L/R 3x
	{pattern.Of(`(?i)^(.*\pL) ` + eachSign + `, (\pL[\pL -]*?) ` + eachSign + `,? (?:x ?)?(\d{1,2}) ?(?:x|times|each)?$`), "$1, $2, $3 each side"},
	// low kick check, return low kick
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:\pL+ )?kick) check, (return|counter|answer) `), "${1}check $2, $3 "},
	// Front kick at least belt height, side kick at least 5 each leg
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*\pL),? (at least) ((?:ankle|shin|knee|thigh|hip|waist|belt|chest|shoulder|head)[- ](?:height|high|level))\b`), "$1 $3 (($2))"},
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*\pL),? (at least) ((?:x ?)?\d{1,3}(?: (?:each|per|a) \pL+| times| reps)?)$`), "$1, $3 (($2))"},
	// Little Pond first half
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*?\pL) ((?:the )?(?:first|second|last|1st|2nd) (?:half|third))((?: only| without help| with help)?)$`), "$1, $2$3"},
	// Short Form: Lower Path
	{pattern.Of(`^(\s*(?:[-–—*•] )?)((?i:(?:short|long|open|basic|partner) (?:form|kata|pattern|set))): (\p{Lu}[\pL'-]+(?: [\p{Lu}\d][\pL'-]*)*)$`), "$1$3 (($2))"},
	// Wrist grabs (single, double, cross)
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ )?` + aGrab + `)(?: [-–—] |[,;] | \()(` + whichGrab + `(?:(?:,? and |,? & |, | ?/ ?)` + whichGrab + `)+)\)?$`), "$1: $2"},
	// Lapel grab - one hand, two hands
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:\pL+ )?` + aGrab + `)(?: [-–—] |[,;:] | \()one[- ]hand(?:ed)?(?:,? and |,? & |, | ?/ ?)(?:two|both)[- ]hand(?:ed|s)?\)?$`), "${1}One-hand $2; two-hand $2"},
	// Bear hug - over arms, under arms
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:\pL+ )?` + aGrab + `)(?: [-–—] |[,;:] | \()(` + grabHow + `)(?:,? and |,? & |, | ?/ ?)(` + grabHow + `)\)?$`), "$1$2 $3; $2 $4"},
	// R1 2 min hands only
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:(?:R|Rd\.? ?|Round ?)\d{1,2}(?::| [-–—])? )?(\d{1,3}(?::\d\d)? ?(?:mins?|minutes?|secs?|seconds?|s))(?:,| -| –|:| of)? ((?:\pL+ ){1,3}only|everything|all|mixed|free|anything|all techniques|all tools)$`), "${1}1 x $2 (($3))"},
	// front stance (count of 5)
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*(?:stance|dachi|sogi|seogi|on one leg|on one foot))[ ,-]* \(?((?:hold(?: it)? )?(?:for )?(?:an? )?)count (?:of |to )?(\d{1,2})\)?$`), "$1, $3 seconds ((${2}count of $3))"},
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*(?:stance|dachi|sogi|seogi)),? \(?(\d{1,2}) counts?\)?$`), "$1, $2 seconds (($2 counts))"},
	// Round kick high and low, 10 each leg; Push kick, front and rear leg
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL[\pL-]* ){0,3}(?:kick|punch|strike|teep|jab|hook|cross|uppercut|knee|elbow|geri|zuki|fist)s?),? ((?:high|low|mid|middle|jodan|chudan|gedan)` + wayJoin + `(?:high|low|mid|middle|jodan|chudan|gedan)` +
		`|(?:lead|rear|front|back)` + wayJoin + `(?:lead|rear|front|back) (?:leg|hand|foot)s?|(?:lead|front)` + wayJoin + `rear|rear` + wayJoin + `lead|forwards?` + wayJoin + `back(?:wards?)?)` + muchEnd + `$`), "$1$3 (($2))"},
	// Elbows forward, back and up
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:elbow|hammer[ -]?fist|back[ -]?fist)s?(?: strikes?)?):? ((?:front|` + strikeWay + `)(?:, (?:front|` + strikeWay + `))*),? (?:and|&) ((?:front|` + strikeWay + `))` + muchEnd + `$`), "$1$2: $3, $4$5"},
	// Elbow front, back, up
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:elbow|hammer[ -]?fist|back[ -]?fist)s?(?: strikes?)?) ((?:(?:front|` + strikeWay + `)(?:, |,? and | & ))+(?:front|` + strikeWay + `))` + muchEnd + `$`), "$1$2: $3$4"},
	// Step forward, back, left, right
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)step(?:ping)? ((?:forwards?|fwd)(?: ?[,/] ?|,? and | & )(?:back|backwards?|bwd)(?:(?:, ?| ?/ ?|,? and | & )(?:left|right|side|sides|sideways|side to side)){1,2})$`), "${1}Stepping (($2))"},
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(shuffle|shuffling|step and slide) ((?:forwards?|fwd)(?: ?[,/] ?|,? and | & )(?:back|backwards?|bwd)(?:(?:, ?| ?/ ?|,? and | & )(?:left|right|side|sides|sideways|side to side)){1,2})$`), "$1$2 (($3))"},
	// Back knuckle strike to temple, ribs and groin
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL[\pL-]* ){0,3}(?:kick|punch|strike|elbow|fist|chop|palm|heel|knee|hand|jab|hook)s?) ((?:to` +
		`|at) (?:the )?` + curriculum.TargetWords + `(?:(?:, ?|,? and | & | ?/ ?)` + curriculum.TargetWords + `)+)` + muchEnd + `$`), "$1$3 (($2))"},
	// Show 3 different combinations
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:(?:show|do|demonstrate|perform) )?(\d|two|three|four|five|six) (?:different|various) (combinations|combos|escapes|releases|throws|locks|take ?downs|self[- ]?defen[cs]e techniques)$`), "$1$2 $3 of your own"},
	// Morning Tide to count
	{pattern.Of(`^(\s*(?:[-–—*•] )?\p{Lu}[\pL'-]+(?: [\p{Lu}\d][\pL'-]*)*) ((?:to|by|with|without|no|on)(?: the| own)? (?:count(?:ing)?|command|commands)|(?:in )?own time)$`), "$1 (($2))"},
	// Parry v jab
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*?) v\.? (\pL)`), "$1 vs $2"},
	// Hair grab, back
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ )?` + aGrab + `), (?:back|rear|behind|from behind)((?: [-–—]|,|:).*)?$`), "$1 from behind$2"},
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ )?` + aGrab + `), (front|side)((?: [-–—]|,|:).*)?$`), "$1 from the $2$3"},
	// x10 each leg: front, side, round
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)[x×] ?(\d{1,3}) (each(?: (?:leg|side|arm|hand))?): ((?:front|side|back|round|high|low|up|down|in|out|upward|inward|inside|outside|rising)(?:, [\pL-]+)+)$`), "$1$4, $2 $3"},
	// R+L, 10 each
	{pattern.Of(`(?i)[ ,(]+` + eachSign + `\)?,? (?:x ?)?(\d{1,3})(?: ?x)? (?:each|ea|per side|a side|each side)\b`), ", $1 each side"},
	// 10 per leg, hold 2 sec; 5x, holding each for 3 seconds: how long one is held is said of how often
	{pattern.Of(`(?i)^(.*?\pL\)?)(?:,| -| –|:)? ((?:x ?)?\d{1,3}(?: ?x)?(?: (?:per|each|a|on each|with each) \pL+| each| times| reps|/\pL+)?)(,[\pL ]+)?[,;]? (?:and |\(` +
		`|- )?((?:hold|held|holding|freeze|pause|keep)(?: each| it| out| there| the last| last one| the leg out| leg out)*(?: for)?) ` + someTime + `\)?( each)?$`), "$1, $2$3 (($4 $5$6))"},
	// 5 forward
	{pattern.Of(`(?i)^([^(]*\pL\)?), (\d{1,2}) (forwards?|fwd|backwards?|back|bwd)$`), "$1, $2 times (($3))"},
	// Kihon ippon: 2 x jodan, 1 x mae geri: with what one is attacked, and how often
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?[^:,(]*(?:ippon|sanbon|gohon|nihon|kumite|step)[^:,(]*): (\d ?x (?:jodan|chudan|gedan|\pL+ (?:geri|zuki|tsuki))(?:, \d ?x (?:jodan` +
		`|chudan|gedan|\pL+ (?:geri|zuki|tsuki)))+)$`), "$1 (($2))"},
	// Sanbon kumite: jodan x 3, chudan x 3
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?[^:,(]*(?:ippon|sanbon|gohon|nihon|kumite|step)[^:,(]*): ((?:jodan|chudan|gedan|\pL+ (?:geri|zuki|tsuki)) x ?\d(?:, (?:jodan|chudan|gedan|\pL+ (?:geri|zuki|tsuki)) x ?\d)+)$`), "$1 (($2))"},
	// Bunkai - first 3 moves of Third Tide
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:bunkai|applications?))(?: [-–—] |: ?|, ?)((?:the )?(?:first|last) (?:\d|two|three|four|five|six) (?:moves|movements|steps|techniques)[^,;:(\t]*)$`), "$1 (($2))"},
	// x10 clean, 10 in a row
	{pattern.Of(`(?i)^([^,;:(\t]*\pL),?:? (?:x ?)?(\d{1,3})(?: ?x| times| reps)? ((?:clean|perfect|crisp|sharp|proper|correct|solid|powerful|controlled)(?: ones| reps)?` +
		`|in a row|in a line|non-?stop|without (?:a break|stopping|falling|wobbling|touching down|a mistake|looking)|with (?:full )?(?:power|speed|kiai|shout|control)|with (?:a` +
		`|your) (?:shout|kiai))$`), "$1, $2 times (($3))"},
	// 3 rounds, 1 min on 30 sec off
	{pattern.Of(`(?i)(\d{1,2}) ?(?:rounds?|x),? (\d{1,3} ?(?:mins?|minutes?|secs?|seconds?|s)) on,? (?:and )?(\d{1,3} ?(?:mins?|minutes?|secs?|seconds?|s)) off$`), "$1 x $2, $3 rest"},
	// 3 x 2 min boxing only, 1 min off
	{pattern.Of(`(?i)(\d ?[x×] ?\d{1,3} ?(?:mins?|minutes?|secs?|seconds?|s)) ((?:\pL+ ){1,2}only), ?(\d{1,3} ?(?:mins?|minutes?|secs?|seconds?|s)) (?:off|rest)$`), "$1, $3 rest (($2))"},
	// 3 x 2 min, 1 min off
	{pattern.Of(`(?i)(\d ?[x×] ?\d{1,3} ?(?:mins?|minutes?|secs?|seconds?|s), ?\d{1,3} ?(?:mins?|minutes?|secs?|seconds?|s)) off$`), "$1 rest"},
	// 3 step number 1
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)([1-9]) steps?( (?:sparring|kumite))?,? (?:number|no\.?|nr\.?) ?(\d{1,2})\b`), "$1$2-step$3 $4"},
	// Spar 5 rounds, 2 min each
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] |[a-z]\) )?(?:\pL[^,;:(\t]* )?spar(?:ring)?):? (\d{1,2}) rounds?,? (?:of |at )?(\d{1,3} ?(?:secs?|seconds?|s|mins?|minutes?)) each\b`), "$1, $2 x $3"},
	// 3 step sparring 1-4
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)([1-9]) steps?( (?:sparring|kumite))? (\d{1,2} ?(?:-|–|to) ?\d{1,2}\b)`), "$1$2-step$3 $4"},
	// Ippon kumite with three different defences
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?[^:,(]*(?:ippon|sanbon|gohon|nihon|kumite|sparring|steps?)(?: \d)?) (with (?:two|three|four|five|\d) (?:different |various ` +
		`|own )?(?:defen[cs]es|counters|answers|attacks|finishes|endings|responses))$`), "$1 (($2))"},
	// Light sparring at 50 %, 2 x 2 min
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^.,;:(\t%]*?)(?: at)? (\d{1,3} ?%(?: (?:power|speed|contact|effort|intensity|force))?)([,;]? (?:x ?)?\d.*)?$`), "$1 (($2))$3"},
	// 1 round kicks only
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,2} rounds?) ((?:\pL+ ){1,3}only)$`), "$1$2 (($3))"},
	// Form for the grade: Autumn Gate
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:the |our |your |my )?(kata|form|pattern|poomsae|hyung|tul|set) (?:for|of|at) (?:(?:the|this|my|your) )?(?:\pL+ )?(?:grade|belt` +
		`|level|rank|grading|test|term)(?:: +| [-–—] )(\pL)`), "$1$2: $3"},
	// spar 2 rounds with a partner of equal rank
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL[^,;:(\t]* )?spar(?:ring)?) (\d{1,2} rounds?(?: of \d{1,2} ?(?:mins?|minutes?))?) ((?:with|against) [^,;:(\t\d]+)$`), "$1, $2 (($3))"},
	// Long Form 2 on both sides
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL[^,;:(\t]* )?(?:form|kata|pattern|poomsae|hyung|tul|set) (?:no\.? ?)?\d{1,2})` +
		` (?:on )?(?:both sides|left and right|each side|either side)$`), "$1, both sides"},
	// Soto uke followed by gyaku zuki x 5
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*?),? followed by (?:an? |the )?(\pL[^,;:(\t]*)$`), "$1 then $2"},
	// Broken Arrow: attacker throws a right punch; step in, inward block
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*: (?:the |an? |your )?(?:attacker|opponent|partner) [^,;.:]+); ?(\pL)`), "$1. $2"},
	// Reverse punch up and down the hall
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*?\pL),?(?: -| –)? ((?:up ?(?:and|&) ?down|there and back)(?: (?:the )?(?:hall|dojo|dojang|floor|room|mat|gym|length))?)$`), "$1 (($2))"},
	// Closing Door / two hand push: a name and the attack
	{pattern.Of(`^(\s*(?:[-–—*•] )?\p{Lu}\pL+(?: (?:of|the|\p{Lu}\pL+))+) ?/ ?((?:\pL+[ -]){0,3}(?:push|grab|choke|punch|hammerlock|headlock|tackle|kick|hug|nelson|hold|lock|club|knife|strangle|hook|cross|jab)(?:, [\pL ]+)?)$`), "$1 ($2)"},
	// Then each does Storm Form
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:then |next |after that |finally )?,?(?:each|everyone|everybody|every(?: one)?|all)(?: (?:student|candidate|pupil|child|person|one|of them|of you)s?)? (?:does|do|shows?|performs?|demonstrates?) (?:an? |the |their )?(\pL+ (?:\pL+ )?(?:form|kata|pattern|set|poomsae)\b|\d)`), "$1$2"},
	// and to break a board
	{pattern.Of(`(?i)^(\s*)and (?:to |must |should )((?:break|show|demonstrate|perform|spar|hold|do|kick|punch) )`), "$1$2"},
	// Sambo matsogi 1-10 both sides, ibo matsogi 1-4
	{pattern.Of(`(?i)(\d{1,2} ?[-–] ?\d{1,2}(?: (?:on )?(?:both|each) sides?)?), (\pL[\pL -]* (?:matsogi|kyorugi|sparring|kumite|steps?|ippon) \d{1,2} ?[-–] ?\d{1,2})`), "$1; $2"},
	// hold for one full minute
	{pattern.Of(`(?i)\b(for (?:an?|one|two|three|\d{1,3})) (?:full|whole|entire|solid|good) (secs?|seconds?|mins?|minutes?)\b`), "$1 $2"},
	// Blocks: high / mid / low, 5 each
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:blocks|kicks|punches|stances|strikes)(?::| -| –) )([\pL-]+(?: [\pL-]+)?) ?/ ?([\pL-]+(?: [\pL-]+)?) ?/ ?([\pL-]+(?: [\pL-]+)?)(?:,? ((?:x ?)?\d[^,;:()/]*))?$`), "$1$2, $3, $4, $5"},
	// Bo form: Long Heron
	{pattern.Of(`^(\s*(?:[-–—*•] )?)((?:\pL+ )?(?i:bo|staff|stick|sword|knife|weapons?|open|tai?gi|creative|team|traditional|synchronised) (?i:form|kata|pattern|set)): (\p{Lu}[\pL'-]+(?: [\p{Lu}\d][\pL'-]*)*)$`), "$1$3, form ($2)"},
	// Power test: side kick through one board
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:(?:power(?: test| breaking| break)?|destruction|breaking|board breaking|break)(?:: ?| [-–—] ))?(\pL[\pL -]*?) through (a|one|two|three` +
		`|\d)( (?:\pL+ )?boards?)$`), "$1$2, $3$4"},
	// Knee strikes, holding the pad with both hands 15 each
	{pattern.Of(`(?i)^([^,;:(\t]*\pL), ((?:holding|standing|keeping|using|moving|stepping) [\pL -]+?) (\d{1,3} (?:each|each (?:side|leg|arm)|per (?:side|leg|arm)|a side|times|reps))$`), "$1 (($2)), $3"},
	// two ways to get free when somebody grabs a sleeve
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:two|three|four|five|\d) (?:different )?ways) (?:to|of) ((?:escap|get|break|releas|free|slip)\pL* (?:free|away|out|loose|from|of)?[^,;:(\t\d]*)$`), "$1$3, $2"},
	// how to roll forwards over one shoulder
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:and )?how to ((?:roll|fall|break ?fall|punch|kick|block|escape|get (?:free|away|up)|slip|duck|jump)\b)`), "$1$2"},
	// Low block / outside block combination x6
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((\pL[\pL -]*?) ?/ ?(\pL[\pL -]*?) (?:combination|combo))((?: x|,) ?\d[^,;:(\t]*)?$`), "$1$2: $3, $4$5"},
	// be kind at home - note from mum
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*?)(?:,| [-–—]) ((?:with )?(?:a )?(?:note|letter|signed|word|chart)(?: signed)? (?:from|by) (?:a |the |your |my )?(?:mum|mom|dad` +
		`|parents?|carer|teacher|home|school|grown[- ]?up|family|mum (?:or|/) ?dad))$`), "$1 (($2))"},
	// Gate in the Wind (front kick, R)
	{pattern.Of(`\(((?:[\pL-]+ )*(?:punch|kick|grab|choke|club|knife|stick|hook|push|hug|jab|cross|uppercut|lock|headlock|hold)(?:, \pL+)?), R\)`), "(right $1)"},
	{pattern.Of(`\(((?:[\pL-]+ )*(?:punch|kick|grab|choke|club|knife|stick|hook|push|hug|jab|cross|uppercut|lock|headlock|hold)(?:, \pL+)?), L\)`), "(left $1)"},
	// Card 1 [strike]: hammer fist down; hammer fist out
	{cardLabel, "$1$2: $3"},
	// hammer fist down; hammer fist out; hammer fist in. 4x each, R+L
	{pattern.Of(`(?i)^([^.]*;[^.;]*)\. ?((?:x ?)?\d{1,2}) ?x? each(?:,? (?:r ?[+&/] ?l|l ?[+&/] ?r|both sides|side|left and right))$`), "$1; $2 each side"},
	{pattern.Of(`(?i)^([^.]*;[^.;]*)\. ?((?:x ?)?\d{1,2}) ?x? each$`), "$1; $2 each"},
	// 25 press-ups, 50 sit-ups – no stopping
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\d{1,3} [^()]*\pL) [-–—] (no (?:stopping|rest|breaks?)|without (?:a )?(?:stopping|rest|break))$`), "$1 (($2))"},
	// stand on one leg - 10 seconds each
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?[^,;:&/+(\t]*\b(?:one|1) (?:leg|foot|knee)\b[^,;:&/+(\t]*?)(?:,| [-–—]) (\d{1,3} ?(?:secs?|seconds?|s)) each$`), "$1, $2 each side"},
	// up, in, out, down - repeat left
	{pattern.Of(`(?i)^(.*\pL) [-–—] ((?:and )?repeat (?:on |to |with )?(?:the )?(?:left|right|other (?:side|leg|hand)))$`), "$1 (($2))"},
	// Be good at school (teacher signs here: ____)
	{pattern.Of(`^(.*\pL) ?\([^()]*_{3,}[^()]*\)$`), "$1"},
	// Getting up, from both sides
	{pattern.Of(`(?i)^(.*\pL), (from (?:both|each|either) sides?)$`), "$1 (($2))"},
	// Fitness test 30 pressups 40 situps
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)fitness test:? (\d)`), "${1}Fitness: $2"},
	// I will also ask you why we bow
	{pattern.Of(`(?i)^(\s*)(?:i will |i['’]ll |i may |we will |we['’]ll |we may )(?:also )?ask (?:you |them )?((?:why|what|how|who|when|where|which)\b)`), "$1$2"},
	// front kick, at least eight times in a row
	{pattern.Of(`(?i)^([^(]*\pL), (at least) ((?:\d{1,2}|two|three|four|five|six|seven|eight|nine|ten|twelve|fifteen|twenty) times)((?: in a row| without (?:a break|stopping` +
		`|falling))?)\.?$`), "$1, $3 (($2$4))"},
	// Set: Willow Staff One
	{pattern.Of(`^(\s*)Set: (\p{Lu}[\pL'-]+(?: [\p{Lu}\d][\pL'-]*)+)$`), "$1$2, form"},
	// bonus: forward roll
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] ?)?)(bonus|optional): (\pL[^:\t]*)$`), "$1$3, $2"},
	// Fitness is 20 press ups / 20 sit ups
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:fitness|conditioning|strength)) is (\d)`), "$1: $2"},
	// Self-defence - any attack, 6 from: a heading, of which some is shown
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[\pL -]*?)(?: ?[-–—] ?|: ?|, ?)(?:any (?:attack|technique|defen[cs]e)s?,? )?(?:any |choose (?:any )?|pick (?:any )?|select )?(\d{1,2}|two` +
		`|three|four|five|six|seven|eight|nine|ten)` +
		` (?:of|from|out of)(?: these| the following| the list)?(?: below)?:?$`), "$1 (any $2):"},
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[\pL -]*?)(?: ?[-–—] ?|: ?|, ?)((?:any|choose(?: any)?|pick(?: any)?|select) (?:\d{1,2}|two|three|four|five|six|seven|eight|nine` +
		`|ten)(?: of these| of the following| below)?):$`), "$1 ($2):"},
	// Left/right straight punches
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:left ?[/&+] ?right|l ?[/&+] ?r) (\pL[\pL -]*?(?:punch(?:es)?|kicks?|strikes?|blocks?|elbows?|knees?|jabs?|hooks?` +
		`|uppercuts?))(,.*)?$`), "$1$2, left and right$3"},
	// Left/right low kick 20 each
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:left ?[/&+] ?right|l ?[/&+] ?r) (\pL[\pL -]*?(?:punch|kick|strike|block|elbow|knee|jab` +
		`|hook)) (?:x ?)?(\d{1,3} (?:each|ea\.?|per side|a side))$`), "$1$2, $3"},
	// One previous kata chosen by the examiner
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:one|1|an?|any one|any) ((?:previous|earlier|lower|other|former) (?:grade |belt |rank )?(?:form|kata|pattern|poomsae|hyung|tul)\b[^\d]*)$`), "$1$2"},
	// Jo kata of 8 counts
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL[^,;:(\t\d]* )?(?:form|kata|pattern|poomsae|hyung|tul|set)) (?:of|with|in) (\d{1,3} (?:counts?|moves?|movements?|steps?))$`), "$1 (($2))"},
	// jab cross on focus mitts 10 times
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:jab|cross|hook|uppercut|overhand)(?: (?:jab|cross|hook|uppercut|overhand))+) (on (?:the )?(?:focus |thai |kick |heavy )?(?:pads?|mitts?` +
		`|bag|shields?|paddles?))(?:(?:,| [-–—])? ((?:x ?)?\d.*))?$`), "$1$2, $3, $4"},
	// Self defence - defend against: wrist grab, hair grab
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?self[- ]?defen[cs]e)(?: [-–—] |: )(?:defend|defen[cs]es?|escapes?|releases?) (?:against|from|to|vs\.?): `), "$1: "},
	// Round kick low / mid / high
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL{3,}[^,;:(\t\d/]* ?(?:kick|punch|block|strike|geri|zuki)s?) ((?:low|mid|middle|high)(?:(?: ?/ ?|, | and )(?:low|mid|middle|high)){2})$`), "$1 (($2))"},
	// Jiyu ippon kumite - jodan, chudan, 1 of each
	{pattern.Of(`(?i)^(.*\b(?:kumite|sparring|matsogi|kyorugi|one-?steps?)\b.*), 1 (?:of )?each$`), "$1, once each"},
	// Sparring 4 rounds, 1½ minutes
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*?),? (\d{1,2}) rounds?, ?(?:each )?(\d[\d½.]* ?(?:minutes?|mins?|m|seconds?|secs?|s))(?: each)?$`), "$1, $2 x $3"},
	// Scarf hold for 20 seconds
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ ){0,2}(?:neck|scarf|side|pinning|control|chest|head|mount|cross|knee` +
		`|north[ -]south) hold)(?: for)? (\d{1,3} ?(?:seconds?|secs?|s))(?: ((?:against|with|without|under) [^\d,;:()]+))?$`), "$1, $2, $3"},
	// One defence against a knife stab
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:one|1|an?|any one) (defen[cs]e|answer|escape|release|counter)((?: (?:against|from|to|vs\.?) )[^,;:(\t\d]+?)\.?$`), "$1One $2$3, once"},
	// Blue Heron kata from last belt
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*\b(?:form|kata|pattern|poomsae|hyung|tul)),? ((?:from|of) (?:the |your |my )?(?:last|previous` +
		`|earlier|lower) (?:belt|grade|rank|test|grading))$`), "$1 ($2)"},
	// 50 squats without a break
	{pattern.Of(`(?i)(\pL),? (without (?:an? |any )?(?:break|rest|stop|stopping|pause|resting)s?)\.?$`), "$1 ($2)"},
	// Rear scoop kick - rt & lt
	{pattern.Of(`(?i)\b(?:rt ?[&/+] ?lt|lt ?[&/+] ?rt|rt\.? and lt\.?|lt\.? and rt\.?)(?:$|\b)`), "right & left"},
	// First 8 moves of Little Brook
	{pattern.Of(`^(\s*(?:[-–—*•] )?(?:(?:Form|Kata|Pattern|Poomsae|Hyung|Tul)s?: *)?)(?:[Tt]he )?([Ff]irst|[Ll]ast) (\d{1,2} (?:moves|movements|steps` +
		`|counts)) of (?:the )?(\p{Lu}[\pL’'-]*(?: \p{Lu}[\pL’'-]*){0,3})$`), "$1$4 ($2 $3)"},
	// Ten continuous round kicks, each leg
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(ten|twenty|thirty|five|\d{1,2}) (\pL[^,;:(\t\d]*\b(?:kicks|punches|strikes|blocks|knees|elbows)) ((?:with` +
		`|without|while|in|from) [^,;:(\t\d]*?),? (?:on )?((?:each|per|every) (?:leg|side|hand|arm))\.?$`), "$1$3, $2 $5 ($4)"},
	// 3 rounds of technical sparring; sparring 3 rounds
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,2}) rounds? (?:of )?((?:\pL+ )?sparring)$`), "$1$3, $2 rounds"},
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ )?sparring) (\d{1,2}) rounds?$`), "$1, $2 rounds"},
	// 1 min rounds, 2 in the next cell
	{pattern.Of(`(?i)\t(\d{1,3} ?(?:min|mins|minutes?|secs?|seconds?|s)) rounds?\t(\d{1,2})(\t|$)`), "	Rounds	$2 x $1$3"},
	// Push kick, alternate legs x20
	{pattern.Of(`(?i)(\pL),? (?:alternat(?:e|ing) (?:legs|sides|hands|arms|feet)),? ?x ?(\d{1,3})$`), "$1, $2 alternating"},
	// Do a side fall
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)do an? (\pL)`), "$1$2"},
	// Kata: Little Brook, and Still Water for the blue tags
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:forms?|kata|patterns?|poomsae|tul): [^:;(]*), and (\pL[\pL ]*?) (for (?:the )?\pL[^,;:(]*?)\.?$`), "$1, $2 ($3)"},
	// Slow River: rear bear hug (arms pinned)
	{pattern.Of(`^(\s*(?:[-–—*•] )?\p{Lu}[\pL’'-]*(?: \p{Lu}[\pL’'-]*)+): ([^:;,()]*(?:hug|grab|hold|choke|punch|push|headlock|nelson|hook|kick)) \(([^():;]+)\)$`), "$1: $2, $3"},
	// Boards: 1, in a cell
	{pattern.Of(`(?i)(\t|, )boards?: ?(\d{1,2})(\t|$)`), "$1$2 boards$3"},
	// 1 v 2 for 30 seconds
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)([1-3]) ?(?:vs?\.?|on|against) ?([2-5])(?: for|,)? (\d{1,3} ?(?:seconds?|secs?|s|minutes?|mins?))$`), "$1$2 on $3 sparring, $4"},
	// Headlock (front + side)
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:headlock|choke|strangle|bear hug|(?:wrist|hair|lapel|collar|shoulder) grab)s? \((?:front|rear|side|back|behind` +
		`|single|double|straight|cross))(?: ?[+&] ?| and )((?:front|rear|side|back|behind|single|double|straight|cross)\))$`), "$1, $2"},
	// Jab body + head; round kick low/mid/high x5 each
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ )?(?:jab|cross|hook|uppercut|punch|kick|elbow|knee)s?)(?: [-–—]|,|:)? ((?:body|head|low|mid|middle` +
		`|high)(?: ?[/+&] ?(?:body|head|low|mid|middle|high)){1,2})((?:,? x ?\d.*)?)$`), "$1 (($2))$3"},
	// Technical sparring 2 x 1.5
	{pattern.Of(`(?i)^(.*\b(?:sparring|kumite|randori)\b.*) (\d{1,2}) ?x ?(\d)\.5$`), "$1 $2 x $3½ min"},
	// Free sparring 1 bout
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*(?:kumite|sparring|fighting)),? (\d) bouts?$`), "$1, $2 rounds"},
	// One-step defences 1 - 6, in a cell
	{pattern.Of(`^([^,;:(\t]*\t[^\t]*\pL) (\d{1,2}) [-–] (\d{1,2})\t`), "$1 $2-$3\t"},
	// + one lower pattern drawn by the examiner; any one of the first three kata
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] ?)?)(?:\+ ?)?(?:one|1|an?|any one|any)(?: of the)? ((?:previous|earlier|lower|other|former|first (?:two|three|four|five)) (?:grade |belt ` +
		`|rank )?(?:form|kata|pattern|poomsae|hyung|tul)s?\b[^\d]*)$`), "$1$2"},
	// hold down from the side
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] |[a-z\d]{1,2}[.)] )?)hold[- ]down\b`), "${1}Hold-down"},
	// Slip left, slip right
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(slip|duck|lean|roll|bob and weave|weave|sway|step|pivot|parry|pass|slide|shuffle|angle)( out| off)? left(?:,| and|,? then| [-–—/]) (?:slip` +
		`|duck|lean|roll|bob and weave|weave|sway|step|pivot|parry|pass|slide|shuffle|angle)(?: out| off)? right$`), "$1$2$3, left and right"},
	// A few questions – what does kime mean, who wrote the rules
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:a few|some|two|three|four|five|\d{1,2}) questions(?: [-–—]|:) (\pL)`), "${1}Questions: $2"},
	// 2-step 1 only
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] |[a-z]\) )?[1235]-step (?:\pL+ )?(?:no\.? ?)?\d{1,2}) only$`), "$1"},
	// Extensions, as a heading
	{pattern.Of(`(?i)^(\s*(?:[A-Z]\. |\d{1,2}[.)] )?)(?:(?:technique )?extensions?|extension techniques?)(:.*)?$`), "${1}Self-defence (extensions)$2"},
	// Falling Leaf ext.
	{pattern.Of(`^(\s*(?:[-–—*•] |\d{1,2}[.)] )?\p{Lu}[\pL’'-]*(?: (?:of |the |in )*\p{Lu}[\pL’'-]*)+)(?:,? [Ee]xt(?:ension|n)?\.?| \([Ee]xt\.?\))$`), "$1 (extension)"},
	// Mae geri / mawashi geri same leg
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d/+]*?) ?(?:[/+,]|\bthen\b|\band\b) ?(\pL[^,;:(\t\d/+]*?),? (?:(?:on|with|off) )?(?:the )?(same (?:leg|foot|side|hand))\b`), "$1 then $2 (($3))"},
	// Nidan geri - attempt
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*?)(?:,| [-–—]) ((?:an? |one )?(?:attempt|attempted|try|trying))$`), "$1 (($2))"},
	// The student stands in a low horse stance for one minute.
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:the |each |every )?(?:students?|candidates?|child|children|pupils?|juniors?) (?:(?:must|should|can|will|has to|have to` +
		`|is to|are to) )?(?:be able to )?(?:stands? in|performs?` +
		`|shows?|demonstrates?|executes?|does|do) (?:an? |the )(?:good |low |deep |strong )?(\pL.*?)\.?$`), "$1$2"},
	// Straight punches, 20 fast
	{pattern.Of(`(?i)(\pL), ?(\d{1,3}) (fast|slow|hard|quick|strong|light|loud|with power|full power|in a row|non-?stop)$`), "$1, $2 (($3))"},
	// Roundhouse kick to three heights: knee, belt, head.
	{pattern.Of(`(?i)(\b(?:kick|punch|geri|zuki)\b[^:;,(]*): (` + aPlaceHit + `(?:,? (?:and |then |& )?` + aPlaceHit + `)+)((?: [-–—]|,) \d[^,;:()]*|)\.?$`), "$1 (($2))$3"},
	// Sanbon kumite: jodan (3 attacks), chudan (3 attacks)
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?[^:;,(]*\b(?:kumite|ippon|matsogi|kyorugi)): ((?:jodan|chudan|gedan)(?:,|;| and| &| /)? ?(?:jodan|chudan|gedan|mae ?-?geri` +
		`|mawashi ?-?geri|yoko ?-?geri|ushiro ?-?geri|,|;|and|&|/| )*)$`), "$1 (($2))"},
	// One kata from an earlier grade
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:one|1|an?|any one|any) ((?:form|kata|pattern|poomsae|hyung|tul) (?:from|of) (?:an?|the|your|any|a) (?:earlier|previous` +
		`|lower|former) (?:grade|belt|rank)s?)$`), "$1$2"},
	// 5 steps forward and 5 back
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*?),? ((\d) steps? forwards?(?:,| and| &) (\d) (?:steps? )?back(?:wards?)?)$`), "$1, $3 each way (($2))"},
	// 1 min max punches
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,2} ?(?:mins?|minutes?|secs?|seconds?|s)) (?:of )?max(?:imum)? (\pL[\pL -]*)$`), "$1$3, $2 ((maximum))"},
	// One round with only kicks allowed.
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:one|1) round (with [^\d,;:]*?)\.?$`), "${1}1 round, $2"},
	// 3x2 boxing only
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)([1-9]) ?[x×] ?([1-5]) ((?:boxing|sparring|kickboxing|kicks|hands|punches|wrestling|grappling)\b[^\d,;:]*)$`), "${1}Sparring, $2 x $3 min (($4))"},
	// Consecutive kick: side, turning
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*\bkick(?:ing combo(?:nation)?)?): (` + bareKick + `), (` + bareKick + `)$`), "$1: $2 kick, $3 kick"},
	// Knife: downward stab
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:knife|stick|club|gun|bottle|bat)): (\pL[^,;:()/+\d]*)$`), "$1 $2"},
	// step slide left right
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:()\d]*(?:slide|step|shuffle|pivot|circle|shift|angle)s?),? (?:left right|right left)$`), "$1, left and right"},
	// Mae geri then mae geri with the other leg
	{pattern.Of(`(?i)^([^:;(\t]*\bthen\b[^:;(\t,]*?),? (with the other (?:leg|hand|side|foot|arm))$`), "$1 (($2))"},
	// Bunkai of Morning Gate, 2 applications
	{pattern.Of(`(?i)^([^:;(\t]*\b(?:bunkai|applications?)\b[^:;(\t\d]*), (\d|two|three|four|five) (applications?|examples?|moves)$`), "$1, $2 (($3))"},
	// Front kick - right leg 5, left leg 5
	{pattern.Of(`(?i)(\pL)(?: [-–—]|,|:)? (?:right|left)(?: (?:leg|arm|hand|side|foot))? x?(\d{1,2}),? (?:and )?(?:right|left)(?: (?:leg|arm|hand|side|foot))? x?(\d{1,2})$`), "$1, $2 and $3"},
	// Foot jab: lead 10, rear 10
	{pattern.Of(`(?i)(\pL)(?: [-–—]|,|:)? (?:lead|front) x?(\d{1,2}),? (?:and )?(?:rear|back) x?(\d{1,2})$`), "$1 ((lead and rear)), $2 and $3"},
	// Moving: forward, back, left, right
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:moving|movement|stepping|shuffl(?:e|ing)|walking))(?::| [-–—]) ((?:forwards?|backwards?|back|left|right|sideways|sides?` +
		`|in|out|and|&|/|,| )+)$`), "$1 (($2))"},
	// 1,2 body kick
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)1, ?2 ((?:\pL+ )?(?:kick|knee|elbow|hook|uppercut))\b`), "${1}1-2-$2"},
	// Sparring with shin pads 2 rounds
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ ){0,2}sparring) ((?:with|in|wearing|using) [^\d,;:()]*?) (\d{1,2}) rounds?$`), "$1, $3 rounds (($2))"},
	// 20 burpees under 1 min
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\d{1,3} \pL{3}[\pL -]*?),? (?:in )?under (\d{1,3}|one|a|two) (mins?|minutes?|secs?|seconds?)$`), "$1 in $2 $3"},
	// Standing randori, 3 partners x 2 min
	{pattern.Of(`(?i)(\pL), (\d) ((?:different |new )?(?:partners|opponents|people)) ?[x×] ?(\d{1,2} ?(?:mins?|minutes?|secs?|seconds?))$`), "$1, $2 x $4 (($2 $3))"},
	// Bow stance L+R, 5 each
	{pattern.Of(`(?i)(\pL) (l ?[+&/] ?r|r ?[+&/] ?l), ?(\d{1,3}) each$`), "$1, $3 a side"},
	// Choke, rear
	{pattern.Of(`(?i)((?:^|\t)(?:[-–—*•] )?(?:choke|strangle|bear hug|hug|headlock|(?:wrist|hair|shoulder|collar|lapel) grab|push|grab)), (front|rear|side|behind)(\t|$)`), "$1 from the $2$3"},
	// Sparrow form together
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ ){1,3}(?:form|kata|pattern|poomsae|hyung|tul)),? (together|alone|with me|with the group|with the class)$`), "$1 (($2))"},
	// Push ups, 20 (kids 10)
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[\pL -]*?),? (\d{1,3}) \((\pL+),? (\d{1,3})\)$`), "$1: all $2, $3 $4"},
	// Dollyo chagi: momtong & eolgul
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*\b(?:chagi|chigi|jireugi|makgi|geri|zuki|tsuki|uke|uchi))(?::| [-–—]|,) ((?:momtong|eolgul|arae|jodan|chudan` +
		`|gedan)(?:(?: ?[,/&] ?| and )(?:momtong|eolgul|arae|jodan|chudan|gedan))+)$`), "$1 (($2))"},
	// Under 10s: ap chagi
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:under|over) \d{1,2}['’]?s|\d{1,2} and (?:under|over)): (\pL[^,;:(\t]*)$`), "$1$3 (($2))"},
	// 5 x crescent kick both ways
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,3}) ?x (\pL[^,;:(\t\d]*?),? both ways$`), "$1$3, $2 each way"},
	// 25 pushups/25 situps/25 squats in 3:00
	{pattern.Of(`(?i)(\d{1,3} \pL[\pL -]*?) ?/ ?(\d{1,3} \pL[\pL -]*?) ?/ ?(\d{1,3} \pL[\pL -]*?)( in .*|)$`), "$1, $2, $3$4"},
	// in 3:00
	{pattern.Of(`(?i)(\pL) in (\d{1,2}):00$`), "$1 in $2 mins"},
	// horse, bow, cat – hold each 20s
	{pattern.Of(`(?i)(\pL)(?: [-–—]|,) (?:hold|held)? ?each (?:for )?(\d{1,3} ?(?:s|secs?|seconds?|mins?|minutes?))$`), "$1, $2 each"},
	// Front kick 10, both sides
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t\d]*(?:kick|punch|block|strike|elbow|knee|geri|zuki|uke|chagi|makgi|jireugi|stance|fist|hand|palm|jab|cross|hook|uppercut)s?) (\d{1,3}), ` +
		`(?:on )?(?:both sides|each side|both|l ?[/&+] ?r|r ?[/&+] ?l|left (?:and|&) right|right (?:and|&) left)$`), "$1, $2 a side"},
	// block high block low
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)block (high|low|mid|middle|up|down),? (?:and )?block (high|low|mid|middle|up|down)$`), "$1$2 block, $3 block"},
	// front, side, round 10ea
	{pattern.Of(`(?i)(\d)ea\b\.?`), "$1 each"},
	// BLOCKS: high, inside – R&L from fighting stance
	{pattern.Of(`(?i)^(\s*\pL[\pL -]*: [^–—():]*,[^–—():]*?)(?: [-–—]|,) (?:r ?[&/+] ?l|l ?[&/+] ?r)$`), "$1, both sides"},
	{pattern.Of(`(?i)^(\s*\pL[\pL -]*)(: [^–—():]*,[^–—():]*?)(?: [-–—]|,) (?:r ?[&/+] ?l|l ?[&/+] ?r) ((?:from|in) [^\d,;:()]+)$`), "$1 ($3)$2, both sides"},
	// Shadow boxing 2 x 2
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:shadow ?(?:box(?:ing)?|sparring|fighting)|(?:bag|pad|mitt|clinch) ?work|(?:heavy )?bag|pads|clinch(?:ing)?|skipping|skip|jump(?:ing)? rope` +
		`|wrestling|grappling|rolling)),? ([1-9]|10) ?[x×] ?([1-5])$`), "$1, $2 x $3 min"},
	// Horse stance 10 seconds!
	{pattern.Of(`(?i)(\d ?(?:seconds?|secs?|s|minutes?|mins?|times|x|each|reps?))!+$`), "$1"},
	// Stand on one leg 10 sec each
	{pattern.Of(`(?i)\b(on (?:one|1) (?:leg|foot)),? (?:for )?(\d{1,3} ?(?:seconds?|secs?|s)) each$`), "$1, $2 each leg"},
	// Form One with a partner counting
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:form|kata|pattern|poomsae|hyung|tul) (?:\d{1,2}|one|two|three|four|five|six)) ((?:with|while|facing|from|in|at|on) \pL[^\d,;:()]*)$`), "$1 (($2))"},
	// Side kick through 1 board
	{pattern.Of(`(?i)(\pL) through ((?:an?|one|two|three|\d) (?:\pL+ )?(?:boards?|tiles?))\b`), "$1, $2"},
	// Footwork drill: in, out, side
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:\pL+ )?(?:footwork|movement) (?:drill|pattern)s?): ?([^\d;:()]+)$`), "$1 (($2))"},
	// Step and slide in all 4 directions
	{pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*?\pL)(?: ?[,:]| [-–—])? ((?:in |to )?(?:all |the )?(?:\d|four|eight|six|five) (?:directions|corners|ways|levels|heights))$`), "$1 (($2))"},
}

var (
	// exercisesInARow are exercises with how often before each and no sign between: 10 push ups 20 sit ups 30 squats.
	exercisesInARow = pattern.Of(`^\s*(?:\pL+: *)?\d{1,3} \pL[\pL -]*?(?: \d{1,3} \pL[\pL -]*?)+(?:,.*)?$`)
	// beforeCount is where the next of them begins.
	beforeCount = pattern.Of(`(\pL) (\d{1,3} \pL)`)
	// countsUnits are numbers that count no exercise.
	countsUnits = pattern.Of(`(?i)\d (?:x|of|sets?|times|reps?|secs?|seconds?|mins?|minutes?|rounds?|steps?|counts?|moves?|boards?|left|right|[lr]\b|on|each|per|and|to|or|with|in|points?)\b`)
)

// aPlaceHit is a height that a kick or a punch goes to.
const aPlaceHit = `(?:knee|belt|head|waist|chest|face|shin|thigh|leg|body|low|mid|middle|high)`

// bareKick is a kick by a word that leaves that out.
const bareKick = `(?:front|side|back|round|roundhouse|turning|reverse turning|hook|hooking|axe|push|crescent|twisting|downward|vertical)`

// allInTime are several exercises and in which time all of them are done.
var allInTime = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?(?:(?:fitness|conditioning|strength|pt` +
	`|exercises?): )?\d{1,3} [^,:;()]+(?:, \d{1,3} [^,:;()]+)+) (in (?:under )?\d{1,3} ?(?:mins?|minutes?|secs?|seconds?))$`)

// sidesInBrackets are a hold and what follows it, each with its side behind it: Lapel grab (left) / punch (right).
var sidesInBrackets = pattern.Of(`(?i)^(\s*(?:[-–—*•] |\d{1,2}[.)] +)?)(\pL[\pL -]* (?:grab|choke|hold)) \((left|right)\) ?(?:[/+&,]|and` +
	`|then) ?((?:\pL[\pL -]* )?(?:grab|choke|hold|push|punch|hook|kick|jab|cross|uppercut)) \((left|right)\)$`)

// termsInARow are terms of one kind with blanks between, behind the word for it: uke: age gedan soto 10x.
var termsInARow = pattern.Of(`(?i)^(\s*)(uke|tsuki|zuki|geri|dachi): ?(` + sortTerm + `(?: ` + sortTerm + `)+)((?: x ?| )\d.*)?$`)

const sortTerm = `(?:age|gedan|soto|uchi|shuto|morote|mae|yoko|mawashi|ushiro|choku|oi|gyaku|ura|kizami|tate|zenkutsu|kokutsu|kiba|neko)`

// wayFirst is how one goes or stands, and what is asked: Moving forward, 4 inner forearm blocks.
var wayFirst = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)((?:(?:standing|moving|stepping|going|walking|travelling|sliding|sitting|kneeling) (?:in|on|from|at|up|forwards?|backwards?|back` +
	`|sideways|still)|advancing|retreating|from|in)\b[\pL -]*?)[,:] (\d{1,2} \pL[\pL -]*)$`)

// stepsBehind is how many steps behind a name: front stance walk 10 steps.
var stepsBehind = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[\pL -]*\pL) (\d{1,2} steps(?: (?:forwards?|backwards?|back|each way))?)$`)

// limbsAgain is a name with a limb of one side, and again with one of a side.
var limbsAgain = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\pL[\pL -]*?),? (left|right) (leg|arm|hand|side|foot),? (?:and |then )?(\pL[\pL -]*?),? (left|right) (leg|arm|hand|side|foot)$`)

// leftAndRightAgain is a name that is written once for each side as one of both: side fall left side fall right.
func leftAndRightAgain(line string) string {
	if m := limbsAgain.FindStringSubmatch(line); m != nil && strings.EqualFold(m[2]+m[4], m[5]+m[7]) && !strings.EqualFold(m[3], m[6]) { // Front kick left leg, front kick right leg
		return m[1] + m[2] + ", left and right"
	}
	words := strings.Fields(line)
	half := len(words) / 2
	if half < 2 || 2*half != len(words) || strings.ContainsAny(line, ",;:()") {
		return line
	}
	one, other := strings.ToLower(strings.Join(words[:half], " ")), strings.ToLower(strings.Join(words[half:], " "))
	for _, sides := range [][2]string{{" left", " right"}, {" right", " left"}} {
		if name, is := strings.CutSuffix(one, sides[0]); is && other == name+sides[1] {
			return line[:len(line)-len(strings.TrimLeft(line, " "))] + strings.Join(words[:half-1], " ") + ", left and right"
		}
	}
	return line
}

// evenSides is how often on one side and on the other.
var evenSides = pattern.Of(`^([^()\d]*\pL,? )(\d{1,2}) ?(?:and|&|\+) ?(\d{1,2})$`)

// wordOfEach is how much of each in words.
var wordOfEach = pattern.Of(`(?i)\b(?:two|three|four|five|six|eight|ten|twelve|twenty) of each\b\.?`)

// freeOf is how many of one's own choice are shown: One step - free choice of three.
var freeOf = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?\pL[^,;:(\t]*?)(?: [-–—] |: ?|, ?)(?:free |own |your own |candidate['’]?s? )choice of (two|three|four|five|\d{1,2})$`)

// distanceRun is how far is run: 800 m run.
var distanceRun = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(\d{1,4}|one|two|three|half an?|half|an?|) ?(m|km|k|metres?|meters?|miles?|yards?|kilomet(?:re|er)s?) (run|jog|sprint|swim|walk|row)$`)

// applicationsOf is how many moves of a form are shown with a partner: show two applications from your kata.
var applicationsOf = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(?:(?:show|demonstrate|perform|give) )?(one|two|three|four|five|\d) ((?:bunkai|applications?) (?:of|from|for) [^,;:(\t\d]+)$`)

// applicationsShown is the same with the word for them first: Applications - show three from the form.
var applicationsShown = pattern.Of(`(?i)^(\s*(?:[-–—*•] )?)(bunkai|applications?)(?: [-–—] |: ?|, ?)(?:(?:show|demonstrate|perform|give) )?(one|two|three|four|five|\d) ((?:of|from` +
	`|for) [^,;:(\t\d]+)$`)

// beginsLarge reports whether a line begins with a large letter, behind what a list has before it.
func beginsLarge(line string) bool {
	r, _ := utf8.DecodeRuneInString(strings.TrimSpace(line[listed(line):]))
	return unicode.IsUpper(r)
}

// rewritten is a line written in those ways.
func rewritten(line string) string {
	line = ageInBrackets(line)
	line = thereAndBack.ReplaceAllStringFunc(line, eachWay) // before the way of one of them is taken for a remark
	typed := line
	for _, x := range rewrites {
		line = x.said.ReplaceAllString(line, x.plain)
	}
	if line != typed && beginsLarge(typed) && !beginsLarge(line) { // Left/right low kick
		at := listed(line)
		line = line[:at] + capitalised(line[at:])
	}
	if m := sidesInBrackets.FindStringSubmatch(line); m != nil {
		line = m[1] + "Against " + strings.ToLower(m[3]+" "+m[2]+" then "+m[5]+" "+m[4])
	}
	line = strings.TrimSuffix(line, ", ")
	if m := evenSides.FindStringSubmatch(line); m != nil && m[2] == m[3] { // kick the bag, 5 and 5
		line = m[1] + m[2] + " each side"
	}
	line = wordOfEach.ReplaceAllStringFunc(line, func(said string) string { // ten of each
		word, rest, _ := strings.Cut(said, " ")
		return curriculum.FigureWords[strings.ToLower(word)] + " " + strings.TrimSuffix(rest, ".")
	})
	if m := freeOf.FindStringSubmatch(line); m != nil {
		line = m[1] + ", " + cmp.Or(curriculum.FigureWords[strings.ToLower(m[2])], m[2]) + ", free choice"
	}
	if m := distanceRun.FindStringSubmatch(line); m != nil {
		line = m[1] + capitalised(m[4]) + " ((" + cmp.Or(strings.ToLower(m[2]), "a") + " " + strings.ToLower(m[3]) + ")), once"
	}
	line = applicationsShown.ReplaceAllString(line, "$1$3 $2 $4")
	if m := applicationsOf.FindStringSubmatch(line); m != nil {
		line = m[1] + capitalised(m[3]) + ", " + cmp.Or(curriculum.FigureWords[strings.ToLower(m[2])], m[2])
	}
	line = leftAndRightAgain(line)
	if m := stepsBehind.FindStringSubmatch(line); m != nil && slices.Contains(append(curriculum.Basic, "footwork"), curriculum.KindInWords(m[1])) {
		line = m[1] + ", " + m[2]
	}
	if m := termsInARow.FindStringSubmatch(line); m != nil {
		word := " " + strings.ToLower(m[2])
		line = m[1] + strings.Join(strings.Fields(m[3]), word+", ") + word + m[4]
	}
	if m := wayFirst.FindStringSubmatch(line); m != nil && slices.Contains(curriculum.Basic, curriculum.KindInWords(m[3])) {
		line = m[1] + m[3] + " ((" + m[2] + "))"
	}
	if m := allInTime.FindStringSubmatch(line); m != nil { // 30 push-ups, 30 squats in 3 minutes
		line = m[1] + " ((" + m[2] + "))"
	}
	if row, more := cutAny(line, ","); exercisesInARow.MatchString(line) && !countsUnits.MatchString(row) {
		line = beforeCount.ReplaceAllString(row, "$1, $2") + more
	}
	return line
}
