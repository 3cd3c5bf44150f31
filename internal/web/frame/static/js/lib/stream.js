// What the server tells an open page. The browser joins again by itself; each time the server
// begins with how things stand.

/** listen calls told(message) for each message, and line(true | false) when the line comes and goes. */
export function listen(address, told, line = () => {}) {
  let source;
  const open = () => {
    source = new EventSource(address);
    source.onopen = () => line(true);
    source.onmessage = (e) => {
      const message = JSON.parse(e.data);
      if (message.resync) {
        source.close();
        open();
      } else told(message);
    };
    source.onerror = () => {
      line(false);
      // A refusal closes for good: try again, more patiently, in case the device may come back.
      if (source.readyState === EventSource.CLOSED) setTimeout(open, 5000);
    };
  };
  open();
  window.addEventListener("pagehide", () => source.close());
  window.addEventListener("pageshow", (e) => { if (e.persisted) open(); });
}
