import "./lib/shell.js";
import { el } from "./lib/dom.js";
import { listen } from "./lib/stream.js";
import { ServerTime, words } from "./lib/ringclock.js";
import { phrase } from "./lib/phrase.js";

// The head table: filled by the server, kept up to date by what it is told. Marks are not told.

const grading = location.pathname.split("/")[2];
const sign = document.querySelector("[data-live]");
const time = new ServerTime();
time.measure();
let rings = {};

function show(told) {
  time.hint(told.now);
  rings = told.rings;
  document.querySelector("[data-marks]").textContent = told.marks;
  const bar = document.querySelector("[data-bar]");
  bar.max = Math.max(told.of, 1);
  bar.value = told.marks;
  document.querySelector("[data-finished]").hidden = !told.finished;
  document.querySelector("[data-faults]").replaceChildren(...told.faults.map((f) => el("p", { className: "wrong" }, `⚑ ${phrase("ending", { name: f.name, examiner: f.examiner, text: f.text })}`)));
  for (const box of document.querySelectorAll("[data-group]")) {
    const g = told.groups[box.dataset.group];
    if (!g) continue;
    box.dataset.stage = g.stage;
    box.querySelector("[data-words]").textContent = g.words;
    box.querySelector("[data-again]").replaceChildren(...g.again.map((x) => el("p", { className: "again" }, `↻ ${x}`)), ...g.half.map((x) => el("p", { className: "soft" }, `◐ ${x}.`)));
  }
  for (const row of document.querySelectorAll("[data-table]")) {
    const t = told.tables[row.dataset.table];
    if (!t) continue;
    const meter = row.querySelector("[data-given]");
    meter.max = Math.max(t.of, 1);
    meter.value = t.given;
    row.querySelector("[data-at]").textContent = t.signed ? phrase("signed") : t.absent ? phrase("absent") : t.given ? phrase(t.line ? "at" : "given", { line: t.line, called: t.called, n: t.given, of: t.of }) : phrase("notbegun");
    const on = told.attend[row.dataset.examiner] > 0;
    const dot = row.querySelector("[data-online]");
    dot.textContent = on ? "●" : "○";
    dot.title = phrase(on ? "online" : "offline");
  }
  for (const box of document.querySelectorAll("[data-ring]")) {
    const call = rings[box.dataset.ring]?.call;
    const group = call?.group && box.querySelector(`[data-group="${call.group}"] strong`)?.textContent;
    const line = told.groups[call?.group]?.called;
    box.querySelector("[data-ring-call]").textContent = group && line ? phrase("caller", { line, group }) : "";
  }
  tick();
}

function tick() {
  for (const box of document.querySelectorAll("[data-ring]")) box.querySelector("[data-ring-clock]").textContent = words(rings[box.dataset.ring]?.clock, time.now());
}

listen(`/head/${grading}/live`, show, (on) => { sign.textContent = phrase(on ? "live" : "lost"); });
setInterval(tick, 250);
