import { bind } from "./lib/shell.js";
import { el, svg, newID } from "./lib/dom.js";

// The scoring table: a shell that is filled from the table's state. A mark is shown dashed
// until the server says that it is on the disk, and filled from then on.

const address = location.pathname.replace(/\/$/, "");
const [, , examiner] = address.split("/");
const place = document.querySelector("[data-line]");
const list = document.querySelector("[data-lines]");
const kept = document.querySelector("[data-kept]");
const retryAfter = 1500; // ms between tries while the server cannot be reached

let state, item = 0, seat = 0, last = null;
const marks = new Map(); // "candidate item" → the entry that stands, with pending: not yet stored
const queue = [];
let sending = false, lost = false, open = null; // open: {candidate, kind} of a note or fault being written

const key = (candidate, it) => `${candidate} ${it}`;
const markOf = (candidate, it) => marks.get(key(candidate, it));
const given = (m) => m && m.kind !== "open";

async function load() {
  const answer = await fetch(`${address}/state`);
  state = await answer.json();
  marks.clear();
  for (const m of state.marks) marks.set(key(m.candidate, m.item), m);
  const first = state.items.findIndex((it) => state.candidates.some((c) => shows(c, it) && !given(markOf(c.id, shows(c, it)))));
  item = first < 0 ? 0 : first;
  seat = Math.max(unmarked(0), 0);
  say();
  draw();
}

/** unmarked is the first candidate from a seat on, around the row, without a mark on this line; -1 for none. */
function unmarked(from) {
  const n = state.candidates.length;
  for (let i = 0; i < n; i++) {
    const c = state.candidates[(from + i) % n], id = shows(c, state.items[item]);
    if (id && !given(markOf(c.id, id))) return (from + i) % n;
  }
  return -1;
}

/** shows is the id an item has on a candidate's sheet; undefined where it is not asked of them. */
const shows = (c, it) => it.ids[c.id];

function say() {
  const waiting = queue.length;
  kept.classList.toggle("waiting", waiting > 0 && lost);
  kept.textContent = state.signed ? "● signed" : waiting === 0 ? "◉ all marks stored" : lost ? `◌ ${waiting} kept here: no connection, trying again` : `◌ storing ${waiting}`;
}

// ---- marks

/** put gives a mark, replacing the one that stands. */
function put(candidate, it, kind, value = 0, note = undefined) {
  if (state.signed) return;
  const old = markOf(candidate, it);
  const m = { id: newID(), candidate, examiner, item: it, kind, value: kind === "mark" ? value : 0, note: note ?? old?.note ?? "", supersedes: old?.id ?? "" };
  marks.set(key(candidate, it), { ...m, pending: true });
  queue.push(m);
  say();
  draw();
  send();
}

async function send() {
  if (sending) return;
  sending = true;
  while (queue.length > 0) {
    const m = queue[0];
    let answer;
    try {
      answer = await fetch(`${address}/marks`, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ marks: [m] }) });
    } catch {
      lost = true;
      say();
      await new Promise((done) => setTimeout(done, retryAfter));
      continue;
    }
    lost = false;
    queue.shift();
    const standing = markOf(m.candidate, m.item);
    if (answer.ok) {
      if (standing?.id === m.id) standing.pending = false;
    } else {
      await refused(m, await answer.json().catch(() => ({ problem: "The server could not store this mark." })));
    }
    say();
    draw();
  }
  sending = false;
}

/** refused shows what stands instead of a mark that was not taken. */
async function refused(m, why) {
  for (let i = queue.length - 1; i >= 0; i--) if (queue[i].candidate === m.candidate && queue[i].item === m.item) queue.splice(i, 1);
  if (why.current) marks.set(key(m.candidate, m.item), why.current);
  else marks.delete(key(m.candidate, m.item));
  const notice = el("p", { className: "wrong", role: "alert" }, `${why.problem} `, el("button", { className: "button is-small", type: "button", onclick: () => location.reload() }, "Load the sheet again"));
  place.before(notice);
}

/** mark gives a whole mark to the candidate in focus and moves on. */
function mark(value) {
  const c = state.candidates[seat], id = c && shows(c, state.items[item]);
  if (!id || !state.scale.marks.some((s) => s.value === value)) return;
  last = { candidate: c.id, item: id };
  put(c.id, last.item, "mark", value);
  advance();
}

function notSeen() {
  const c = state.candidates[seat], id = c && shows(c, state.items[item]);
  if (!id) return;
  last = null;
  put(c.id, id, "not_seen");
  advance();
}

/** half adds half a point to the mark just given, or takes it away again. */
function half(candidate = last?.candidate) {
  if (!state.scale.halves || !candidate) return;
  const m = markOf(candidate, state.items[item].ids[candidate]);
  if (m?.kind !== "mark") return;
  const value = Number.isInteger(m.value) ? m.value + 0.5 : m.value - 0.5;
  if (value <= state.scale.highest) put(candidate, m.item, "mark", value);
}

/** advance moves on after a mark: to who has none yet, else to the next in the row, else to the next line's button. */
function advance() {
  const open = unmarked(seat + 1);
  if (open >= 0) seat = open;
  else if (seat + 1 < state.candidates.length) seat += 1;
  else {
    draw();
    place.querySelector("[data-next]")?.focus();
    return;
  }
  draw();
}

function line(by) {
  item = Math.min(Math.max(item + by, 0), state.items.length - 1);
  seat = Math.max(unmarked(0), 0);
  last = open = null;
  draw();
  place.querySelector("h1")?.focus({ preventScroll: true });
}

// ---- drawing

function draw() {
  const held = document.activeElement?.dataset?.focus;
  const fields = [...place.querySelectorAll("[data-keep]")].map((f) => [f.dataset.keep, f.value]);
  drawLines();
  const it = state.items[item];
  const single = it.lines.length === 1 ? it.lines[0] : null;
  const minutes = Math.floor(it.lines.reduce((n, l) => n + l.seconds, 0) / 60), seconds = it.lines.reduce((n, l) => n + l.seconds, 0) % 60;
  place.replaceChildren(
    el("p", { className: "over" }, [`Line ${item + 1} of ${state.items.length}`, it.section, single ? (single.called ? `${single.amount}, call ${single.called}` : single.amount) : `${it.lines.length} prompts, one mark after the last`, `${minutes ? `${minutes} m ` : ""}${seconds} s`].join(" · "),
      it.mustPass && el("span", { className: "tag must" }, "must pass"), it.bonus && el("span", { className: "tag" }, "bonus")),
    el("h1", { tabIndex: -1 }, it.label, single?.term ? el("small", {}, ` ${single.term}`) : ""),
    manner(single),
    prompts(it, single),
    hints(it),
    ...state.candidates.map(candidateRow),
    el("div", { className: "next" }, legend(), item + 1 < state.items.length
      ? el("button", { className: "button is-primary", type: "button", "data-next": "", "data-focus": "next", onclick: () => line(1) }, `Next: ${state.items[item + 1].label} →`)
      : el("button", { className: "button is-primary", type: "button", "data-next": "", "data-focus": "next", onclick: () => document.querySelector("[data-sign] button")?.focus() }, "To the signature")),
  );
  for (const [name, value] of fields) {
    const f = place.querySelector(`[data-keep="${name}"]`);
    if (f) f.value = value;
  }
  if (held) place.querySelector(`[data-focus="${held}"]`)?.focus({ preventScroll: true });
}

function drawLines() {
  let left = 0;
  list.replaceChildren(...state.items.map((it, i) => {
    const missing = state.candidates.filter((c) => shows(c, it) && !given(markOf(c.id, shows(c, it)))).length;
    left += missing;
    return el("li", i === item ? { "aria-current": "true" } : {}, el("button", { type: "button", onclick: () => line(i - item) },
      el("span", {}, String(i + 1)), el("span", {}, it.label),
      el("span", { "aria-label": missing === 0 ? "all marked" : `${missing} to mark` }, missing === 0 ? "✓" : missing < state.candidates.length ? String(missing) : "")));
  }));
  list.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest" });
  const told = document.querySelector("[data-left]");
  if (told) told.textContent = left === 0 ? "Every line is marked." : `${left} ${left === 1 ? "mark" : "marks"} still to be given.`;
  const fill = document.querySelector("[data-fill]");
  if (fill) fill.hidden = left === 0;
}

function prompts(it, single) {
  if (!single) return el("ol", { className: "prompts" }, it.lines.map((l) => el("li", {}, el("b", {}, l.call), el("span", {}, [l.amount, l.detail].filter(Boolean).join(" · ")))));
  if (single.moves?.length) return el("ol", { className: "prompts" }, single.moves.map((m) => el("li", { className: m.count % 2 ? "" : "even" }, el("b", {}, m.what), el("span", {}, m.how ?? ""))));
  return single.detail ? el("p", { className: "lead" }, single.detail) : "";
}

/** manner is how a line is done and what counts: slowly, at least mid, from which count on which mark. */
function manner(single) {
  const words = [single?.manner, ...(single?.standard ?? [])].filter(Boolean);
  return words.length > 0 ? el("p", { className: "manner" }, words.join(" · ")) : "";
}

function hints(it) {
  const answers = [...new Set(it.lines.flatMap((l) => l.answers ?? []))];
  const look = it.lines.flatMap((l) => l.look ?? []), faults = it.lines.flatMap((l) => l.faults ?? []), cautions = [...new Set(it.lines.flatMap((l) => l.cautions ?? []))];
  return el("div", {}, el("div", { className: "hints" },
    look.length > 0 && el("div", {}, el("h2", {}, "Look for"), el("ul", {}, look.slice(0, 6).map((x) => el("li", {}, x)))),
    faults.length > 0 && el("div", {}, el("h2", {}, "Common faults"), el("ul", {}, faults.slice(0, 6).map((x) => el("li", {}, x.seen)))),
    answers.length > 0 && el("div", {}, el("h2", {}, "Accepted"), el("ul", {}, answers.map((x) => el("li", {}, x))))),
  cautions.map((x) => el("p", { className: "caution" }, `⚠ ${x}`)));
}

function candidateRow(c, i) {
  const it = state.items[item];
  if (!shows(c, it)) {
    return el("section", { className: "candidate", "aria-label": c.name }, el("span", { className: "nr" }, String(c.number)), el("div", {}, el("b", {}, el("bdi", {}, c.name)), svg(c.belt)),
      el("p", { className: "soft" }, "is not asked this line"));
  }
  const m = markOf(c.id, shows(c, it)), words = state.scale.marks.some((s) => s.word);
  const pressed = (value) => m?.kind === "mark" && Math.floor(m.value) === value;
  const press = (act) => () => { seat = i; act(); };
  const button = (on, label, word, fails, focus, act) => el("button", { type: "button", className: [on && m.pending && "pending", fails && "fails"].filter(Boolean).join(" "), "aria-pressed": on && !m.pending ? "true" : "false", disabled: state.signed, "data-focus": `${c.id}${focus}`, onclick: press(act) }, el("b", {}, label), " ", word && el("span", {}, word));
  const buttons = state.scale.marks.map((s) => {
    const on = pressed(s.value);
    return button(on, on && !Number.isInteger(m.value) ? `${s.value}½` : String(s.value), s.word, s.fails, s.value, () => mark(s.value));
  });
  if (state.scale.halves) buttons.push(button(false, "½", "more", false, "half", () => half(c.id)));
  const unseen = m?.kind === "not_seen";
  buttons.push(el("button", { type: "button", className: unseen && m.pending ? "pending" : "", "aria-pressed": unseen && !m.pending ? "true" : "false", disabled: state.signed, "data-focus": `${c.id}n`, onclick: press(notSeen) }, el("span", {}, "not seen")));
  const faults = state.faults.filter((f) => f.candidate === c.id);
  return el("section", { className: `candidate${state.scale.halves ? " points" : ""}${i === seat && !state.signed ? " at" : ""}`, "aria-label": c.name },
    el("span", { className: "nr" }, String(c.number)),
    el("div", {}, el("b", {}, el("bdi", {}, c.name)), el("span", { className: "unseen" }, c.rank), svg(c.belt)),
    el("div", { className: `marks-row${words ? " words" : ""}`, role: "group", "aria-label": `Marks for ${c.name}` }, buttons),
    el("div", { className: "more" }, !state.signed && el("button", { type: "button", "data-focus": `${c.id}f`, onclick: () => write(c.id, "fault") }, "⚑ fault"), !state.signed && el("button", { type: "button", className: "note", "data-focus": `${c.id}m`, onclick: () => write(c.id, "note") }, "✎ note")),
    it.own?.[c.id] && el("p", { className: "remark own" }, `◈ ${it.own[c.id]}`),
    m?.note && el("p", { className: "remark" }, `✎ ${m.note}`),
    faults.map((f) => el("p", { className: "remark flagged" }, `⚑ ${f.kind === "deduction" ? `−${f.points}: ` : f.kind === "note" ? "" : "ends the test: "}${f.text}`, f.kind === "ending" ? " (the chief examiner confirms it at the review)" : "")),
    open?.candidate === c.id && (open.kind === "note" ? noteForm(c, m) : faultForm(c)));
}

function write(candidate, kind) {
  open = open?.candidate === candidate && open.kind === kind ? null : { candidate, kind };
  draw();
  place.querySelector(".wide input, .wide select")?.focus();
}

function close() {
  open = null;
  draw();
  place.querySelector("h1")?.focus({ preventScroll: true });
}

function noteForm(c, m) {
  const id = `note-${c.id}`;
  const field = el("input", { className: "input", id, maxLength: 300, value: m?.note ?? "" });
  return el("form", { className: "wide", onsubmit: (e) => { e.preventDefault(); put(c.id, shows(c, state.items[item]), m?.kind ?? "open", m?.value ?? 0, field.value.trim()); close(); } },
    el("div", { className: "entry" }, el("label", { for: id }, `Note on ${c.name}, this line`), field),
    el("button", { className: "button is-primary" }, "Keep the note"), el("button", { className: "button is-quiet", type: "button", onclick: close }, "Leave it"));
}

function faultForm(c) {
  const kind = el("select", { id: `kind-${c.id}`, "data-keep": "kind" }, el("option", { value: "note" }, "only a note"), el("option", { value: "deduction" }, "takes points off"), el("option", { value: "ending" }, "ends the test"));
  const points = el("input", { className: "input", id: `points-${c.id}`, inputMode: "decimal", value: "1", "data-keep": "points" });
  const text = el("input", { className: "input", id: `text-${c.id}`, maxLength: 300, "data-keep": "text" });
  const said = el("p", { className: "said", role: "alert" });
  const id = newID();
  return el("form", { className: "wide", onsubmit: async (e) => {
    e.preventDefault();
    const fault = { id, candidate: c.id, examiner, kind: kind.value, points: kind.value === "deduction" ? Number(points.value.replace(",", ".")) || 0 : 0, text: text.value.trim(), supersedes: "" };
    try {
      const answer = await fetch(`${address}/faults`, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(fault) });
      if (!answer.ok) { said.textContent = (await answer.json()).problem; return; }
    } catch {
      said.textContent = "There is no connection. The fault is still here; try again.";
      return;
    }
    state.faults.push(fault);
    close();
  } }, el("div", { className: "entry" }, el("label", { for: `text-${c.id}` }, `What was seen of ${c.name}`), text),
    el("div", { className: "entry" }, el("label", { for: `kind-${c.id}` }, "It"), el("div", { className: "select" }, kind)),
    el("div", { className: "entry" }, el("label", { for: `points-${c.id}` }, "Points"), points),
    el("button", { className: "button is-primary" }, "Note the fault"), el("button", { className: "button is-quiet", type: "button", onclick: close }, "Leave it"), said);
}

function legend() {
  const k = (x) => el("kbd", {}, x), top = state.scale.highest;
  const some = (...parts) => el("span", {}, parts);
  return el("p", { className: "legend" }, some(k("0"), "–", k(String(Math.min(top, 9))), top === 10 && k("X"), " mark and move on"), state.scale.halves && some(k("."), " half a point"),
    some(k("N"), " not seen"), some(k("F"), " fault"), some(k("M"), " note"), some(k("↑"), k("↓"), " candidate"), some(k("←"), k("→"), " line"));
}

// ---- keys

for (let n = 0; n <= 9; n++) bind(String(n), `mark ${n}`, () => mark(n));
bind("x", "mark 10", () => mark(10));
bind(".", "half a point more or less on the mark just given", () => half());
bind("n", "not seen", notSeen);
bind("f", "a fault of the candidate in focus", () => state.candidates[seat] && write(state.candidates[seat].id, "fault"));
bind("m", "a note on this line", () => state.candidates[seat] && write(state.candidates[seat].id, "note"));
bind("Backspace", "take the candidate's mark back", () => {
  const c = state.candidates[seat], it = c && shows(c, state.items[item]);
  if (it && given(markOf(c.id, it))) put(c.id, it, "open");
});
bind("ArrowRight", "the next line", () => line(1));
bind("ArrowLeft", "the line before", () => line(-1));
const step = (by) => { seat = Math.min(Math.max(seat + by, 0), state.candidates.length - 1); last = null; draw(); };
bind("ArrowDown", "the next candidate", () => step(1));
bind("ArrowUp", "the candidate before", () => step(-1));

window.addEventListener("beforeunload", (e) => { if (queue.length > 0) e.preventDefault(); });
const clock = document.querySelector("[data-clock]");
const tick = () => { clock.textContent = new Date().toTimeString().slice(0, 5); };
tick();
setInterval(tick, 5000);

load().catch(() => { kept.textContent = "The sheet could not be read. Load the page again."; });
