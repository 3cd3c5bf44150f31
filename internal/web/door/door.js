if (new URLSearchParams(location.search).has("out") && "caches" in window) caches.delete("mat-pages");
