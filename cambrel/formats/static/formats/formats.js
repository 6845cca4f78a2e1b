// True size on this screen: calibrated once with a bank card, kept in this browser. Sizes are set through the CSSOM only.
import { always } from "../site/keep.js";

const byId = (id) => document.getElementById(id);
const CARD = { width: 85.6, height: 53.98 };
const KEPT = "pixels-per-mm";
const SVG = "http://www.w3.org/2000/svg";
const slider = byId("card-size");
const dialog = byId("life");

function show() {
  const scale = Number(slider.value) / CARD.width;
  const card = byId("card");
  card.setAttribute("width", CARD.width * scale);
  card.setAttribute("height", CARD.height * scale);
  always.set(KEPT, scale);
  const stage = byId("life-frames");
  const frames = [...document.querySelectorAll("#life-data span")].map((span) => ({ ...span.dataset }));
  stage.replaceChildren(...frames.map((frame) => drawn(frame, scale)));
  byId("life-says").textContent = `One millimetre is ${scale.toFixed(2)} pixels of this browser.`;
}

function drawn({ name, width, height }, scale) {
  const figure = document.createElement("figure");
  const svg = document.createElementNS(SVG, "svg");
  svg.setAttribute("width", width * scale);
  svg.setAttribute("height", height * scale);
  svg.setAttribute("role", "img");
  svg.setAttribute("aria-label", `${name} at its true size`);
  const rect = document.createElementNS(SVG, "rect");
  rect.setAttribute("width", width * scale);
  rect.setAttribute("height", height * scale);
  rect.setAttribute("class", "life-frame");
  svg.append(rect);
  const caption = document.createElement("figcaption");
  caption.textContent = name;
  figure.append(svg, caption);
  return figure;
}

byId("true-size").addEventListener("click", () => {
  const kept = Number(always.get(KEPT));
  if (kept > 0) slider.value = kept * CARD.width;
  dialog.showModal();
  show();
});
slider.addEventListener("input", show);
