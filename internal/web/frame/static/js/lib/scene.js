// Plays a technique on the floor: one or two people seen from above and from the side, frame by frame.

import { bind } from "./shell.js";
import { phrase } from "./phrase.js";

const still = matchMedia("(prefers-reduced-motion: reduce)");
const glides = 180; // ms, of a step from frame to frame

/** between is the way from one list of numbers to another; every third is an angle where turned says so. */
function between(from, to, share, angle) {
  return to.map((v, i) => {
    let by = v - from[i];
    if (angle(i)) by = ((((by + 180) % 360) + 360) % 360) - 180;
    return from[i] + by * share;
  });
}

const never = () => false, third = (i) => i % 3 === 2, always = () => true;

/** mix is a frame between two. */
function mix(a, b, share) {
  return { a: between(a.a, b.a, share, never), s: between(a.s, b.s, share, never), f: between(a.f, b.f, share, third), t: between(a.t, b.t, share, always), k: b.k };
}

/** draw puts everything that moves where a frame has it. */
function draw(svg, frame) {
  const points = svg.classList.contains("side") ? frame.s : frame.a;
  const x = (n) => points[2 * n] / 10, y = (n) => points[2 * n + 1] / 10;
  for (const line of svg.querySelectorAll("[data-from]")) {
    const { from, to, kick } = line.dataset;
    line.setAttribute("x1", x(from));
    line.setAttribute("y1", y(from));
    line.setAttribute("x2", x(to));
    line.setAttribute("y2", y(to));
    if (kick !== undefined) line.classList.toggle("rests", frame.k[kick] !== "1");
  }
  for (const node of svg.querySelectorAll("[data-at]")) {
    const { at, trunk } = node.dataset;
    if (trunk !== undefined) {
      node.setAttribute("transform", `translate(${x(at)} ${y(at)}) rotate(${frame.t[trunk]})`);
      continue;
    }
    node.setAttribute("cx", x(at));
    node.setAttribute("cy", y(at));
  }
  for (const foot of svg.querySelectorAll("[data-foot]")) {
    const n = 3 * foot.dataset.foot;
    foot.setAttribute("transform", `translate(${frame.f[n] / 10} ${frame.f[n + 1] / 10}) rotate(${frame.f[n + 2]})`);
  }
}

/** play lets a scene be stepped through and played; cell(n) goes to the last step of a cell of its strip. */
export function play(root) {
  const frames = JSON.parse(root.dataset.frames);
  const pictures = [...root.querySelectorAll("svg.scene")];
  const steps = [...root.querySelectorAll("[data-step]")];
  const go = root.querySelector("[data-play]"), tempo = root.querySelector("[data-tempo]"), now = root.querySelector("[data-now]");
  let at = 0, ticking = 0, gliding = 0, shown = frames[0];

  const show = (frame) => {
    shown = frame;
    for (const p of pictures) draw(p, frame);
  };
  const to = (i) => {
    i = Math.min(Math.max(i, 0), frames.length - 1);
    cancelAnimationFrame(gliding);
    const from = shown, target = frames[i];
    at = i;
    root.dataset.at = i;
    for (const [n, step] of steps.entries()) {
      if (n === i) step.setAttribute("aria-current", "step"); else step.removeAttribute("aria-current");
    }
    const step = steps[i];
    step.parentElement.scrollTo({ left: step.offsetLeft - step.parentElement.clientWidth / 2 + step.clientWidth / 2 });
    now.textContent = step.dataset.words;
    const stand = () => { show(target); delete root.dataset.gliding; };
    if (still.matches) { stand(); return; }
    root.dataset.gliding = "";
    const began = performance.now();
    const glide = (t) => {
      const share = Math.min((t - began) / glides, 1);
      if (share >= 1) { stand(); return; }
      show(mix(from, target, Math.max(share, 0)));
      gliding = requestAnimationFrame(glide);
    };
    gliding = requestAnimationFrame(glide);
  };
  const stop = () => {
    clearTimeout(ticking);
    ticking = 0;
    go.textContent = phrase("play");
  };
  const tick = () => {
    if (at === frames.length - 1) { stop(); return; }
    to(at + 1);
    ticking = setTimeout(tick, 60000 / tempo.value);
  };
  const toggle = () => {
    if (ticking) { stop(); return; }
    if (at === frames.length - 1) to(0);
    go.textContent = phrase("pause");
    ticking = setTimeout(tick, 400);
  };
  const step = (by) => { stop(); to(at + by); };
  const view = () => {
    const side = root.dataset.view !== "side";
    root.dataset.view = side ? "side" : "above";
    for (const b of root.querySelectorAll("[data-view-is]")) b.setAttribute("aria-pressed", String((b.dataset.viewIs === "side") === side));
  };

  root.querySelector("[data-tools]").hidden = false;
  root.dataset.view = "above";
  go.addEventListener("click", toggle);
  root.querySelector("[data-before]").addEventListener("click", () => step(-1));
  root.querySelector("[data-after]").addEventListener("click", () => step(1));
  for (const b of root.querySelectorAll("[data-view-is]")) b.addEventListener("click", () => { if (root.dataset.view !== b.dataset.viewIs) view(); });
  for (const [i, s] of steps.entries()) s.addEventListener("click", () => { stop(); to(i); });
  to(0);
  const cell = (n) => { stop(); to(steps.findLastIndex((s) => Number(s.dataset.cell) === n)); };
  return { step, toggle, view, cell };
}

const scenes = [...document.querySelectorAll("[data-frames]")].map(play);
if (scenes.length) {
  bind("ArrowLeft", phrase("floorbefore"), () => scenes[0].step(-1));
  bind("ArrowRight", phrase("floornext"), () => scenes[0].step(1));
  bind("p", phrase("playorpause"), () => scenes[0].toggle());
  bind("v", phrase("aboveorside"), () => scenes[0].view());
}
