import "./lib/shell.js";
import { el } from "./lib/dom.js";
import { all, forget, mine, openKept } from "./lib/kept.js";
import { phrase } from "./lib/phrase.js";

// What waits on this device, whoever made it. It can be saved as a file and taken in at the head table; it is let
// go of only once the records have it.

const main = document.getElementById("main");
const shelf = main.querySelector("[data-shelf]"), said = main.querySelector("[data-said]");
const owner = main.dataset.owner === "1";
const atOnce = 400; // entries in one request
const mark = "velvetladder kept entries 1";

const post = async (to, body) => {
  const reply = await fetch(to, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) });
  return { ok: reply.ok, ...(await reply.json()) };
};

/** parts are so many at once. */
function* parts(list, n) {
  for (let i = 0; i < list.length; i += n) yield list.slice(i, i + n);
}

const db = await openKept();

/** settle lets go of what the records have; without network nothing changes. */
async function settle(waiting) {
  try {
    for (const some of parts(waiting, atOnce)) {
      const { stored = [] } = await post("/kept/stored", { ids: some.map((k) => k.entry.id) });
      await forget(db, some.filter((k) => stored.includes(k.entry.id)));
    }
  } catch {
    // the program cannot be reached
  }
}

const waitingHere = async () => (await all(db)).filter((k) => !k.stored);

/** sheaves are the entries by where they belong and who made them. */
function sheaves(list) {
  const out = new Map();
  for (const k of list) {
    const name = `${k.address}\n${k.hand ?? ""}`;
    if (!out.has(name)) out.set(name, { address: k.address, hand: k.hand ?? "", name: k.name ?? "", entries: [], says: [], at: k.at });
    out.get(name).entries.push(k.entry);
    out.get(name).says.push(k.says ?? "");
  }
  return [...out.values()];
}

function save(list) {
  const text = JSON.stringify({ kind: mark, at: Date.now(), sheaves: sheaves(list).map(({ address, hand, name, entries }) => ({ address, hand, name, entries })) }, null, 1);
  const link = el("a", { href: URL.createObjectURL(new Blob([text], { type: "application/json" })), download: `kept-${new Date().toISOString().slice(0, 16).replace(/[^0-9]/g, "")}.json` });
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
  said.textContent = phrase("saved");
}

/** takeIn sends sheaves as handed to the head table, and says what became of each. */
async function takeIn(list, place) {
  for (const s of list) {
    let n = 0;
    const no = [];
    for (const some of parts(s.entries, atOnce)) {
      const got = await post(s.address, { entries: some, hand: s.hand, handed: true });
      n += (got.stored ?? []).length;
      no.push(...(got.refused ?? []).map((x) => x.problem));
      if (!got.stored && !got.refused) no.push(got.problem);
    }
    if (n > 0) await post("/kept/handed", { hand: s.hand, n });
    place.append(el("p", { className: no.length > 0 ? "wrong" : "go" }, `${kindOf(s.address)}, ${s.name || phrase("somebody")}: ${phrase("taken", { n, of: s.entries.length })} ${[...new Set(no)].join(" ")}`));
  }
}

function kindOf(address) {
  return phrase(`kind ${address.split("/")[1]}`);
}

async function show() {
  if (!db) {
    shelf.replaceChildren(el("p", {}, phrase("nodb")));
    return;
  }
  const before = await waitingHere();
  if (before.length > 0) await settle(before);
  const list = await waitingHere();
  if (list.length === 0) {
    shelf.replaceChildren(el("p", { className: "go" }, phrase("none")));
    return;
  }
  shelf.replaceChildren(...sheaves(list).map((s) => el("section", { className: "card-plain", "data-sheaf": s.address },
    el("h2", {}, `${kindOf(s.address)}: ${s.entries.length}`),
    el("p", {}, phrase(mine(s) ? "mine" : "other", { who: s.name || phrase("somebody") }), s.at ? `; ${phrase("since", { when: new Date(s.at).toTimeString().slice(0, 5) })}` : "", "."),
    s.says.some(Boolean) && el("ul", { className: "soft" }, s.says.filter(Boolean).map((x) => el("li", {}, x))),
    owner && !mine(s) && el("button", { type: "button", className: "button is-primary", "data-take": "", onclick: () => act(async () => { await takeIn([s], said); await show(); }) }, phrase("take")))),
  el("button", { type: "button", className: "button", "data-save": "", onclick: () => save(list) }, phrase("save")));
}

/** act does something that needs the program, and says where it cannot be reached. */
async function act(what) {
  said.replaceChildren();
  try {
    await what();
  } catch {
    said.textContent = phrase("unreached");
  }
}

main.querySelector("[data-file]")?.addEventListener("change", (e) => act(async () => {
  const place = main.querySelector("[data-outcome]");
  place.replaceChildren();
  let read;
  try {
    read = JSON.parse(await e.target.files[0].text());
  } catch {
    read = {};
  }
  const good = read.kind === mark && Array.isArray(read.sheaves) && read.sheaves.every((s) => /^\/(scoring|bouts|register|checkin|signoffs)\/[\w/?=-]+$/.test(s.address) && Array.isArray(s.entries));
  if (good) await takeIn(read.sheaves, place);
  else place.append(el("p", { className: "wrong" }, phrase("nofile")));
  await show();
}));

await show();
