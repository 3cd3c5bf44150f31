import { bind } from "./lib/shell.js";
import { el, newID } from "./lib/dom.js";
import { Queue, offline } from "./lib/queue.js";
import { phrase } from "./lib/phrase.js";

// The register: a row is shown dashed until the server says that its entry is on the disk.

const main = document.getElementById("main");
const form = document.querySelector("[data-register]");
const list = document.querySelector(".here-list");
const visitors = document.querySelector("[data-visitors]");
const said = document.querySelector("[data-said]");
const kept = document.querySelector("[data-kept]");
const count = document.querySelector("[data-count]");
const { class: klass, day: on } = main.dataset;
const address = `/register/${klass}/${on}/entries`;

const rowOf = (student) => list.querySelector(`[data-student="${CSS.escape(student)}"]`);

const queue = new Queue(address, {
  changed() {
    queue.say(kept);
    for (const row of document.querySelectorAll(".here-list li")) row.classList.toggle("pending", queue.pending(row.dataset.entry));
    count.textContent = document.querySelectorAll('.here-list li[data-state="present"], .here-list li[data-state="late"]').length;
  },
  refused(entry, why) {
    // What was entered on top of it here falls with it.
    const row = entry.student ? rowOf(entry.student) : [...visitors.children].find((r) => r.dataset.entry === entry.id);
    if (row) {
      row.dataset.entry = why.current?.id ?? "";
      show(row, why.current?.state === "absent" ? "" : why.current?.state ?? "");
    }
    said.hidden = false;
    said.append(el("p", {}, `${row?.dataset.name ?? entry.visitor}: ${why.problem}`));
  },
});

function show(row, state) {
  row.dataset.state = state;
  row.querySelector(".tap").setAttribute("aria-pressed", String(state !== ""));
  const by = { live: phrase("live"), recorded: phrase("recorded") }[row.dataset.mode] ?? "";
  row.querySelector(".how").textContent = [{ present: row.dataset.makeup ? phrase("makingup") : by ? "" : phrase("here"), late: phrase("late") }[state] ?? "", state && by].filter(Boolean).join(", ");
  row.querySelector("[data-late]")?.setAttribute("aria-pressed", String(state === "late"));
}

const mode = () => form.elements.mode.value;

/** enter puts a student's state on record, on top of what stands. */
function enter(row, state) {
  const entry = { id: newID(), class: klass, on, student: row.dataset.student ?? "", visitor: row.dataset.student ? "" : row.dataset.name, state: state || "absent", mode: mode(), make_up: Boolean(row.dataset.makeup), supersedes: row.dataset.entry ?? "" };
  row.dataset.entry = entry.id;
  row.dataset.mode = entry.mode;
  show(row, state);
  queue.put(entry);
}

function row(student, name, label) {
  return el("li", { "data-student": student, "data-name": name, "data-state": "", "data-entry": "" },
    el("button", { type: "button", className: "tap", "aria-pressed": "false", "data-row": "" }, el("span", { className: "rank-mark" }, el("small", {}, label)), el("b", {}, el("bdi", {}, name)), el("span", { className: "how" })));
}

function visitor(name) {
  const added = row("", name, phrase("trial"));
  delete added.dataset.student;
  visitors.append(added);
  return added;
}

document.addEventListener("click", (e) => {
  const at = e.target.closest(".here-list li");
  if (!at) return;
  if (e.target.closest("[data-late]")) {
    e.preventDefault();
    enter(at, at.dataset.state === "late" ? "present" : "late");
  } else if (e.target.closest(".tap")) {
    e.preventDefault();
    enter(at, at.dataset.state ? "" : "present");
    if (!at.dataset.student && !at.dataset.state) at.remove();
  }
});

form?.querySelector("[data-add-other]").addEventListener("click", (e) => {
  e.preventDefault();
  const select = form.elements.other, chosen = select.selectedOptions[0];
  if (!chosen?.value) return;
  const added = row(chosen.value, chosen.textContent, phrase("madeup"));
  added.dataset.makeup = "1";
  list.append(added);
  chosen.remove();
  enter(added, "present");
});

form?.querySelector("[data-add-visitor]").addEventListener("click", (e) => {
  e.preventDefault();
  const name = form.elements.visitor.value.trim().replace(/\s+/g, " ");
  if (!name) return;
  form.elements.visitor.value = "";
  enter(visitor(name), "present");
});

form?.addEventListener("submit", (e) => { if (!e.submitter?.matches("[name=keep]")) e.preventDefault(); });

const find = document.querySelector("[data-names]");
find?.addEventListener("input", () => {
  const wanted = find.value.trim().toLowerCase();
  for (const r of list.children) r.hidden = wanted !== "" && !(r.dataset.name ?? "").toLowerCase().includes(wanted);
});
find?.addEventListener("keydown", (e) => {
  if (e.key !== "Enter") return;
  e.preventDefault();
  const shown = [...list.children].filter((r) => !r.hidden && r.dataset.student);
  if (shown.length === 1) {
    enter(shown[0], shown[0].dataset.state ? "" : "present");
    find.value = "";
    find.dispatchEvent(new Event("input"));
  }
});
bind("l", phrase("keylate"), () => document.activeElement?.closest("[data-student]")?.querySelector("[data-late]")?.click());
bind("f", phrase("keyfind"), () => find?.focus());

// What an earlier page kept is laid over what the server knew.
if (form) {
  for (const entry of await queue.open(Number(main.dataset.made))) {
    let at = entry.student ? rowOf(entry.student) : [...visitors.children].find((r) => r.dataset.entry === entry.supersedes);
    if (!at && entry.student) {
      const option = [...form.elements.other.options].find((o) => o.value === entry.student);
      at = row(entry.student, option?.textContent ?? phrase("student"), phrase("madeup"));
      at.dataset.makeup = "1";
      list.append(at);
      option?.remove();
    } else if (!at) at = visitor(entry.visitor);
    at.dataset.entry = entry.id;
    show(at, entry.state === "absent" ? "" : entry.state);
  }
  queue.changed();
}
offline();
