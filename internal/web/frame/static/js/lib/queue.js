// Entries that must arrive exactly once. Each is kept on the device until the server has said
// that it is stored: in the browser's database, so that a reload or a dead battery loses
// nothing, and without one in the memory of this page. The server knows every entry by its id
// and takes it once, however often it is sent.

const database = "velvetladder", store = "waiting";
const retries = [1000, 2000, 4000, 8000]; // ms between tries while the server cannot be reached
const most = 200; // entries sent at once

/** openDatabase is null where the browser has none, or will not let us use it. */
function openDatabase() {
  return new Promise((done) => {
    let asked;
    try {
      asked = indexedDB.open(database, 1);
    } catch {
      done(null);
      return;
    }
    asked.onupgradeneeded = () => asked.result.createObjectStore(store, { keyPath: "seq", autoIncrement: true }).createIndex("address", "address");
    asked.onsuccess = () => done(asked.result);
    asked.onerror = asked.onblocked = () => done(null);
  });
}

const result = (request) => new Promise((done, failed) => {
  request.onsuccess = () => done(request.result);
  request.onerror = () => failed(request.error);
});

/** committed waits until a change is on the device: one that is only asked for falls with the page. */
const committed = (change) => new Promise((done, failed) => {
  change.oncomplete = done;
  change.onabort = () => failed(change.error);
});

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
    this.waiting = []; // {seq, entry}
    this.ready = openDatabase();
    this.early = new Set(); // ids of entries put in before open was through
    this.lost = false; // the server cannot be reached
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
    const all = this.db ? await result(this.db.transaction(store).objectStore(store).index("address").getAll(this.address)) : [];
    const known = all.filter((k) => !this.early.has(k.entry.id)); // what was put in meanwhile is in the queue already
    this.waiting = [...known.filter((k) => !k.stored).map(({ seq, entry }) => ({ seq, entry })), ...this.waiting];
    this.early = null;
    for (const old of known) if (old.stored && old.stored <= made) await this.drop(old);
    this.changed();
    this.send();
    return known.filter((k) => !k.stored || k.stored > made).map((k) => k.entry);
  }

  /** put keeps an entry; it resolves once the entry is safe on the device. */
  async put(entry) {
    const kept = { entry };
    this.early?.add(entry.id);
    this.waiting.push(kept);
    this.changed();
    const db = await this.ready;
    if (db) {
      try {
        const change = db.transaction(store, "readwrite", { durability: "strict" });
        const added = change.objectStore(store).add({ address: this.address, entry });
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
    const all = this.db.transaction(store, "readwrite").objectStore(store);
    await result(stored ? all.put({ seq: kept.seq, address: this.address, entry: kept.entry, stored }) : all.delete(kept.seq)).catch(() => {});
  }

  /** send empties the queue, and tries again later where it cannot. */
  async send() {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.timer);
    while (this.waiting.length > 0) {
      const some = this.waiting.slice(0, most);
      let answer;
      try {
        const reply = await fetch(this.address, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ entries: some.map((w) => w.entry) }) });
        if (reply.status === 401 || reply.status >= 500) throw new Error(`answered ${reply.status}`);
        answer = await reply.json();
        if (!reply.ok && !answer.refused) answer = { stored: [], refused: some.map((w) => ({ id: w.entry.id, problem: answer.problem })) };
      } catch {
        this.lost = true;
        this.timer = setTimeout(() => this.send(), retries[Math.min(this.tries++, retries.length - 1)]);
        break;
      }
      this.lost = false;
      this.tries = 0;
      const before = this.waiting.length;
      const stored = new Set(answer.stored), refused = new Map(answer.refused.map((x) => [x.id, x]));
      for (const w of some) {
        if (!stored.has(w.entry.id) && !refused.has(w.entry.id)) continue;
        await this.drop(w, stored.has(w.entry.id) ? answer.at : 0);
        if (refused.has(w.entry.id)) this.refused(w.entry, refused.get(w.entry.id));
        else this.stored(w.entry, answer);
      }
      this.changed();
      if (this.waiting.length >= before && some.every((w) => this.waiting.includes(w))) { // an answer about nothing we sent: ask later
        this.timer = setTimeout(() => this.send(), retries[Math.min(this.tries++, retries.length - 1)]);
        break;
      }
    }
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
  say(place) { sayKept(place, [this], "all stored"); }
}

/**
 * sayKept is the quiet sign: how many entries are kept here, or that all are stored. Kept is said
 * of what outlives a reload, and not while it is still on its way to the device.
 */
export function sayKept(place, queues, stored) {
  const n = queues.reduce((sum, q) => sum + q.waiting.length, 0);
  const lost = queues.some((q) => q.lost), safe = queues.every((q) => q.safe);
  place.classList.toggle("waiting", n > 0 && lost);
  if (n === 0) place.textContent = `◉ ${stored}`;
  else if (safe && !queues.every((q) => q.kept)) place.textContent = `◌ keeping ${n}`;
  else place.textContent = lost ? `◌ ${n} kept here${safe ? "" : ", in this page only"}: no connection, trying again` : `◌ storing ${n}`;
}

/** offline lets a page of the mat be loaded again without network, where browsers allow it. */
export function offline() {
  if ("serviceWorker" in navigator && window.isSecureContext) navigator.serviceWorker.register("/sw.js").catch(() => {});
}
