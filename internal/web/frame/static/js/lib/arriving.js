// A long file on its way to the records: how far it is, and where it is seen once it is in.

const bar = document.querySelector("[data-arriving]");
const shown = document.querySelector("[data-arrived]");

async function ask() {
  try {
    const p = await (await fetch(`${bar.dataset.arriving}/progress`, { headers: { Accept: "application/json" } })).json();
    if (p.to) {
      location.assign(p.to);
      return;
    }
    bar.max = p.of;
    bar.value = p.done;
    shown.textContent = p.done;
  } catch { /* the server is away for a moment */ }
  setTimeout(ask, 500);
}
if (bar) ask();
