// A figure in a sentence is dragged from side to side, or stepped by the arrow keys; typed it is as any field.
import { form } from "./asking.js";
import { holdAddress } from "./history.js";
import { positionOf, textAt } from "./sliding.js";

const BEGUN_PX = 4; // less is a press, which types
const PER_PX = { stops: 0.06, ratio: 1.6, log: 1.6, even: 0.35 };
const scaleOf = ({ stops, low, high, max, kind }) => ({ stops, low: Number(low), high: Number(high), max: Number(max), even: kind === "even" });
const fieldAt = (event) => {
  const field = event.target.closest?.(".word[data-kind] input");
  return field && { field, word: field.closest(".word") };
};

function put(field, text) {
  if (field.value === text) return;
  field.value = text;
  holdAddress();
  htmx.trigger(form(), "drag");
}
const clamped = (position, max) => Math.min(max, Math.max(0, Math.round(position)));

let held = null;
document.addEventListener("pointerdown", (event) => {
  const found = fieldAt(event);
  if (!found || event.button || document.activeElement === found.field) return;
  const scale = scaleOf(found.word.dataset);
  const start = positionOf(found.field.value, scale);
  if (start !== null) held = { ...found, scale, start, from: event.clientX, id: event.pointerId, dragging: false };
});
document.addEventListener("pointermove", (event) => {
  if (!held || event.pointerId !== held.id) return;
  const moved = event.clientX - held.from;
  if (!held.dragging && Math.abs(moved) < BEGUN_PX) return;
  if (!held.dragging) {
    held.dragging = true;
    held.field.setPointerCapture(event.pointerId);
    held.field.blur();
  }
  event.preventDefault();
  put(held.field, textAt(clamped(held.start + moved * PER_PX[held.word.dataset.kind], held.scale.max), held.scale));
});
function letGo() {
  const was = held;
  held = null;
  if (!was?.dragging) return;
  was.field.blur();
  was.field.dispatchEvent(new Event("change", { bubbles: true }));
}
document.addEventListener("pointerup", letGo);
document.addEventListener("pointercancel", letGo);

const STEPS = { ArrowUp: 1, ArrowDown: -1, PageUp: 4, PageDown: -4 };
document.addEventListener("keydown", (event) => {
  const found = STEPS[event.key] && fieldAt(event);
  if (!found) return;
  event.preventDefault();
  const scale = scaleOf(found.word.dataset);
  const start = positionOf(found.field.value, scale);
  if (start === null) return;
  // a few per cent of a distance, a camera stop, a third of a stop of light
  const per = { stops: 1, even: 3.4 }[found.word.dataset.kind] ?? 8;
  put(found.field, textAt(clamped(start + STEPS[event.key] * per, scale.max), scale));
});
