package curriculum

import (
	"maps"
	"slices"
	"strings"
	"sync"

	"velvetladder/internal/core/pattern"
)

// The kind that the words of a name tell.

// SaidKinds are the kinds that are said or told, whose names may hold what others have not: numbers, commas, sentences.
var SaidKinds = []Kind{"knowledge", "courtesy", "character"}

// kindsInWords are the words that tell the kind of what they name, the telling ones first.
var kindsInWords = []struct {
	kind  Kind
	words *pattern.Pattern
}{
	{"knowledge", pattern.Of(`\?$|\b(?:dojo|dojang|class|school|club|hall|sparring|fighting|competition|match|tournament) rules\b|^(?:the )?rules of\b|\btenets\b|\b(?:student|school|club) (?:creed|oath)\b|\bdojo kun\b|^(?:the )?names? of\b|^(?:the )?meanings? of\b` +
		`|^(?:never|always|do not|don['’]?t) (?:talk|go|open|tell|run|hit|use|play|accept|take|leave|fight|show)\b|\b(?:my|your|their|own|home|parents?['’]?) (?:full |own )?(?:names?|address|(?:tele)?phone(?: number)?)\b|^(?:one|two|half a|\d) pages? (?:about|on)\b|^history\b|\btalk$|^(?:talk|speak|tell (?:me|us|the panel)) (?:about|of)\b|^discuss(?:ion)?\b|\bdiscussion$` +
		`|^(explain|(?:i )?knows?|describe|recite|spell|name|list|what|why|how|who|when|where) ` +
		`|^write (?:an?|half an?|one|two|\d) (?:\pL+ )?(?:pages?|paragraphs?|sentences?|letter|paper|poem|report|story)\b|^(?:say|tell|write) (?:us |me |you )?(?:the|your|my|what|why|how|who|\d+|one|two|three)\b|^count(?:ing)? (?:from \d+ |up )?to (?:\d+|ten|twenty|five)\b|^count(?:s|ing)?,? \d+ ?(?:-|–|to) ?\d+\b|^(?:say|tell|give) (?:name|age|address|birthday)\b|\bessay\b|\bquiz\b|^first aid\b|^(?:written|theory|oral) (?:test|exam|examination|paper)\b|\b(?:theory|written) paper\b|\bterminology\b|\b(?:first aid|safety|history|anatomy) questions?\b|^theory questions?$|^counting$|^answer (?:the |some |\d+ |\pL+ )?(?:\pL+ )?questions?\b`)},
	{"board_break", pattern.Of(`\bboards?\b|^(?:\w+ )?breaking$|\bbreaking (?:boards?|tiles?|techniques?)\b`)},
	{"throw", pattern.Of(`^(?:\pL+ )?ashi[- ]bara[iy]$`)},
	{"fitness", pattern.Of(`\bhip escapes?\b|\pL[ -]runs$|^(?:jump(?:ing)? )?rope$`)},
	{"sparring", pattern.Of(`^(?:slow|light|touch|play|soft|technical) fighting$`)},
	{"breakfall", pattern.Of(`^fall[- ]?breaks?\b|^fall (?:and|&) (?:cover|get|roll)\b|^get up (?:under|while|against|with) |^getting up(?:$| (?:from|off|safely))|^get(?:ting)?[ -]up (?:in|to|into) base\b`)},
	{"partner_set", pattern.Of(`\b(?:sambo|ibo|ilbo|il-bo|sam-bo|i-bo)[- ](?:matsogi|kyorugi|gyeorugi)\b`)},
	{"self_defence", pattern.Of(`^(?:\pL+ )?disarm(?:s|ing)?\b|\b(?:heel hook|triangle|choke|arm ?bar|(?:arm|leg|head|wrist) ?lock|guillotine|take ?down|throw|mount|hold|grab|tackle) defen[cs]e(?: only)?$`)},
	{"lock", pattern.Of(heldJoint)},
	{"self_defence", pattern.Of(`\bguillotines?\b|\bsleepers?(?: holds?)?$|\brear naked\b|\pL{2,}[ -]?jime\b|\bshime[ -]waza\b|^triangles? from (?:the )?(?:guard|mount|back|bottom|top)\b`)},
	{"stance", pattern.Of(`^(?:the )?fence(?: position)?$|\b(?:sparring|competition) stance$|\bstance holds?$`)},
	{"strike", pattern.Of(`^straight (?:left|right)s?$`)},
	{"strike", pattern.Of(`^eye (?:rakes?|pokes?|gouges?)$|^(?:(?:tiger|eagle|crane|double|two|upward|downward|inward|outward) )?(?:claws?|rakes?|pokes?` +
		`|slaps?)(?: (?:to|at|across) (?:the )?(?:face|eyes?|ears?|head|groin|throat|neck))?$`)},
	{"block", pattern.Of(`^(?:leg |shin |low |high )?checks?$`)},
	{"knowledge", pattern.Of(`\bby heart$|^thesis\b`)},
	{"character", pattern.Of(`^(?:run|lead|take) (?:an?|the) (?:short )?warm[- ]?up\b|^be (?:gentle|kind|nice|polite|patient|good|helpful|respectful|on time|ready|honest|brave` +
		`|punctual|careful|a good)\b|^(?:i )?(?:have been|was` +
		`|am) kind\b|^help (?:the|others|an?|newer|younger|my|your)\b|^put (?:my|your|the) (?:\pL+ ){1,2}(?:in|away|tidy)\b` +
		`|\b(?:letter|note|report|signature) from (?:(?:an?|the|my|your|their) )?(?:\pL+ )?(?:teacher|parents?|mum|mom|dad|home|school|grown[- ]?up|family|coach)\b`)},
	{"courtesy", pattern.Of(`^listen(?:s|ing)?\b|\b(?:clean|tidy|correct|neat|smart) (?:gi|uniform|dobok|kit|belt|appearance)\b|\b(?:gi|uniform|dobok) (?:clean|tidy|correct)\b` +
		`|\bbelt (?:tied|correctly tied)\b`)},
	{"self_defence", pattern.Of(`^(?:knife|stick|club|gun|bottle),? (?:overhead|swings?|held|to the|from (?:above|behind|the))\b`)},
	{"self_defence", pattern.Of(`\bbridge (?:and|&) roll\b`)},
	{"block", pattern.Of(`^(?:360|outside|inside)(?:[- ]degrees?)? defen[cs]es? \d+$|^360(?:[- ]degrees?)? defen[cs]es?$`)},
	{"evasion", pattern.Of(`^(?:slip|duck|bob|roll|weave|sway|lean|fade|side-?step|evade|dodge|avoid)(?:s|ing)?(?: (?:&|and|or) (?:roll|weave|duck|slip|fade)s?)? (?:back |away |out |inside |outside )*(?:under |from |off |of |against )?(?:an? |the |all )?(?:[\p{L}-]+ ){0,2}(?:jab|cross|hook|upper ?cut|punch|kick|strike|round ?house|teep|swing)(?:e?s)?$|^(?:slips?|bob) (?:&|and) (?:roll|weave)s?\b`)},
	{"balance", pattern.Of(`^stand(?:ing)? (?:still )?on (?:one|1|each) (?:leg|foot)\b|^balanc(?:e|ing)\b|^walk(?:ing)? (?:on |along )?(?:the|a) (?:line|beam|rope)\b`)},
	{"self_defence", pattern.Of(`\b(chok(e|es|ing)|headlock|bear hug|(?:wrist|lapel|hair|sleeve|collar|shoulder|belt|shirt|jacket|arm|hand|clothing|chest|neck|side) grabs?` +
		`|knife (threat|attack|thrust|slash|defen[cs]e)|(stick|club) (attack|swing)|escapes?|releases?|break free|^defend(?:ing)? |(?:crank|take[ -]?down|tackle|mount|ground|grab|lock` +
		`|hold|hug|nelson|throw) defen[cs]es?$|^from (?:an? ` +
		`|the )?(?:\pL+[ -]){0,3}(?:push|shove|tackle)\b|\b(?:somebody|someone|an attacker|attacker) (?:holds?|grabs?|pushes|chokes?)\b|\bget away\b|^break(?:ing)? (?:away|loose|out)\b|\bbunkai\b|defend against` +
		`|get out of|(?:yell|shout|scream)s?\b.* run|run away|run(?:ning)? (?:and|to) (?:tell|get|find|an? |help|safety)|defen[cs]e (against|from|vs)|self.defen[cs]e` +
		`|against an?|^against|^(?:an? |the )?attackers?)\b`)},
	{"partner_set", pattern.Of(`\bkihon kumite\b|\bkumite gata\b|\b(?:two|2)[- ](?:person|man|woman) sets?\b|\b(?:paired|partner) sets?\b|\b(?:ippon` +
		`|nihon|sanbon|gohon|yakusoku)[- ]kumite\b|^(?:kihon|jiyu|kaeshi) ippon\b|\b(?:hanbon|hanbeon|dubon|sebon|saebon)[- ]?(?:kyorugi|gyeorugi)\b` +
		`|\b(?:one|two|three|five|[1235])[- ]steps? (?:sparring|kumite)\b` +
		`|^(?:(?:semi[- ]?free|free|basic|own|formal|jiyu|kihon) )?(?:one|two|three|five|[1235])-step\b|^(?:semi[- ]?free|free|own|formal) (?:one|two|three|five|[1235]) steps?\b|^(?:one|two|three|five|[1235]) steps?(?: (?:nos?\.? ?)?#?\d|$)|\bpre-?arranged\b`)},
	{"fitness", pattern.Of(`\bshadow (?:sparring|fighting|kicking)\b`)},
	{"sparring", pattern.Of(`\bspar(ring)?\b|\bfree fighting\b|^bouts?$`)},
	{"character", pattern.Of(`^(?:good )?(?:attitude|behaviour|effort|discipline)\b|\b(?:make|tidy|clean|brush|lay|clear|wash|feed|walk|sweep|water) (?:up )?(?:(?:my|your|the|his|her) )?(?:own )?(?:bed|bedroom|room|toys|teeth|table|dishes|plates?|car|dog|cat|pets?|plants?)\b|^help (?:with|at|mum|dad|my|your) |^i (?:help|tidy|share|say|do my|keep my|listen|wait|look after)\b|\bchores?\b|\bhomework\b` +
		`|^shows? (?:respect|kindness|good manners|self[- ]control|patience|effort)\b|^teach(?:es|ing)?\b|^(?:helps?|assists?|leads?)\b.*\b(?:class|warm[- ]up|children|beginners?)\b|^referee\b|\bseminar\b|\bclub helper\b|^no (?:laughing|talking|running` +
		`|pushing)\b|\bbeing (?:a good|nice|kind|good|helpful|polite)\b|\bplease and thank you\b|\btidy\b|\b(?:tie|put on|wear|fold|look after) (?:my |your |the ` +
		`|their )?(?:own )?(?:dobok |gi |karate |obi )?(?:belt|uniform|kit|dobok|gi)\b`)},
	{"fitness", pattern.Of(`^warm[- ]?ups?$|\bhigh knees\b|\b(?:bear |crab |duck |wheelbarrow |low |army |commando )(?:crawls?|walks?)\b|\bwall sits?\b|\bleg raises?\b|\b(push|press|sit|pull|chin).?ups?\b` +
		`|\b(squats?|planks?|burpees?|crunch(es)?|jumpin[g’']? jacks?|star jumps?|skipping rope|rope skipping|(?:bunny|frog|rabbit) (?:hops?|jumps?)|lunges|sprawls?|shrimp(?:s|ing)?|run|running|stretch(es)?|splits|conditioning|circuits?|skipping|skips|jump rope|mountain climbers?|shadow ?box(?:ing)?|^skip(?:s|ping)?$|jogging|sprints?|laps)\b`)},
	{"breakfall", pattern.Of(`^(?:technical |tactical )?(?:get|stand)[ -]?up(?:s|$| (?:safely|in base|with|from|both|x|without))|\b(break[ -]?falls?|fall(?:s|ing)? (?:down )?(?:safely )?(?:(?:on)?to (?:the|your|my|each|one) )?(?:forwards?|backwards?|back|sideways?|sides?|front|rear)|back fall|side fall|front fall|forward roll|backward roll|shoulder roll|rolls?)\b`)},
	{"footwork", pattern.Of(`^cover[ -](?:step|out)s?\b`)},
	{"block", pattern.Of(`\bsweep(?:ing)? blocks?$|^shell(?: up)?(?:$| (?:under|against|and (?:move|cover))\b)`)},
	{"kick", pattern.Of(`\bsweep(?:ing)? kicks?$`)},
	{"throw", pattern.Of(`\buchi[ -]?komi\b|^(?:single|double|high|low|outside|inside)[ -]leg(?:s| take ?downs?| shots?)?$`)},
	{"throw", pattern.Of(`\b(throws?|take ?downs?|sweep|reap|trip)\b`)},
	{"lock", pattern.Of(`\b(locks?|arm ?bars?|wrist twist)\b|\b(?:neck|arm|leg|sleeve|scarf|wrist|shoulder|body|side|ground|pinning|control|figure|collar|hip|cross|head) holds?\b|\bholds?$|^holds?\b|\bholds? (?:from|to|down|on|and)\b`)},
	{"combination", pattern.Of(`\b(combinations?|combos?)\b|^(?:pad|bag|mitt|focus mitt|thai pad)s?[ -]?(?:rounds?|work)$|^(?:sequence|flow|string) (?:#?\d|[a-h]\b)` +
		`|\b(?:jab|cross|punch|uppercut|elbow)-(?:jab|cross|hook|upper ?cut|overhand|punch|kick|elbow|knee)\b` +
		`|\b(?:(?:jab|cross|hook|upper ?cut|overhand|punch|kick|elbow|knee)[ -]){2,}(?:jab|cross|hook|upper ?cut|overhand|punch|kick|elbow|knee)\b`)},
	{"partner_set", pattern.Of(`\b(?:sticky|pushing|push) hands?\b|\bpartner (?:drill|flow)s?\b|\bflow drills?\b|\bset sparring\b`)},
	{"form", pattern.Of(`\b(forms?|patterns?)\b|\b(?:kick(?:ing)?|(?:star )?block(?:ing)?|strik(?:e|ing)|stance|finger|co-?ordination|punch(?:ing)?|elbow|staff|weapons?) sets?\b`)},
	{"block", pattern.Of(`\b(?:leg|shin|knee) checks?\b|^check(?:ing)? (?:an? |the |low |mid |high |body |round )*kicks?\b`)},
	{"block", pattern.Of(`^(?:catch|stop|parry|deflect|jam|redirect) (?:an? |the |his |your partner's )?(?:\w+ )?(?:jab|cross|hook|punch|kick|strike|round ?house|teep)\b` +
		`|^(?:block|check|cover|scoop|absorb|catch|stop|parry|deflect|jam|redirect)(?:ing)? (?:(?:an? |the |all |your partner's )(?:[\p{L}-]+ ){0,2}(?:jab|cross|hook|punch|kick|strike|round ?house|teep)(?:e?s)?|(?:[\p{L}-]+ )?(?:jabs|crosses|hooks|punches|kicks|strikes|round ?houses|teeps))\b` +
		`|^(?:block|check|catch|parry|jam) (?:low|high|mid|middle|body|head|leg|round|front|side)[- ](?:kick|punch)$`)},
	{"kick", pattern.Of(`\b(?:side|front|back|round|axe|hook|push|drop|crescent|turning|roundhouse)?kicks?\b|\bkicking\b|\bteeps?\b|\bcrescents?\b|\broundhouses?\b`)},
	{"block", pattern.Of(`\b(blocks?|blks?|parry|parries|cover)\b|\b(?:hand|forearm|high|long|double|tight) guard(?:ing)?$`)},
	{"stance", pattern.Of(`\bstances?\b|^(?:left |right )?(?:neutral|forward|reverse|wide|close) (?:bow|kneel)s?$|^stand(?:ing)? (?:like|as) an? `)},
	{"evasion", pattern.Of(`^step(?:ping)? (?:back|aside|off)$|\b(slips?|bob|weave|ducks?|dodg(?:es?|ing)|fade|lean back|pull back|sway)\b`)},
	{"strike", pattern.Of(`^(?:stepping|shuffl(?:e|ing)|pivot(?:ing)?|circling|step and slide) (?:(?:forwards?|back|in|left|right|lead|rear|reverse|middle|high|low|double|head|body|knife|palm|hammer|ridge|spear|back) ?)*` +
		`(?:punch|jab|cross|hook|upper ?cut|elbow|overhand|fist|back ?fist|hammer ?fist|palm|palm heel|knife ?hand|ridge ?hand|chop|knee|hand|strike)(?:e?s)?$`)},
	{"footwork", pattern.Of(`^circle (?:off|out|away|left|right|round|around)\b|^(?:angle|move|get|slide) off(?: the line)?\b|^step(?:ping)? (?:back|forwards?|aside) and (?:shout|yell|talk|look|cover)\b` +
		`|\bcross[- ]?overs?(?: step)?$|\b(?:push|step|cover)[- ]drag$|\bdrag[- ]step$|\bstep[- ]through$|^(?:circle|moving|movement|stepping)$|\b(footwork|shuffle` +
		`|pivot|step and slide|step[- ]slide|stepping|circling|steps)\b`)},
	{"strike", pattern.Of(`\b(?:hand|finger) ?swords?$|\b(?:raking|raised|half|middle|leopard|rolling|inward|outward) knuckles?$|\b(?:body|liver|rib` +
		`|kidney|head) shots?$|\b(?:eye|face|finger|hand) (?:slice|swipe|slash|jab)s?$|\b(?:finger|hand|knuckle) (?:whip|flick|poke|rake|thrust|claw)s?$` +
		`|\b(punch(es)?|punching|strikes?|jabs?|cross(?:es)?|hooks?|upper ?cuts?|elbows?|overhands?|back[ -]?fists?|back ?knuckles?|hammer[ -]?fists?|palm` +
		`|knife[ -]?hand|ridge[ -]?hand|spear[ -]?hand|chops?|finger ?tips?|knees?|fist)\b`)},
	{"courtesy", pattern.Of(`\b(bow|bowing|etiquette|salutes?)\b|^(?:says? )?yes,? (?:sir|ma[’']?am|miss|sensei|sabum)\b`)},
}

// DoneIn is the stance in which a technique is done: double punch in sitting stance.
var DoneIn = pattern.Of(`^(.+?) (?:in|from) (?:an? |the |your )?(?:[\p{L}-]+ ){1,2}stance\b`)

// onTheMove is how one goes while something is done: soto uke stepping back.
var onTheMove = pattern.Of(` (?:while |when )?(?:stepping|moving|sliding|advancing|retreating|shifting)(?: (?:forwards?|backwards?|back|in|out|off|aside|up|through))?$`)

// stanceFirst is a stance and what is done in it: horse stance punch.
var stanceFirst = pattern.Of(`^(?:in )?(?:an? |the )?(?:[\p{L}-]+ |[a-z]-)stance,? (.+)$`)

// mostTold is how many texts are kept with what was found out about them; then they begin anew.
const mostTold = 4096

// memo keeps what was found out about a text: a page asks it a dozen times of each line.
type memo[T any] struct {
	mu sync.Mutex
	of map[string]T
}

func (m *memo[T]) get(text string, find func(string) T) T {
	m.mu.Lock()
	out, there := m.of[text]
	m.mu.Unlock()
	if there {
		return out
	}
	out = find(text)
	m.mu.Lock()
	defer m.mu.Unlock()
	if len(m.of) >= mostTold || m.of == nil {
		m.of = map[string]T{}
	}
	m.of[strings.Clone(text)] = out
	return out
}

var (
	kindsTold memo[Kind]
	amounts   memo[bool]
)

// IsAmount reports whether a text is an amount.
func IsAmount(text string) bool {
	return amounts.get(text, func(text string) bool { _, err := ParseQuantity(text); return err == nil })
}

// KindInWords is the kind that the words of a name tell; "" none.
func KindInWords(name string) Kind { return kindsTold.get(name, kindByWords) }

// strikeLast ends the name of a strike that swings as a kick does.
var strikeLast = pattern.Of(`\b(?:roundhouse|crescent)(?: [\p{L}-]+)* (?:punch(?:es)?|strikes?|elbows?|fists?)$`)

// crossGrip is how somebody is held, which is no punch.
var crossGrip = pattern.Of(`\bcross[- ](grip|hand|wrist|arm|collar|side|body|lapel)\b`)

// BodyHeight is a height told by the body: knee height.
var BodyHeight = pattern.Of(`\b(?:on|from|over|off) (?:[\p{L}'’-]+ ){0,5}?(?:hands and |all )?knees\b|\b(?:ankle|shin|knee|thigh|hip|waist|belt|chest|shoulder|head|elbow)[- ](?:height|high|level)\b`)

// moveLast is the name of a technique at the end of a longer one.
var moveLast = pattern.Of(`^(?:skipping|running|sprinting|jogging|lunging|squatting) (?:[\p{L}-]+ )*?((?:[\p{L}-]+ )?(?:kicks?|punch(?:es)?|blocks?|strikes?))$`)

var (
	// IfAttacked begins what is done about an attack, told of the one who is attacked: if held from behind; attack with a stick.
	IfAttacked = pattern.Of(`^(?:when|if) (?:you are |you're |one is |being )?(?:held|grabbed|pushed|choked|punched|attacked|kicked|seized|hugged|strangled|pulled|caught` +
		`|thrown|taken down)\b|^attacks? (?:with|by|from|to) (?:an? |the )?\pL`)
	// AttackerActs begins what an attacker does, by what is done.
	AttackerActs = pattern.Of(`^(?:[^,:]*\b(?:when|if|while) )?(?:the |an? |your )?(?:attacker|opponent|somebody|someone) (?:` + AttackVerbs + `|throws|swings|steps|rushes)(?:e?s|es)?\b`)
	// asksFirst begins a question.
	asksFirst = pattern.Of(`^(?:explain|describe|tell|say|name|list|what|why|how|who|where|i |know)\b`)
)

// fromAttack ends what is done when somebody attacks so.
var fromAttack = pattern.Of(`\pL from an? (?:\pL+ ){0,2}(?:punch|kick|grab|push|choke|hug|headlock|stab|swing|slap|tackle|jab|cross)$`)

// standsIn is how one stands.
var standsIn = pattern.Of(`^(?:stand|standing|get|getting|stay)(?: still)? (?:in|into) (?:an? |the |your |my )?(?:[\p{L}-]+ )*stance$`)

// saidAloud begins what is said aloud.
var saidAloud = pattern.Of(`^(?:say|shout|yell|tell|call|scream) `)

// legChecks are checks with the leg.
var legChecks = pattern.Of(`^(?:leg |shin |knee |high |low )*check(?:s|ing)?$`)

func kindByWords(name string) Kind {
	key := strings.ToLower(name)
	if standsIn.MatchString(key) { // stand in a strong fighting stance
		return "stance"
	}
	key = crossGrip.ReplaceAllString(BodyHeight.ReplaceAllString(DoneIn.ReplaceAllString(key, "$1"), ""), "$1")
	if whole := onTheMove.ReplaceAllString(key, ""); whole != "" {
		key = whole
	}
	if m := stanceFirst.FindStringSubmatch(key); m != nil && slices.Contains([]Kind{"strike", "kick", "block"}, KindInWords(m[1])) {
		key = m[1]
	}
	if at := JoinsOn.FindStringIndex(key); at != nil {
		before := KindInWords(key[:at[0]])
		if done := KindInWords(key[at[1]:]); before == "stance" && strings.TrimSpace(key[at[0]:at[1]]) == "with" && slices.Contains([]Kind{"strike", "kick", "block"}, done) { // horse stance with low block
			return done
		}
		if slices.Contains(append(Basic, "evasion", "breakfall", "throw"), before) {
			return before
		}
	}
	if at := strings.Index(key, " from "); fromAttack.MatchString(key) && KindInWords(key[:at]) == "" && !asksFirst.MatchString(key) { // wrist turn from a punch
		return "self_defence"
	}
	if (AttackerActs.MatchString(key) || IfAttacked.MatchString(key)) && !strings.HasSuffix(key, "?") && !asksFirst.MatchString(key) {
		return "self_defence"
	}
	if at := AnswersWhat.FindStringIndex(key); at != nil && at[0] > 0 { // check vs low kick
		if legChecks.MatchString(key[:at[0]]) {
			return "block"
		}
		if before := KindInWords(key[:at[0]]); slices.Contains(append(MayAnswer, Basic...), before) {
			return before
		}
	}
	for _, x := range kindsInWords {
		if !x.words.MatchString(key) || x.kind == "fitness" && saidAloud.MatchString(key) { // say no and run to a grown up
			continue
		}
		if x.kind == "kick" && strikeLast.MatchString(key) { // looping roundhouse punch
			return "strike"
		}
		if m := moveLast.FindStringSubmatch(key); m != nil && x.kind == "fitness" { // skipping side kick
			return KindInWords(m[1])
		}
		return x.kind
	}
	if MovesAbout.MatchString(key) && !strings.Contains(key, " to the ") {
		return "fitness"
	}
	if spelt := misspeltWord.ReplaceAllStringFunc(key, func(word string) string { return misspeltAs[word] }); spelt != key {
		return KindInWords(spelt)
	}
	return ""
}

// MovesAbout begins what is done with the whole body, where nothing else tells more: hop on 1 foot.
var MovesAbout = pattern.Of(`^jump(?:s|ing)? (?:over|off|onto) |^(?:hop|crawl|gallop|jog)(?: (?:on|like|across|around|over|in|for|forwards?|backwards?|sideways)\b|$)`)

// misspeltAs are words that tell a kind as children and parents misspell them, which no other word is.
var misspeltAs = map[string]string{
	"kik": "kick", "kiks": "kicks", "kic": "kick", "kicc": "kick", "punsh": "punch", "puntch": "punch", "puch": "punch", "punchs": "punches",
	"blok": "block", "bloks": "blocks", "stanse": "stance", "stans": "stance", "strik": "strike", "elbo": "elbow", "nee": "knee",
}

var misspeltWord = func() *pattern.Pattern {
	return pattern.Of(`\b(?:` + strings.Join(slices.Sorted(maps.Keys(misspeltAs)), "|") + `)\b`)
}()

// Basic are the kinds whose techniques are called by their last word.
var Basic = []Kind{"strike", "kick", "block", "stance"}

// AnswersWhat stands before what is answered.
var AnswersWhat = pattern.Of(`(?i)(?:^|[ (])(?:against|vs\.?|versus) `)

// MayAnswer are the kinds that answer an attack where their name says against what: slip vs jab.
var MayAnswer = []Kind{"block", "evasion", "footwork", "combination", "throw", "lock"}

// AttackVerbs is what an attacker does, without its ending.
const AttackVerbs = `grab|hold|seiz|tak|catch|chok|strangl|push|shov|punch|kick|hug|bear hug|slap|pull|swing|stab|tackl|throw|attack|hit|spit|shout|swear|ha`
