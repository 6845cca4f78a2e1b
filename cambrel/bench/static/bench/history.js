// The history of the bench: a drag replaces the address, its release pushes, and Back, Forward, Undo and Redo all walk the same entries.
import { thisTab } from "../site/keep.js";
import { canRedo, canUndo, placed, pushed } from "./steps.js";

const KEPT = "bench-steps";
let at = placed(history.state, thisTab.record(KEPT), crypto.randomUUID?.() ?? String(Date.now()));
let gestureStart = null; // the address before a slider was taken hold of, or before typing

const here = () => location.pathname + location.search;
const mark = (address) => history.replaceState({ htmx: true, run: at.run, step: at.step }, "", address);

export function holdAddress() {
  gestureStart ??= here();
}

function note() {
  thisTab.set(KEPT, JSON.stringify({ run: at.run, top: at.top }));
  document.getElementById("undo-button").disabled = !canUndo(at);
  document.getElementById("redo-button").disabled = !canRedo(at);
}

export function walk(back) {
  if (back ? canUndo(at) : canRedo(at)) history.go(back ? -1 : 1);
}

document.body.addEventListener("htmx:beforeHistoryUpdate", (event) => {
  const update = event.detail.history;
  if (update.type !== "push") return;
  const before = gestureStart || here();
  gestureStart = null;
  if (before === update.path) update.type = "replace";
  else mark(before); // what was replaced while it was dragged is what Back returns to
});
document.body.addEventListener("htmx:pushedIntoHistory", () => {
  at = pushed(at);
  mark(here());
  note();
});
document.body.addEventListener("htmx:replacedInHistory", () => mark(here()));
// before the library's own handler, which would write over what the entry knows
window.addEventListener("popstate", (event) => {
  event.stopImmediatePropagation();
  location.reload();
});
document.getElementById("undo-button").addEventListener("click", () => walk(true));
document.getElementById("redo-button").addEventListener("click", () => walk(false));
mark(here());
note();
