import { bind } from "./lib/shell.js";
import { el, newID } from "./lib/dom.js";
import { Queue, offline } from "./lib/queue.js";
import { phrase } from "./lib/phrase.js";
import { ticks } from "./lib/ticks.js";

// A paper sheet typed in: a grid of a row a line and a column a candidate. A key gives a mark and
// moves on. A second reading is held against the first, and what differs is marked.

const [, , examiner, group] = location.pathname.split("/");
const table = `/scoring/${examiner}/${group}`;
const twice = document.getElementById("main").dataset.twice === "1";
const grid = document.querySelector("[data-grid]");
const kept = document.querySelector("[data-kept]");
const notices = document.querySelector("[data-notices]");
const secondKey = `velvetladder.second ${examiner} ${group}`;

let state, row = 0, column = 0;
let full = false; // the last cell was typed: a further key types nothing over it
const marks = new Map();
const second = new Map(Object.entries(JSON.parse(localStorage.getItem(secondKey) ?? "{}"))); // what was typed a second time
const key = (c, it) => `${c} ${it}`;
const differed = new Set();

const queue = new Queue(`${table}/marks?paper=1`, {
  changed() { queue.say(kept); draw(); },
  refused(m, why) {
    if (why.current) marks.set(key(m.candidate, m.item), why.current);
    else if (marks.get(key(m.candidate, m.item))?.id === m.id) marks.delete(key(m.candidate, m.item));
    const notice = el("p", { className: "wrong" }, `${why.problem} `, el("button", { type: "button", className: "button is-small", onclick: () => notice.remove() }, phrase("seen")));
    notices.append(notice);
  },
});

const idAt = (r, c) => state.items[r]?.ids[state.candidates[c]?.id];
const words = (m) => (!m || m.kind === "open" ? "" : m.kind === "not_seen" ? "–" : String(m.value).replace(".5", "½"));
const typedWords = (t) => (t === undefined ? "" : t === "n" ? "–" : String(t).replace(".5", "½"));
const differs = (c, it) => {
  const t = second.get(key(c, it)), m = marks.get(key(c, it));
  return t !== undefined && typedWords(t) !== words(m);
};

/** put changes what stands at a place: the mark, or what is ticked. What is not named stays as it was. */
function put(candidate, item, change) {
  const old = marks.get(key(candidate, item));
  const m = { kind: "open", value: 0, note: "", ...old, ...change, id: newID(), candidate, examiner, item, supersedes: old?.id ?? "" };
  if (words(old) === words(m) && (old?.ticked ?? "") === (m.ticked ?? "")) return; // as it stands
  marks.set(key(candidate, item), m);
  queue.put(m);
}

/** read is a mark as it was typed. */
const read = (value) => ({ kind: value === "n" ? "not_seen" : value === "" ? "open" : "mark", value: typeof value === "number" ? value : 0 });

/** type takes a mark for the cell in focus and moves on. */
function type(value, on = true) {
  const it = idAt(row, column), c = state.candidates[column]?.id;
  if (!it || state.signed || full) return;
  if (typeof value === "number" && (value > state.scale.highest || !state.scale.marks.some((s) => s.value === Math.floor(value)))) return;
  if (twice) {
    second.set(key(c, it), value);
    if (differs(c, it)) differed.add(key(c, it));
    localStorage.setItem(secondKey, JSON.stringify(Object.fromEntries(second)));
  } else put(c, it, read(value));
  if (on) move(1);
  else draw();
}

/** half adds half a point to the cell just typed. */
function half() {
  if (!state.scale.halves) return;
  const [r, c] = full ? [row, column] : before(row, column), it = idAt(r, c), who = state.candidates[c]?.id;
  const now = twice ? second.get(key(who, it)) : marks.get(key(who, it))?.kind === "mark" ? marks.get(key(who, it)).value : undefined;
  if (typeof now !== "number" || now >= state.scale.highest) return;
  const stay = [row, column];
  [row, column] = [r, c];
  const end = full;
  full = false;
  type(Number.isInteger(now) ? now + 0.5 : now - 0.5, false);
  [row, column] = stay;
  full = end;
  draw();
}

function before(r, c) {
  do {
    c -= 1;
    if (c < 0) { c = state.candidates.length - 1; r -= 1; }
  } while (r >= 0 && !idAt(r, c));
  return r < 0 ? [row, column] : [r, c];
}

/** move goes to the next cell that is asked, or the one before. */
function move(by) {
  full = false;
  if (by < 0) [row, column] = before(row, column);
  else {
    let r = row, c = column;
    do {
      c += 1;
      if (c >= state.candidates.length) { c = 0; r += 1; }
    } while (r < state.items.length && !idAt(r, c));
    if (r < state.items.length) [row, column] = [r, c];
    else full = true;
  }
  draw(true);
}

function draw(focus = false) {
  if (!state) return;
  const had = grid.contains(document.activeElement);
  grid.replaceChildren(grid.caption ?? el("caption", { className: "unseen" }, phrase("marks")),
    el("thead", {}, el("tr", {}, el("th", { scope: "col" }, phrase("line")), state.candidates.map((c) => el("th", { scope: "col" }, `${c.number} `, el("bdi", {}, c.name))))),
    el("tbody", {}, state.items.map((it, r) => el("tr", {}, el("th", { scope: "row" }, `${it.number} ${it.label}`),
      state.candidates.map((c, k) => {
        const id = it.ids[c.id];
        if (!id) return el("td", { className: "soft" }, phrase("notasked"));
        const m = marks.get(key(c.id, id)), first = words(m), t = second.get(key(c.id, id)), off = twice && differs(c.id, id);
        const here = r === row && k === column;
        return el("td", { className: off ? "differs" : "" },
          el("button", { type: "button", tabIndex: here ? 0 : -1, className: ["cell", here && "at", queue.pending(m?.id) && "pending"].filter(Boolean).join(" "), "data-cell": `${r} ${k}`, "aria-label": `${it.label}, ${c.name}: ${(twice ? typedWords(t) : first) || phrase("empty")}`, onclick: () => { row = r; column = k; full = false; draw(true); } }, (twice ? typedWords(t) : first) || "·"),
          off && el("span", { className: "choose" }, `${phrase("first")} `, el("b", {}, first || phrase("empty")), " ", el("button", { type: "button", className: "button is-small", onclick: () => { second.set(key(c.id, id), m?.kind === "not_seen" ? "n" : m?.kind === "mark" ? m.value : ""); save(); } }, phrase("keep", { what: first || phrase("empty") })), el("button", { type: "button", className: "button is-small", onclick: () => { put(c.id, id, read(t)); save(); } }, phrase("take", { what: typedWords(t) }))));
      })))));
  drawTicks();
  const all = state.items.reduce((n, it) => n + state.candidates.filter((c) => it.ids[c.id]).length, 0);
  const have = twice ? second.size : [...marks.values()].filter((m) => m.kind !== "open").length;
  const open = twice ? state.items.reduce((n, it) => n + state.candidates.filter((c) => it.ids[c.id] && differs(c.id, it.ids[c.id])).length, 0) : 0;
  document.querySelector("[data-sum]").textContent = `${phrase(twice ? "typedtwice" : "typed", { n: have, of: all, differed: differed.size, open })}${state.signed ? ` ${phrase("signed")}` : ""}`;
  const checked = document.querySelector("[data-checked]");
  if (checked) { checked.elements.typed.value = second.size; checked.elements.differed.value = differed.size; }
  if (focus || had) grid.querySelector(".cell.at")?.focus({ preventScroll: !focus });
}

/** drawTicks shows what is ticked of a free choice at the cell in focus; the first reading says what was seen. */
function drawTicks() {
  const box = document.querySelector("[data-ticks]"), it = state.items[row], c = state.candidates[column], id = idAt(row, column);
  const all = id ? it.ticks?.[c.id] ?? [] : [], had = box.contains(document.activeElement) && document.activeElement.dataset.focus;
  box.replaceChildren();
  box.hidden = !state.items.some((x) => x.ticks);
  if (all.length === 0) return;
  box.append(el("p", {}, phrase("ticksof", { line: it.label, name: c.name })), ticks({ all, ticked: marks.get(key(c.id, id))?.ticked, name: c.name, at: "", disabled: state.signed || twice, changed: (ticked) => { put(c.id, id, { ticked }); draw(); } }));
  if (had) box.querySelector(`[data-focus="${had}"]`)?.focus({ preventScroll: true });
}

function save() {
  localStorage.setItem(secondKey, JSON.stringify(Object.fromEntries(second)));
  draw(true);
}

for (let n = 0; n <= 9; n++) bind(String(n), phrase("keymark", { n }), () => type(n));
bind("x", phrase("keymark", { n: 10 }), () => type(10));
bind(".", phrase("keyhalf"), half);
bind("n", phrase("keyunseen"), () => type("n"));
bind("Backspace", phrase("keyback"), () => { if (full) full = false; else move(-1); if (twice) { second.delete(key(state.candidates[column].id, idAt(row, column))); save(); } else type("", false); });
bind("t", phrase("keyticks"), () => document.querySelector("[data-ticks] .tick:not(:disabled)")?.focus());
bind("g", phrase("keygrid"), () => grid.querySelector(".cell.at")?.focus());
bind("ArrowRight", phrase("keynext"), () => move(1));
bind("ArrowLeft", phrase("keybefore"), () => move(-1));
bind("ArrowDown", phrase("keybelow"), () => { full = false; row = Math.min(row + 1, state.items.length - 1); draw(true); });
bind("ArrowUp", phrase("keyabove"), () => { full = false; row = Math.max(row - 1, 0); draw(true); });

async function begin() {
  const answer = await fetch(`${table}/state`, { headers: { "Content-Type": "application/json" } });
  const fresh = await answer.json();
  if (!answer.ok) throw new Error(fresh.problem);
  for (const m of fresh.marks) marks.set(key(m.candidate, m.item), m);
  for (const m of await queue.open(fresh.at)) marks.set(key(m.candidate, m.item), m);
  state = fresh;
  // Begin at the first cell that is empty.
  outer: for (let r = 0; r < state.items.length; r++) {
    for (let c = 0; c < state.candidates.length; c++) {
      const id = idAt(r, c), k = id && key(state.candidates[c].id, id);
      if (id && (twice ? !second.has(k) : !words(marks.get(k)))) { [row, column] = [r, c]; break outer; }
    }
  }
  const k = (x) => el("kbd", {}, x);
  document.querySelector("[data-legend]").replaceChildren(el("span", {}, k(String(state.scale.marks[0].value)), "–", k(String(Math.min(state.scale.highest, 9))), state.scale.highest === 10 && k("X"), ` ${phrase("legendmark")}`), el("span", {}, k("N"), ` ${phrase("legendunseen")}`), el("span", {}, state.scale.halves && k("."), state.scale.halves && ` ${phrase("legendhalf")}`), el("span", {}, k("⌫"), ` ${phrase("legendback")}`), ...(state.items.some((it) => it.ticks) ? [el("span", {}, k("T"), ` ${phrase("legendticks")}`)] : []));
  queue.changed();
  draw(true);
}
begin().catch((e) => { kept.textContent = phrase("unread"); notices.append(el("p", { className: "wrong" }, e.message)); });
offline();
