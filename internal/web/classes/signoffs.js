import { bind } from "./lib/shell.js";
import { el, newID } from "./lib/dom.js";
import { Queue, offline } from "./lib/queue.js";
import { colours } from "./lib/colours.js";
import { phrase } from "./lib/phrase.js";

// What was shown in class: a tap signs off, the same tap takes it back.

const main = document.getElementById("main");
const kept = document.querySelector("[data-kept]");
const said = document.querySelector("[data-said]");
const { class: klass, day: on } = main.dataset;

const rowOf = (entry) => document.querySelector(`[data-technique="${CSS.escape(entry.technique)}"][data-role="${CSS.escape(entry.role)}"] [data-enrolment="${CSS.escape(entry.enrolment)}"][data-line="${CSS.escape(entry.line ?? "")}"]`);

const queue = new Queue(`/signoffs/${klass}/${on}/entries`, {
  changed() {
    queue.say(kept);
    for (const row of document.querySelectorAll(".sign-list li")) row.classList.toggle("pending", queue.pending(row.dataset.last));
  },
  refused(entry, why) {
    said.hidden = false;
    said.append(el("p", {}, `${rowOf(entry)?.querySelector("bdi").textContent ?? ""}: ${why.problem} `, el("button", { type: "button", className: "button is-small", onclick: () => location.reload() }, phrase("reload"))));
  },
});

/** show draws what an entry does to its row. */
function show(row, entry) {
  const named = (side) => row.querySelector(`[data-side="${side}"]`)?.textContent;
  const two = named("left") !== undefined;
  const part = entry.kind === "shown" && entry.stage < Number(row.dataset.stage) ? entry.stage : 0;
  if (entry.kind === "shown" && !part) {
    if (entry.side !== "right") row.dataset.left = "1";
    if (entry.side !== "left") row.dataset.right = "1";
    row.dataset.done = !two || (row.dataset.left && row.dataset.right) ? "1" : "";
  } else if (entry.kind === "withdrawn") row.dataset.left = row.dataset.right = row.dataset.done = "";
  const words = row.dataset.done ? phrase("shown") : row.dataset.left && two ? phrase("shownside", { side: named("left") }) : row.dataset.right && two ? phrase("shownside", { side: named("right") })
    : entry.kind === "not_yet" ? phrase(entry.fault ? "notyetfor" : "notyet", { fault: entry.fault }) : part ? phrase("shownpart", { n: part }) : "";
  row.querySelector("[data-state]").textContent = words;
  for (const b of row.querySelectorAll("[data-kind]")) {
    const pressed = b.dataset.part ? part : b.dataset.kind === "not_yet" ? entry.kind === "not_yet" : b.dataset.side === "" ? row.dataset.done : row.dataset[b.dataset.side];
    b.setAttribute("aria-pressed", String(Boolean(pressed)));
  }
}

function enter(row, kind, more = {}) {
  const item = row.closest("[data-technique]");
  const entry = { id: newID(), enrolment: row.dataset.enrolment, technique: item.dataset.technique, role: item.dataset.role, stage: Number(row.dataset.stage), side: "", kind, fault: "", clip: false, class: klass, on, supersedes: "", line: row.dataset.line, ...more };
  if (kind === "withdrawn") row.dataset.last = "";
  else row.dataset.last = entry.id;
  show(row, entry);
  queue.put(entry);
}

document.addEventListener("click", (e) => {
  const button = e.target.closest("[data-kind]"), fault = e.target.closest("[data-fault]");
  const row = e.target.closest(".sign-list li");
  if (!row) return;
  if (fault) {
    row.querySelector(".faults").remove();
    enter(row, "not_yet", { fault: fault.dataset.fault });
    row.querySelector(".no").focus();
  } else if (button?.dataset.kind === "not_yet") {
    if (row.querySelector(".faults")) { row.querySelector(".faults").remove(); return; }
    if (button.getAttribute("aria-pressed") === "true" && row.dataset.last) enter(row, "withdrawn", { supersedes: row.dataset.last });
    else {
      row.append(row.closest("details").querySelector("template").content.cloneNode(true));
      row.querySelector("[data-fault]").focus();
    }
  } else if (button) {
    if (button.getAttribute("aria-pressed") === "true") {
      if (row.dataset.last) enter(row, "withdrawn", { supersedes: row.dataset.last });
    } else enter(row, "shown", { side: button.dataset.side, stage: Number(button.dataset.part ?? row.dataset.stage) });
  }
});

const find = document.querySelector("[data-names]");
find?.addEventListener("input", () => {
  const wanted = find.value.trim().toLowerCase();
  for (const item of document.querySelectorAll("[data-technique]")) item.hidden = wanted !== "" && !item.dataset.name.toLowerCase().includes(wanted);
});
bind("f", phrase("keyfind"), () => find?.focus());

// With a keyboard: j and k go from student to student through what is open, or open what comes next.
const rows = () => [...document.querySelectorAll(".sign-list li")].filter((r) => !r.closest("[hidden]"));
const here = () => document.activeElement?.closest(".sign-list li");

function walk(by) {
  const all = rows();
  let at = all.indexOf(here());
  if (at < 0) { // from the item in focus on, or from the first
    const item = document.activeElement?.closest("[data-technique]");
    at = (item ? all.findIndex((r) => item.contains(r)) : 0) - (by > 0 ? 1 : 0);
  }
  const next = all[Math.min(Math.max(at + by, 0), all.length - 1)];
  if (!next) return;
  next.closest("details").open = true;
  next.querySelector(".yes").focus();
  next.scrollIntoView({ block: "nearest" });
}

bind("j", phrase("keynext"), () => walk(1));
bind("k", phrase("keybefore"), () => walk(-1));
bind("y", phrase("keyshown"), () => here()?.querySelector(".yes").click());
bind("l", phrase("keyfirst"), () => here()?.querySelector("[data-side=left]")?.click());
bind("r", phrase("keyother"), () => here()?.querySelector("[data-side=right]")?.click());
bind("n", phrase("keynot"), () => here()?.querySelector(".no").click());
bind("o", phrase("keyopen"), () => {
  const item = document.activeElement?.closest("[data-technique]");
  if (!item) return;
  item.open = !item.open;
  item.querySelector("summary").focus();
});

for (const entry of await queue.open(Number(main.dataset.made))) {
  const row = rowOf(entry);
  if (!row) continue;
  row.dataset.last = entry.kind === "withdrawn" ? "" : entry.id;
  show(row, entry);
}
queue.changed();
colours();
offline();
