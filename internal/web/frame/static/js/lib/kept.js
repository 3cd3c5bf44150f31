// What a device keeps until the server has it: the browser's database, and what stands in it.

const database = "velvetladder";
export const store = "waiting";

/** openKept is null where the browser has no database, or will not let us use it. */
export function openKept() {
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

export const result = (request) => new Promise((done, failed) => {
  request.onsuccess = () => done(request.result);
  request.onerror = () => failed(request.error);
});

/** committed waits until a change is on the device: one that is only asked for falls with the page. */
export const committed = (change) => new Promise((done, failed) => {
  change.oncomplete = done;
  change.onabort = () => failed(change.error);
});

/** all that is kept for an address; for every address where none is given. */
export function all(db, address) {
  const shelf = db.transaction(store).objectStore(store);
  return result(address === undefined ? shelf.getAll() : shelf.index("address").getAll(address));
}

/** mine reports whether who is on the device now made an entry. What was kept before hands were noted is whoever's. */
export const mine = (kept) => !kept.hand || kept.hand === (document.body.dataset.hand ?? "");

/** forget takes entries off the device that the server has named as stored. */
export async function forget(db, kept) {
  const change = db.transaction(store, "readwrite");
  for (const k of kept) change.objectStore(store).delete(k.seq);
  await committed(change);
}
