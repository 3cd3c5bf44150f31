import { el } from "./lib/dom.js";
import { offline } from "./lib/queue.js";

// The caller: what is done now stands large enough for the far end of the hall. A call goes
// through its sets (a side, a round), a set through its reps or its seconds.

const main = document.getElementById("main");
const all = JSON.parse(main.dataset.calls) ?? [];
const counting = JSON.parse(main.dataset.counting) ?? [];
const at = (name) => main.querySelector(`[data-${name}]`);
const between = 6; // seconds to hear what comes next
const closing = 10; // seconds before the end of a round at which it is told

let plan = [], step = 0, left = 0, count = 0, timer = null, running = false, audio;

/** steps is everything as one row: {call, kind: ready | rep | time | rest, …}. */
function steps() {
  const reps = Number(at("reps").value), section = at("section")?.value ?? "", both = at("directions").checked;
  const out = [];
  for (const call of all.filter((c) => section === "" || c.section === section)) {
    out.push({ call, kind: "ready", side: call.sets[0]?.side ?? "", tenths: between * 10 });
    for (const set of call.sets) {
      for (const direction of both ? ["forward", "back"] : [""]) {
        const side = [set.side, direction].filter(Boolean).join(", ");
        if (set.seconds) out.push({ call, kind: "time", side, tenths: set.seconds * 10 });
        else for (let n = 1, many = reps || set.reps; n <= many; n++) out.push({ call, kind: "rep", side, n, many, tenths: set.pace || 30 });
      }
      if (set.rest) out.push({ call, kind: "rest", side: "rest", tenths: set.rest * 10 });
    }
  }
  return out;
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
  if (running) {
    if (s.kind === "rep") beep(660, false);
    else if (s.kind !== "ready") beep(s.kind === "rest" ? 330 : 880, true);
  }
  draw();
}

function draw() {
  const s = plan[step];
  if (!s) return;
  const number = at("say").value === "numbers" && s.call.number;
  at("side").textContent = [s.call.section, s.call.term, s.side].filter(Boolean).join(" · ");
  at("word").textContent = number ? String(s.call.number) : s.call.words;
  at("word").classList.toggle("long", !number && s.call.words.length > 22);
  at("moves").replaceChildren(...(number ? [] : (s.call.moves ?? [])).map((m) => el("li", { className: m.count % 2 ? "" : "even" }, el("b", {}, m.what), el("span", {}, m.how ?? ""))));
  const seconds = Math.ceil(left / 10);
  if (s.kind === "rep") at("count").textContent = `${s.n} of ${s.many}${counting[s.n - 1] ? ` · ${counting[s.n - 1]}` : ""}`;
  else if (s.kind === "time") at("count").textContent = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
  else if (s.kind === "rest") at("count").textContent = `rest ${seconds}`;
  else at("count").textContent = running ? `ready: ${seconds}` : "ready";
  const next = plan.slice(step + 1).find((x) => x.kind === "ready");
  at("next").replaceChildren(...(s.call.cautions ?? []).slice(0, 1).map((c) => el("span", { className: "caution" }, `⚠ ${c} `)), next ? `then: ${next.call.words}` : "the last one");
  at("go").textContent = running ? "Pause" : step === 0 ? "Begin" : "Go on";
}

function tick() {
  left -= 1;
  const s = plan[step];
  if (s.kind === "time" && left === closing * 10) beep(990, false);
  if ((s.kind === "rest" || s.kind === "ready") && left > 0 && left <= 30 && left % 10 === 0) beep(440, false);
  if (left > 0) {
    if (left % 10 === 0) draw();
    return;
  }
  if (step + 1 < plan.length) enter(step + 1);
  else {
    beep(880, true);
    go(false);
    at("count").textContent = "done";
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

/** jump goes to the call before or after. */
function jump(by) {
  const begins = plan.flatMap((s, i) => (s.kind === "ready" ? [i] : []));
  const here = begins.filter((i) => i <= step).length - 1;
  enter(begins[Math.min(Math.max(here + by, 0), begins.length - 1)]);
}

if (all.length > 0) {
  const begin = () => { plan = steps(); enter(0); };
  for (const name of ["reps", "section", "directions"]) at(name)?.addEventListener("change", begin);
  at("stance")?.addEventListener("change", () => {
    const to = new URL(location.href);
    to.searchParams.set("stance", at("stance").value);
    location.assign(to);
  });
  at("say").addEventListener("change", draw);
  at("go").addEventListener("click", () => go(!running));
  at("back").addEventListener("click", () => jump(-1));
  at("on").addEventListener("click", () => jump(1));
  document.addEventListener("keydown", (e) => {
    if (e.target.closest("select, input, button, a") && e.key === " ") return;
    if (e.target.closest("select")) return;
    const act = { " ": () => go(!running), ArrowRight: () => jump(1), ArrowLeft: () => jump(-1), m: () => at("sound").click() }[e.key];
    if (act) { e.preventDefault(); act(); }
  });
  begin();
}
if (location.pathname.startsWith("/caller/")) offline();
