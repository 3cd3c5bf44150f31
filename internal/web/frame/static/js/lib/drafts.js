// What is typed in a form stays on this device until the server has it: a page left, reloaded, expired or refused comes
// back as it was. It is kept per account, for seven days, never a password, and goes when the account signs out.

import { el } from "./dom.js";
import { phrase } from "./phrase.js";

const prefix = "velvetladder.draft:";
const days = 7;
const longest = 200_000; // characters of one form
const account = document.body.dataset.hand ?? "";
const refused = Number(document.body.dataset.refused ?? 0);
const waiting = document.body.dataset.screen === "waiting";

const drafts = () => {
  try {
    return Object.keys(localStorage).filter((k) => k.startsWith(prefix));
  } catch {
    return []; // the browser keeps nothing for us
  }
};
const read = (key) => {
  try {
    return JSON.parse(localStorage.getItem(key));
  } catch {
    return null;
  }
};
const write = (key, draft) => {
  try {
    const text = JSON.stringify(draft);
    if (text.length <= longest) localStorage.setItem(key, text);
  } catch { /* full, or forbidden: the page still has it */ }
};

/** forgetDrafts takes all that was typed off the device. */
export function forgetDrafts() {
  drafts().forEach((k) => localStorage.removeItem(k));
}

/** address is where a form goes, without what only says how one came here. */
const address = (form) => new URL(form.getAttribute("action") || location.pathname, location.href).pathname;

/** fieldsOf are what somebody can type or choose in a form. */
const fieldsOf = (form) => [...form.elements].filter((f) => f.name && !f.readOnly && !f.closest("[data-no-draft]") && f.autocomplete !== "one-time-code" &&
  !["hidden", "password", "file", "submit", "button", "reset", "fieldset", "output"].includes(f.type));
const typed = (form) => fieldsOf(form).some((f) => f.matches("textarea, input:not([type=checkbox]):not([type=radio]):not([type=color])"));

const stands = (f) => (f.type === "checkbox" || f.type === "radio" ? f.checked : f.value.replaceAll("\r\n", "\n"));
const values = (form) => fieldsOf(form).map((f) => [f.name, f.type === "checkbox" || f.type === "radio" ? f.value : "", stands(f)]);

/** keyOf tells a form from the others of an account: where it goes, and what it is about. */
const keyOf = (form) => {
  const about = [...form.querySelectorAll("input[type=hidden]")].filter((f) => !["request", "seen", "was", "back"].includes(f.name) && f.value.length < 80).map((f) => f.value);
  return `${prefix}${account}:${address(form)}#${about.join(",")}`;
};

/** put lets a form stand as a draft has it; what the form has no longer is left. */
function put(form, draft) {
  const left = [...draft.fields];
  for (const f of fieldsOf(form)) {
    const choice = f.type === "checkbox" || f.type === "radio";
    const at = left.findIndex(([name, value]) => name === f.name && (!choice || value === f.value));
    if (at < 0) continue;
    const [[, , stood]] = left.splice(at, 1);
    if (choice) f.checked = stood;
    else f.value = stood;
  }
  for (const name of ["seen", "was"]) { // so that what another did meanwhile is noticed, and not undone
    const f = form.elements.namedItem(name);
    if (f && draft[name] !== undefined) f.value = draft[name];
  }
  const first = fieldsOf(form)[0];
  first?.dispatchEvent(new Event("input", { bubbles: true }));
}

const when = (at) => new Date(at).toLocaleString("en-GB", { day: "numeric", month: "long", hour: "2-digit", minute: "2-digit" });

function watch(form) {
  const key = keyOf(form);
  const unsaved = refused || form.dataset.unsaved !== undefined; // what stands in it as it came is not on record
  const asMade = JSON.stringify(values(form));
  const draft = read(key);
  let note = null;
  if (draft && JSON.stringify(draft.fields) !== asMade) {
    const fresh = { seen: form.elements.namedItem("seen")?.value, was: form.elements.namedItem("was")?.value };
    put(form, draft);
    const about = form.closest("details");
    if (about) about.open = true;
    note = el("p", { className: "kept-typing", role: "status" }, `${phrase("draft", { when: when(draft.at) })} `,
      el("button", { type: "button", className: "button is-small", onclick: () => {
        form.reset();
        put(form, { fields: [], ...fresh });
        localStorage.removeItem(key);
        note.remove();
      } }, phrase("putaway")));
    form.before(note);
  } else if (draft && !unsaved) {
    localStorage.removeItem(key); // it is what is on record
  }
  let timer = 0;
  const keep = () => {
    clearTimeout(timer);
    timer = 0;
    if (JSON.stringify(values(form)) === asMade && !unsaved) {
      localStorage.removeItem(key);
      return;
    }
    write(key, { at: Date.now(), to: address(form), fields: values(form), seen: form.elements.namedItem("seen")?.value, was: form.elements.namedItem("was")?.value });
  };
  const soon = () => {
    if (!timer) timer = setTimeout(keep, 250);
  };
  form.addEventListener("input", soon);
  form.addEventListener("change", soon);
  window.addEventListener("pagehide", () => timer && keep());
  form.addEventListener("submit", (e) => {
    if (e.defaultPrevented) { // a script sends it, and says what came of it
      localStorage.removeItem(key);
      return;
    }
    keep();
    const now = read(key);
    if (now) write(key, { ...now, sent: true });
  });
}

/** settle looks at what was on its way when this page came: only a page that says what was done says that it arrived. */
function settle() {
  const arrived = new URLSearchParams(location.search).has("done") || document.body.dataset.arrived !== undefined;
  for (const key of drafts()) {
    const draft = read(key);
    if (!draft || Date.now() - draft.at > days * 24 * 3600 * 1000) {
      localStorage.removeItem(key);
    } else if (draft.sent && arrived) {
      localStorage.removeItem(key);
    } else if (draft.sent) {
      write(key, { ...draft, sent: false });
    }
  }
}

function begin() {
  settle();
  if (waiting) { // a form that waited for a password is sent from here
    for (const form of document.querySelectorAll("form[method=post]")) {
      form.addEventListener("submit", () => {
        for (const key of drafts()) {
          const draft = read(key);
          if (draft?.to === address(form)) write(key, { ...draft, sent: true });
        }
      });
    }
    return;
  }
  if (!account || !document.querySelector(".house")) return; // on the mat, marks have a queue of their own
  for (const form of document.querySelectorAll("main form[method=post]:not([data-no-draft])")) if (typed(form)) watch(form);
}

// After the screen's own script, so that what it draws follows what stands in the fields.
document.addEventListener("DOMContentLoaded", begin);
document.addEventListener("submit", (e) => e.target.matches("[data-sign-out]") && forgetDrafts(), true);
