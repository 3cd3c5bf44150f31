// Draws the measures of a stance as one types them.
import "./lib/shell.js";
import { svg } from "./lib/dom.js";

const form = document.querySelector("[data-stance]");
if (form) {
  const pictures = document.querySelector("[data-pictures]");
  let asked = 0, waiting;
  const draw = async () => {
    const q = new URLSearchParams(new FormData(form));
    for (const name of ["request", "was", "seen", "record"]) q.delete(name);
    q.set("who", form.dataset.who);
    q.set("lead", form.dataset.lead);
    const mine = ++asked;
    const reply = await fetch(`${form.dataset.stance}?${q}`, { headers: { Accept: "application/json" } }).catch(() => null);
    if (!reply?.ok || mine !== asked) return;
    const drawn = await reply.json();
    const wrong = Object.values(drawn.Problems);
    form.querySelector("[data-answers]").replaceChildren(...(wrong.length ? wrong : drawn.Answers ?? []).map((text) => {
      const li = document.createElement("li");
      li.textContent = text;
      return li;
    }));
    if (wrong.length) return;
    for (const at of pictures.querySelectorAll("[data-picture]")) at.replaceChildren(svg(drawn[at.dataset.picture]));
    pictures.querySelector("[data-text]").textContent = drawn.Text;
    pictures.dataset.drawn = mine;
  };
  form.addEventListener("input", () => {
    clearTimeout(waiting);
    waiting = setTimeout(draw, 200);
  });
}
