// What is done on and shown over the pictures. Presses and drags are sent as places of a picture; what stands there the server knows.
import { act, byId, refresh } from "./asking.js";
import { pictureIn, placeOf, timesFarther } from "./gesture.js";
import { refreshPictures } from "./pictures.js";

document.addEventListener("change", (event) => {
  const kind = event.target.dataset?.scene;
  if (!kind && !event.target.closest?.("[data-arrange]")) return;
  event.stopPropagation();
  if (kind === "loupe") turnLoupe(event.target.checked);
}, true);

document.addEventListener("click", (event) => {
  const place = event.target.closest("[data-place]");
  if (place) {
    const fields = [...place.closest("tr").querySelectorAll("[data-arrange]")].map((field) => field.value.replace(/:/g, " "));
    act(["arrange", place.dataset.place, ...fields].join(":"), { focus: place.id });
  }
});

// ---- the loupe --------------------------------------------------------------------------------------------------
function turnLoupe(on) {
  const first = document.querySelector("[data-view]:has(img)"); // a rig that sees nothing has no picture to enlarge
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

// ---- presses and drags on a picture -----------------------------------------------------------------------------
let held = null;
const pointOf = (event) => ({ x: event.clientX, y: event.clientY });
document.addEventListener("pointerdown", (event) => {
  if (event.target.closest("a")) return;
  const mat = event.target.closest(".view[data-view] .mat");
  if (!mat || event.button) return;
  const img = mat.querySelector("img");
  const picture = pictureIn(mat.getBoundingClientRect(), img.naturalWidth / img.naturalHeight || 1.5);
  const place = placeOf(picture, pointOf(event));
  if (!place) return;
  held = { rig: mat.closest("[data-view]").dataset.view, place, from: pointOf(event), height: picture.height };
  event.preventDefault();
});
document.addEventListener("pointercancel", () => (held = null)); // the page was scrolled instead
document.addEventListener("pointerup", (event) => {
  const was = held;
  held = null;
  if (!was) return;
  const place = `${was.rig}:${was.place.across.toFixed(4)}:${was.place.down.toFixed(4)}`;
  const times = timesFarther(was.from, pointOf(event), was.height);
  if (document.querySelector('[data-scene="loupe"]').checked) act(`loupe_at:${place}`);
  else if (times === 1) act(`focus_at:${place}`);
  else act(`drag_at:${place}:${times.toFixed(4)}`);
});
refreshPictures();
