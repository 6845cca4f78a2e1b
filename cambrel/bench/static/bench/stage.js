// The large view: one picture, two with a seam, two in turn, what differs, and whether one can be told from the other.
import { thisTab } from "../site/keep.js";
import { afterAnswer, byId, form } from "./asking.js";
import { onDecoded, refreshPictures } from "./pictures.js";
import { laidOver, subjectOf } from "./registering.js";
import { tell } from "./telling.js";

const shown = { way: "side", from: "0", to: "1", at: 50, over: true, second: false, itself: false, pace: 900, fills: false };
const still = window.matchMedia("(prefers-reduced-motion: reduce)");
const stage = () => byId("stage");
const [left, right] = [() => document.querySelector(".seam-left"), () => document.querySelector(".seam-right")];
const faceOf = (index) => document.querySelector(`#views img[data-keep="${index}"]`);
const letterOf = (index) => "ABCDEF"[index];

function take(img, keep, face) {
  Object.assign(img.dataset, { shot: face.dataset.shot, address: face.dataset.address, keep });
  img.alt = shown.way === "tell" ? "" : face.alt;
}

function apply() {
  const staged = shown.way !== "side";
  stage().hidden = !staged;
  form().classList.toggle("staged", staged);
  stage().className = `stage way-${shown.way}${shown.fills ? " fills" : ""}`;
  document.querySelector(`[data-way][value="${shown.way}"]`).checked = true;
  byId("stage-fill").ariaPressed = String(shown.fills);
  if (!staged) return;
  const there = [...document.querySelectorAll("#views img[data-keep]")].map((img) => img.dataset.keep);
  if (!there.includes(shown.from)) shown.from = there[0] ?? "0";
  if (!there.includes(shown.to) || shown.to === shown.from) shown.to = there.find((one) => one !== shown.from) ?? shown.from;
  byId("stage-from").value = shown.from;
  byId("stage-to").value = shown.to;
  byId("register").checked = shown.over;
  byId("flip-by-itself").checked = shown.itself;
  byId("flip-by-itself").disabled = still.matches;
  byId("flip-pace").value = shown.pace;
  byId("tell").hidden = shown.way !== "tell";
  if (!faceOf(shown.from)) return;
  take(left(), "stage-left", faceOf(shown.from));
  take(right(), "stage-right", faceOf(shown.to));
  place();
}

// by class: what has an id would get its style copied by htmx, as an attribute that the security policy forbids
function place() {
  const [first, second] = [left(), right()];
  const box = byId("stage-box").getBoundingClientRect();
  const size = { width: box.width, height: box.height };
  const of = (img, index) => ({ ratio: img.naturalWidth / img.naturalHeight || 1.5, subject: subjectOf(faceOf(index)?.dataset.subject) });
  const over = shown.over && ["flip", "differ", "seam"].includes(shown.way);
  const { scale, x, y } = over ? laidOver(size, of(first, shown.from), of(second, shown.to)) : { scale: 1, x: 0, y: 0 };
  second.style.transform = over ? `translate(${x}px, ${y}px) scale(${scale})` : "";
  const cut = shown.way === "seam";
  // the seam is a place of the box, whatever the picture below it was moved by
  const at = (shown.at / 100) * box.width;
  first.style.clipPath = cut ? `inset(0 ${box.width - at}px 0 0)` : "";
  second.style.clipPath = cut ? `inset(-9999px -9999px -9999px ${(at - x) / scale}px)` : "";
  const flipped = shown.way === "flip" || shown.way === "tell";
  first.style.visibility = flipped && shown.second ? "hidden" : "";
  second.style.visibility = flipped && !shown.second ? "hidden" : "";
  second.style.display = shown.way === "tell" ? "block" : "";
  byId("seam-at").value = shown.at;
  byId("flip-says").textContent = `now ${letterOf(shown.second ? shown.to : shown.from)}`;
  byId("stage-says").textContent = still.matches && shown.way === "flip" ? "Your system asks for less motion: press to flip." : "";
}

let clock = null;
function beat() {
  clearInterval(clock);
  if (shown.way === "flip" && shown.itself && !still.matches) clock = setInterval(flip, shown.pace);
}
function flip() {
  shown.second = !shown.second;
  place();
}

function lookIn(way) {
  shown.way = way;
  shown.second = false;
  thisTab.set("way", way);
  apply();
  beat();
  refreshPictures();
  if (way === "tell") tell.begin({ pair: () => [shown.from, shown.to], show: (second) => {
    shown.second = second;
    place();
  } });
}

// in the large view a letter shows its camera; whether it did
export function flipTo(index) {
  if (shown.way !== "large" || !faceOf(index)) return false;
  shown.from = String(index);
  apply();
  refreshPictures();
  return true;
}

document.addEventListener("change", (event) => {
  const { target } = event;
  const inside = target.closest?.("#stage");
  if (!inside && target.dataset?.way === undefined) return;
  event.stopPropagation();
  if (!inside) return lookIn(target.value);
  if (target.id === "stage-from") shown.from = target.value;
  if (target.id === "stage-to") shown.to = target.value;
  if (target.id === "register") shown.over = target.checked;
  if (target.id === "flip-by-itself") shown.itself = target.checked;
  if (target.id.startsWith("stage-") && shown.way === "tell") tell.begin();
  apply();
  beat();
  refreshPictures();
}, true);
document.addEventListener("input", (event) => {
  if (!event.target.closest?.("#stage")) return;
  event.stopPropagation();
  if (event.target.id === "seam-at") shown.at = event.target.value;
  if (event.target.id === "flip-pace") shown.pace = Number(event.target.value);
  beat();
  place();
}, true);
document.addEventListener("click", (event) => {
  const button = event.target.closest?.("#stage button");
  if (!button) return;
  if (button.id === "flip-now") flip();
  if (button.id === "stage-fill") {
    shown.fills = !shown.fills;
    apply();
    refreshPictures();
  }
});
document.addEventListener("keydown", (event) => {
  if (shown.way === "side" || event.target.closest("input[type=text], input[type=search], select, dialog")) return;
  if (event.key === "Escape") {
    if (shown.fills) shown.fills = false;
    else shown.way = "side";
    apply();
    beat();
    return refreshPictures();
  }
  if (event.key === " " && shown.way === "flip" && !event.target.closest("button, summary")) {
    event.preventDefault();
    flip();
  }
});

let dragged = false;
function dragSeam(event) {
  const box = byId("stage-box").getBoundingClientRect();
  shown.at = Math.min(100, Math.max(0, (100 * (event.clientX - box.left)) / box.width));
  place();
}
document.addEventListener("pointerdown", (event) => {
  if (shown.way !== "seam" || !event.target.closest("#stage-box")) return;
  dragged = true;
  event.preventDefault();
  dragSeam(event);
});
document.addEventListener("pointermove", (event) => dragged && dragSeam(event));
document.addEventListener("pointerup", () => (dragged = false));
document.addEventListener("pointercancel", () => (dragged = false));

afterAnswer.push(apply);
onDecoded.push(() => shown.way !== "side" && place());
window.addEventListener("resize", () => shown.way !== "side" && place());
shown.way = thisTab.get("way", "side");
if (!document.querySelector(`[data-way][value="${shown.way}"]`) || shown.way === "tell") shown.way = "side";
apply();
