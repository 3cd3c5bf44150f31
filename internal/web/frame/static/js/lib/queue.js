// Entries that must arrive exactly once. Each is kept on the device until the server has named
// it as stored or refused: in the browser's database, so that a reload or a dead battery loses
// nothing, and without one in the memory of this page. The server knows every entry by its id
// and takes it once, however often it is sent. An entry is sent only as the hand that made it,
// the examiner whose seat it was or the person who was signed in; else it stays, and is shown.
import { el } from "./dom.js";
import { all, committed, mine, openKept, result, store } from "./kept.js";
import { phrase } from "./phrase.js";

const retries = [1000, 2000, 4000, 8000]; // ms between tries while the server cannot be reached
const patience = 20_000; // ms between tries while it answers and will not take them
const most = 200; // entries sent at once
const theirOwn = [400, 413, 422]; // answers that are about what was sent, so that each may be tried alone

/**
 * Queue sends entries to one address, in the order they were put in.
 * changed() is called when something is kept, stored or refused; refused(entry, why) when the
 * server would not take one; stored(entry, answer) when it has.
 */
export class Queue {
  constructor(address, { changed, refused, stored = () => {} }) {
    this.address = address;
    this.changed = changed;
    this.refused = refused;
    this.stored = stored;
    this.waiting = []; // {seq, entry, stuck}
    this.others = 0; // entries for this address that another hand made
    this.ready = openKept();
    this.early = new Set(); // ids of entries put in before open was through
    this.lost = false; // the server cannot be reached
    this.held = ""; // why the server takes nothing just now
    this.safe = true; // entries outlive this page
    this.tries = 0;
    window.addEventListener("online", () => this.send());
  }

  /**
   * open takes up what an earlier page kept. made is when the server made this page, in ms: a page
   * that was loaded without network is older than what was stored since, and knows nothing of it.
   * What open returns, oldest first, has to be laid over the page.
   */
  async open(made) {
    this.db = await this.ready;
    this.safe = this.db !== null;
    const found = this.db ? await all(this.db, this.address) : [];
    this.others = found.filter((k) => !k.stored && !mine(k)).length;
    const known = found.filter((k) => mine(k) && !this.early.has(k.entry.id)); // what was put in meanwhile is in the queue already
    this.waiting = [...known.filter((k) => !k.stored).map(({ seq, entry }) => ({ seq, entry })), ...this.waiting];
    this.early = null;
    for (const old of known) if (old.stored && old.stored <= made) await this.drop(old);
    this.changed();
    this.send();
    return known.filter((k) => !k.stored || k.stored > made).map((k) => k.entry);
  }

  /** put keeps an entry; it resolves once the entry is safe on the device. says is what it is, without a name. */
  async put(entry, says = "") {
    const kept = { entry };
    this.early?.add(entry.id);
    this.waiting.push(kept);
    this.changed();
    const db = await this.ready;
    if (db) {
      try {
        const change = db.transaction(store, "readwrite", { durability: "strict" });
        const { hand, handName } = document.body.dataset;
        const added = change.objectStore(store).add({ address: this.address, entry, hand: hand ?? "", name: handName ?? "", says, at: Date.now() });
        await committed(change);
        kept.seq = added.result;
        if (kept.gone !== undefined) await this.drop(kept, kept.gone); // it was stored before the device had kept it
      } catch {
        this.safe = false;
      }
      this.changed();
    }
    this.send();
  }

  /** drop takes an entry out of the queue; one that was stored stays on the device until a newer page knows it. */
  async drop(kept, stored = 0) {
    this.waiting = this.waiting.filter((w) => w !== kept);
    kept.gone = stored;
    if (!this.db || kept.seq === undefined) return;
    const shelf = this.db.transaction(store, "readwrite").objectStore(store);
    await result(stored ? shelf.put({ seq: kept.seq, address: this.address, entry: kept.entry, hand: document.body.dataset.hand ?? "", stored }) : shelf.delete(kept.seq)).catch(() => {});
  }

  /** later tries again. */
  later(after) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      for (const w of this.waiting) w.stuck = "";
      this.send();
    }, after);
  }

  /** deliver sends some entries: whether the server answered, and what became of each. */
  async deliver(some) {
    let reply, answer;
    try {
      reply = await fetch(this.address, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ entries: some.map((w) => w.entry), hand: document.body.dataset.hand ?? "" }) });
      answer = await reply.json();
    } catch {
      return { lost: true };
    }
    const stored = new Set(answer.stored), refused = new Map((answer.refused ?? []).map((x) => [x.id, x]));
    const named = some.filter((w) => stored.has(w.entry.id) || refused.has(w.entry.id));
    for (const w of named) {
      await this.drop(w, stored.has(w.entry.id) ? answer.at : 0);
      if (refused.has(w.entry.id)) this.refused(w.entry, refused.get(w.entry.id));
      else this.stored(w.entry, answer);
    }
    return { named: named.length, status: reply.status, problem: answer.problem ?? "" };
  }

  /** send empties the queue, and tries again later where it cannot. Nothing leaves the device that the server did not name. */
  async send() {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.timer);
    let alone = false; // one by one, to find what the server will not have
    for (;;) {
      const some = this.waiting.filter((w) => !w.stuck).slice(0, alone ? 1 : most);
      if (some.length === 0) break;
      const got = await this.deliver(some);
      this.lost = Boolean(got.lost) || got.status >= 500;
      this.held = got.named === 0 ? got.problem : "";
      if (got.named > 0) this.tries = 0;
      else if (theirOwn.includes(got.status) && some.length > 1) alone = true;
      else if (theirOwn.includes(got.status)) some[0].stuck = got.problem || "refused";
      else {
        this.later(this.lost ? retries[Math.min(this.tries++, retries.length - 1)] : patience);
        break;
      }
      this.changed();
    }
    this.held ||= this.waiting.find((w) => w.stuck)?.stuck ?? "";
    if (this.waiting.some((w) => w.stuck)) this.later(patience);
    this.sending = false;
    this.changed();
  }

  /** pending reports whether an entry still waits. */
  pending(id) {
    return this.waiting.some((w) => w.entry.id === id);
  }

  /** kept reports whether all that waits outlives a reload; false while some is on its way to the device. */
  get kept() { return this.waiting.every((w) => w.seq !== undefined); }

  /** say is the quiet sign for this queue alone. */
  say(place) { sayKept(place, [this], phrase("stored")); }
}

/** way is where one sees what is kept, and can hand it on. */
const way = () => el("a", { href: "/kept" }, phrase("whatiskept"));

/**
 * sayKept is the quiet sign: how many entries are kept here, or that all are stored. Kept is said
 * of what outlives a reload, and not while it is still on its way to the device.
 */
export function sayKept(place, queues, stored) {
  const n = queues.reduce((sum, q) => sum + q.waiting.length, 0), others = queues.reduce((sum, q) => sum + q.others, 0);
  const lost = queues.some((q) => q.lost), safe = queues.every((q) => q.safe), held = queues.find((q) => q.held)?.held ?? "";
  place.classList.toggle("waiting", (n > 0 && (lost || held !== "")) || others > 0);
  place.title = held;
  let text = `◉ ${stored}`;
  if (n > 0 && safe && !queues.every((q) => q.kept)) text = `◌ ${phrase("keeping", { n })}`;
  else if (n > 0 && lost) text = `◌ ${phrase(safe ? "keptlost" : "keptlosthere", { n })}`;
  else if (n > 0 && held) text = `◌ ${phrase("keptheld", { n })} `;
  else if (n > 0) text = `◌ ${phrase("storing", { n })}`;
  else if (others > 0) text = `◌ ${phrase("keptothers", { n: others })} `;
  place.replaceChildren(text, ...(!lost && (others > 0 || (n > 0 && held)) ? [way()] : []));
}

/**
 * offline lets a page be loaded again without network, where browsers allow it: from now on, with what it is
 * filled from and the pages it leads to. told(ready) is called once all of it is on the device; told(null) where
 * the browser allows it only over TLS.
 */
export async function offline(more = [], told = () => {}) {
  if (!("serviceWorker" in navigator) || !window.isSecureContext) return told(null);
  try {
    await navigator.serviceWorker.register("/sw.js");
    const worker = (await navigator.serviceWorker.ready).active;
    const line = new MessageChannel();
    line.port1.onmessage = (e) => {
      document.body.dataset.offline = e.data.ready ? "ready" : "part";
      told(e.data.ready);
    };
    worker.postMessage({ keep: [location.pathname, ...more] }, [line.port2]);
  } catch {
    told(false);
  }
}
