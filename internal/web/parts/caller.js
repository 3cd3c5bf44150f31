import { el } from "./lib/dom.js";
import { offline } from "./lib/queue.js";
import { play } from "./lib/scene.js";
import { strip, told } from "./lib/strip.js";
import { phrase } from "./lib/phrase.js";

// The caller: what is done now stands large enough for the far end of the hall. A call goes
// through its sets (a side, a round), a set through its reps or its seconds; a form or a part
// of it can be walked move by move.

const main = document.getElementById("main");
const all = JSON.parse(main.dataset.calls) ?? [];
const counting = JSON.parse(main.dataset.counting) ?? [];
const { commands, opening, closing: ending } = JSON.parse(main.dataset.program);
const at = (name) => main.querySelector(`[data-${name}]`);
const between = 6; // seconds to hear what comes next
const saying = 4; // seconds for a command or a line of the opening
const cue = 10; // seconds before the end of a round at which it is told, where no sprint is asked
const least = 15, most = 60; // tenths of a second between two reactions

let plan = [], step = 0, left = 0, timer = null, running = false, audio;

const stance = () => at("stance")?.value ?? "";
const sideOf = (set) => set?.sides?.[stance()] ?? "";
const readingOf = (set) => set?.readings?.[stance()] ?? stance();

/** movesOf are the cells of a call: all, or those of the part that is chosen. */
function movesOf(call) {
  const part = call.parts?.find((p) => p.name === at("part")?.value);
  return (call.moves ?? []).filter((m) => !part || (m.step >= part.from && m.step <= part.to));
}

/** repsOf are the reps of a set: "go" after irregular gaps for reactions, back to the line where the hall ends. */
function repsOf(call, set, side) {
  const out = [], many = Number(at("reps").value) || set.reps;
  const hall = Number(at("line").value), go = at("react").checked;
  for (let n = 1; n <= many; n++) {
    if (go) out.push({ call, set, kind: "say", side, word: commands.ready, quiet: true, tenths: least + Math.floor(Math.random() * (most - least)) });
    const coming = hall > 0 && n > 1 && n % hall === 1 && phrase("forward");
    for (const phase of call.phases?.length ? call.phases : [""]) out.push({ call, set, kind: "rep", side, n, many, word: [coming, go && phrase("go"), phase].filter(Boolean).join(" · "), tenths: set.pace || 30 });
    if (hall && n < many && n % hall === 0) out.push({ call, set, kind: "say", side, word: phrase("backtoline"), tenths: saying * 10 });
  }
  return out;
}

/** setOf is a set as a row of steps. */
function setOf(call, set) {
  const side = sideOf(set), out = [];
  if (set.before) out.push({ call, set, kind: "say", side, word: set.before, tenths: saying * 10 });
  if (set.seconds) out.push({ call, set, kind: "time", side, tenths: set.seconds * 10 });
  else if (at("walk").checked) movesOf(call).forEach((m, i, cells) => out.push({ call, set, kind: "move", side, n: i + 1, many: cells.length, move: m, before: cells[i - 1], after: cells[i + 1], tenths: 30 }));
  else out.push(...repsOf(call, set, side));
  if (set.rest) out.push({ call, set, kind: "rest", side: commands.rest, tenths: set.rest * 10 });
  return out;
}

/** steps is everything as one row: {call, kind: say | ready | rep | move | time | rest, …}. */
function steps() {
  const section = at("section")?.value ?? "", whole = at("whole")?.checked;
  const say = (side) => (word) => ({ kind: "say", side, word, tenths: saying * 10 });
  const out = whole ? opening.map(say(phrase("webegin"))) : [];
  for (const call of all.filter((c) => section === "" || c.section === section)) {
    out.push({ call, set: call.sets[0], kind: "ready", side: sideOf(call.sets[0]), tenths: between * 10 });
    for (const set of call.sets) out.push(...setOf(call, set));
  }
  return whole ? [...out, ...ending.map(say(phrase("weclose")))] : out;
}

function beep(pitch, long) {
  if (!at("sound").checked) return;
  audio ??= new AudioContext();
  const tone = audio.createOscillator(), loud = audio.createGain();
  tone.frequency.value = pitch;
  loud.gain.setValueAtTime(0.25, audio.currentTime);
  loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + (long ? 0.7 : 0.16));
  tone.connect(loud).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + (long ? 0.7 : 0.16));
}

function enter(i) {
  step = Math.min(Math.max(i, 0), plan.length - 1);
  const s = plan[step];
  left = s.tenths;
  if (running && !s.quiet && s.kind !== "ready") {
    if (s.kind === "rep" || s.kind === "move") beep(660, false);
    else beep(s.kind === "rest" ? 330 : 880, true);
  }
  draw();
}

/** byNumber is the number a call is said by, once numbers are said. */
const byNumber = (s) => (at("say").value === "numbers" && s.call?.number ? String(s.call.number) : "");

/** wordOf is what stands largest: a command, a move of a form, a number that is known, or the call. */
function wordOf(s) {
  if (s.kind === "move") return told(s.move, readingOf(s.set)).what;
  if (s.kind === "say") return s.word;
  return byNumber(s) || s.call.words;
}

function countOf(s) {
  const seconds = Math.ceil(left / 10);
  switch (s.kind) {
    case "rep": return [phrase("of", { n: s.n, of: s.many }), s.word, counting[s.n - 1]].filter(Boolean).join(" · ");
    case "move": return [phrase("move", { n: s.n, of: s.many }), s.move.answers && phrase("answers", { what: s.move.answers }), told(s.move, readingOf(s.set)).how].filter(Boolean).join(" · ");
    case "time": return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}${s.set.closing && seconds <= s.set.closing ? ` · ${phrase("sprint")}` : ""}`;
    case "rest": return `${commands.rest} ${seconds}`;
    case "ready": return running ? `${commands.ready}: ${seconds}` : commands.ready;
    default: return "";
  }
}

/** howOf is the small line: the move before and after on a walk, else how it is done. */
function howOf(s) {
  if (s.kind !== "move") return [s.call?.manner, s.call?.remark, ...(s.call?.common ?? [])].filter(Boolean).join(" · ");
  const word = (m) => told(m, readingOf(s.set)).what;
  return [s.before && phrase("was", { what: word(s.before) }), s.after ? phrase("comes", { what: word(s.after) }) : phrase("lastmove")].filter(Boolean).join(" · ");
}

/** floorOf is the address of a technique on the floor, for whom it is called. */
function floorOf(call) {
  const to = new URL(main.dataset.floor.replace("*", call.travels), location.href);
  if (stance()) to.searchParams.set("stance", stance());
  return to.pathname + to.search;
}

let stage = null; // of what is walked: {address, scene}; without network the words stand alone

/** drawn shows the step of a walk on the floor, for whom it is called; the drawing comes when it is first needed. */
async function drawn(s) {
  const panel = at("drawing");
  panel.hidden = s.kind !== "move" || !s.call.travels;
  if (panel.hidden) return;
  const address = floorOf(s.call);
  if (stage?.address !== address) {
    const mine = stage = { address, scene: null };
    panel.replaceChildren();
    const reply = await fetch(address).catch(() => null);
    if (!reply?.ok || stage !== mine) return;
    const player = new DOMParser().parseFromString(await reply.text(), "text/html").querySelector(".floor-player");
    if (!player || stage !== mine) return;
    panel.replaceChildren(document.importNode(player, true));
    mine.scene = play(panel.firstElementChild);
  }
  stage.scene?.cell((plan[step].call?.moves ?? []).indexOf(plan[step].move));
}

function draw() {
  const s = plan[step];
  if (!s) return;
  drawn(s);
  const { call } = s, word = wordOf(s);
  at("side").textContent = [call?.section, byNumber(s) && call.series, call?.term, s.side].filter(Boolean).join(" · ");
  at("word").textContent = word;
  at("word").classList.toggle("long", word.length > 22);
  const both = stance() === "" && s.set?.readings ? [s.set.readings.orthodox, s.set.readings.southpaw] : undefined;
  at("moves").replaceChildren(...(!call || s.kind === "move" || byNumber(s) ? [] : strip(movesOf(call), { reading: readingOf(s.set), both }).children));
  at("on-floor").hidden = !call?.travels;
  if (call?.travels) at("on-floor").href = floorOf(call);
  at("count").textContent = countOf(s);
  at("how").textContent = howOf(s);
  const next = plan.slice(step + 1).find((x) => x.kind === "ready" || (x.kind === "say" && !x.call));
  at("next").replaceChildren(...(call?.cautions ?? []).slice(0, 1).map((c) => el("span", { className: "caution" }, `⚠ ${c} `)), next ? phrase("then", { what: next.word ?? next.call.words }) : phrase("lastone"));
  at("go").textContent = phrase(running ? "pausecalls" : step === 0 ? "begin" : "goon");
}

function tick() {
  left -= 1;
  const s = plan[step];
  if (s.kind === "time" && left === (s.set.closing || cue) * 10) beep(990, false);
  if ((s.kind === "rest" || s.kind === "ready") && left > 0 && left <= 30 && left % 10 === 0) beep(440, false);
  if (left > 0) {
    if (left % 10 === 0) draw();
    return;
  }
  if (step + 1 < plan.length) enter(step + 1);
  else {
    beep(880, true);
    go(false);
    at("count").textContent = commands.stop;
  }
}

/** go runs or pauses. Each tick is put off until its own time, so that lateness does not add up. */
function go(on) {
  running = on;
  clearTimeout(timer);
  if (on) {
    let due = performance.now();
    const again = () => {
      due += 100;
      timer = setTimeout(() => { tick(); if (running) again(); }, Math.max(due - performance.now(), 0));
    };
    again();
  }
  draw();
}

/** jump goes to the call before or after; while a form is walked, to the move. */
function jump(by) {
  const walks = plan[step].kind === "move" || (by > 0 && plan[step + 1]?.kind === "move");
  const begins = plan.flatMap((s, i) => (s.kind === "ready" || (walks && s.kind === "move") ? [i] : []));
  const here = begins.filter((i) => i <= step).length - 1;
  enter(begins[Math.min(Math.max(here + by, 0), begins.length - 1)]);
}

/** dark turns the screen dark or light, as this device was last told, else as it is set. */
function dark(on) {
  at("dark").checked = on;
  main.classList.toggle("dark", on);
}
const asked = localStorage.getItem("caller-dark");
dark(asked ? asked === "yes" : matchMedia("(prefers-color-scheme: dark)").matches);
at("dark").addEventListener("change", (e) => {
  dark(e.target.checked);
  localStorage.setItem("caller-dark", e.target.checked ? "yes" : "no");
});

if (all.length > 0) {
  const begin = () => { plan = steps(); enter(0); };
  for (const name of ["reps", "section", "line", "react", "walk", "part", "whole"]) at(name)?.addEventListener("change", begin);
  at("stance")?.addEventListener("change", () => {
    const to = new URL(location.href);
    to.searchParams.set("stance", stance());
    history.replaceState(null, "", to);
    const was = step;
    plan = steps();
    enter(was);
  });
  at("say").addEventListener("change", draw);
  at("go").addEventListener("click", () => go(!running));
  at("back").addEventListener("click", () => jump(-1));
  at("on").addEventListener("click", () => jump(1));
  document.addEventListener("keydown", (e) => {
    if (e.target.closest("select, input, button, a, summary") && e.key === " ") return;
    if (e.target.closest("select")) return;
    const act = { " ": () => go(!running), ArrowRight: () => jump(1), ArrowLeft: () => jump(-1), m: () => at("sound").click() }[e.key];
    if (act) { e.preventDefault(); act(); }
  });
  begin();
}
if (location.pathname.startsWith("/caller/")) offline();
