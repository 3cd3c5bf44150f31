import { bind } from "./lib/shell.js";
import { phrase } from "./lib/phrase.js";

/** move sends the plain form that moves a line past another one of its section. */
function move(line, past) {
  if (!past || past === line) return;
  const form = document.createElement("form");
  form.method = "post";
  form.action = line.dataset.move;
  for (const [name, value] of Object.entries({ request: line.dataset.request, rung: line.dataset.rung, past: past.dataset.id })) {
    const field = document.createElement("input");
    field.type = "hidden";
    field.name = name;
    field.value = value;
    form.append(field);
  }
  document.body.append(form);
  form.requestSubmit();
}

let held = null;
for (const line of document.querySelectorAll("[data-move]")) {
  line.addEventListener("dragstart", (e) => {
    held = line;
    line.classList.add("dragging");
    e.dataTransfer.effectAllowed = "move";
  });
  line.addEventListener("dragend", () => line.classList.remove("dragging"));
  line.addEventListener("dragover", (e) => {
    if (held?.parentElement !== line.parentElement) return;
    e.preventDefault();
    line.classList.add("target");
  });
  line.addEventListener("dragleave", () => line.classList.remove("target"));
  line.addEventListener("drop", (e) => {
    e.preventDefault();
    move(held, line);
  });
  line.addEventListener("keydown", (e) => {
    if (!e.altKey || (e.key !== "ArrowUp" && e.key !== "ArrowDown")) return;
    e.preventDefault();
    const all = [...line.parentElement.querySelectorAll(":scope > [data-move]")];
    move(line, all[all.indexOf(line) + (e.key === "ArrowUp" ? -1 : 1)]);
  });
}

bind("Alt + ↑ ↓", phrase("keymove"), () => {});
