// A strip of moves: one cell for what is done at one time, sentences too. Which words each
// stance is told comes with the cell.
import { el } from "./dom.js";
import { phrase } from "./phrase.js";

/** told is a cell as one reading of it says: of a stance, or of its other side. */
export const told = (cell, reading) => ({ ...cell, ...(reading ? cell.readings?.[reading] : undefined) });

/** cellOf is one cell; what both stances are told stands small under neutral words. */
function cellOf(cell, reading, both) {
  const c = told(cell, reading);
  const small = both?.map((r) => told(cell, r).what) ?? [];
  return el("li", { className: [c.count % 2 === 0 && "even", c.sentence && "words"].filter(Boolean).join(" ") },
    c.answers && el("span", { className: "to" }, phrase("answers", { what: c.answers })),
    el("b", {}, c.what), c.how && el("span", {}, c.how), c.feet && el("span", { className: "feet" }, c.feet),
    small.length > 0 && small.some((s) => s !== c.what) && el("span", { className: "both" }, el("span", {}, phrase("leftforward", { what: small[0] })), el("span", {}, phrase("rightforward", { what: small[1] }))),
    c.held && el("span", { className: "held" }, phrase("holds", { what: c.held.join(", ") })),
    c.as_written && el("span", { className: "aswritten" }, phrase("aswritten")));
}

/** strip is the cells of a line; both are the readings shown small under neutral words. */
export function strip(cells, { reading = "", both, className = "prompts" } = {}) {
  return el("ol", { className, "aria-label": phrase("moves") }, (cells ?? []).map((c) => cellOf(c, reading, both)));
}
