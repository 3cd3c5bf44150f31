import { newID } from "./lib/dom.js";
import { Queue, offline } from "./lib/queue.js";
import { phrase } from "./lib/phrase.js";

// The wall: numbers are typed on the pad, on a keyboard, or by a scanner that types and sends
// Enter. Without network a number waits on the device, as the taps of a register do.

const main = document.getElementById("main");
const form = document.querySelector("[data-pad]");
const field = document.getElementById("number");
const greeting = document.querySelector("[data-greeting]");
const kept = document.querySelector("[data-kept]");
const shown = 4000; // ms a greeting stays
let timer;

function greet(words, bad) {
  greeting.textContent = words;
  greeting.classList.toggle("hold", Boolean(bad));
  clearTimeout(timer);
  if (!bad) timer = setTimeout(() => { greeting.textContent = "\u00a0"; }, shown); // what went wrong stays until the next number
}

const queue = new Queue(`/checkin/${main.dataset.class}/${main.dataset.day}`, {
  changed() {
    queue.say(kept);
    if (queue.lost && queue.waiting.length > 0 && (queue.kept || !queue.safe)) greet(phrase("noted"));
  },
  refused(entry, why) { greet(why.problem, true); },
  stored(entry, answer) { greet(phrase("hello", { name: answer.names[entry.id] })); },
});

form.addEventListener("submit", (e) => {
  e.preventDefault();
  const number = field.value.trim();
  field.value = "";
  field.focus();
  if (number === "") return;
  queue.put({ id: newID(), number });
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
await queue.open(Date.now()); // nothing is laid over this page: it shows nobody
offline();
