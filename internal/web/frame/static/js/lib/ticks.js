import { el } from "./dom.js";
import { phrase } from "./phrase.js";

/**
 * ticks is what is ticked of a candidate's free choice when it is seen.
 * all: the texts with their notes; ticked: those that are, a line each; at: what the focus is kept by; changed takes what is ticked now.
 */
export function ticks({ all, ticked, name, at, disabled, changed }) {
  const seen = (ticked ?? "").split("\n").filter(Boolean);
  const toggle = (text) => changed((seen.includes(text) ? seen.filter((x) => x !== text) : all.map((x) => x.text).filter((x) => x === text || seen.includes(x))).join("\n"));
  return el("div", { className: "ticks", role: "group", "aria-label": phrase("seenof", { name }) }, all.map((x, i) => el("button", { type: "button", className: "tick", "aria-pressed": seen.includes(x.text) ? "true" : "false", disabled, "data-focus": `${at}tick${i}`, onclick: () => toggle(x.text) },
    el("span", { "aria-hidden": "true" }, seen.includes(x.text) ? "☑ " : "☐ "), x.text, x.note && el("small", {}, ` ${x.note}`))));
}
