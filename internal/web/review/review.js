import { bind } from "./lib/shell.js";

const rows = [...document.querySelectorAll("[data-candidate]")];
let at = Math.max(rows.findIndex((r) => `#${r.id}` === location.hash), 0);

function go(n) {
  rows[at]?.classList.remove("at");
  at = Math.min(Math.max(n, 0), rows.length - 1);
  rows[at]?.classList.add("at");
}

function walk(by) {
  go(at + by);
  rows[at]?.focus({ preventScroll: true });
  rows[at]?.scrollIntoView({ block: "nearest" });
}

bind("j", "the next candidate", () => walk(1));
bind("k", "the candidate before", () => walk(-1));
bind("a", "agree with the proposal", () => rows[at]?.querySelector("[data-agree]")?.click());
bind("o", "decide otherwise, with a reason", () => {
  const other = rows[at]?.querySelector(".other");
  if (!other) return;
  other.open = true;
  other.querySelector("select").focus();
});
bind("m", "all marks", () => {
  const marks = rows[at]?.querySelector(".all-marks");
  if (marks) marks.open = !marks.open;
});
bind("u", "take the decision back", () => rows[at]?.querySelector("[data-undo]")?.click());
bind("w", "announce what is decided", () => {
  const announce = document.querySelector("details.announce");
  if (!announce) return;
  announce.open = true;
  announce.querySelector("button")?.focus();
});
bind("h", "hold the result back, or let it go", () => rows[at]?.querySelector("[data-hold]")?.click());
for (const [i, row] of rows.entries()) row.addEventListener("focusin", () => go(i));
go(at);

// How many are agreed with at once is said on the button.
const ticks = [...document.querySelectorAll("[name=agree][form=agree]")];
const ticked = document.querySelector("[data-ticked]");
const tell = () => { if (ticked) ticked.textContent = ticks.filter((t) => t.checked).length; };
for (const t of ticks) t.addEventListener("change", tell);
bind("t", "tick the candidate, to agree with several at once", () => { const t = rows[at]?.querySelector("[name=agree]"); if (t) { t.checked = !t.checked; tell(); } });
tell();
