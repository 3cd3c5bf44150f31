import "./lib/shell.js";

// A device that is no examiner's takes the children's names off.
if (document.querySelector("[data-forget]")) {
  navigator.serviceWorker?.controller?.postMessage("forget");
  if ("caches" in window) caches.delete("mat-pages").catch(() => {});
}
