// Sliders beside typed figures, and lists that fill or choose.
import { act, afterAnswer, byId, form, refresh } from "./asking.js";
import { holdAddress } from "./history.js";
import { positionOf, textAt } from "./sliding.js";

const scaleOf = ({ dataset, max }) => ({ stops: dataset.stops, low: Number(dataset.low), high: Number(dataset.high), max: Number(max) });

function slideTo(slider) {
  const field = byId(slider.dataset.for);
  const position = positionOf(field.value, scaleOf(slider));
  if (position !== null) slider.value = position;
  slider.setAttribute("aria-valuetext", field.value.trim() || "not set");
}
function slideFrom(slider) {
  const field = byId(slider.dataset.for);
  field.value = textAt(Number(slider.value), scaleOf(slider));
  slider.setAttribute("aria-valuetext", field.value);
}
const placeSliders = () => document.querySelectorAll("[data-slider]").forEach((slider) => slider !== document.activeElement && slideTo(slider));
// all of them: an answer may be a whole new bench, in which none is open yet
afterAnswer.push(placeSliders);
placeSliders();

// Enter in a field has sent its change already
document.addEventListener("submit", (event) => event.target === form() && event.preventDefault());

let typingTimer = null;
let byKey = false; // a key moves a slider and changes it at once: the change alone is sent
document.addEventListener("keydown", (event) => (byKey = Boolean(event.target.dataset?.slider)));
document.addEventListener("pointerdown", () => (byKey = false));
document.addEventListener("input", (event) => {
  const field = event.target;
  if (!field.closest("#bench")) return;
  if (field.dataset.slider) {
    holdAddress();
    slideFrom(field);
    if (!byKey) htmx.trigger(form(), "drag");
  } else if (field.type === "text") {
    document.querySelectorAll(`[data-for="${field.id}"]`).forEach(slideTo);
    clearTimeout(typingTimer);
    if (field.value.trim()) {
      holdAddress();
      typingTimer = setTimeout(refresh, 350);
    }
  }
});
document.addEventListener("change", (event) => {
  clearTimeout(typingTimer);
  const list = event.target;
  if (list.dataset.fills) {
    byId(list.dataset.fills).value = list.value || byId(list.dataset.fills).value;
  } else if (list.dataset.choose) {
    event.stopPropagation();
    act(`${list.dataset.choose}:${list.value}`, { focus: list.id });
  }
}, true);
