import "./lib/shell.js";
import { offline } from "./lib/queue.js";

// A device that is no examiner's takes the children's names off. One that is gets ready to go on without network.
const main = document.getElementById("main");
if (main.matches("[data-forget]")) {
  navigator.serviceWorker?.controller?.postMessage("forget");
  if ("caches" in window) caches.delete("mat-pages").catch(() => {});
}

const sign = main.querySelector("[data-ready]");
if (sign) {
  offline(JSON.parse(sign.dataset.keep), (ready) => {
    sign.textContent = ready ? sign.dataset.yes : sign.dataset.part;
    sign.hidden = ready === null;
    main.querySelector("[data-insecure]").hidden = ready !== null;
  });
}
