import { bind } from "./lib/shell.js";
import { el } from "./lib/dom.js";
import { offline } from "./lib/queue.js";
import { listen } from "./lib/stream.js";
import { strip } from "./lib/strip.js";
import { ServerTime, Cues, read, words } from "./lib/ringclock.js";
import { phrase } from "./lib/phrase.js";

// The caller's view of a ring: the words stand large enough for the far end of the hall, and the
// ring's other devices follow. The clock is the server's, shown by all alike.

const main = document.getElementById("main");
const groups = JSON.parse(main.dataset.groups) ?? [];
const { ring } = main.dataset;
const at = (name) => main.querySelector(`[data-${name}]`);
const time = new ServerTime();
const cues = new Cues(() => at("sound").checked);
const lookEvery = 4000; // ms; a group takes minutes to leave
const soundKey = "velvetladder.sound";

let state = JSON.parse(main.dataset.state);
let here = { group: state.call.group || groups[0]?.id, line: state.call.line, set: state.call.set };

const group = () => groups.find((g) => g.id === here.group) ?? groups[0];
const lineAt = (n) => group().lines[n];

/** sideOf is which side a set is, for a hall of both stances; bothOf, how each stance is told. */
const sideOf = (s) => s?.sides?.[""] ?? "";
const bothOf = (s) => (s?.readings ? [s.readings.orthodox, s.readings.southpaw] : ["orthodox", "southpaw"]);
const plainCue = 10; // seconds before the end at which the clock cues where the line asks for no sprint

async function post(what, body) {
  const said = at("said");
  try {
    const answer = await fetch(`/ring/${ring}/${what}`, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) });
    const told = await answer.json();
    said.hidden = answer.ok;
    if (answer.ok) take(told.ring, true);
    else said.textContent = told.problem;
  } catch {
    said.hidden = what === "call"; // calling goes on without network; the others follow later
    said.textContent = phrase("noconnection");
  }
}

// Calls go out one after the other, the newest only: what is called next while one is on its way
// must not be undone by its answer.
let wanted, sending = false;

async function call() {
  wanted = { ...here, version: 0 };
  if (sending) return;
  sending = true;
  while (wanted) {
    const next = wanted;
    wanted = undefined;
    await post("call", next);
  }
  sending = false;
}

/** take is what the server says of the ring: a newer call moves this screen along, unless this screen is calling itself. */
function take(told, answer = false) {
  time.hint(told.now);
  const newer = (told.call.version ?? 0) > (state.call.version ?? 0);
  if (told.call.group && newer && (answer ? !wanted : !sending)) here = { group: told.call.group, line: told.call.line, set: told.call.set };
  state = newer ? told : { ...told, call: state.call };
  draw();
}

function go(line, set = 0) {
  here = { ...here, line: Math.min(Math.max(line, 0), group().lines.length - 1), set };
  draw();
  call();
  const s = lineAt(here.line).sets[here.set];
  if (s?.seconds) fillClock(s.seconds);
}

/** fillClock writes what the line asks into the clock's form; somebody still has to set it. */
function fillClock(seconds) {
  const f = at("set-clock"), sets = lineAt(here.line).sets.filter((s) => s.seconds);
  f.elements.seconds.value = seconds;
  f.elements.rounds.value = Math.max(sets.length, 1);
  f.elements.rest.value = sets[0]?.rest ?? 0;
  f.elements.cue.value = sets[0]?.closing || plainCue;
}

function draw() {
  const l = lineAt(here.line);
  if (!l) {
    at("word").textContent = phrase("nothingasked");
    return;
  }
  const { sets } = l, s = sets[Math.min(here.set, sets.length - 1)] ?? {};
  at("group").value = group().id;
  at("side").textContent = [phrase("line", { n: l.number, of: group().lines.at(-1).number.split(".")[0] }), l.item || l.section, l.term, sideOf(s)].filter(Boolean).join(" · ");
  at("word").textContent = l.words;
  at("word").classList.toggle("long", l.words.length > 22);
  at("moves").replaceChildren(...strip(l.moves, { reading: s.readings?.[""], both: bothOf(s) }).children);
  at("count").textContent = s.reps ? `${phrase(s.reps === 1 ? "once" : "times", { n: s.reps })}${sets.length > 1 ? `, ${phrase("of", { n: here.set + 1, of: sets.length })}` : ""}`
    : s.seconds ? `${sets.length > 1 ? `${sets.length} × ` : ""}${s.seconds} s${s.rest ? `, ${phrase("rest", { n: s.rest })}` : ""}` : "";
  at("notes").replaceChildren(
    el("p", { className: "soft" }, group().candidates.map((c, i) => `${i + 1} ${c}`).join(" · ")),
    ...(s.before ? [el("p", { className: "command" }, `“${s.before}”`)] : []),
    ...[l.manner, l.remark, ...(l.common ?? [])].filter(Boolean).map((x) => el("p", {}, x)),
    ...(l.looks ? [el("p", {}, `◎ ${l.looks}`)] : []),
    ...(l.own ?? []).map((x) => el("p", {}, `◈ ${x}`)),
    ...(l.last && l.item ? [el("p", {}, `✎ ${phrase("markedafter", { item: l.item })}`)] : []),
    ...(l.cautions ?? []).slice(0, 1).map((c) => el("p", { className: "caution" }, `⚠ ${c}`)));
  const next = lineAt(here.line + 1);
  at("next").textContent = next ? phrase("then", { what: next.words }) : phrase("lastline");
  at("set").hidden = sets.length < 2;
  at("set").textContent = sets.length > 1 ? phrase("to", { what: sideOf(sets[(here.set + 1) % sets.length]) || phrase("thenext") }) : "";
  at("on").disabled = !next;
  at("back").disabled = here.line === 0;
  tick();
}

function tick() {
  const r = read(state.clock, time.now());
  at("clock").textContent = words(state.clock, time.now()) || phrase("noclock");
  at("clock").classList.toggle("closing", r.closing);
  at("go").textContent = phrase(r.running ? "pauseclock" : "start");
  at("go").disabled = r.phase === "unset" || r.phase === "done";
  at("reset").disabled = r.phase === "unset";
  cues.follow(state.clock, time.now());
}

if (groups.length > 0) {
  at("sound").checked = localStorage.getItem(soundKey) === "on";
  at("sound").addEventListener("change", () => { localStorage.setItem(soundKey, at("sound").checked ? "on" : "off"); cues.tone(660, false); });
  at("group").addEventListener("change", () => { here = { group: at("group").value, line: 0, set: 0 }; go(0); });
  at("on").addEventListener("click", () => go(here.line + 1));
  at("back").addEventListener("click", () => go(here.line - 1));
  at("set").addEventListener("click", () => go(here.line, (here.set + 1) % lineAt(here.line).sets.length));
  at("go").addEventListener("click", () => post("clock", { deed: read(state.clock, time.now()).running ? "pause" : "start", clock: {} }));
  at("reset").addEventListener("click", () => post("clock", { deed: "reset", clock: {} }));
  at("set-clock").addEventListener("submit", (e) => {
    e.preventDefault();
    const n = (name) => { const v = Number(e.target.elements[name].value.trim() || 0); return Number.isInteger(v) ? v : -1; };
    post("clock", { deed: "set", clock: { label: lineAt(here.line)?.words.slice(0, 60) ?? "", rounds: n("rounds"), seconds: n("seconds"), rest: n("rest"), cue: n("cue") } });
  });
  bind("ArrowRight", phrase("keynext"), () => at("on").click());
  bind("ArrowLeft", phrase("keybefore"), () => at("back").click());
  bind("o", phrase("keyother"), () => at("set").click());
  bind(" ", phrase("keyclock"), () => at("go").click());
  bind("m", phrase("keysound"), () => at("sound").click());
  draw();
  time.hint(state.now);
  time.measure();
  listen(`/ring/${ring}/live`, (told) => told.ring && take(told.ring), (on) => { at("live").textContent = phrase(on ? "live" : "lost"); });
  setInterval(tick, 100);
  look();
}

/** look asks what nobody saw, so that it is called again before the group leaves. */
async function look() {
  try {
    const answer = await fetch(`/ring/${ring}/again`, { headers: { "Content-Type": "application/json" } });
    if (answer.ok) {
      const { again } = await answer.json();
      at("again").replaceChildren(...(again[group().id] ?? []).map((x) => el("p", {}, `↻ ${phrase("again", { what: x })}`)));
    }
  } catch {
    // without network it is asked again
  }
  setTimeout(look, lookEvery);
}
offline();
