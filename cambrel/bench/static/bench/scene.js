// What is done on and shown over the pictures. Presses and drags are sent as places of a picture; what stands there the server knows.
import { thisTab } from "../site/keep.js";
import { act, afterAnswer, byId, refresh } from "./asking.js";
import { pictureIn, placeOf, timesFarther } from "./gesture.js";
import { addressOf, onDecoded, refreshPictures } from "./pictures.js";

// ---- what is shown over the pictures ----------------------------------------------------------------------------
const shown = { marks: false, frame: "", seam: false, at: 50, from: "", to: "", larger: thisTab.get("larger") === "1" };
function applyMarks() {
  if (!byId("views")) return document.querySelector(".answer").classList.remove("larger");
  const panel = byId("panel");
  panel.classList.toggle("show-marks", shown.marks);
  for (let index = 0; index < 6; index += 1) panel.classList.toggle(`show-frame-${index}`, shown.frame === String(index));
  document.querySelector(".answer").classList.toggle("larger", shown.larger);
  const set = (name, property, value) => {
    const control = document.querySelector(`[data-scene="${name}"]`);
    if (control) control[property] = value;
  };
  set("marks", "checked", shown.marks);
  set("frame", "value", shown.frame);
  set("larger", "ariaPressed", String(shown.larger));
  set("seam", "ariaPressed", String(shown.seam));
  if (!byId("seam")) return;
  byId("seam").hidden = !shown.seam;
  byId("seam-at").value = shown.at;
  for (const [id, chosen] of [["seam-from", shown.from], ["seam-to", shown.to]]) {
    if (chosen && byId(id).querySelector(`[value="${chosen}"]`)) byId(id).value = chosen;
  }
  if (shown.seam) placeSeam();
}

document.addEventListener("change", (event) => {
  const kind = event.target.dataset?.scene;
  if (!kind && !event.target.closest?.("#seam, [data-arrange]")) return;
  event.stopPropagation();
  if (kind === "marks") shown.marks = event.target.checked;
  if (kind === "frame") shown.frame = event.target.value;
  if (kind === "loupe") turnLoupe(event.target.checked);
  if (event.target.id === "seam-from") shown.from = event.target.value;
  if (event.target.id === "seam-to") shown.to = event.target.value;
  applyMarks();
}, true);

document.addEventListener("click", (event) => {
  const kind = event.target.closest("button")?.dataset.scene;
  if (kind === "larger") {
    shown.larger = !shown.larger;
    thisTab.set("larger", shown.larger ? "1" : "0");
    applyMarks();
    refreshPictures();
  }
  if (kind === "seam") {
    shown.seam = !shown.seam;
    applyMarks();
  }
  const place = event.target.closest("[data-place]");
  if (place) {
    const fields = [...place.closest("tr").querySelectorAll("[data-arrange]")].map((field) => field.value.replace(/:/g, " "));
    act(["arrange", place.dataset.place, ...fields].join(":"), { focus: place.id });
  }
});

// ---- the loupe --------------------------------------------------------------------------------------------------
function turnLoupe(on) {
  const first = document.querySelector("[data-view]"); // a rig that sees nothing has no picture to enlarge
  if (on && first) {
    byId("loupe-at").value = "0,1.5";
    act(`loupe_at:${first.dataset.view}:0.5:0.4`);
  } else {
    byId("loupe-at").value = "";
    refresh();
  }
}
// by keyboard, five centimetres at a time
const MOVES = { ArrowLeft: [-0.05, 0], ArrowRight: [0.05, 0], ArrowUp: [0, 0.05], ArrowDown: [0, -0.05] };
document.addEventListener("keydown", (event) => {
  const move = MOVES[event.key];
  if (!move || event.target.id !== "loupes") return;
  event.preventDefault();
  const at = byId("loupe-at").value.split(",").map(Number);
  byId("loupe-at").value = at.map((part, i) => (part + move[i]).toFixed(3)).join(",");
  refresh();
});
afterAnswer.push(applyMarks);

// ---- split view with a seam -------------------------------------------------------------------------------------
function placeSeam() {
  // by class: what has an id would get its style copied by htmx, as an attribute that the security policy forbids
  const [left, right] = [document.querySelector(".seam-left"), document.querySelector(".seam-right")];
  for (const [img, from] of [[left, byId("seam-from")], [right, byId("seam-to")]]) {
    const view = document.querySelector(`img[data-keep="${from.value}"]`);
    if (!view) return;
    const address = addressOf(view.dataset.address, 420);
    if (!img.src.endsWith(address)) img.src = address;
    img.alt = view.alt;
  }
  const at = byId("seam-at").value;
  right.style.clipPath = `inset(0 0 0 ${at}%)`;
  left.style.clipPath = `inset(0 ${100 - at}% 0 0)`;
}
onDecoded.push(() => byId("seam")?.hidden === false && placeSeam());
document.addEventListener("input", (event) => {
  if (event.target.id !== "seam-at") return;
  event.stopPropagation();
  shown.at = event.target.value;
  placeSeam();
}, true);
function dragSeam(event) {
  const box = byId("seam-stage").getBoundingClientRect();
  shown.at = Math.min(100, Math.max(0, (100 * (event.clientX - box.left)) / box.width));
  byId("seam-at").value = shown.at;
  placeSeam();
}

// ---- presses and drags on a picture -----------------------------------------------------------------------------
let held = null;
const pointOf = (event) => ({ x: event.clientX, y: event.clientY });
document.addEventListener("pointerdown", (event) => {
  if (event.target.closest("#seam-stage")) {
    held = { seam: true };
    dragSeam(event);
    return event.preventDefault();
  }
  const mat = event.target.closest(".view[data-view] .mat");
  if (!mat || event.button) return;
  const img = mat.querySelector("img");
  const picture = pictureIn(mat.getBoundingClientRect(), img.naturalWidth / img.naturalHeight || 1.5);
  const place = placeOf(picture, pointOf(event));
  if (!place) return;
  held = { rig: mat.closest("[data-view]").dataset.view, place, from: pointOf(event), height: picture.height };
  event.preventDefault();
});
document.addEventListener("pointermove", (event) => held?.seam && dragSeam(event));
document.addEventListener("pointercancel", () => (held = null)); // the page was scrolled instead
document.addEventListener("pointerup", (event) => {
  const was = held;
  held = null;
  if (!was || was.seam) return;
  const place = `${was.rig}:${was.place.across.toFixed(4)}:${was.place.down.toFixed(4)}`;
  const times = timesFarther(was.from, pointOf(event), was.height);
  if (document.querySelector('[data-scene="loupe"]').checked) act(`loupe_at:${place}`);
  else if (times === 1) act(`focus_at:${place}`);
  else act(`drag_at:${place}:${times.toFixed(4)}`);
});
applyMarks();
refreshPictures();
