// How the bench asks the server and takes its answers: outputs are put in place, controls are left alone, a lost answer is said.
import { holdAddress } from "./history.js";
import { put } from "./putting.js";

export const byId = (id) => document.getElementById(id);
export const form = () => byId("bench");

// An answer is put into the page. What the reader has unfolded or is typing stays so, and a picture stays until the next one is decoded.
const mayChange = (name, node, change) =>
  !(name === "open" && change === "remove") &&
  !(name === "hidden" && ["more-of-it", "stage", "tell"].includes(node.id)) &&
  !(name === "src" && node.dataset.shot) &&
  !(name === "value" && node === document.activeElement && node.type === "text");
Idiomorph.defaults.callbacks.beforeAttributeUpdated = mayChange;
// after a press, when the whole bench is new: what is the same is gone through no further, unless it holds fields, as those are typed in
const WHOLE = new Set(["TR", "LI", "svg"]);
Idiomorph.defaults.callbacks.beforeNodeMorphed = (node, fresh) =>
  !(WHOLE.has(node.nodeName) && !node.querySelector("input") && node.isEqualNode(fresh));
const morph = (node, fresh) => Idiomorph.morph(node, fresh, { morphStyle: "outerHTML" });
document.body.addEventListener("htmx:oobBeforeSwap", ({ detail }) => {
  put(detail.target, detail.fragment.firstElementChild, mayChange, morph);
  detail.shouldSwap = false;
});

let pending = null; // a press and its parameters
let focusNext = ""; // what has the focus once the bench is drawn anew

// Carry out a press; `focus` names what is looked at next.
export function act(action, { focus = "", ...parameters } = {}) {
  pending = { action, ...parameters };
  focusNext = focus;
  htmx.trigger(form(), "act");
}

// The bench as its fields stand now; not a step of its own in the history.
export function refresh() {
  holdAddress();
  htmx.trigger(form(), "typing");
}

// what of the outputs stands here by now, each part by its sum, so that only what differs is sent; a bench that is new has none
const PARTS = "Bench-Parts";
const sums = new Map();
function noteParts(said) {
  if (!said) sums.clear();
  else said.split(",").forEach((pair) => sums.set(...pair.split("=")));
}
document.body.addEventListener("htmx:historyRestore", () => sums.clear());

document.body.addEventListener("htmx:configRequest", (event) => {
  if (event.detail.elt !== form()) return;
  performance.mark("change");
  if (pending) {
    Object.assign(event.detail.parameters, pending);
    pending = null;
  }
  if (event.detail.triggeringEvent?.type === "change") event.detail.parameters.commit = "1";
  if (sums.size) event.detail.headers[PARTS] = [...sums].map(([name, sum]) => `${name}=${sum}`).join(",");
});

// ---- answers ----------------------------------------------------------------------------------------------------
let sayTimer = null;
export function say(text) {
  clearTimeout(sayTimer);
  sayTimer = setTimeout(() => (byId("status").textContent = text), 400);
}

function setStale(isStale, why = "These figures are from the last valid settings.") {
  byId("stale").textContent = why;
  byId("stale").hidden = !isStale;
  form().classList.toggle("is-stale", isStale);
}

function clearMessages() {
  document.querySelectorAll("#bench .field-error").forEach((p) => {
    p.textContent = "";
    delete p.dataset.field; // or the field would be marked again
  });
  document.querySelectorAll("#bench [aria-invalid]").forEach((field) => field.removeAttribute("aria-invalid"));
}

const LOST = "These figures are from before the connection was lost.";
export const NO_ANSWER = "The server does not answer. Your settings are kept here; try again.";
export const whatWentWrong = (event) =>
  event.type === "htmx:responseError" ? "The server could not work this out. Your settings are kept here; try again." : NO_ANSWER;

document.body.addEventListener("htmx:beforeSwap", (event) => {
  if (event.detail.requestConfig?.elt !== form() || event.detail.xhr.status >= 500) return;
  clearMessages();
  setStale(event.detail.xhr.status === 422);
  if (event.detail.xhr.status === 200) noteParts(event.detail.xhr.getResponseHeader(PARTS));
});
for (const lost of ["htmx:sendError", "htmx:timeout", "htmx:responseError"]) {
  document.body.addEventListener(lost, (event) => {
    if (event.detail.requestConfig?.elt !== form()) return;
    setStale(true, LOST);
    byId("err-bench").textContent = whatWentWrong(event);
  });
}
window.addEventListener("online", () => form().classList.contains("is-stale") && refresh());

// what is told once an answer stands on the page
export const afterAnswer = [];
document.body.addEventListener("htmx:afterSettle", (event) => {
  if (event.target !== form()) return; // each swapped output settles too
  requestAnimationFrame(() =>
    setTimeout(() => {
      performance.mark("painted");
      if (performance.getEntriesByName("change").length) performance.measure("change-to-painted", "change", "painted");
    }),
  );
  document.querySelectorAll("#bench .field-error[data-field]").forEach((p) => {
    document.querySelectorAll(`[aria-describedby="${p.id}"]`).forEach((field) => field.setAttribute("aria-invalid", "true"));
    p.closest("details")?.setAttribute("open", "");
    if (p.closest("#more-of-it")) byId("more-of-it").hidden = false;
  });
  const wrong = document.querySelector("#bench .field-error[data-field]");
  say(wrong?.textContent || byId("status-next")?.textContent || "");
  afterAnswer.forEach((told) => told());
  if (focusNext) byId(focusNext)?.focus();
  focusNext = "";
});
