import { newID } from "./lib/dom.js";
import { offline } from "./lib/queue.js";

// The wall: numbers are typed on the pad, on a keyboard, or by a scanner that types and sends
// Enter. Without network a number waits in this page and is sent when it is back.

const main = document.getElementById("main");
const form = document.querySelector("[data-pad]");
const field = document.getElementById("number");
const greeting = document.querySelector("[data-greeting]");
const kept = document.querySelector("[data-kept]");
const address = `/checkin/${main.dataset.class}/${main.dataset.day}`;
const shown = 4000; // ms a greeting stays
const waiting = [];
let timer, sending = false;

function greet(words, bad) {
  greeting.textContent = words;
  greeting.classList.toggle("hold", Boolean(bad));
  clearTimeout(timer);
  timer = setTimeout(() => { greeting.textContent = "\u00a0"; }, shown);
}

function say(lost) {
  kept.classList.toggle("waiting", lost);
  kept.textContent = waiting.length === 0 ? "◉ all stored" : `◌ ${waiting.length} kept here: no connection`;
}

async function send() {
  if (sending) return;
  sending = true;
  while (waiting.length > 0) {
    try {
      const answer = await fetch(address, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(waiting[0]) });
      if (answer.status >= 500) throw new Error("not now");
      const told = await answer.json();
      waiting.shift();
      if (answer.ok) greet(`Good to see you, ${told.name}.`);
      else greet(told.problem.replace(/^[^:]*: (number: )?/, ""), true);
      say(false);
    } catch {
      say(true);
      greet("Noted here. It will be stored when the network is back.");
      setTimeout(() => { sending = false; send(); }, 2000);
      return;
    }
  }
  sending = false;
}

form.addEventListener("submit", (e) => {
  e.preventDefault();
  const number = field.value.trim();
  field.value = "";
  field.focus();
  if (number === "") return;
  waiting.push({ id: newID(), number });
  send();
});

form.addEventListener("click", (e) => {
  const key = e.target.closest("[data-pad-key]")?.dataset.padKey;
  if (key === "back") field.value = field.value.slice(0, -1);
  else if (key && key !== "enter") field.value = (field.value + key).slice(0, 12);
});

// A scanner types wherever the focus is.
document.addEventListener("keydown", (e) => {
  if (document.activeElement !== field && /^[0-9]$/.test(e.key)) field.focus();
});
offline();
