import "./lib/shell.js";

// The picture of the day: a block is moved with keys or dragged; the list's own forms do it.

const picture = document.querySelector(".day-picture svg");
const formOf = (group) => document.querySelector(`form.day-move[data-group="${CSS.escape(group)}"]`);

function act(group, pick) {
  const form = formOf(group);
  const button = form && pick([...form.querySelectorAll("button")]);
  if (!button) return false;
  form.requestSubmit(button);
  return true;
}

// Rings in the order of the picture; the buttons of a row leave out the one the group is in.
const toRing = (here, wanted) => (buttons) => {
  const rings = buttons.filter((b) => b.dataset.do === "ring");
  return wanted === here ? null : rings[wanted < here ? wanted : wanted - 1];
};

const does = {
  ArrowLeft: () => (all) => all.find((b) => b.dataset.do === "earlier"),
  ArrowRight: () => (all) => all.find((b) => b.dataset.do === "later"),
  ArrowUp: (ring) => toRing(ring, ring - 1),
  ArrowDown: (ring) => toRing(ring, ring + 1),
  p: () => (all) => all.find((b) => b.dataset.do === "pin"),
};

picture?.addEventListener("keydown", (e) => {
  const block = e.target.closest("[data-group]");
  if (!block || e.ctrlKey || e.metaKey || e.altKey) return;
  const { group, ring } = block.dataset;
  if (e.key === "Enter" || e.key === " ") {
    e.preventDefault();
    open(group);
    return;
  }
  const what = does[e.key];
  if (!what) return;
  e.preventDefault();
  e.stopPropagation();
  act(group, what(Number(ring)));
});

function open(group) {
  const row = document.getElementById(`g-${group}`);
  const more = row?.querySelector("details");
  if (more) more.open = true;
  row?.scrollIntoView({ block: "center" });
  more?.querySelector("summary").focus();
}

// Dragging: a block let go over a ring goes there, before those that begin later.
let held = null;
const point = (e) => {
  const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(picture.getScreenCTM().inverse());
  const { from, span, left, width, top, band } = picture.dataset;
  return { x: p.x, y: p.y, ring: Math.floor((p.y - top) / band), at: Math.round(Number(from) + ((p.x - left) * span) / width) };
};

picture?.addEventListener("pointerdown", (e) => {
  const block = e.target.closest("[data-group]");
  if (!block || e.button !== 0 || !formOf(block.dataset.group)) return;
  const at = point(e);
  held = { block, from: at, all: picture.querySelectorAll(`[data-group="${CSS.escape(block.dataset.group)}"]`), moved: false };
  picture.setPointerCapture(e.pointerId);
});

picture?.addEventListener("pointermove", (e) => {
  if (!held) return;
  const at = point(e);
  if (Math.hypot(at.x - held.from.x, at.y - held.from.y) > 6) held.moved = true;
  if (!held.moved) return;
  for (const b of held.all) {
    b.setAttribute("transform", `translate(${at.x - held.from.x} ${at.y - held.from.y})`);
    b.classList.add("held");
  }
});

picture?.addEventListener("pointerup", (e) => {
  if (!held) return;
  const { block, from, all, moved } = held, at = point(e);
  held = null;
  for (const b of all) { b.removeAttribute("transform"); b.classList.remove("held"); }
  if (!moved) { open(block.dataset.group); return; }
  const here = Number(block.dataset.ring), form = formOf(block.dataset.group);
  const rings = picture.querySelectorAll(".band").length;
  if (at.ring < 0 || at.ring >= rings) return;
  form.elements.at.value = Math.min(Math.max(Number(block.dataset.at) + at.at - from.at, 1), 1439);
  const buttons = [...form.querySelectorAll("button")];
  if (at.ring !== here) form.requestSubmit(toRing(here, at.ring)(buttons));
  else if (at.at !== from.at) { // within its ring: before those that begin later than where it was let go
    const here = Object.assign(document.createElement("button"), { name: "do", value: form.dataset.home, hidden: true });
    form.append(here);
    form.requestSubmit(here);
  }
});
picture?.addEventListener("pointercancel", () => { held = null; });

// After a move the same block has the focus again.
const moved = new URLSearchParams(location.search).get("group");
const last = moved && picture?.querySelector(`[data-group="${CSS.escape(moved)}"][tabindex]`);
if (last) {
  document.getElementById(`g-${moved}`)?.classList.add("moved");
  last.focus({ preventScroll: true });
}
