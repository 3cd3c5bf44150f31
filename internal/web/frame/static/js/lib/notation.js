// Fields for moves: names complete, the strip of moves stands under the field as one types,
// and what cannot be read is marked under its character.
import { el } from "./dom.js";
import { asked, complete, fault, fitting, grow, live } from "./live.js";
import { strip } from "./strip.js";

const catalogues = new Map(); // program → names and words

/** catalogue fetches a program's names once. */
export function catalogue(program) {
  if (!catalogues.has(program)) {
    catalogues.set(program, fetch(`/notation/names?program=${encodeURIComponent(program)}`).then((r) => (r.ok ? r.json() : { names: [], words: [] })).catch(() => ({ names: [], words: [] })));
  }
  return catalogues.get(program);
}

/** tail finds the longest end of a move for which a name or a word of the language fits. */
function tail(known, before) {
  const start = Math.max(before.lastIndexOf(","), before.lastIndexOf("/"), before.lastIndexOf("+"), before.lastIndexOf("\n"), before.lastIndexOf(";")) + 1;
  const words = [...before.slice(start).matchAll(/\S+/g)];
  for (const w of words) {
    const from = start + w.index, typed = before.slice(from);
    const offers = fitting(known.names, typed);
    if (offers.length > 0) return { from, offers };
  }
  const last = words.at(-1);
  if (!last || /\s$/.test(before)) return { from: before.length, offers: [] };
  return { from: start + last.index, offers: fitting(known.words, last[0]) };
}

for (const box of document.querySelectorAll("[data-notation]")) {
  const field = box.querySelector("textarea");
  const program = field.form.dataset.program;
  const place = el("div", { className: "live", "aria-live": "polite" });
  box.append(place);
  grow(field);
  live(field, "/notation", "text", { program, steps: "steps" in box.dataset ? "1" : "" }, (lines) => {
    place.replaceChildren(...lines.filter((l) => l.problem || l.strip).map((l) => (l.problem ? [fault(l.text, l.column, l.problem)] : [strip(l.strip), ...asked(l.doubts)])).flat());
    field.toggleAttribute("data-faulty", lines.some((l) => l.problem));
  });
  let known = { names: [], words: [] };
  const again = complete(field, (before) => tail(known, before));
  catalogue(program).then((names) => { known = names; again(); });
  if (!("steps" in box.dataset)) field.addEventListener("keydown", (e) => { if (e.key === "Enter" && !e.defaultPrevented) { e.preventDefault(); field.form.requestSubmit(); } });
}
