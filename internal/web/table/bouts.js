import "./lib/shell.js";
import { newID } from "./lib/dom.js";
import { Queue, offline } from "./lib/queue.js";
import { listen } from "./lib/stream.js";
import { ServerTime, read, words } from "./lib/ringclock.js";
import { phrase } from "./lib/phrase.js";

// Bouts: points and faults wait on the device without network, as marks do.

const main = document.getElementById("main");
const { ring, examiner } = main.dataset;
const kept = document.querySelector("[data-kept]");
const said = document.querySelector("[data-said]");
const time = new ServerTime();
let clock = JSON.parse(main.dataset.state).clock;

const told = (text) => { said.hidden = false; said.append(Object.assign(document.createElement("p"), { textContent: text })); };
const say = () => (faults.waiting.length > 0 ? faults : events).say(kept);
const pointsBack = new Set(); // points taken back on this page, which shows that already
const events = new Queue(`/bouts/${ring}/events`, {
  changed() { say(); },
  refused(e, why) { told(why.problem); undo(e); },
  stored(e) { if (e.kind === "ended" || (e.kind === "withdrawn" && !pointsBack.has(e.supersedes))) location.reload(); },
});
const faults = new Queue(`/bouts/${ring}/faults`, { changed() { say(); }, refused(f, why) { told(why.problem); }, stored(f) { if (f.conduct === "head") location.reload(); } });

const box = (bout) => document.querySelector(`[data-bout="${CSS.escape(bout)}"]`);
const all = new Map([...document.querySelectorAll("[data-bout]")].map((b) => [b.dataset.bout, JSON.parse(b.dataset.events)]));
const stateOf = (bout) => all.get(bout);

function draw(bout) {
  for (const side of ["a", "b"]) box(bout).querySelector(`[data-points="${side}"]`).textContent = stateOf(bout).filter((e) => e.kind === "point" && e.side === side).reduce((n, e) => n + e.points, 0);
}

function lay(e) {
  const list = stateOf(e.bout);
  if (!list) return;
  if (e.kind === "withdrawn") all.set(e.bout, list.filter((x) => x.id !== e.supersedes));
  else if (!list.some((x) => x.id === e.id)) list.push(e);
  draw(e.bout);
}

function undo(e) {
  all.set(e.bout, (stateOf(e.bout) ?? []).filter((x) => x.id !== e.id));
  draw(e.bout);
}

function put(bout, more) {
  const e = { id: newID(), bout, kind: "point", side: "", round: Number(box(bout).querySelector("[data-round]")?.value ?? 1), points: 0, text: "", supersedes: "", ...more };
  lay(e);
  events.put(e);
}

document.addEventListener("click", (e) => {
  const bout = e.target.closest("[data-bout]")?.dataset.bout, button = e.target.closest("button");
  if (!bout || !button) return;
  if (button.dataset.point) put(bout, { side: button.dataset.side, points: Number(button.dataset.point) });
  else if ("unpoint" in button.dataset) {
    const last = stateOf(bout).filter((x) => x.kind === "point" && x.side === button.dataset.side).at(-1);
    if (last) {
      pointsBack.add(last.id);
      put(bout, { kind: "withdrawn", supersedes: last.id });
    }
  } else if ("end" in button.dataset) put(bout, { kind: "ended" });
  else if (button.dataset.back) put(bout, { kind: "withdrawn", supersedes: button.dataset.back });
});

document.addEventListener("submit", (e) => {
  const form = e.target.closest("[data-fault]");
  if (!form) return;
  e.preventDefault();
  const bout = form.closest("[data-bout]"), f = form.elements, off = Number(f.points.value.trim().replace(",", "."));
  if (f.kind.value === "deduction" && !(off > 0 && off <= 1000)) { told(phrase("nodeduction", { what: f.points.value || phrase("nothing") })); return; }
  const text = f.text.value.trim();
  if (text === "" && f.conduct.value === "") { told(phrase("saywhat")); return; }
  faults.put({ id: newID(), candidate: f.who.value, examiner, kind: f.kind.value, points: f.kind.value === "deduction" ? off : 0, conduct: f.conduct.value, bout: bout.dataset.bout, text, supersedes: "" });
  bout.querySelector("[data-faults]").append(`⚑ ${f.who.selectedOptions[0].textContent}: ${text || f.conduct.selectedOptions[0].textContent} `);
  form.closest("details").open = false;
  f.text.value = "";
});

for (const e of await events.open(JSON.parse(main.dataset.state).now)) lay(e);
await faults.open(JSON.parse(main.dataset.state).now);
time.hint(JSON.parse(main.dataset.state).now);
time.measure();
listen(`/ring/${ring}/live`, (m) => { if (m.ring) clock = m.ring.clock; }, (on) => { if (on) { events.send(); faults.send(); } });
const show = document.querySelector("[data-ring-clock]");
setInterval(() => {
  show.textContent = words(clock, time.now());
  show.classList.toggle("closing", read(clock, time.now()).closing);
}, 200);
offline();
