// What every screen does: keys, lists walked with arrows, filters, print; where the focus begins; what was typed is kept.

import "./drafts.js";
import { phrase } from "./phrase.js";

const quietKey = "velvetladder.keys";
const keys = new Map(); // key → {words, act}

/** typing reports whether a text field has the focus, so that letters belong to it. */
const typing = (target) => target.closest("input:not([type=checkbox]):not([type=radio]), textarea, select, [contenteditable]") !== null;

const quiet = () => localStorage.getItem(quietKey) === "off";

/** bind makes a key of the screen do something; words say what, for the list under "?". */
export function bind(key, words, act) {
  keys.set(key, { words, act });
}

document.addEventListener("keydown", (e) => {
  if (e.defaultPrevented || e.ctrlKey || e.metaKey || e.altKey || document.querySelector("dialog[open]")) return;
  if (e.key === "Escape" && document.activeElement instanceof HTMLElement) {
    const open = document.activeElement.closest("details[open]");
    if (open) { open.open = false; open.querySelector("summary").focus(); } else document.activeElement.blur();
    return;
  }
  if (typing(e.target)) return;
  const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
  const bound = keys.get(key);
  if (!bound || (e.key.length === 1 && quiet())) return;
  e.preventDefault();
  bound.act(e);
});

/** walk moves the focus along the rows of the list it is in, or into the first list. */
function walk(by) {
  const here = document.activeElement?.closest("[data-list]") ?? document.querySelector("main [data-list]");
  if (!here) return;
  const rows = [...here.querySelectorAll("[data-row]")].filter((r) => r.offsetParent !== null);
  const at = rows.indexOf(document.activeElement);
  rows[at < 0 ? (by > 0 ? 0 : rows.length - 1) : Math.min(Math.max(at + by, 0), rows.length - 1)]?.focus();
}

function help() {
  const dialog = document.getElementById("keys");
  const list = dialog.querySelector("dl");
  list.replaceChildren();
  for (const [key, { words }] of keys) {
    const dt = document.createElement("dt"), dd = document.createElement("dd"), kbd = document.createElement("kbd");
    kbd.textContent = { ArrowDown: "↓", ArrowUp: "↑", ArrowLeft: "←", ArrowRight: "→" }[key] ?? key.toUpperCase();
    dt.append(kbd);
    dd.textContent = words;
    list.append(dt, dd);
  }
  const off = dialog.querySelector("#keys-off");
  off.checked = quiet();
  off.onchange = () => localStorage.setItem(quietKey, off.checked ? "off" : "on");
  dialog.showModal();
}

bind("?", phrase("keys"), help);
bind("/", phrase("find"), () => document.getElementById("find")?.focus());
bind("ArrowDown", phrase("nextrow"), () => walk(1));
bind("ArrowUp", phrase("rowbefore"), () => walk(-1));

for (const el of document.querySelectorAll("[data-key]")) {
  const words = el.textContent.replace(/\s*\S\s*$/, "").trim();
  bind(el.dataset.key, words, () => el.click());
}

for (const el of document.querySelectorAll("[data-opens]")) {
  el.addEventListener("click", (e) => {
    const target = document.getElementById(el.dataset.opens);
    e.preventDefault();
    target.open = true;
    target.scrollIntoView({ block: "center" });
    target.querySelector("input:not([type=hidden])")?.focus();
  });
}

for (const el of document.querySelectorAll("[data-submits]")) el.addEventListener("change", () => el.form.requestSubmit());
for (const el of document.querySelectorAll("[data-print]")) el.addEventListener("click", () => window.print());

// A list that is wholly on the page narrows as one types; Enter asks the server.
for (const field of document.querySelectorAll("[data-filter]")) {
  const rows = [...document.querySelectorAll("tr[data-text]")];
  const shown = document.querySelector("[data-shown]");
  const before = shown?.textContent;
  field.addEventListener("input", () => {
    const wanted = field.value.trim().toLowerCase();
    let n = 0;
    for (const row of rows) {
      row.hidden = !row.dataset.text.toLowerCase().includes(wanted);
      n += row.hidden ? 0 : 1;
    }
    if (shown) shown.textContent = wanted ? phrase("fit", { n, of: rows.length }) : before;
  });
}

// A form goes once, however often it is clicked; the server answers a repeat the same way.
document.addEventListener("submit", (e) => {
  if (e.target.method !== "post" || e.defaultPrevented) return;
  if (e.target.dataset.sent) e.preventDefault();
  e.target.dataset.sent = "1";
});
window.addEventListener("pageshow", () => document.querySelectorAll("form[data-sent]").forEach((f) => delete f.dataset.sent));

// A long ladder is scrolled to the rung one is at, without moving the page.
const here = document.querySelector(".rungs .here");
if (here) {
  const within = [here.closest(".rail"), here.closest(".rungs")];
  for (const box of within) {
    const of = box.getBoundingClientRect(), at = here.getBoundingClientRect();
    if (at.bottom > of.bottom || at.top < of.top) box.scrollTop += at.top - of.top - (box.clientHeight - at.height) / 2;
    if (at.right > of.right || at.left < of.left) box.scrollLeft += at.left - of.left - (box.clientWidth - at.width) / 2;
  }
}

/** focusFirst puts the focus on the first thing wrong, on what was just made, or in the first field of a form for something new. */
function focusFirst() {
  if (document.activeElement && document.activeElement !== document.body) return; // the page, or the reader, has put it somewhere
  const wrong = document.querySelector("main [aria-invalid=true], main .entry.bad :is(input, select, textarea), main .bad :is(input, select, textarea)");
  if (wrong) {
    wrong.closest("details")?.setAttribute("open", "");
    wrong.focus();
    return;
  }
  const another = location.pathname.endsWith("/new");
  if (!another && new URLSearchParams(location.search).has("done")) {
    const made = (location.hash && document.getElementById(decodeURIComponent(location.hash.slice(1)))) || document.querySelector("main h1");
    if (made) {
      if (!made.hasAttribute("tabindex")) made.tabIndex = -1;
      made.focus({ preventScroll: !location.hash });
    }
    return;
  }
  if (another && !matchMedia("(pointer: coarse)").matches) { // where a keyboard would come up, the reader opens it
    document.querySelector("main form.sheet-form :is(input:not([type=hidden]):not([type=checkbox]):not([type=radio]), textarea)")?.focus({ preventScroll: true });
  }
}
document.addEventListener("DOMContentLoaded", focusFirst);
