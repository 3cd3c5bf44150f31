package demo

// Two holes are left in this ladder on purpose, for the ladder check to find: the
// combinations jump from 12 to 14, and no rung asks for Backwater, so that nobody learns an
// answer to a rear choke.
const kenpoTechniques = `
courtesy | Bow and introduction | | Name, rank, the day's promise to the partner
	look: heels together; eyes on the examiner; clear voice
	faults: looks at the floor; mumbles the rank
	answers: I am …; my rank is …; today I promise my partner …
courtesy | Opening of the hall | | Leads the class into line
	look: waits for silence; bows first
knowledge | Three rules of the mill | | What are the three rules of the mill?
	look: all three in order
	answers: Listen, look, let go
knowledge | When to walk away | | Two answers in own words
	look: a safe answer first
	answers: When I can; when it is not about me; when there is a blade
knowledge | Where a fist may not go | | Which targets are shown and never struck?
	answers: Eyes, throat, groin, knee
knowledge | What a tap means | | What do you do when your partner taps?
	answers: Let go at once
knowledge | Colours of the ladder | | Name the belts in their order
	answers: White, yellow, orange, green, blue, brown, black
knowledge | Before a throw | | What comes before any throw?
	answers: Breakfalls, mats, a matched partner
stance | Ready stance | | Feet level, hands open
	measures: 1 wide, out 0 0, on 50, bend 5 5
	look: feet a shoulder apart; knees soft
	faults: knees locked → let them give
	sides: none
stance | Fighting stance | | Rear foot at an angle
	measures: 1 wide, 1.25 long, out 10 45, on 50, bend - 30, hips 45, look guard up
	look: a shoulder wide; guard up; weight even
	faults: rear heel flat; guard drops
stance | Horse stance | | Two shoulders wide
	measures: 2 wide, out 0 0, on 50, bend 60 60, look back straight
	look: weight even; back straight; knees over feet
	faults: leans forward; feet turn out
	sides: none
stance | Cat step | | Weight on the rear leg
	also: cat stance
	measures: .25 wide, .9 long, out 0 45, on 10, bend - 50, hips 45, up
	look: front foot light; could lift it
	faults: sways back to lift
strike | Jab | | To the face, with return
	apart: Back fist=the fist goes and returns on a straight line
	drills: Touch the wall=lead hand to a spot on the wall, ten times, the shoulder forward; Paper target=tap a hanging sheet without pushing it; On the move=one with each slide forward=Juniors
	cues: post it and pull it back; chin in the pocket
	look: extend: chin behind the shoulder; recoil: hand returns the way it went
	faults: hand drops on return → the face is open → chin behind the shoulder; reaches
	levels: high, mid
	range: middle
	targets: face, chest
	family: straight strikes
strike | Cross | | Hip turns the hand
	drills: Squash the bug=turn the rear heel only, hands on the hips; Rope=hands hold a belt stretched between them, hip pulls first; On pads=five, then change feet=Juniors=pads
	cues: squash the bug
	look: pivot: rear heel turns; extend: other hand guards
	faults: no hip; guard drops
	levels: high, mid
	range: middle
	family: straight strikes
strike | Palm strike | | Heel of the hand
	look: fingers back; elbow down
	faults: ! fingers bend forward → the wrist gives way → pull the fingers back
	levels: high, mid
	range: middle
strike | Hammer fist | | Bottom of the fist, downwards
	look: wrist firm; shoulder loose
	faults: ! thumb inside the fist → it breaks → thumb across the fingers
	range: middle
strike | Elbow | | Across, hand to own chest
	look: elbow level; stays close
	faults: wide swing
	range: inside
strike | Back fist | | Snap and return
	look: wrist turns late
	faults: arm stays out
	range: middle
strike | Spear hand | | Straight line
	look: wrist firm; fingers together
	faults: wrist bends
	care: target: shown to soft targets, never struck
strike | Uppercut | | Under the chin, close
	look: knees give before it rises; elbow stays near the ribs
	range: inside
strike | Ridge hand | | Thumb side, thumb tucked
	look: thumb tucked; arm curves
	range: middle
strike | Knee strike | | Hips forward
	look: toes point down; hips go with it
	range: inside
kick | Front kick | | Knee first
	apart: Push kick=the foot snaps back before it is set down
	drills: At the wall=one hand on the wall, ten slow knees, then ten kicks; Over the cone=chamber over a knee-high cone; Count of four=up, out, back, down, by numbers=Juniors; Eyes closed=five each leg, hold the chamber a breath=Adults
	cues: knee up, snap, put it away; toes back, kick with the ball
	look: chamber: knee high; extend: ball of the foot; recoil: before the step
	faults: no chamber; leans back → slow to return → weight over the standing foot
	levels: low, mid
	range: outside
	surface: basics=ball of the foot, self-defence=shin or ball
kick | Round kick | | Over the pivoting foot
	drills: Turn the heel=standing foot only, ten turns at the wall; Lie on the side=chamber and extend on the mat; Low, mid=one low and one mid without setting down=Juniors
	cues: open the gate, swing, shut the gate
	look: pivot: standing foot turns; extend: hip over; recoil: comes back
	faults: ! standing foot stays → the knee twists → turn the heel first; drops the guard
	levels: low, mid, high
	range: outside
	surface: basics=instep, sparring=instep, self-defence=shin
	care: surface: on pads with the instep or shin, never the toes
kick | Side kick | | Heel, edge level
	drills: At the wall=heel slides up the other leg and out; Slow stack=hip, knee and heel in one line, held for three=Juniors
	cues: stamp sideways
	look: chamber: knee across; extend: heel leads; recoil: the same way
	faults: toes lead; falls after it
	levels: low, mid
	range: outside
	surface: basics=heel, self-defence=edge of the foot
kick | Back kick | | Look first
	look: looks; knees pass close; heel straight back
	faults: turns too far
	range: outside
kick | Push kick | | The sole moves the partner away
	look: chamber: knee to the chest; extend: hips push
	range: middle
kick | Crescent kick | | From the outside in
	look: leg long; hips square
	range: outside
kick | Jumping front kick | | Other knee first
	look: first knee high; lands soft
	faults: stiff landing
	care: jump: legs strengthened first; clear landing; low before high
	on: Front kick
	is: jumping
	youngest: Juniors
kick | Jumping round kick | | Lands on the kicking foot
	look: knee of the other leg first; lands soft
	care: jump: legs strengthened first; clear landing
	on: Round kick
	is: jumping
	youngest: Juniors
kick | Spinning back kick | | Half a turn, look, kick
	look: looks before the leg goes out
	care: jump: slowly on the spot first; clear space behind
	on: Back kick
	is: spinning
	youngest: Juniors
block | Low block | | Sweeps past the knee
	cues: sweep the crumbs off the table
	look: shoulder stays low; fist a hand from the knee
	faults: leans to it
block | High block | | Above the brow
	look: forearm slants; wrist turns late
	faults: covers the eyes
block | Inward parry | | Palm, past the shoulder
	look: small; elbow in
	faults: chases the hand
block | Outward block | | Forearm, past the shoulder
	look: elbow a fist from the ribs
block | Double forearm block | | Both arms, one side
	look: elbows close
	faults: arms apart
block | Cover | | Forearms shield the head
	look: eyes see through
evasion | Slip and fade | | Head off the line, then back
	look: eyes forward; a hand's width
	faults: looks away
evasion | Duck under the sack | | Bob and weave
	look: knees bend, not the back; eyes up
	faults: bends at the waist
footwork | Drop step | | Off the line at an angle
	look: both feet move; ends in a stance
lock | Check | | The hand rests on the arm
	look: light, on the elbow
	care: joint: rest the hand, never press on a straight elbow
	also: checking hand
lock | Sleeve hold | | Thumb in the fold
	look: does not pull
	care: joint: let go on the tap
lock | Gate arm bar | | Straight arm over the forearm
	look: slow, growing pressure; eyes on the partner
	faults: ! jerks → the elbow is hurt → count two for every hand's width
	care: joint: slow, growing pressure, never jerk; tap and a word agreed first
	works: the partner rises on the toes
	part: Straighten the arm with both hands. / lead check keep / Turn the palm up. / step back rear sleeve hold / Press above the elbow, slowly. / lead free / Let go on the tap and step away.
	entry: By a direct grip (own start) = lead sleeve hold, rear check / Take the wrist with the far hand. = the elbow points at the ceiling
	entry: By a counter-grip = Lay the hand over the hand that grips. / rear sleeve hold = the partner rises on the toes
	entry: After redirecting a push = slide back lead inward parry / Let the push go by. / rear sleeve hold = the partner leans past you
	youngest: Adults
combination | Combination 1
	part: lead jab, rear cross
	look: each hand returns; ends in guard
combination | Combination 2
	part: lead jab, rear cross / lead round kick low
	look: kick follows without a pause; guard stays
combination | Combination 3
	part: slide back lead low block, rear cross
	look: the slide keeps the stance's length
combination | Combination 4
	part: lead high block, rear palm strike high
	look: block and strike are two beats
combination | Combination 5
	part: rear front kick, lead jab / rear elbow
	look: lands forward; close enough for the elbow
combination | Combination 6
	part: lead outward block, rear hammer fist / rear front kick low
	look: hip leads the hammer fist
combination | Combination 7
	part: slide back lead low block, rear palm strike high / cross step lead side kick mid to ribs, lead hammer fist!
	look: the slide keeps the stance's length; knee high before the kick goes out; checking hand stays on
	faults: rear foot crosses too far → the kick has no hip → the heel stops under the hip; leaning away from the kick → too far to follow → eyes over the kicking foot; check dropped for the last strike → the arm comes back → say “check” before the shout
combination | Combination 8
	part: lead jab, rear elbow / lead round kick low
	look: no step between; ends able to leave
combination | Combination 9
	part: step through lead palm strike high, rear cross / lead knee strike
	look: the step ends before the palm lands
combination | Combination 10
	part: lead back fist high, rear cross, lead uppercut / slide back
	look: leaves at once
combination | Combination 11
	part: slip and fade, rear cross / lead round kick mid, rear side kick mid
	look: head moves first
combination | Combination 12
	part: rear round kick low, step through lead elbow, rear uppercut / lead ridge hand high!
	look: lands in range of the elbow
combination | Combination 14 | | The mill has no floor thirteen, and the binder has no Combination 13: the ladder check finds it
	part: switch, lead side kick mid, turn ccw 180 lead back kick / lead hammer fist!
	look: looks before the back kick
combination | Combination 15
	part: lead push kick mid, rear cross / step through lead elbow, rear uppercut
	look: the push makes the distance for the cross
combination | Combination 16
	part: duck under the sack, lead uppercut, rear cross / rear round kick low, slide back
	look: eyes stay up; leaves at once
form | Lower Weir | | A shout on the last
	part: from ready stance: step left low block in left front stance, step through right cross mid / turn ccw 180 left high block in left front stance, step through right low block / turn ccw 90 left cross mid in left front stance, step through right high block / turn cw 180 left outward block in left front stance, step through right outward block! / left step turn cw 90 in ready stance
	returns: yes
	look: looks before each turn; ends where it began
	faults: hurries the turns
form | Upper Weir | | Both sides alike
	part: left front kick, left jab in left front stance, right cross / turn cw 180 right front kick, right jab in right front stance, left cross / turn ccw 90 left outward block in left front stance, right elbow / turn cw 180 right outward block in right front stance, left elbow / turn ccw 90 left side kick, right side kick~ / right round kick, left round kick!
	look: stances as long at the end as at the start
	faults: stances shrink
	on: Lower Weir
form | Long Race | | Breath marked; two kicks high
	part: left cat step, right spear hand high~ / right cat step, left spear hand high / turn ccw 90 left double forearm block in left front stance, right hammer fist / turn cw 180 right double forearm block in right front stance, left hammer fist / turn ccw 90 left front kick high, step through right elbow, left uppercut~ / right front kick high, step through left elbow, right uppercut / turn cw 180 right ridge hand high, left ridge hand high!
	look: breath marked; recoil on both kicks
	faults: kicks drop when tired
	on: Upper Weir
self_defence | Ferryman's Hand | | Against a straight wrist grab
	drills: Thumb out=the grip alone: turn to the thumb and step off, five times each hand; Slow river=one holds and walks=Juniors=partner
	cues: thumb to the gap
	attack: right wrist grab, static, front
	attacker: right sleeve hold
	watch: grips as agreed; lets go on the word
	part: circle to the left + left palm strike mid to forearm; the grip / right back fist high; the thumb opens
	part Orange belt: left check keep, right hammer fist to collarbone
	tail 3 Black belt hidden Extension: step through right elbow high, left free / slide back
	look: turn to the thumb; step as the hand comes free; strike, then leave
	faults: ! pulls against the fingers → the grip closes and the wrist is hurt → turn to the thumb
	care: joint: slow first; agree a tap
	ends: outside
	range: middle
	branch: the partner bends the arm=go to Closing the Sluice; too far=break off; the grip opens early=continue
self_defence | Bent Reed | | Against a front kick
	attack: right front kick, mid, lunge, front
	attacker: step right front kick mid
	watch: stops where it would have met; recovers the foot
	part: circle to the left + left low block
	part Orange belt: right cross mid, slide back
	look: step off the line first; catch nothing; both hands up
	faults: ! grabs at the foot → a finger breaks → sweep with the forearm
	ends: outside
	range: middle
self_defence | Mill Wheel | | Against a step-through punch
	drills: Step first=off the line and nothing else, where the other points==partner; Two beats=block, stop, look, then the rest=Juniors
	cues: off the line, then the wheel
	attack: right straight punch, high, step-through, front
	attacker: step through right cross high
	watch: the right distance; the arm stays for the answer; recovers
	part: drop step, left inward parry; the punch / right check keep
	part Orange stripe: left palm strike high to jaw; the head that follows the arm
	part Orange belt: right free, right elbow high, slide back
	tail 4 Black belt hidden Extension: right free, left sleeve hold keep / step through right knee strike to ribs / left free, slide back
	look: inward parry; the wheel of both arms; elbow; step away
	faults: ! elbow called too early → it meets the face → wait for the check; stands in front → the other hand hits → stand at the shoulder
	care: target: light touch at most; stop on the tap
	ends: outside
	range: middle
	branch: the punch is a hook=go to Closing the Sluice; the partner steps back=break off
self_defence | Two Oars | | Against a two-hand lapel grab
	attack: two-hand lapel grab, static, front
	attacker: both sleeve hold to lapels
	watch: pulls, does not shove
	part: both outward block over the arms.
	part Green stripe: both palm strike mid, rear knee strike (shown)
	look: both arms over; elbows down; knee shown, not struck
	faults: elbows open
	care: target: the knee is shown, not struck
	ends: inside
	range: inside
self_defence | Closing the Sluice | | Against a hook
	attack: left hook, high, static, front
	attacker: left uppercut high (wide)
	watch: the hook is wide enough to see
	part: right cover, left check keep / right elbow mid
	part Green belt: left free, right palm strike high, slide back
	look: cover; close; turn the shoulder
	faults: ! covers late → the ear is hit → hands start at the brow
	ends: inside
	range: inside
self_defence | Falling Sack | | Against a rear hug, arms free
	attack: hug, static, rear
	watch: holds firm, does not lift
	part: drop, left elbow mid (back), right elbow mid (back)
	part Brown belt: turn cw 180 right hammer fist, slide back
	look: drop the weight; stamp beside the foot; turn out
	faults: lifts the shoulders
	care: throw: breakfalls first; mats
	ends: outside
	range: middle
self_defence | Parting the Rushes | | Against a front choke
	attack: front choke, static, front
	watch: hands on the collarbones, never on the neck
	part: Chin down. / both outward block, rear knee strike (shown)
	part Black belt: lead palm strike high, slide back
	look: chin down; arms through; step and strike
	faults: ! steps straight back → the choke closes → chin down first
	care: choke: hands on the collarbones in training; tap and word agreed
	ends: inside
	range: inside
	youngest: Juniors
self_defence | Turning the Stone | | Against a push
	attack: push, mid, lunge, front
	watch: pushes through, does not stop short
	part: turn cw 90, left inward parry / right palm strike mid to shoulder
	look: turns with the push; stays balanced
	ends: outside
	range: middle
self_defence | Grain Door | | Against a shoulder grab
	attack: right shoulder grab, static, side
	watch: grips cloth
	part: left outward block (over), right palm strike mid / left check
	look: turns to face
	ends: inside
	range: middle
self_defence | Drawn Bucket | | Against a two-hand grab of one wrist
	attack: two-hand wrist grab, static, front
	watch: both thumbs on top
	part: Reach through and take the own hand. / both uppercut mid, slide back
	look: own hand pulls towards the own shoulder
	care: joint: slow; let the fingers open
	ends: inside
	range: inside
self_defence | Heron at the Weir | | Against a round kick
	attack: right round kick, mid, static, front
	watch: kicks at the arm's height, controlled
	part: step left double forearm block, right cross mid / left palm strike high
	look: steps in, not back
	ends: inside
	range: inside
self_defence | Backwater | | Against a rear choke. Kept in the binder, asked by no rung: the ladder check finds it
	attack: rear choke, static, rear
	watch: forearm on the collarbone, never on the neck
	part: Chin to the elbow, both hands on the arm. / drop, turn ccw 180 left elbow mid / slide back
	look: chin first
	care: choke: forearm on the collarbone in training
	ends: outside
	range: middle
	youngest: Adults
self_defence | Crossing Planks | | Against a jab and a cross
	attack: left straight punch, high, static, front; right straight punch, high, static, front
	attacker: left jab high, right cross high
	watch: both punches reach
	part: right inward parry; the jab / left outward block; the cross / right palm strike high
	look: small; the second hand is ready before the first is done
	ends: outside
	range: middle
self_defence | Wet Rope | | Against a headlock from the side
	attack: right headlock, static, side
	watch: holds the far shoulder, not the neck
	part: Chin in, hand over the far shoulder. / rear hammer fist (shown), turn cw 180
	look: chin in; stays upright
	care: choke: hold the shoulder in training, never the neck
	ends: inside
	range: inside
	youngest: Juniors
self_defence | Miller's Gate | | Against a club from above
	attack: right club, high, step-through, front
	watch: training club; stops on the word
	part: step left outward block, right check keep / left palm strike high, right free
	look: inside the swing; the arm is stopped first
	faults: ! steps straight back → the tip is fastest there → step in or leave
	care: weapon: training clubs only; leave if you can
	ends: inside
	range: inside
	youngest: Adults
self_defence | Silent Ferry | | Against a knife thrust
	attack: right knife thrust, mid, lunge, front
	watch: training knife; one thrust, then waits
	part: drop step, left low block / right check keep / left palm strike high, right free, slide back
	look: off the line first; enters only when the arm is stopped
	faults: ! reaches for the blade → the hand is cut → the forearm, never the hand
	care: weapon: training knives only; leave if you can; never close in while the blade travels
	ends: outside
	range: middle
	youngest: Adults
self_defence | Broken Thatch | | Against a knife overhead
	attack: right knife overhead, high, step-through, front
	watch: training knife; one stroke
	part: step left high block, right check keep / left elbow high, right free, slide back
	look: both arms up; enters when the arm is stopped
	care: weapon: training knives only; leave if you can
	ends: outside
	range: middle
	youngest: Adults
self_defence | Under the Bridge | | On the back, partner above
	attack: ground mounted, static, ground
	watch: sits light
	part: Bridge to the side, roll on top. / lead palm strike (shown), step back
	look: bridges before rolling
	care: throw: mats; the partner taps when squeezed
	ends: inside
	range: inside
self_defence | Rolling Barrel | | Face down, partner on the back
	attack: ground face down, static, ground
	watch: weight on the hands
	part: Elbows in, one knee up, roll. / slide back
	look: elbows in; turns to the partner
	care: throw: mats
	ends: outside
	range: middle
self_defence | Side Channel | | Against a side kick
	attack: right side kick, mid, static, front
	watch: stops at the belt
	part: drop step, right low block / left cross mid
	look: off the line to the outside
	ends: outside
	range: middle
self_defence | Kicked Gate | | Against a push kick
	attack: left push kick, mid, static, front
	watch: pushes slowly
	part: slide back, left low block / step through right palm strike mid
	look: goes with it, then in
	ends: outside
	range: middle
breakfall | Back breakfall | | Chin to chest
	look: chin tucked; arms at an angle; breathes out
	faults: ! reaches back with the hand → the wrist breaks → arms cross on the chest first
	care: throw: on mats, from low before high
	sides: none
breakfall | Side breakfall | | Arm and leg land together
	look: chin tucked; legs apart
	care: throw: on mats, from low before high
throw | Low Bridge | | Sweep over the near foot
	look: partner's weight on that foot; holds the sleeve down
	faults: sweeps the standing leg
	care: throw: breakfalls first; mats; matched partners
	on: Side breakfall
	youngest: Juniors
throw | Tilted Sack | | Over the hip
	look: knees bent under the partner; turns fully
	care: throw: breakfalls first; mats; matched partners
	on: Side breakfall
	youngest: Juniors
fitness | Press-ups | | 18 in a minute is sound, 26 is strong
	look: chest a fist from the floor; back straight
	faults: hips sag
	care: fitness: on the knees where the back sags; stop on pain
fitness | Rope | | At most three misses
	look: light feet
	faults: looks down
	care: fitness: stop on dizziness
balance | Crane hold | | One leg, eyes forward
	look: hip level
sparring | Light sparring | | Touch only
	look: control; distance; answers after a defence
	faults: turns away; too hard
	care: sparring: the rung's rule, kit checked before each round, stop word
combination | Own combinations | | Two the candidate has made
	look: opens or closes distance with the lead; ends able to leave
character | Helping task | | One thing done for the mill since the last test
	look: the family tells an example
`
