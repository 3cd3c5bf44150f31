// A strip of moves: one cell for what is done at one time, sentences too. Which words each
// stance is told comes with the cell.
import { el } from "./dom.js";

/** told is a cell as one reading of it says: of a stance, or of its other side. */
export const told = (cell, reading) => ({ ...cell, ...(reading ? cell.readings?.[reading] : undefined) });

/** cellOf is one cell; what both stances are told stands small under neutral words. */
function cellOf(cell, reading, both) {
  const c = told(cell, reading);
  const small = both?.map((r) => told(cell, r).what) ?? [];
  return el("li", { className: [c.count % 2 === 0 && "even", c.sentence && "words"].filter(Boolean).join(" ") },
    c.answers && el("span", { className: "to" }, `to ${c.answers}`),
    el("b", {}, c.what), c.how && el("span", {}, c.how), c.feet && el("span", { className: "feet" }, c.feet),
    small.length > 0 && small.some((s) => s !== c.what) && el("span", { className: "both" }, el("span", {}, `left forward: ${small[0]}`), el("span", {}, `right forward: ${small[1]}`)),
    c.held && el("span", { className: "held" }, "holds: " + c.held.join(", ")),
    c.as_written && el("span", { className: "aswritten" }, "as written"));
}

/** strip is the cells of a line; both are the readings shown small under neutral words. */
export function strip(cells, { reading = "", both, className = "prompts" } = {}) {
  return el("ol", { className, "aria-label": "Moves" }, (cells ?? []).map((c) => cellOf(c, reading, both)));
}
