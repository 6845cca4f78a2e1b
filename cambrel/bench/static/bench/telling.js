// Can you tell? Two pictures without letters, and a third that is one of them: ten rounds, then the hits against chance.
import { always } from "../site/keep.js";
import { byId, form } from "./asking.js";
import { distanceFor } from "./registering.js";

const ROUNDS = 10;
const MM_PER_PX = 25.4 / 96; // a pixel of the style sheets, where the screen was never measured
const either = () => crypto.getRandomValues(new Uint8Array(1))[0] % 2 === 1;
let on = null; // how the stage shows the first or the second picture
let round = { turned: false, third: false };
let hits = 0;
let done = 0;

const pressed = (which) =>
  document.querySelectorAll("[data-tell-show]").forEach((button) => (button.ariaPressed = String(button.dataset.tellShow === which)));
function show(which) {
  // one, two and the third as a picture of the pair: turned rounds show the pair the other way about
  const second = { 0: false, 1: true, 2: round.third }[which];
  on.show(second !== round.turned);
  pressed(String(which));
}
function next() {
  round = { turned: either(), third: either() };
  show("0");
  byId("tell-says").textContent = done ? `${done} of ${ROUNDS} answered.` : "Look at one, at two, and at the third: which of them is it?";
}
function sizeSaid() {
  const box = byId("stage-box").getBoundingClientRect();
  const img = document.querySelector(".seam-left");
  const ratio = img.naturalWidth / img.naturalHeight || 1.5;
  const width = Math.min(box.width, box.height * ratio);
  const shown = Math.max(width, width / ratio) * (always.get("pixels-per-mm") ? 1 / Number(always.get("pixels-per-mm")) : MM_PER_PX);
  const [print, from] = ["shown_long_side_mm", "viewing_distance_mm"].map((name) => Number(byId(`id_brief-${name}`).value.replace(",", ".")));
  if (!(print > 0 && from > 0)) return;
  const away = Math.round(distanceFor(shown, print, from) / 10);
  byId("tell-size").textContent = `From ${away} cm off the screen it is as large as ${print} mm looked at from ${Math.round(from / 10)} cm.`;
}
async function judged() {
  const asked = new URLSearchParams(location.search);
  const [first, second] = on.pair();
  Object.entries({ hits, of: done, first, second }).forEach(([name, value]) => asked.set(name, value));
  const answer = await fetch(`${form().dataset.tell}?${asked}`);
  if (!answer.ok) return;
  byId("tell-says").textContent = await answer.text();
  keep(answer.headers.get("Noise-Seen-Below"));
}
// where only noise told the pictures apart, that is where the reader sees noise
function keep(below) {
  const link = byId("tell-keep");
  link.hidden = !below;
  link.href = `${link.dataset.page}?seen_snr=${below}`;
  link.textContent = `Count noise as seen below ${below}`;
}

export const tell = {
  begin(how) {
    on = how ?? on;
    hits = done = 0;
    byId("tell-keep").hidden = true;
    byId("tell").querySelectorAll("[data-tell-is]").forEach((button) => (button.disabled = false));
    next();
    sizeSaid();
  },
};

document.addEventListener("click", (event) => {
  const button = event.target.closest?.("#tell button");
  if (!button || !on) return;
  if (button.id === "tell-anew") tell.begin();
  else if (button.dataset.tellShow) show(button.dataset.tellShow);
  else {
    hits += (button.dataset.tellIs === "1") === round.third;
    done += 1;
    if (done < ROUNDS) return next();
    byId("tell").querySelectorAll("[data-tell-is]").forEach((one) => (one.disabled = true));
    judged();
  }
});
