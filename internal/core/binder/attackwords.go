package binder

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"sync"

	"velvetladder/internal/core/curriculum"
	"velvetladder/internal/core/notation"
	"velvetladder/internal/core/pattern"
)

// How people write an attack: choke from behind, overhead club, double lapel grab.

// attackSaid is what a few words say of an attack; two kinds in one attack cannot be.
type attackSaid struct {
	curriculum.AttackElement
	more bool // they say more than an element holds: cross-hand, arms pinned
}

// attackTable has in each line what ParseAttack reads, whole or in part, and how people write it; a tilde before it: they say more than that.
const attackTable = `
straight punch: punch, front punch, straight punches
straight punch, high: face punch, head punch, punch to jaw, punch to nose
straight punch, mid: body punch, stomach punch, belly punch, chest punch
~straight punch: sucker punch
lead straight punch: jab
rear straight punch: cross, reverse punch
lunge punch: stepping punch, step through punch, step thru punch, step punch
hook: hook punch, round punch, wild hook, wild punch, wild swinging punch, swinging hook, roundhouse punch, haymaker, swinging punch, swing, wild swing, wide swing
~hook: overhand punch, overhand
uppercut: upper cut, uppercut punch
back fist: backfist, backfist strike, back fist strike
hammer fist: hammerfist, hammer fist strike
elbow: elbow strike
knee: knee strike
slap: face slap
head butt: headbutt
chop, high: shomen uchi, shomenuchi
~chop: yokomen uchi, yokomenuchi
chop: knife hand, knife hand strike, karate chop
~chop: overhead chop, downward chop
~arm grab: elbow grab, elbow hold, two hands on one arm, two hand arm grab, two handed arm grab, double arm grab
arm grab: arm hold, arm grabbed, forearm grab, upper arm grab, bicep grab, biceps grab
sleeve grab: sleeve hold, sleeve grabbed
~sleeve grab: two hand sleeves grab
belt grab: belt hold
leg grab: ankle grab, leg hold, ankle hold
full nelson: nelson
~full nelson: half nelson
arm lock: hammer lock, hammerlock, rear arm lock, back arm lock, arm bar behind back, arm behind back, rear hammer lock, rear hammerlock, arm twisted behind back
gun: pistol, handgun, gun threat
~gun: gun to head, gun to back, gun to chest, gun to face, gun pointed at head, gun held at back
front kick: straight kick, front snap kick, snap kick, front thrust kick, thrust kick, front ball kick
side kick: side thrust kick, side snap kick
front kick, low: groin kick, kick to groin
knee, low: knee to groin, groin knee
push: one hand push, one handed push, single push, shove, shoved, pushed, chest push, push to chest
both push: double push, double shove, two hand push, double hand push, two handed push, two hand shove
wrist grab: katate dori, katatedori, wrist hold, single wrist grab, one hand wrist grab, grab of wrist, grab wrist, wrist grabbed, grabbed wrist, wrist seized, hand on wrist
~wrist grab: straight grip, same side grip, straight wrist grip, cross wrist grip, handshake, hand shake, handshake grip, hand shake grip, wrist grab cross, wrist cross grab, cross grip, hand grab, hand grabs, hand grabbed, opposite wrist grab, opposite hand grab, cross wrist grab, cross hand wrist grab, cross grab, cross wrist hold, same side wrist grab, straight wrist grab, same side grab
two-hand wrist grab: ryote dori, ryotedori, two hand wrists grab, double wrist grab, double wrist hold, two wrist grab, both wrists grabbed, both wrists held, both wrists, two handed wrist grab, two hand wrist hold, double hand wrist grab
~two-hand wrist grab: two hands on one, ryote mochi, wrist grabbed both hands, wrist held both hands, two hands on one wrist, two on one wrist grab, two on one grab
shoulder grab: kata dori, katadori, hand on shoulder, shoulder hold, single shoulder grab
two-hand shoulder grab: two hand shoulders grab, double shoulder grab, both shoulders grabbed, two handed shoulder grab
lapel grab: muna dori, munadori, mune dori, munedori, lapel, single lapel, one lapel, hand on lapel, lapel hold, collar grab, collar hold, shirt grab, chest grab, jacket grab, coat grab, clothing grab, hoodie grab, hood grab, hood, single lapel grab, one hand lapel grab
two-hand lapel grab: two hand lapels grab, double lapel, two lapels, double lapel grab, double lapel hold, two handed lapel grab, double collar grab, both lapels, both lapels grabbed, two hand shirt grab, two hand collar grab, double shirt grab
front choke: front strangle, front strangle hold, throat grab, two hand front choke, front two hand choke, two handed front choke, choke from front, strangle from front, frontal choke
~front choke: choke against wall, choke on wall
rear choke: back choke, rear strangle, rear strangle hold, rear naked choke, rear two hand choke, rear arm choke, rear forearm choke, choke from behind, choke from rear, strangle from behind
~hug: waist grab, waist hold, waist grabbed, body lock
hug: bear hug, bearhug, bear hugs
hug, rear: rear bear hug, rear hug
side choke: choke from side, strangle from side, side strangle, side two hand choke, two hand side choke
choke: two hands choke, both hands choke, choke with two hands, neck grab, neck hold, choke, strangle, strangulation, two hand choke, two handed choke, double hand choke, one hand choke, two hand strangle
~headlock: guillotine, guillotine choke, standing guillotine
headlock: head lock, hold round neck, hold around neck, arm round neck, arm around neck, neck held, front headlock, headlocks
headlock, side: side headlock, side head lock
round kick: roundhouse kick, roundhouse, round house kick, turning kick
side kick: sidekick
push kick: thrust kick
low kick: low round kick, leg kick
back kick: rear kick
tackle: single leg takedown, single leg, leg takedown, rugby tackle, double leg takedown, double leg tackle, double leg, takedown attempt, leg tackle
~lapel grab: cross collar grab, cross lapel grab
~lapel grab, rear: collar from behind, rear collar grab, collar grab from behind, collar grabbed from behind
hair grab: pony tail grab, ponytail grab, hair pulled, hair pull, hair hold, grab of hair
~club: bottle attack, chair attack
club: club swung sideways, sideways club, club swung, roundhouse club, swinging club, bat swing, bottle swing, swinging bottle, swinging bat, bottle attack, swung bottle, club attack, club swing, club strike, bat, baseball bat
club, high: club overhead swing, overhead club swing, overhead club, club overhead, overhand club
stick: stick side swing, stick swing from side, stick swung, stick attack, stick swing, stick strike
stick, high: stick overhead swing, overhead stick swing, stick overhead strike, overhead stick, stick overhead, overhand stick
knife overhead: knife downward stab, knife down stab, knife downward, knife overhead stab, overhead knife, knife from above, knife from overhead, knife downwards, overhead stab, ice pick stab, icepick stab, ice pick grip stab, overhead knife stab, overhead knife attack, downward stab, downward knife stab
~knife thrust, rear: knife from behind, knife from rear
~knife thrust: knife held at throat, knife held at stomach, knife held to stomach, knife held at belly, knife held at chest, knife held at back, knife held to back, knife at stomach, knife at belly, knife at chest, knife at back, knife pointed at you, knife threat, knife to throat, knife to stomach, knife to belly, knife to back, knife to chest, knife held to throat, knife at throat
knife thrust: knife stab, stab, straight stab, straight knife thrust, straight knife stab, knife straight thrust, knife straight stab, thrust with knife, stab with knife, lunging knife thrust
knife slash: slash with knife, knife slashes, slashing knife, slashing knife attack
~ground mounted: side control, side mount
ground mounted: mount, in mount, in mount position, mounted attacker, attacker mounted, mounted, full mount, attacker on top, attacker sitting on you
ground face down: face down on ground
front: from front
rear: from behind, from rear, behind
side: from side, flank, from flank
~side: from one side
ground: on ground
left: left hand, on left, left side, from left side, left leg, left arm
right: right hand, on right, right side, from right side, right leg, right arm
both: both hands, two hands, two hand, two handed, both arms
lead: lead hand
low: to groin
mid: middle, in chest, to chest, to belly, in stomach, in belly, to body, to stomach, to chest, at body, at ribs
high: overhead, to throat, at throat, to head, to face, to neck, at neck, at head, at face, from above
step-through: step through, stepping
lunge: lunging
~: own, two on one, arms pinned, arms trapped, arms free, arms in, arms out, arms inside, arms outside, over arms, under arms
~: forehand, backhand, wild, one hand, one handed, one arm, over arm, under arm, pinning arms, opposite side, straight across, diagonal, seated, sitting, kneeling, standing, from standing, against wall, vs wall, on wall, against fence, cross hand, same side
: attack, attacker, straight, attempted, attempt, against, vs, versus, defence, defences, defend, defending, escape, escapes, escaping, release, releases, releasing, from, to, with, by, of, counter, countering, getting, answer, response, self, your, out, get, cover, parry, slip, holdbreak, break, breaks, breaking, free, being, grabbed, when, you, are, disarm, disarms, disarming
`

// bareChoke is a choke of which nothing says yet from where.
var bareChoke = attackSaid{AttackElement: curriculum.AttackElement{Kind: "choke"}}

// attackPhrases are attacks as people write them, by their words without hyphens.
var attackPhrases = sync.OnceValue(func() map[string]attackSaid {
	out := map[string]attackSaid{}
	for _, kind := range curriculum.AttackKinds {
		out[strings.ReplaceAll(string(kind), "-", " ")] = attackSaid{AttackElement: curriculum.AttackElement{Kind: kind}}
	}
	for row := range strings.Lines(strings.TrimSpace(attackTable)) {
		element, phrases, _ := strings.Cut(strings.TrimSpace(row), ":")
		said, more := strings.CutPrefix(element, "~")
		if said == "choke" {
			for phrase := range strings.SplitSeq(phrases, ",") {
				x := bareChoke
				x.more = strings.Contains(phrase, "hand")
				out[strings.TrimSpace(phrase)] = x
			}
			continue
		}
		x := attackSaid{more: more}
		for words := strings.Fields(strings.ReplaceAll(said, ",", "")); len(words) > 0; {
			n, err := x.Take(words, nil)
			if err != nil {
				panic(err) // written above
			}
			words = words[n:]
		}
		if said == "rear" { // as of a hug; a rear punch is one with the rear hand
			x.AttackElement = curriculum.AttackElement{Origin: "rear"}
		}
		for phrase := range strings.SplitSeq(phrases, ",") {
			if phrase = strings.TrimSpace(phrase); phrase == "" {
				panic("a phrase is empty: " + row) // written above
			}
			out[phrase] = x
		}
		if x.Kind == "" && said != "" && !more {
			out[said] = x
		}
	}
	delete(out, "arm lock") // alone it may be the answer
	delete(out, "rear")     // a side of a punch, an origin of a hug
	return out
})

var (
	attackThen  = pattern.Of(`(?i)\s*(?:,? then |,? followed by | \+ |\+|→| / )\s*`)
	attackAnd   = pattern.Of(`,? (?:and|with|&) `)
	attackNoise = pattern.Of(`(?i)\b(?:an?|the|his|her|their|one’s)\b|[.!]`)
	saysAgainst = pattern.Of(`(?i)^(?:self.)?(?:defen[cs]es?|defend(?:ing)?|escap(?:es?|ing)|releas(?:es?|ing)|counter|answer|response|against|vs\.?|versus|get(?:ting)? out of|break free)\b|\b(?:defen[cs]es?|escapes?|releases?|counter|cover|parry|slip)$`)
	namedFor    = pattern.Of(`(?i)^.*? (?:against|vs\.?|versus|from) `)
)

// attackIn reads an attack as people write it, with or without the commas in it: hair pull, rear.
func (b *Reader) attackIn(text string) (out []curriculum.AttackElement, more bool) {
	if out, more = b.attackBetween(text); out == nil && strings.Contains(text, ", ") {
		return b.attackBetween(strings.ReplaceAll(text, ", ", " "))
	}
	return out, more
}

// attackBetween reads an attack as people write it, its parts in order, where every word of the text belongs to it; nil where one
// does not, and where no kind of attack is named. More says that the words hold more than the elements do.
func (b *Reader) attackBetween(text string) (out []curriculum.AttackElement, more bool) {
	text = attackKey(text)
	if again := sideAgain.ReplaceAllString(text, " then $1 "); again != text {
		if out, more = b.attackIn(again); out != nil {
			return out, more
		}
	}
	text = attackTold(text)
	for _, part := range attackThen.Split(text, -1) {
		x, is := b.attackPart(strings.Fields(attackNoise.ReplaceAllString(strings.ReplaceAll(part, "-", " "), " ")))
		if !is {
			if both, more1 := b.attacksJoined(part); both != nil {
				out, more = append(out, both...), more || more1
				continue
			}
		}
		if before, behind := cutDash(part); !is && behind != "" {
			one, more1 := b.attackIn(before)
			if two, more2 := b.attackIn(behind); one != nil && two != nil && sideLed.MatchString(behind) { // left jab - right cross
				out, more = append(append(out, one...), two...), more || more1 || more2
				continue
			}
			if whole, _ := b.attackIn(before + " " + behind); whole != nil { // rear bear hug - arms free
				out, more = append(out, whole...), true
				continue
			}
			if one != nil && !attackNoted.MatchString(behind) { // right punch - outside
				out, more = append(out, one...), true
				continue
			}
		}
		if !is || part == text && part == "cross" { // of a wrist grab, where no jab goes before it
			return nil, false
		}
		out, more = append(out, x.AttackElement), more || x.more
	}
	return out, more
}

// attacksJoined are two attacks with a word between: lapel grab and punch; collar grab with one hand and punch.
func (b *Reader) attacksJoined(part string) ([]curriculum.AttackElement, bool) {
	for _, at := range attackAnd.FindAllStringIndex(part, -1) {
		one, more1 := b.attackIn(part[:at[0]])
		if one == nil {
			continue
		}
		if two, more2 := b.attackIn(part[at[1]:]); two != nil {
			return append(slices.Clone(one), two...), more1 || more2
		}
	}
	return nil, false
}

// longestAttack is how many words the longest phrase of an attack has.
const longestAttack = 5

// sideLed begins with the side of an attack.
var sideLed = pattern.Of(`^(?:left|right|l|r|lead|rear)\b`)

// cutDash is what stands before and behind a dash with blanks around it; nothing behind where there is none.
func cutDash(part string) (before, behind string) {
	if at := dashed.FindStringIndex(part); at != nil {
		return part[:at[0]], part[at[1]:]
	}
	return part, ""
}

// ReadAttack reads an attack as ParseAttack does, and lines that it does not know as people write them: overhead club, bear hug from behind,
// left hook then right punch. Words that no element holds are told, with what the attack would be without them.
func (b *Reader) ReadAttack(lines []string) (out []curriculum.AttackElement, err error) {
	own := b.Program.Own()
	for i, line := range lines {
		one, err := curriculum.ParseAttack([]string{line}, own...)
		if err == nil {
			out = append(out, one...)
			continue
		}
		said, more := b.attackIn(strings.ReplaceAll(line, ",", ""))
		if said == nil {
			said, more = b.attackIn(line)
		}
		switch {
		case said == nil:
			return nil, fmt.Errorf("line %d: %s", i+1, strings.TrimPrefix(err.Error(), "line 1: "))
		case more:
			return nil, fmt.Errorf("line %d: “%s” says more than an attack holds; write %s here, and the rest in the remark", i+1, line, said[0])
		}
		out = append(out, said...)
	}
	return out, nil
}

// attackPart reads one element.
func (b *Reader) attackPart(words []string) (a attackSaid, is bool) {
	own, phrases := b.Program.Own(), attackPhrases()
	rear := -1
	for i := 0; i < len(words); {
		n, x := 0, attackSaid{}
		for k := min(longestAttack, len(words)-i); k > 0 && n == 0; k-- {
			phrase := strings.Join(words[i:i+k], " ")
			if at := slices.IndexFunc(own, func(o curriculum.AttackKind) bool { return strings.ReplaceAll(string(o), "-", " ") == phrase }); at >= 0 {
				n, x.Kind = k, own[at]
			} else if said, known := phrases[phrase]; known {
				n, x = k, said
			} else if said := phrases[strings.TrimSuffix(phrase, "s")]; said.Kind != "" && k > 1 { // wrist grabs
				n, x = k, said
			}
		}
		if n == 0 && words[i] == "rear" {
			rear, n = i, 1
		}
		if ofLead(x.Side) && a.Side != "" { // a left jab
			x.Side = ""
		} else if ofLead(a.Side) && x.Side != "" {
			a.Side = ""
		}
		if n == 0 || x.Kind != "" && a.Kind != "" || !agree(x.Side, a.Side) || !agree(x.Level, a.Level) || !agree(x.Origin, a.Origin) {
			return a, false
		}
		a.Kind, a.Side, a.Level = cmp.Or(a.Kind, x.Kind), cmp.Or(a.Side, x.Side), cmp.Or(a.Level, x.Level)
		a.Motion, a.Origin, a.more = cmp.Or(a.Motion, x.Motion), cmp.Or(a.Origin, x.Origin), a.more || x.more
		i += n
	}
	if a.Kind == "choke" { // of which the side tells which it is
		if rear >= 0 && a.Origin == "" {
			a.Origin = "rear"
		}
		if a.more, a.Side = a.more || a.Side != "", ""; !slices.Contains(curriculum.AttackKinds, curriculum.AttackKind(a.Origin)+" choke") {
			return a, false
		}
		a.Kind = curriculum.AttackKind(a.Origin) + " choke"
	}
	if b.Program.NatureOf(a.Kind) == "grab" && slices.Contains(words, "straight") { // which of the grabs it is
		a.more = true
	}
	if two := "two-hand " + a.Kind; a.Side == notation.Both && slices.Contains(curriculum.AttackKinds, two) {
		a.Kind, a.Side = two, ""
	}
	if a.Kind == "" || slices.Contains(b.Program.NoAttacks, a.Kind) {
		return a, false
	}
	if nature := b.Program.NatureOf(a.Kind); rear >= 0 && a.Side == "" && (nature == "strike" || nature == "kick") { // a rear punch, but a hug from the rear
		a.Side = notation.Rear
	} else if rear >= 0 && a.Origin == "" {
		a.Origin = "rear"
	}
	usual := curriculum.UsualOrigin(a.Kind)
	clash := usual != curriculum.Origins[0] && !agree(a.Origin, usual) // a rear choke from the front
	a.Origin = cmp.Or(a.Origin, usual)
	return a, !clash
}

// ofLead reports whether a side is told by the stance, which left or right tells more exactly.
func ofLead(s notation.Side) bool { return s == notation.Lead || s == notation.Rear }

// agree reports whether two words do not say different things.
func agree[T ~string](x, y T) bool { return x == "" || y == "" || x == y }
