import { bind } from "./lib/shell.js";
import { el, svg, newID } from "./lib/dom.js";
import { Queue, offline, sayKept } from "./lib/queue.js";
import { listen } from "./lib/stream.js";
import { strip } from "./lib/strip.js";
import { ServerTime, Cues, read, spentOf, words } from "./lib/ringclock.js";
import { ticks } from "./lib/ticks.js";
import { phrase } from "./lib/phrase.js";

// The scoring table: a shell that is filled from the table's state. A mark is shown dashed
// until the server says that it is on the disk, and filled from then on. Without network marks
// wait on the device, and the table loads again with them.

const address = document.getElementById("main").dataset.table;
if (location.pathname !== address) history.replaceState(null, "", address); // a refusal is answered where the form went
const [, , examiner, group] = address.split("/");
const place = document.querySelector("[data-line]");
const list = document.querySelector("[data-lines]");
const kept = document.querySelector("[data-kept]");
const notices = document.querySelector("[data-notices]");
const soundKey = "velvetladder.sound";

let state, ready = false, item = 0;
let seat = -1; // the candidate in focus; -1 nobody, where all are marked
let chosen = false; // the examiner went to the candidate in focus: only then a key replaces a mark
let last = null; // {candidate, item} of the mark just given
let open = null; // {candidate, kind} of what is being written: a note, a fault, that a line is asked for again
let ring = { call: null, clock: null };
const marks = new Map(); // "candidate item" → the entry that stands
const replaced = new Set(); // entries that something newer stands on
const tallies = new Map(); // "candidate item" → a count under way, kept on the device
const time = new ServerTime();
const cues = new Cues(() => localStorage.getItem(soundKey) === "on");

const key = (candidate, it) => `${candidate} ${it}`;
const markOf = (candidate, it) => marks.get(key(candidate, it));
const given = (m) => m && m.kind !== "open";
const settled = (m) => given(m) && !m.again;
const faultKeys = ["q", "w", "e", "r", "t", "y"]; // for the faults of a line, in their order

const queue = new Queue(`${address}/marks`, {
  changed() { say(); if (ready) draw(); },
  refused(m, why) {
    // What was entered on top of it here falls with it: the chain would be refused as well.
    if (why.current) stand(why.current);
    else refresh();
    const c = state.candidates.find((x) => x.id === m.candidate), it = state.items.find((x) => shows({ id: m.candidate }, x) === m.item);
    tell(phrase(why.current ? "refusedstands" : "refused", { name: c?.name ?? phrase("candidate"), line: it?.label ?? phrase("aline"), why: `${why.problem}${why.problem.endsWith(".") ? "" : "."}` }));
  },
});
const faults = new Queue(`${address}/faults`, {
  changed() { say(); if (ready) draw(); },
  refused(f, why) {
    state.faults = state.faults.filter((x) => x.id !== f.id);
    tell(phrase("faultrefused", { why: why.problem }));
  },
});

/** stand makes an entry the one that stands at its place. */
function stand(m) {
  marks.set(key(m.candidate, m.item), m);
  if (m.supersedes) replaced.add(m.supersedes);
}

/** tell puts a notice over the line until it is put away. */
function tell(text) {
  const notice = el("p", { className: "wrong" }, `${text} `, el("button", { className: "button is-small", type: "button", onclick: () => notice.remove() }, phrase("seen")));
  notices.append(notice);
}

async function load() {
  const answer = await fetch(`${address}/state`, { headers: { "Content-Type": "application/json" } });
  const fresh = await answer.json();
  if (!answer.ok) throw new Error(fresh.problem);
  state = fresh;
  marks.clear();
  for (const m of state.marks) stand(m);
  return state.at;
}

/** begin fills the table: what the server knew, and what an earlier page kept laid over it. */
async function begin() {
  const at = await load();
  for (const m of await queue.open(at)) if (!replaced.has(m.id)) stand(m);
  for (const f of await faults.open(at)) layFault(f);
  item = Math.max(state.items.findIndex(unfinished), 0);
  seat = first();
  ready = true;
  say();
  draw();
  listen(`${address}/live`, told, (on) => { if (on) { queue.send(); faults.send(); } });
  time.measure();
}

/** refresh reads the sheet anew, with what still waits here laid over it. */
async function refresh() {
  try {
    replaced.clear();
    await load();
    for (const w of queue.waiting) stand(w.entry);
    draw();
  } catch {
    // without network what is shown stays
  }
}

/** layFault puts a fault, or its end, over those the server knew. */
function layFault(f) {
  if (f.supersedes) {
    state.faults = state.faults.filter((x) => x.id !== f.supersedes);
    state.waiting = state.waiting.filter((x) => x.id !== f.supersedes);
  }
  if (f.kind !== "withdrawn" && f.kind !== "ending_confirmed" && !state.faults.some((x) => x.id === f.id)) state.faults.push(f);
}

/** told is what other devices did: to this sheet, or to the ring's call and clock. */
async function told(message) {
  if (message.ended) return tell(phrase("senthome"));
  if (message.ring) {
    ring = message.ring;
    time.hint(ring.now);
    sayCall();
    if (state.items[item]?.lines.some((l) => l.steps?.length)) draw();
  }
  let other = false;
  for (const m of message.marks ?? []) {
    const mine = markOf(m.candidate, m.item);
    if (mine?.id === m.id || (mine && queue.pending(mine.id)) || replaced.has(m.id)) continue; // ours, or the server will say who was first
    stand(m);
    other = true;
  }
  if (message.faults && faults.waiting.length === 0) {
    const answer = await fetch(`${address}/state`, { headers: { "Content-Type": "application/json" } });
    if (answer.ok) ({ faults: state.faults, waiting: state.waiting } = await answer.json());
    other = true;
  }
  if (message.again) {
    await refresh();
    if (!state.candidates[seat]) seat = first();
    other = true;
  }
  if (message.signed !== undefined && message.signed !== state.signed) location.reload();
  if (other) draw();
}

function sayCall() {
  const box = document.querySelector("[data-called]");
  const at = ring.call?.group === group ? lineOf(ring.call.line) : -1;
  box.hidden = at < 0 || at === item;
  box.replaceChildren(at < 0 ? "" : `${phrase("calleris", { n: state.items[at].number, line: state.items[at].label })} `, at < 0 ? "" : el("button", { className: "button is-small", type: "button", onclick: () => line(at - item) }, `${phrase("gothere")} `, el("kbd", {}, "G")));
}

/** lineOf is the item a called line belongs to: where categories are marked, several lines are called for one. */
function lineOf(called) {
  let n = 0;
  for (const [i, it] of state.items.entries()) {
    n += Math.max(it.lines.length, 1);
    if (called < n) return i;
  }
  return -1;
}

/** unfinished reports whether something is left to mark on a line. */
const unfinished = (it) => state.candidates.some((c) => shows(c, it) && !settled(markOf(c.id, shows(c, it))));

/** unmarked is the first candidate from a seat on, around the row, who is still to be marked on this line; -1 for none. */
function unmarked(from) {
  const n = state.candidates.length;
  for (let i = 0; i < n; i++) {
    const c = state.candidates[(from + i) % n], id = shows(c, state.items[item]);
    if (id && !settled(markOf(c.id, id))) return (from + i) % n;
  }
  return -1;
}

/** shows is the id an item has on a candidate's sheet; undefined where it is not asked of them. */
const shows = (c, it) => it.ids[c.id];

function say() {
  if (!state) return;
  if (state.signed) kept.textContent = phrase("signed");
  else sayKept(kept, [queue, faults], phrase("marksstored"));
}

// ---- marks

/** put changes what stands at a place: a mark, a note, what was seen. What is not named stays as it was. */
function put(candidate, it, change) {
  if (state.signed) return;
  const old = markOf(candidate, it);
  const m = { kind: "open", value: 0, note: "", ...old, ...change, id: newID(), candidate, examiner, item: it, supersedes: old?.id ?? "" };
  if (m.kind !== "mark") m.value = 0;
  for (const empty of ["count", "ticked", "faults", "again"]) if (!m[empty]) delete m[empty];
  stand(m);
  const of = state.items.find((x) => x.ids[candidate] === it), c = state.candidates.find((x) => x.id === candidate);
  queue.put(m, `${of?.number ?? ""} · ${c?.number ?? ""}: ${m.kind === "mark" ? m.value : m.kind === "not_seen" ? "–" : "…"}`);
}

/** enter gives an entry to the candidate in focus and moves on. A key replaces a mark only where the examiner has gone to it. */
function enter(change) {
  if (state.signed) return;
  if (seat < 0) {
    if (item + 1 < state.items.length) line(1);
    else toSign();
    return;
  }
  const c = state.candidates[seat], id = shows(c, state.items[item]);
  if (!id || (settled(markOf(c.id, id)) && !chosen)) return;
  put(c.id, id, { count: 0, again: "", ...change });
  last = { candidate: c.id, item: id };
  advance();
}

const mark = (value) => { if (state.scale.marks.some((s) => s.value === value)) enter({ kind: "mark", value }); };
const notSeen = () => enter({ kind: "not_seen" });

/** half adds half a point to a mark, or takes it away again: the one just given, where none is named. */
function half(at = last) {
  if (!state.scale.halves || !at) return;
  const m = markOf(at.candidate, at.item);
  if (m?.kind !== "mark") return;
  const value = Number.isInteger(m.value) ? m.value + 0.5 : m.value - 0.5;
  if (value > state.scale.highest) return;
  put(at.candidate, at.item, { value, count: 0 });
  draw();
}

/** takeBack takes back the mark of the candidate the examiner went to, else the one just given, and goes there. */
function takeBack() {
  const c = state.candidates[seat], id = c && shows(c, state.items[item]);
  const at = chosen && id && given(markOf(c.id, id)) ? { candidate: c.id, item: id } : last;
  if (!at || !given(markOf(at.candidate, at.item))) return;
  put(at.candidate, at.item, { kind: "open", count: 0, again: "" });
  item = state.items.findIndex((it) => it.ids[at.candidate] === at.item);
  seat = state.candidates.findIndex((x) => x.id === at.candidate);
  chosen = false;
  last = null;
  draw();
}

/** advance moves on after a mark: to who is still to be marked; where nobody is, to the next line if there is one candidate, else to its button. */
function advance() {
  seat = unmarked(seat + 1);
  chosen = false;
  if (seat < 0 && state.candidates.length === 1 && item + 1 < state.items.length) {
    line(1, last);
    return;
  }
  draw();
  if (seat < 0) place.querySelector("[data-next]")?.focus();
}

/** first is the seat to begin a line with: who is still to be marked; -1 where all are. */
const first = () => unmarked(0);

function line(by, just = null) {
  item = Math.min(Math.max(item + by, 0), state.items.length - 1);
  seat = first();
  chosen = false;
  last = just;
  open = null;
  draw();
  place.querySelector("h1")?.focus({ preventScroll: true });
}

/** choose goes to a candidate, so that a key may change their mark. */
function choose(i) {
  seat = i;
  chosen = true;
  last = null;
  draw();
}

function step(by) {
  const n = state.candidates.length;
  choose(seat < 0 ? (by > 0 ? 0 : n - 1) : Math.min(Math.max(seat + by, 0), n - 1));
}

const toSign = () => document.querySelector("[data-sign] button")?.focus();

/** faultsOf are the faults of a line that its technique knows. */
const faultsOf = (it) => [...new Set(it.lines.flatMap((l) => l.faults ?? []).map((f) => f.seen))];

/** noting is who something is noted of: the candidate in focus, else the one just marked on this line. */
function noting() {
  const c = state.candidates[seat] ?? state.candidates.find((x) => x.id === last?.candidate && shows(x, state.items[item]) === last.item);
  return c && shows(c, state.items[item]) ? c : undefined;
}

/** noteFault notes a fault of the line for a candidate, or takes it back. */
function noteFault(text, c = noting()) {
  if (!text || !c || state.signed) return;
  const id = shows(c, state.items[item]), seen = seenOf(c);
  put(c.id, id, { faults: (seen.includes(text) ? seen.filter((x) => x !== text) : [...seen, text]).join("\n") });
  draw();
}

/** askAgain asks for the line again, for one candidate alone, or lets the mark stand; both marks stay on record. */
function askAgain(c, why) {
  put(c.id, shows(c, state.items[item]), { again: why });
  if (open?.kind === "again") open = null;
  draw();
}

// ---- drawing

function draw() {
  // What is being typed stays, with the caret where it is: other devices may change the sheet meanwhile.
  const held = document.activeElement?.dataset?.focus, typed = place.contains(document.activeElement) && document.activeElement.dataset.keep;
  const caret = typed && document.activeElement.matches("input") ? [document.activeElement.selectionStart, document.activeElement.selectionEnd] : null;
  const fields = [...place.querySelectorAll("[data-keep]")].map((f) => [f.dataset.keep, f.value]);
  drawLines();
  sayCall();
  const it = state.items[item];
  const single = it.lines.length === 1 ? it.lines[0] : null;
  const minutes = Math.floor(it.lines.reduce((n, l) => n + l.seconds, 0) / 60), seconds = it.lines.reduce((n, l) => n + l.seconds, 0) % 60;
  place.replaceChildren(
    justGiven(it),
    el("p", { className: "over" }, [phrase("lineof", { n: it.number, of: state.items.length }), it.section, single ? single.called || single.amount : phrase("prompts", { n: it.lines.length }), `${minutes ? `${minutes} m ` : ""}${seconds} s`].join(" · "),
      it.mustPass && el("span", { className: "tag must" }, phrase("mustpass")), it.bonus && el("span", { className: "tag" }, phrase("bonus"))),
    el("h1", { tabIndex: -1 }, it.label, single?.term ? el("small", {}, ` ${single.term}`) : ""),
    manner(single),
    prompts(it, single),
    sparring(it),
    hints(it),
    ...chiefBox(),
    ...state.candidates.map(candidateRow),
    el("div", { className: "next" }, legend(), item + 1 < state.items.length
      ? el("button", { className: "button is-primary", type: "button", "data-next": "", "data-focus": "next", onclick: () => line(1) }, `${phrase("next", { line: state.items[item + 1].label })} →`)
      : el("button", { className: "button is-primary", type: "button", "data-next": "", "data-focus": "next", onclick: toSign }, phrase("tosign"))),
  );
  for (const [name, value] of fields) {
    const f = place.querySelector(`[data-keep="${name}"]`);
    if (f) f.value = value;
  }
  if (held) place.querySelector(`[data-focus="${held}"]`)?.focus({ preventScroll: true });
  const again = typed && place.querySelector(`[data-keep="${typed}"]`);
  if (again) {
    again.focus({ preventScroll: true });
    if (caret) again.setSelectionRange(...caret);
  }
}

function drawLines() {
  let left = 0;
  list.replaceChildren(...state.items.map((it, i) => {
    const missing = state.candidates.filter((c) => shows(c, it) && !settled(markOf(c.id, shows(c, it)))).length;
    left += missing;
    return el("li", i === item ? { "aria-current": "true" } : {}, el("button", { type: "button", onclick: () => line(i - item) },
      el("span", {}, String(it.number)), el("span", {}, it.label),
      el("span", { "aria-label": phrase(missing === 0 ? "allmarked" : "tomark", { n: missing }) }, missing === 0 ? "✓" : missing < state.candidates.length ? String(missing) : "")));
  }));
  list.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest" });
  const told = document.querySelector("[data-left]");
  if (told) told.textContent = left === 0 ? state.words.left[2] : withN(state.words.left[left === 1 ? 0 : 1], left);
  const fill = document.querySelector("[data-fill]");
  if (fill) fill.hidden = left === 0;
}

/** justGiven says what was marked a moment ago, where the next line is shown already. */
function justGiven(it) {
  const m = last && markOf(last.candidate, last.item), was = state.items.find((x) => x.ids[last?.candidate] === last?.item);
  if (!given(m) || was === it) return "";
  const value = m.kind === "mark" ? String(m.value).replace(".5", "½") : state.words.notSeen;
  return el("p", { className: "just", role: "status" }, `${was.number} ${was.label}: `, el("b", {}, value), " ", el("kbd", {}, "⌫"), ` ${phrase("takesback")}`);
}

function prompts(it, single) {
  if (!single) return el("ol", { className: "prompts" }, it.lines.map((l) => el("li", {}, el("b", {}, l.call), el("span", {}, [l.amount, l.detail].filter(Boolean).join(" · ")))));
  if (!single.moves?.length) return single.detail ? el("p", { className: "lead" }, single.detail) : "";
  const both = ["orthodox", "southpaw"];
  return el("div", {}, strip(single.moves, { both }), single.partner?.length > 0 && el("details", { className: "partner" }, el("summary", {}, phrase("partner")), strip(single.partner, { both })));
}

/** manner is how a line is done and what counts: slowly, at least mid, from which count on which mark. */
function manner(single) {
  const words = [(single?.moves?.length > 0 || single?.note !== single?.detail) && single?.note, single?.manner, ...(single?.common ?? []), ...(single?.standard ?? []), single?.surface && phrase("withthe", { what: single.surface }), single?.targets?.length > 0 && phrase("totargets", { what: single.targets.join(", ") }), single?.success?.length > 0 && phrase("workswhen", { what: single.success.join("; ") }), ...(single?.apart ?? [])].filter(Boolean);
  return words.length > 0 ? el("p", { className: "manner" }, words.join(" · ")) : "";
}

/** sparring is the rung's rule on a line that is sparred, with the way to the bouts. */
function sparring(it) {
  if (!it.lines.some((l) => l.kind === "sparring")) return "";
  return el("p", {}, el("b", {}, `${phrase("therule")} `), state.sparring, " ", el("a", { href: `/bouts/${state.ring}` }, phrase("boutshere")));
}

function hints(it) {
  const answers = [...new Set(it.lines.flatMap((l) => l.answers ?? []))];
  const look = it.lines.flatMap((l) => l.look ?? []), faults = faultsOf(it), who = noting(), cautions = [...new Set(it.lines.flatMap((l) => l.cautions ?? []))];
  return el("div", {}, el("div", { className: "hints" },
    look.length > 0 && el("div", {}, el("h2", {}, phrase("lookfor")), el("ul", {}, look.slice(0, 6).map((x) => el("li", {}, x)))),
    faults.length > 0 && el("div", {}, el("h2", {}, phrase("commonfaults"), who && el("small", {}, ` ${phrase("seenofwho")} `, el("bdi", {}, who.name))), el("ul", { className: "faults" }, faults.map((x, i) => el("li", {}, el("button", { type: "button", disabled: state.signed || !who, "data-focus": `fault${i}`, "aria-pressed": who && seenOf(who).includes(x) ? "true" : "false", onclick: () => noteFault(x) }, faultKeys[i] && el("kbd", {}, faultKeys[i].toUpperCase()), " ", x))))),
    answers.length > 0 && el("div", {}, el("h2", {}, phrase("accepted")), el("ul", {}, answers.map((x) => el("li", {}, x))))),
  cautions.map((x) => el("p", { className: "caution" }, `⚠ ${x}`)));
}

/** seenOf are the faults of this line noted for a candidate. */
const seenOf = (c) => (markOf(c.id, shows(c, state.items[item]))?.faults ?? "").split("\n").filter(Boolean);

function candidateRow(c, i) {
  const it = state.items[item];
  if (!shows(c, it)) {
    return el("section", { className: "candidate", "aria-label": c.name }, el("span", { className: "nr" }, String(c.number)), el("div", {}, el("b", {}, el("bdi", {}, c.name)), svg(c.belt)),
      el("p", { className: "soft" }, it.stands?.[c.id] ? phrase("stands") : phrase("notasked")));
  }
  const m = markOf(c.id, shows(c, it)), words = state.scale.marks.some((s) => s.word) || it.lines.some((l) => l.marks?.length > 0);
  const pressed = (value) => m?.kind === "mark" && Math.floor(m.value) === value;
  const press = (act) => () => { seat = i; chosen = true; act(); };
  const button = (on, label, word, fails, focus, act) => el("button", { type: "button", className: [on && queue.pending(m.id) && "pending", fails && "fails"].filter(Boolean).join(" "), "aria-pressed": on && !queue.pending(m.id) ? "true" : "false", disabled: state.signed, "data-focus": `${c.id}${focus}`, onclick: press(act) }, el("b", {}, label), " ", word && el("span", {}, word));
  const looks = new Map((it.lines.length === 1 ? it.lines[0].marks ?? [] : []).map((x) => [x.mark, x.looks]));
  const buttons = state.scale.marks.map((s) => {
    const on = pressed(s.value);
    return button(on, on && !Number.isInteger(m.value) ? `${s.value}½` : String(s.value), looks.get(s.value) ?? s.word, s.fails, s.value, () => mark(s.value));
  });
  if (state.scale.halves) buttons.push(button(false, "½", phrase("more"), false, "half", () => half({ candidate: c.id, item: shows(c, it) })));
  const unseen = m?.kind === "not_seen";
  buttons.push(el("button", { type: "button", className: unseen && queue.pending(m.id) ? "pending" : "", "aria-pressed": unseen && !queue.pending(m.id) ? "true" : "false", disabled: state.signed, "data-focus": `${c.id}n`, onclick: press(notSeen) }, el("span", {}, state.words.notSeen)));
  const flagged = state.faults.filter((f) => f.candidate === c.id);
  return el("section", { className: `candidate${state.scale.halves ? " points" : ""}${i === seat && !state.signed ? " at" : ""}`, "aria-label": c.name },
    el("span", { className: "nr" }, String(c.number)),
    el("button", { type: "button", className: "who", "aria-current": i === seat ? "true" : undefined, "data-focus": `${c.id}who`, onclick: () => choose(i) }, el("b", {}, el("bdi", {}, c.name)), el("span", { className: "unseen" }, c.rank), svg(c.belt), el("small", { className: "soft stance" }, c.stance)),
    el("div", { className: `marks-row${words ? " words" : ""}`, role: "group", "aria-label": phrase("marksfor", { name: c.name }) }, buttons),
    el("div", { className: "more" }, !state.signed && el("button", { type: "button", "data-focus": `${c.id}f`, onclick: () => write(c.id, "fault") }, `⚑ ${phrase("fault")}`), !state.signed && el("button", { type: "button", className: "note", "data-focus": `${c.id}m`, onclick: () => write(c.id, "note") }, `✎ ${phrase("note")}`), !state.signed && given(m) && el("button", { type: "button", className: "note", "data-focus": `${c.id}a`, onclick: () => (m.again ? askAgain(c, "") : write(c.id, "again")) }, m.again ? `✓ ${phrase("letstand")}` : `↻ ${phrase("again")}`)),
    it.own?.[c.id] && el("p", { className: "remark own" }, `◈ ${it.own[c.id]}`),
    tickBox(c, it, m),
    tallyBox(c, it, m),
    m?.count > 0 && el("p", { className: "remark" }, `# ${withN(state.words.tally.counted, m.count)}`),
    m?.note && el("p", { className: "remark" }, `✎ ${m.note}`),
    m?.again && el("p", { className: "remark again" }, `↻ ${state.words.agains.find((x) => x.value === m.again)?.label ?? ""}`),
    seenOf(c).map((x) => el("p", { className: "remark fault-seen" }, `✗ ${x} `, !state.signed && el("button", { type: "button", className: "button is-small is-quiet", "aria-label": phrase("takebackof", { what: x, name: c.name }), onclick: () => noteFault(x, c) }, phrase("takeback")))),
    flagged.map((f) => el("p", { className: "remark flagged" }, `⚑ ${f.kind === "deduction" ? `−${f.points}: ` : f.kind === "note" ? "" : `${phrase("endstest")} `}${faultWords(f)}`, f.kind === "ending" ? ` (${phrase("chiefconfirms")}) ` : " ", faults.pending(f.id) ? `◌ ${phrase("kepthere")}` : !state.signed && el("button", { className: "button is-small is-quiet", type: "button", "aria-label": phrase("withdrawof", { what: faultWords(f), name: c.name }), onclick: () => settle(f, "withdrawn") }, phrase("withdraw")))),
    open?.candidate === c.id && ({ note: noteForm, fault: faultForm, again: againForm })[open.kind](c, m));
}

function write(candidate, kind) {
  open = open?.candidate === candidate && open.kind === kind ? null : { candidate, kind };
  draw();
  place.querySelector(".wide input, .wide select, .wide button")?.focus();
}

/** againForm asks why a line is asked for again, for one candidate alone. */
function againForm(c) {
  return el("div", { className: "wide ticks", role: "group", "aria-label": phrase("askagain", { name: c.name }) }, state.words.agains.map((x) => el("button", { type: "button", className: "tick", onclick: () => askAgain(c, x.value) }, x.label)),
    el("button", { className: "button is-quiet", type: "button", onclick: close }, phrase("leaveit")));
}

function close() {
  open = null;
  draw();
  place.querySelector("h1")?.focus({ preventScroll: true });
}

function noteForm(c, m) {
  const id = `note-${c.id}`;
  const field = el("input", { className: "input", id, maxLength: 300, value: m?.note ?? "", "data-keep": `note ${c.id}` });
  return el("form", { className: "wide", onsubmit: (e) => { e.preventDefault(); put(c.id, shows(c, state.items[item]), { note: field.value.trim() }); close(); } },
    el("div", { className: "entry" }, el("label", { for: id }, phrase("noteon", { name: c.name })), field),
    el("button", { className: "button is-primary" }, phrase("keepnote")), el("button", { className: "button is-quiet", type: "button", onclick: close }, phrase("leaveit")));
}

function faultForm(c) {
  const conduct = el("select", { id: `conduct-${c.id}`, "data-keep": `conduct ${c.id}` }, state.words.conducts.map((x) => el("option", { value: x.value }, x.label)));
  const kind = el("select", { id: `kind-${c.id}`, "data-keep": `kind ${c.id}` }, el("option", { value: "note" }, phrase("onlynote")), el("option", { value: "deduction" }, phrase("pointsoff")), el("option", { value: "ending" }, phrase("endsit")));
  const points = el("input", { className: "input", id: `points-${c.id}`, inputMode: "decimal", value: "1", "data-keep": `points ${c.id}` });
  const text = el("input", { className: "input", id: `text-${c.id}`, maxLength: 300, "data-keep": `text ${c.id}` });
  const said = el("p", { className: "said", role: "alert" });
  return el("form", { className: "wide", onsubmit: (e) => {
    e.preventDefault();
    const off = Number(points.value.trim().replace(",", "."));
    if (kind.value === "deduction" && !(off > 0 && off <= 1000)) { said.textContent = phrase("nodeduction", { what: points.value || phrase("nothing") }); return; }
    if (text.value.trim() === "" && conduct.value === "") { said.textContent = phrase("saywhat"); return; }
    const fault = { id: newID(), candidate: c.id, examiner, kind: kind.value, points: kind.value === "deduction" ? off : 0, conduct: conduct.value, text: text.value.trim(), supersedes: "" };
    open = null;
    layFault(fault);
    faults.put(fault);
    place.querySelector("h1")?.focus({ preventScroll: true });
  } }, el("div", { className: "entry" }, el("label", { for: `conduct-${c.id}` }, phrase("whatitwas", { name: c.name })), el("div", { className: "select" }, conduct)),
    el("div", { className: "entry" }, el("label", { for: `text-${c.id}` }, phrase("inwords")), text),
    el("div", { className: "entry" }, el("label", { for: `kind-${c.id}` }, phrase("it")), el("div", { className: "select" }, kind)),
    el("div", { className: "entry short" }, el("label", { for: `points-${c.id}` }, phrase("off")), points),
    el("button", { className: "button is-primary" }, phrase("notefault")), el("button", { className: "button is-quiet", type: "button", onclick: close }, phrase("leaveit")), said,
    el("p", { className: "caution" }, `⚠ ${phrase("headcontact")}`));
}

/** faultWords is what a fault says: in the words of who noted it, else what it is about. */
const faultWords = (f) => f.text || (state.words.conducts.find((x) => x.value === f.conduct)?.label ?? "");

/** settle withdraws a fault, or confirms as chief examiner that it ends the test. */
function settle(f, kind) {
  const end = { id: newID(), candidate: f.candidate, examiner, kind, points: 0, text: f.text, conduct: f.conduct, supersedes: f.id };
  layFault(end);
  faults.put(end);
}

/** chiefBox is what waits for the chief examiner: faults of the whole panel that would end a test. */
function chiefBox() {
  return (state.waiting ?? []).map((f) => el("p", { className: "wrong" }, `⚑ ${phrase("endsquestion", { name: state.candidates.find((c) => c.id === f.candidate)?.name ?? phrase("candidate"), what: faultWords(f) })} `,
    el("button", { className: "button is-small", type: "button", onclick: () => settle(f, "ending_confirmed") }, phrase("yeschief")), " ", el("button", { className: "button is-small is-quiet", type: "button", onclick: () => settle(f, "withdrawn") }, phrase("nowithdraw"))));
}

// ---- counting

const tallyName = (c, it) => `velvetladder.tally ${c} ${it}`;

/** countOf is the count under way for a candidate, as the device keeps it. */
function countOf(c, it) {
  const k = key(c, it);
  if (!tallies.has(k)) tallies.set(k, Number(localStorage.getItem(tallyName(c, it)) ?? 0));
  return tallies.get(k);
}

function count(c, it, by) {
  const n = Math.min(Math.max(countOf(c, it) + by, 0), 100000);
  tallies.set(key(c, it), n);
  localStorage.setItem(tallyName(c, it), n);
  draw();
}

/** stepOf is the step of a line a count has reached; the steps rise. */
const stepOf = (l, n) => l.steps.findLast((s) => s.from <= n);

/** withN puts a number into a sentence of the page. */
const withN = (text, n) => text.replace("{n}", n);

/** tickBox is what is ticked of a candidate's free choice when it is seen. */
function tickBox(c, it, m) {
  const all = it.ticks?.[c.id];
  if (!all?.length) return "";
  return ticks({ all, ticked: m?.ticked, name: c.name, at: c.id, disabled: state.signed, changed: (now) => { put(c.id, shows(c, it), { ticked: now }); draw(); } });
}

/** tallyBox counts press-ups or skips: the pace against what is asked, and the mark the rung's table gives. */
function tallyBox(c, it, m) {
  const l = it.lines.length === 1 ? it.lines[0] : null;
  if (!l?.steps?.length || state.signed) return "";
  const id = shows(c, it), n = countOf(c.id, id), step = stepOf(l, n);
  return el("div", { className: "tally" },
    el("button", { type: "button", className: "tally-add", "data-focus": `${c.id}tally`, "aria-label": phrase("countone", { name: c.name }), onclick: () => count(c.id, id, 1) }, el("b", {}, String(n)), el("span", {}, phrase("count"))),
    el("button", { type: "button", className: "button is-small", "data-focus": `${c.id}less`, "aria-label": phrase("oneless", { name: c.name }), onclick: () => count(c.id, id, -1) }, "−1"),
    el("span", { className: "soft", "data-pace": "", "data-count": String(n) }, paceWords(l, n)),
    step.next > 0 && el("span", { className: "soft" }, withN(step.more, step.next - n)),
    step.mark !== null && el("button", { type: "button", className: "button is-small is-primary", "data-focus": `${c.id}take`, onclick: () => { seat = state.candidates.indexOf(c); chosen = true; enter({ kind: "mark", value: step.mark, count: n }); } }, withN(step.take, n)),
    step.below && n > 0 && el("span", { className: "soft" }, state.words.tally.below));
}

/** paceWords is where a count stands against what is asked, by the ring's clock. */
function paceWords(l, n) {
  const step = stepOf(l, n), spent = spentOf(ring.clock, time.now());
  if (!step?.beats?.length || spent === 0) return step?.aim ?? "";
  const by = n - step.beats.filter((ms) => ms <= spent).length, said = state.words.tally;
  return `${step.going}; ${by === 0 ? said.onPace : by > 0 ? withN(said.ahead, by) : withN(said.behind, -by)}`;
}

function legend() {
  const k = (x) => el("kbd", {}, x), some = (...parts) => el("span", {}, parts);
  const values = state.scale.marks.map((x) => x.value), digits = values.filter((v) => v <= 9), faults = faultsOf(state.items[item]).slice(0, faultKeys.length);
  return el("p", { className: "legend" }, digits.length > 0 && some(k(String(digits[0])), digits.length > 1 && ["–", k(String(digits.at(-1)))], values.includes(10) && k("X"), ` ${phrase("legendmark")}`),
    state.scale.halves && some(k("."), ` ${phrase("legendhalf")}`), some(k("N"), ` ${phrase("legendunseen")}`), some(k("⌫"), ` ${phrase("legendback")}`), some(k("A"), ` ${phrase("again")}`),
    faults.length > 0 && some(k("Q"), faults.length > 1 && ["–", k(faultKeys[faults.length - 1].toUpperCase())], ` ${phrase("legendfault")}`), some(k("F"), ` ${phrase("legendconduct")}`), some(k("M"), ` ${phrase("note")}`),
    some(k("↑"), k("↓"), ` ${phrase("legendchange")}`), some(k("←"), k("→"), ` ${phrase("legendline")}`));
}

// ---- keys

for (let n = 0; n <= 9; n++) bind(String(n), phrase("keymark", { n }), () => mark(n));
bind("x", phrase("keymark", { n: 10 }), () => mark(10));
bind(".", phrase("keyhalf"), () => half());
for (const [i, letter] of faultKeys.entries()) bind(letter, phrase("keyfaultof", { n: i + 1 }), () => noteFault(faultsOf(state.items[item])[i]));
bind("a", phrase("keyagain"), () => {
  const c = noting();
  if (c && !state.signed && given(markOf(c.id, shows(c, state.items[item])))) write(c.id, "again");
});
bind("n", phrase("legendunseen"), notSeen);
bind("f", phrase("keyfault"), () => noting() && write(noting().id, "fault"));
bind("m", phrase("keynote"), () => noting() && write(noting().id, "note"));
bind("Backspace", phrase("keyback"), takeBack);
bind("ArrowRight", phrase("keynext"), () => line(1));
bind("ArrowLeft", phrase("keybefore"), () => line(-1));
bind("ArrowDown", phrase("keybelow"), () => step(1));
bind("ArrowUp", phrase("keyabove"), () => step(-1));

bind("g", phrase("keycaller"), () => document.querySelector("[data-called]:not([hidden]) button")?.click());
bind("c", phrase("keycount"), () => place.querySelectorAll(".candidate")[seat]?.querySelector(".tally-add")?.click());
bind("s", phrase("keysound"), () => {
  localStorage.setItem(soundKey, localStorage.getItem(soundKey) === "on" ? "off" : "on");
  cues.tone(660, false);
});

// A sheet is signed on the server: what waits has to be there first. What is missing is said, and gone to.
document.querySelector("[data-sign]")?.addEventListener("submit", (e) => {
  const missing = state.items.findIndex(unfinished), asked = state.items.some((it) => state.candidates.some((c) => markOf(c.id, shows(c, it))?.again));
  if (missing >= 0 && (asked || !e.target.elements.fill.checked)) {
    e.preventDefault();
    const left = state.items.reduce((n, it) => n + state.candidates.filter((c) => shows(c, it) && !settled(markOf(c.id, shows(c, it)))).length, 0);
    line(missing - item);
    const early = document.querySelector("[data-sign-said]");
    early.hidden = false;
    early.textContent = withN(state.words.early[left === 1 ? 0 : 1], left);
    return;
  }
  const n = queue.waiting.length + faults.waiting.length;
  const said = document.querySelector("[data-sign-said]");
  said.hidden = n === 0 && navigator.onLine;
  if (said.hidden) return;
  e.preventDefault();
  said.textContent = n > 0 ? withN(state.words.waits[n === 1 ? 0 : 1], n) : phrase("signlater");
}, true);

window.addEventListener("beforeunload", (e) => { if (!queue.safe && queue.waiting.length > 0) e.preventDefault(); });
const clock = document.querySelector("[data-clock]");
const ringClock = document.querySelector("[data-ring-clock]");
function tick() {
  clock.textContent = new Date(time.now()).toTimeString().slice(0, 5);
  ringClock.hidden = !ring.clock?.seconds;
  ringClock.textContent = words(ring.clock, time.now());
  ringClock.classList.toggle("closing", read(ring.clock, time.now()).closing);
  cues.follow(ring.clock, time.now());
  for (const p of place.querySelectorAll("[data-pace]")) p.textContent = paceWords(state.items[item].lines[0], Number(p.dataset.count));
}
setInterval(tick, 200);

begin().then(tick).catch((e) => { kept.textContent = phrase("unread"); tell(`${phrase("unread")} ${e.message}`); });
offline([`${address}/state`, "/kept", ...(document.getElementById("main").dataset.seated ? ["/join"] : [])]);
