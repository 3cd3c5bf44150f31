import "./lib/shell.js";

// The cloth changes as it is described; the server draws it anew when the form is sent.
const form = document.querySelector("[data-belt]");
const picture = document.querySelector("[data-preview] svg");
const space = "http://www.w3.org/2000/svg";

function rect(x, y, width, height, fill, opacity = 1) {
  const r = document.createElementNS(space, "rect");
  for (const [k, v] of Object.entries({ x, y, width, height, fill, "fill-opacity": opacity })) r.setAttribute(k, v);
  picture.append(r);
}

function draw() {
  const v = Object.fromEntries(new FormData(form));
  const w = 260, h = 30, count = Math.min(Math.max(Number(v.mark_count) || 0, 0), 10);
  picture.replaceChildren();
  rect(0, 0, w, h, v.colour);
  if (v.weave === "halves") rect(0, h / 2, w, h / 2, v.second);
  if (v.weave === "core_line") rect(0, (h - h / 4) / 2, w, h / 4, v.second);
  const bar = count <= 3 ? 14 : 10;
  for (let i = 0; i < count; i++) {
    if (v.mark_place === "lengthwise") rect(0, ((i + 1) * h) / (count + 1) - 1, w, Math.max(h / (2 * count + 3), 1), v.mark_colour);
    else rect(w - bar * (2 * i + 3), 0, bar, h, v.mark_colour);
  }
  rect(0, 0, w, h / 4, "#ffffff", 0.22);
  rect(0, h - h / 4, w, h / 4, "#000000", 0.14);
}

form.addEventListener("input", draw);

// The cloth of a new rung follows its name until somebody chooses one.
const told = Object.fromEntries(["colour", "weave", "second", "mark_count", "mark_colour"].map((name) => [name, form.elements[name].value]));
const chosen = () => !("new" in form.dataset) || Object.entries(told).some(([name, value]) => form.elements[name].value !== value);
let asked = 0;
form.addEventListener("input", async (event) => {
  if (event.target.name !== "name" || chosen()) return;
  const number = ++asked;
  const answer = await fetch(`/rungs/cloth?name=${encodeURIComponent(event.target.value)}`).catch(() => null); // without it the server sees to it later
  const fields = answer?.ok ? await answer.json() : {};
  if (number !== asked || chosen()) return;
  for (const [name, value] of Object.entries(fields)) told[name] = form.elements[name].value = value;
  draw();
});
