// Fields that are read as one types: what the server makes of each line stands under the
// field. The server stays the judge; this only shows early what it will say.
import { el } from "./dom.js";
import { phrase } from "./phrase.js";

const pause = 180; // ms without a key before the server is asked

/** live asks the server about a field's text whenever it has changed, the last answer wins. */
export function live(field, address, name, more, show) {
  let timer, asked = 0;
  async function ask() {
    const mine = ++asked;
    const body = new URLSearchParams(more);
    body.set(name, field.value);
    let lines;
    try {
      const answer = await fetch(address, { method: "POST", body });
      if (!answer.ok) return;
      lines = await answer.json();
    } catch {
      return; // no connection: saving will say what is wrong
    }
    if (mine === asked) show(lines);
  }
  field.addEventListener("input", () => {
    clearTimeout(timer);
    timer = setTimeout(ask, pause);
  });
  if (field.value.trim() !== "") ask();
}

/** fault shows a line with a mark under the character where it goes wrong. */
export function fault(text, column, problem) {
  return el("pre", { tabIndex: 0 }, text + "\n" + " ".repeat(Math.max(column - 1, 0)) + "^\n", el("strong", {}, problem));
}

/** asked shows what was read in one way and could be meant in another. */
export function asked(doubts) {
  return (doubts ?? []).map((d) => el("p", { className: "asked" }, `${d.column > 1 ? `${phrase("column", { n: d.column })} ` : ""}${d.reason.replace(/^./, (c) => c.toUpperCase())}.`));
}

/** grow keeps a text area as high as its text. */
export function grow(area) {
  const fit = () => { area.rows = Math.max(area.value.split("\n").length, Number(area.dataset.rows)); };
  area.dataset.rows = area.rows;
  area.addEventListener("input", fit);
  fit();
}

/**
 * complete offers names while one types the last word before the caret. Tab takes the first
 * offer, arrows choose another, Enter takes one that was chosen; without a choice Enter stays
 * a new line. begins finds where the word to be completed begins in the text before the caret.
 */
export function complete(field, offersFor) {
  const id = field.id + "-offers";
  const list = el("ul", { id, className: "offers", role: "listbox", "aria-label": phrase("fitting"), hidden: true });
  field.after(list);
  for (const [key, value] of Object.entries({ "aria-controls": id, "aria-autocomplete": "list", "aria-haspopup": "listbox" })) field.setAttribute(key, value);
  let at = -1, from = 0, offers = [];

  function close() {
    list.hidden = true;
    at = -1;
    field.removeAttribute("aria-activedescendant");
  }
  function draw() {
    list.replaceChildren(...offers.map((o, i) => el("li", { id: `${id}-${i}`, role: "option", "aria-selected": String(i === at), onmousedown: (e) => { e.preventDefault(); take(i); } }, o)));
    list.hidden = offers.length === 0;
    if (at >= 0) {
      field.setAttribute("aria-activedescendant", `${id}-${at}`);
      list.children[at].scrollIntoView({ block: "nearest" });
    } else field.removeAttribute("aria-activedescendant");
  }
  function take(i) {
    const end = field.selectionStart;
    field.setRangeText(offers[i], from, end, "end");
    close();
    field.dispatchEvent(new Event("input", { bubbles: true }));
    close();
  }
  function offer() {
    const before = field.value.slice(0, field.selectionStart);
    ({ from, offers } = offersFor(before));
    at = -1;
    draw();
  }
  field.addEventListener("input", offer);
  field.addEventListener("blur", close);
  field.addEventListener("keydown", (e) => {
    if (list.hidden || e.ctrlKey || e.altKey || e.metaKey) return;
    if (e.key === "ArrowDown" || e.key === "ArrowUp") {
      at = (at + (e.key === "ArrowDown" ? 1 : -1) + offers.length) % offers.length;
      draw();
    } else if (e.key === "Tab" && !e.shiftKey) take(Math.max(at, 0));
    else if (e.key === "Enter" && at >= 0) take(at);
    else if (e.key === "Escape") close();
    else return;
    e.preventDefault();
    e.stopPropagation();
  });
  // For names that arrive after the first letters were typed.
  return () => { if (document.activeElement === field && field.value !== "") offer(); };
}

const most = 8; // offers shown at once

/** fitting are names that begin as one types, shortest first; nothing for less than two letters. */
export function fitting(names, typed) {
  const wanted = typed.toLowerCase();
  if (wanted.length < 2) return [];
  return names.filter((n) => n.toLowerCase().startsWith(wanted) && n.toLowerCase() !== wanted).sort((a, b) => a.length - b.length || a.localeCompare(b)).slice(0, most);
}
