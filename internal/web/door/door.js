import { forgetDrafts } from "./lib/drafts.js";

if (new URLSearchParams(location.search).has("out")) {
  forgetDrafts();
  if ("caches" in window) caches.delete("mat-pages");
}
