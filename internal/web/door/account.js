import "./lib/shell.js";

// Whoever signs out takes the kept pages of the mat off the device.
document.querySelector("[data-sign-out]")?.addEventListener("submit", () => navigator.serviceWorker?.controller?.postMessage("forget"));
