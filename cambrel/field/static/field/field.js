// A sheet in the field: a tick stands at once, is kept in this browser, and is sent when the server answers again.
import { always } from "../site/keep.js";

const sheet = document.querySelector("[data-take]");
const place = `field-${sheet.dataset.sheet}`;
const AGAIN_MS = 20000;
let held = always.record(place) ?? {}; // here too, where this browser remembers nothing
const waiting = () => ({ ...held });
function keep(all) {
  held = all;
  always.set(place, JSON.stringify(all));
}

function show(key, done, at, isWaiting) {
  const line = document.getElementById(key);
  if (!line) return;
  line.classList.toggle("field-taken", done);
  line.classList.toggle("field-waiting", isWaiting);
  const button = line.querySelector(".field-tick");
  button.ariaPressed = String(done);
  button.value = done ? "0" : "1";
  line.querySelector(".field-when").textContent = done ? new Date(at).toTimeString().slice(0, 5) : "";
}

function count() {
  const all = sheet.querySelectorAll(".field-tick");
  const done = sheet.querySelectorAll(".field-tick[aria-pressed='true']");
  const left = Object.keys(waiting()).length;
  document.getElementById("field-says").textContent =
    `${done.length} of ${all.length} taken${left ? `, ${left} kept here until the server answers` : ""}`;
}

async function send() {
  for (const [key, { done, at }] of Object.entries(waiting())) {
    const body = new URLSearchParams({ shot: key, done: done ? "1" : "0", at });
    body.set("csrfmiddlewaretoken", sheet.querySelector("[name='csrfmiddlewaretoken']").value);
    try {
      const answer = await fetch(sheet.dataset.take, { method: "POST", body, headers: { "X-Requested-With": "fetch" } });
      if (!answer.ok && answer.status !== 400) break;
    } catch {
      break;
    }
    const all = waiting();
    if (all[key]?.at !== at) continue; // pressed again meanwhile
    delete all[key];
    keep(all);
    show(key, done, at, false);
  }
  count();
}

sheet.addEventListener("submit", (event) => {
  const button = event.submitter;
  if (!button?.classList.contains("field-tick")) return;
  event.preventDefault();
  const key = button.form.elements.shot.value;
  const done = button.value === "1";
  const at = new Date().toISOString();
  keep({ ...waiting(), [key]: { done, at } });
  show(key, done, at, true);
  count();
  send();
});
for (const [key, { done, at }] of Object.entries(waiting())) show(key, done, at, true);
navigator.serviceWorker?.register(sheet.dataset.worker).catch(() => {}); // without it the page is there while there is a network
window.addEventListener("online", send);
setInterval(() => Object.keys(waiting()).length && send(), AGAIN_MS);
send();
