import "./lib/shell.js";
import { el } from "./lib/dom.js";
import { asked, complete, fault, fitting, grow, live } from "./lib/live.js";
import { catalogue } from "./lib/notation.js";
import { phrase } from "./lib/phrase.js";

// A page typed at writing speed: each line stands below as it is read, and Ctrl with Enter
// adds them all.
const form = document.querySelector("[data-binder]");
const page = form.elements.page;
const read = document.querySelector("[data-binder-read]");
const sum = document.querySelector("[data-binder-sum]");
const sections = JSON.parse(form.dataset.sections), kinds = JSON.parse(form.dataset.kinds);

/** kindOf lets the kind of something new be chosen: the choice is written on its line. */
function kindOf(l) {
  return el("select", { className: "kind-of", "aria-label": phrase("kindof", { call: l.call }), onchange: (e) => {
    const lines = page.value.split("\n");
    lines[l.number - 1] = l.chosen.replace("{kind}", e.target.value);
    page.value = lines.join("\n");
    page.dispatchEvent(new Event("input", { bubbles: true }));
  } }, (l.kind && !l.problem ? [] : [el("option", { value: "", selected: true }, phrase("ofwhatkind"))]), Object.values(kinds).map((w) => el("option", { value: w, selected: !l.problem && w === kinds[l.kind] }, w)));
}

/** newSection lets a heading that the program does not know be made a section of it, with the kind of what is new in it. */
function newSection(name) {
  const kind = el("select", { className: "kind-of" },
    Array.from(form.elements.section_kind.options, (o) => el("option", { value: o.value }, o.value ? o.text : phrase("whatkind"))));
  return el("p", { className: "new-section" }, el("label", {}, `${phrase("holds", { section: name })} `, kind), " ", el("button", { type: "button", className: "button is-small", onclick: () => {
    form.elements.section_name.value = name;
    form.elements.section_kind.value = kind.value;
    form.requestSubmit(document.querySelector("button[form=binder][formaction]"));
  } }, phrase("newsection", { section: name })));
}

live(page, form.dataset.binder, "page", {}, (lines) => {
  read.replaceChildren(...lines.map((l) => (l.head
    ? el("li", { className: "head" }, el("span", { className: "soft" }, `${phrase("head")} `), l.text)
    : l.aside
    ? l.noted ? el("li", {}, el("b", {}, phrase("noted")), " ", l.noted, asked(l.doubts)) : el("li", { className: "aside" }, el("span", { className: "soft" }, `${phrase("aside", { why: l.aside })} `), l.text)
    : l.problem
    ? el("li", { className: "bad" }, el("div", { className: "live" }, fault(l.text, l.column, `${phrase("line", { n: l.number })} ${l.problem}`)), l.heads && newSection(l.heads), l.chosen && el("p", { className: "new-section" }, kindOf(l)))
    : el("li", {}, el("b", {}, l.section), " ", el("bdi", {}, l.call), " ", el("span", { className: "soft" }, [l.amount, l.traits].filter(Boolean).join(", "), l.note && ` (${l.note})`, l.stands && ` · ${l.instead ? phrase("instead", { amount: l.instead }) : phrase("stands")}`, l.waits ? ` · ${phrase("waits")}` : l.new && ` · ${phrase("new")} `, l.chosen ? kindOf(l) : l.new, l.makes && ` · ${phrase("newwith", { names: l.makes })}`, l.answers && ` · ${phrase("answers", { attack: l.answers })}`, l.variant && ` · ${l.variant}`, l.rule && ` · ${phrase("rule", { rule: l.rule })}`, l.place && ` · ${l.place}`, l.steps && el("em", {}, ` ${l.steps}`)), asked(l.doubts), l.asked && el("span", { className: "asked" }, ` ${phrase("onlyaname")}`)))));
  const wrong = lines.filter((l) => l.problem).length;
  const n = lines.filter((l) => !l.aside && !l.head).length;
  const doubtful = lines.filter((l) => !l.problem && (l.doubts?.length || l.asked)).length;
  sum.textContent = lines.length === 0 ? "" : `${(n === 1 ? sum.dataset.one : sum.dataset.many).replace("{n}", n)}${wrong ? `, ${phrase("tocorrect", { n: wrong })}` : ""}${doubtful ? `, ${phrase("doubtful", { n: doubtful })}` : ""}${wrong || doubtful ? "" : `, ${phrase("understood")}`}`;
});
grow(page);
let names = [];
const again = complete(page, (before) => {
  const from = before.lastIndexOf("\n") + 1;
  const typed = before.slice(from);
  return { from, offers: typed.includes(",") || typed.includes(":") ? [] : fitting([...sections, ...names], typed) };
});
catalogue(form.dataset.program).then((known) => { names = known.names; again(); });
page.addEventListener("keydown", (e) => {
  if (e.key !== "Enter" || !(e.ctrlKey || e.metaKey)) return;
  e.preventDefault();
  form.requestSubmit();
});
