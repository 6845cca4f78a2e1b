// The pictures of the Scene: asked for one at a time and put in only once decoded, so that nothing flashes and nothing queues.
import { patient } from "../site/patient.js";
import { afterAnswer, byId } from "./asking.js";
import { isGivenUp, jobsFor } from "./queueing.js";

const REST_MS = 160;
const PATIENCE_MS = 400; // a picture that is not wanted any more is given up only where the server lets it wait
const loaded = new Map(); // by what is kept: the shot and the height that are shown
let wanted = [];
let busy = null; // the job under way, with what gives it up
let rest = null;

export const addressOf = (address, height) => address.replace("{height}", height);
export const onDecoded = [];
const images = () => [...document.querySelectorAll("img[data-shot]")]; // those of the large view too

// one that is of the settings before is dimmed until the new one is there
const dim = () => images().forEach((img) => {
  const shown = loaded.get(img.dataset.keep);
  img.classList.toggle("is-old", Boolean(shown) && shown.shot !== img.dataset.shot);
});

function ask(quick) {
  const scale = Math.min(devicePixelRatio || 1, 2);
  const seen = images().map((img) => ({ ...img.dataset, pixels: img.getBoundingClientRect().height * scale }));
  wanted = jobsFor(seen.filter(({ pixels }) => pixels > 0), loaded, quick); // what is not seen is not drawn
  if (isGivenUp(busy, seen, performance.now(), PATIENCE_MS)) busy.abort.abort();
  if (quick) hasten = wanted.length > 0;
  next();
}

// when every picture that is seen is of the change, for those who measure
let hasten = false;
const isShown = ({ keep, shot }) => loaded.get(keep)?.shot === shot;
function noteShown() {
  if (!hasten || !images().every((img) => isShown(img.dataset) || !img.offsetParent)) return;
  hasten = false;
  requestAnimationFrame(() =>
    setTimeout(() => {
      performance.mark("pictured");
      if (performance.getEntriesByName("change").length) performance.measure("change-to-pictured", "change", "pictured");
    }),
  );
}

// the picture of an address, once it is there
const fetched = async (address, signal) => (await patient(address, { signal })).blob();

async function next() {
  if (busy) return;
  const job = wanted.shift();
  if (!job) return;
  busy = { ...job, since: performance.now(), abort: new AbortController() };
  try {
    const address = addressOf(job.address, job.height);
    await fetched(address, busy.abort.signal);
    const picture = new Image();
    picture.src = address; // kept by the browser for good
    await picture.decode();
    const img = images().find((one) => one.dataset.keep === job.keep && one.dataset.shot === job.shot);
    if (img) {
      img.src = picture.src;
      loaded.set(job.keep, job);
      dim();
      byId("first-time")?.remove();
      onDecoded.forEach((told) => told());
    }
  } catch {
    // a picture that cannot be had leaves the one before; the figures stand beside it
  }
  busy = null;
  noteShown();
  next();
}

// once what has changed is painted: the figures come first, and many parts that change together ask together
let isDue = false;
export function refreshPictures() {
  if (isDue || !byId("views")) return;
  isDue = true;
  dim();
  requestAnimationFrame(() =>
    setTimeout(() => {
      isDue = false;
      ask(true);
      clearTimeout(rest);
      rest = setTimeout(() => ask(false), REST_MS);
    }),
  );
}

afterAnswer.push(refreshPictures);
document.body.addEventListener("htmx:load", refreshPictures);
window.addEventListener("resize", () => {
  clearTimeout(rest);
  rest = setTimeout(() => ask(false), 300);
});
