import { bind } from "./lib/shell.js";
import { phrase } from "./lib/phrase.js";

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

bind("j", phrase("keynext"), () => walk(1));
bind("k", phrase("keybefore"), () => walk(-1));
bind("a", phrase("keyagree"), () => rows[at]?.querySelector("[data-agree]")?.click());
bind("o", phrase("keyother"), () => {
  const other = rows[at]?.querySelector(".other");
  if (!other) return;
  other.open = true;
  other.querySelector("select").focus();
});
bind("m", phrase("keymarks"), () => {
  const marks = rows[at]?.querySelector(".all-marks");
  if (marks) marks.open = !marks.open;
});
bind("u", phrase("keyback"), () => rows[at]?.querySelector("[data-undo]")?.click());
bind("w", phrase("keyannounce"), () => {
  const announce = document.querySelector("details.announce");
  if (!announce) return;
  announce.open = true;
  announce.querySelector("button")?.focus();
});
bind("h", phrase("keyhold"), () => rows[at]?.querySelector("[data-hold]")?.click());
for (const [i, row] of rows.entries()) row.addEventListener("focusin", () => go(i));
go(at);

// How many are agreed with at once is said on the button.
const ticks = [...document.querySelectorAll("[name=agree][form=agree]")];
const ticked = document.querySelector("[data-ticked]");
const tell = () => { if (ticked) ticked.textContent = ticks.filter((t) => t.checked).length; };
for (const t of ticks) t.addEventListener("change", tell);
bind("t", phrase("keytick"), () => { const t = rows[at]?.querySelector("[name=agree]"); if (t) { t.checked = !t.checked; tell(); } });
tell();
