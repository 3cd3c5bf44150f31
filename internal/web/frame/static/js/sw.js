// Pages of the mat load again without network: what was last seen of them is kept on the
// device. Everything else goes to the server as ever.

// Before this stand, from the server: screens, those that are used on the mat, and shipped, the files they
// need.
const pages = "mat-pages", files = "static-files";
const mat = new RegExp(`^/(${screens.join("|")})(/|$)`); // /calibration, not /calibrations
const code = /^\/join\//; // lets a device in, once: no page to keep
const state = /^\/scoring\/[^/]+\/[^/]+\/state$/; // what such a page is filled from
const patience = 4000; // ms before a kept page is shown instead of waiting on
const most = 200; // pages kept: the tables of a long day, each with its state

self.addEventListener("install", (e) => {
  self.skipWaiting();
  e.waitUntil(caches.open(files).then((cache) => cache.addAll(shipped)).catch(() => {})); // else with the first page that is kept
});
self.addEventListener("activate", (e) => e.waitUntil(self.clients.claim()));

// Whoever signs out takes the children's names off the device.
self.addEventListener("message", (e) => {
  if (e.data === "forget") e.waitUntil(caches.delete(pages));
  else if (e.data.keep) e.waitUntil(getReady(e.data.keep).then((ready) => e.ports[0].postMessage({ ready })));
});

/** getReady fetches pages before they are asked for, and what they need; it says whether all of it is here. */
async function getReady(wanted) {
  const here = await caches.open(files);
  const missing = (await Promise.all(shipped.map(async (x) => ((await here.match(x)) ? "" : x)))).filter(Boolean);
  await Promise.allSettled(missing.map((x) => here.add(x)));
  const kept = await Promise.all([...new Set(wanted)].map(async (at) => {
    try {
      const answer = await fetch(at, { headers: state.test(at) ? { "Content-Type": "application/json" } : { Accept: "text/html" } });
      if (!answer.ok || answer.redirected) return false;
      await keep(pages, at, answer);
      return true;
    } catch {
      return false;
    }
  }));
  const still = await Promise.all(shipped.map((x) => here.match(x)));
  return kept.every(Boolean) && still.every(Boolean);
}

async function keep(name, request, answer) {
  const cache = await caches.open(name);
  await cache.put(request, answer);
  const keys = await cache.keys();
  for (const old of keys.slice(0, Math.max(keys.length - most, 0))) await cache.delete(old);
}

async function page(request) {
  const fresh = fetch(request).then((answer) => {
    const at = request.url.split("?")[0];
    if (answer.ok && !answer.redirected) keep(pages, at, answer.clone());
    else if (answer.redirected || answer.status === 401 || answer.status === 403) caches.open(pages).then((c) => c.delete(at)); // not this device's any more
    return answer;
  });
  const late = new Promise((_, no) => setTimeout(() => no(new Error("late")), patience));
  try {
    return await Promise.race([fresh, late]);
  } catch {
    return (await caches.match(request.url.split("?")[0])) ?? fresh;
  }
}

async function file(request) {
  const kept = await caches.match(request);
  if (kept) return kept;
  const answer = await fetch(request);
  if (answer.ok) keep(files, request, answer.clone());
  return answer;
}

self.addEventListener("fetch", (e) => {
  const url = new URL(e.request.url);
  if (e.request.method !== "GET" || url.origin !== location.origin) return;
  if (url.pathname.startsWith("/static/")) e.respondWith(file(e.request));
  else if ((e.request.mode === "navigate" && mat.test(url.pathname) && !code.test(url.pathname)) || state.test(url.pathname)) e.respondWith(page(e.request));
});
