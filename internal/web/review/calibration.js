import { bind } from "./lib/shell.js";
import { el, newID } from "./lib/dom.js";
import { Queue, offline, sayKept } from "./lib/queue.js";
import { phrase } from "./lib/phrase.js";

// A calibration marked: one line after the other, then oneself beside the others. Marks wait on the device without
// network, as they do at a grading.

const main = document.getElementById("main");
const sheet = main.dataset.sheet ? JSON.parse(main.dataset.sheet) : null;
const at = (name) => main.querySelector(`[data-${name}]`);
const address = `/calibration/${sheet?.id}`;
const nameKey = `velvetladder.calibration ${sheet?.id}`;
const places = (sheet?.performances ?? []).flatMap((_, p) => sheet.lines.map((_, i) => [p, i]));
const marks = new Map(); // "performance line" → the entry that stands
const key = (p, i) => `${p} ${i}`;
let who = "", here = 0, last = -1, closed = false;

const queue = sheet && new Queue(`${address}/marks`, {
  changed() { sayKept(at("kept"), [queue], phrase("stored")); draw(); },
  refused(m, why) {
    if (marks.get(key(m.performance, m.line))?.id === m.id) marks.delete(key(m.performance, m.line));
    const notice = el("p", { className: "wrong" }, `${why.problem} `, el("button", { type: "button", className: "button is-small", onclick: () => notice.remove() }, "✕"));
    at("notices").append(notice);
  },
  stored() { if (queue.waiting.length === 0 && left() === 0) beside(); },
});

const left = () => places.filter(([p, i]) => !marks.has(key(p, i)) || marks.get(key(p, i)).kind === "open").length;

function put(n, change) {
  const [performance, line] = places[n], old = marks.get(key(performance, line));
  const m = { id: newID(), who, performance, line, kind: "open", value: 0, ...change, supersedes: old?.id ?? "" };
  marks.set(key(performance, line), m);
  queue.put(m);
}

function give(change, n = here) {
  if (closed || n < 0 || n >= places.length) return;
  put(n, change);
  last = n;
  here = Math.min(n + 1, places.length - 1);
  draw(true);
}

function half() {
  const m = last >= 0 && marks.get(key(...places[last]));
  if (!sheet.halves || m?.kind !== "mark") return;
  const value = Number.isInteger(m.value) ? m.value + 0.5 : m.value - 0.5;
  if (value <= sheet.highest) put(last, { kind: "mark", value });
}

function draw(focus = false) {
  if (who === "") return;
  const n = left();
  at("left").textContent = closed ? phrase("closed") : n > 0 ? phrase("left", { n, of: places.length }) : phrase("done");
  const held = document.activeElement?.dataset?.place;
  at("lines").replaceChildren(...sheet.performances.map((name, p) => el("section", { "aria-label": name }, sheet.performances.length > 1 && el("h2", {}, name), el("ol", { className: "calibration-lines" }, sheet.lines.map((line, i) => {
    const k = p * sheet.lines.length + i, m = marks.get(key(p, i));
    const button = (label, title, on, change) => el("button", { type: "button", "aria-pressed": String(on && !queue.pending(m.id)), className: on && queue.pending(m.id) ? "pending" : "", disabled: closed, title, onclick: () => give(change, k) }, label);
    return el("li", { className: k === here ? "at" : "", tabIndex: -1, "data-place": String(k) }, el("span", {}, `${i + 1} `, el("bdi", {}, line)),
      el("div", { className: "marks-row", role: "group", "aria-label": phrase("group", { line, performance: name }) },
        sheet.marks.map((x) => { const on = m?.kind === "mark" && Math.floor(m.value) === x.value; return button(on && !Number.isInteger(m.value) ? `${x.value}½` : String(x.value), x.word, on, { kind: "mark", value: x.value }); }),
        button(phrase("unseen"), "", m?.kind === "not_seen", { kind: "not_seen" })));
  })))));
  if (focus || held !== undefined) at("lines").querySelector(`[data-place="${here}"]`)?.focus();
}

/** beside shows oneself beside who has finished too. */
async function beside() {
  try {
    const answer = await fetch(`${address}/state?who=${encodeURIComponent(who)}`, { headers: { "Content-Type": "application/json" } });
    const state = await answer.json();
    at("beside").hidden = !state.beside;
    if (!state.beside) return;
    const { Who, Rows } = state.beside;
    at("table").replaceChildren(el("table", { className: "table is-fullwidth compared" }, el("thead", {}, el("tr", {}, el("th", { scope: "col" }, phrase("line")), Who.map((x) => el("th", { scope: "col", className: "num" }, el("bdi", {}, x))))),
      el("tbody", {}, Rows.flatMap((r) => [r.First && sheet.performances.length > 1 && el("tr", {}, el("th", { scope: "rowgroup", colSpan: Who.length + 1 }, r.Performance)),
        el("tr", { className: r.Apart ? "apart-row" : "" }, el("td", {}, el("bdi", {}, r.Line), r.Apart && [" ", el("span", { className: "tag" }, phrase("apart"))]), r.Marks.map((m) => el("td", { className: "num" }, m || "·")))].filter(Boolean)))));
  } catch {
    // without network it is shown later
  }
}

async function begin(name) {
  who = name;
  localStorage.setItem(nameKey, who);
  marks.clear();
  let made = 0;
  try {
    const answer = await fetch(`${address}/state?who=${encodeURIComponent(who)}`, { headers: { "Content-Type": "application/json" } });
    const state = await answer.json();
    made = state.at;
    closed = state.closed;
    if (state.own.length > 0) who = state.own[0].who;
    for (const m of state.own) marks.set(key(m.performance, m.line), m);
  } catch {
    // without network: what waits here
  }
  for (const m of await queue.open(made)) if (m.who === who) marks.set(key(m.performance, m.line), m);
  at("who").hidden = true;
  at("marking").hidden = false;
  at("name").textContent = who;
  at("half").hidden = !sheet.halves;
  here = Math.max(places.findIndex(([p, i]) => !marks.has(key(p, i))), 0);
  draw(true);
  if (left() === 0) beside();
}

if (sheet) {
  at("who").addEventListener("submit", (e) => {
    e.preventDefault();
    const name = e.target.elements.who.value.trim().replace(/\s+/g, " ");
    if (name) begin(name);
  });
  at("other").addEventListener("click", () => { localStorage.removeItem(nameKey); location.reload(); });
  for (let n = 0; n <= 9; n++) bind(String(n), phrase("keymark", { n }), () => sheet.marks.some((x) => x.value === n) && give({ kind: "mark", value: n }));
  bind("x", phrase("keymark", { n: 10 }), () => sheet.marks.some((x) => x.value === 10) && give({ kind: "mark", value: 10 }));
  bind(".", phrase("keyhalf"), half);
  bind("n", phrase("keyunseen"), () => give({ kind: "not_seen" }));
  bind("ArrowDown", phrase("keynext"), () => { here = Math.min(here + 1, places.length - 1); draw(true); });
  bind("ArrowUp", phrase("keybefore"), () => { here = Math.max(here - 1, 0); draw(true); });
  const known = localStorage.getItem(nameKey);
  if (known) begin(known);
  offline(["/kept"]);
}
