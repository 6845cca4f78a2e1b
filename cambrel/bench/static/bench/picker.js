// The dialog in which a rig gets another body or lens. It stays open until a press in it was carried out, or it is closed.
import { act, afterAnswer, byId, form, whatWentWrong } from "./asking.js";

const picker = byId("picker");
const search = byId("picker-search");
const says = byId("offers-problem");
const PRESSES = /^(gear|convert|own_body|own_lens):/;

const offers = byId("offers");
let bodyFor = ""; // the rig that is being given another body
let wasFixed = false; // and whether the lens of the body before does not come off it
let takesFirst = false; // Enter was pressed before what was typed has been looked up

export function openPicker(kind, rig, mount, why = "") {
  search.elements.kind.value = kind;
  search.elements.rig.value = rig;
  search.elements.mount.value = mount || "";
  search.elements.q.value = "";
  takesFirst = false;
  byId("picker-says").textContent = why;
  offers.textContent = "Looking on your shelf…";
  for (const own of document.querySelectorAll("[data-own]")) {
    own.hidden = own.dataset.own !== kind;
    own.reset();
  }
  byId("picker-title").textContent = `${kind === "body" ? "Body" : "Lens"} for ${"ABCDEF"[rig]}`;
  clearProblems();
  picker.showModal();
  htmx.trigger(search, "load-offers");
  search.elements.q.focus();
}

function clearProblems() {
  picker.querySelectorAll(".field-error").forEach((p) => (p.textContent = ""));
}

// the button that opened the dialog has the focus again
export function pick(action, parameters = {}) {
  const { kind, rig } = search.elements;
  bodyFor = kind.value === "body" ? rig.value : "";
  wasFixed = Boolean(bodyFor) && !byId(`lens-${bodyFor}`).dataset.mount;
  act(action, { ...parameters, focus: `${kind.value}-${rig.value}` });
}

// ---- by keyboard: arrows go through what is offered, Enter takes the first -----------------------------------------
const all = () => [...offers.querySelectorAll("button")];
const isLookedUp = () => offers.dataset.for === search.elements.q.value.trim() && !search.classList.contains("htmx-request");
picker.addEventListener("keydown", (event) => {
  const isTyping = event.target === search.elements.q;
  if (isTyping && event.key === "Enter") {
    event.preventDefault();
    takesFirst = !isLookedUp();
    if (!takesFirst) all()[0]?.click();
  }
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (!step || !(isTyping || offers.contains(event.target))) return;
  event.preventDefault();
  const to = all().indexOf(event.target) + step;
  (all()[Math.min(to, all().length - 1)] ?? search.elements.q).focus();
});
search.elements.q.addEventListener("input", () => (takesFirst = false));

document.querySelectorAll("[data-own]").forEach((own) =>
  own.addEventListener("submit", (event) => {
    event.preventDefault();
    clearProblems();
    pick(`own_${own.dataset.own}:${search.elements.rig.value}`, Object.fromEntries(new FormData(own)));
  }),
);

document.body.addEventListener("htmx:beforeSwap", (event) => {
  const config = event.detail.requestConfig;
  if (config?.elt !== form() || !PRESSES.test(config.parameters.action ?? "")) return;
  if (event.detail.xhr.status < 400) picker.close();
  else bodyFor = "";
});
// the lens that was on the body before may not go on this one
afterAnswer.push(() => {
  const lens = bodyFor && byId(`lens-${bodyFor}`);
  bodyFor = "";
  if (!lens) return;
  const { rig, mount, otherMount } = lens.dataset;
  const why = otherMount ?? (wasFixed && mount ? `The camera before had a lens of its own. ${mount} lenses come first.` : "");
  if (why) openPicker("lens", rig, mount, why);
});
afterAnswer.push(() => {
  const problem = byId("err-bench")?.textContent;
  if (!problem || !picker.open) return;
  const own = picker.querySelector("[data-own]:not([hidden]) .field-error");
  own.textContent = problem;
});
for (const lost of ["htmx:sendError", "htmx:timeout", "htmx:responseError"]) {
  document.body.addEventListener(lost, (event) => {
    const asked = event.detail.requestConfig?.elt;
    if (asked === search) offers.textContent = "";
    if (asked === search || (asked === form() && picker.open)) says.textContent = whatWentWrong(event);
  });
}
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.requestConfig?.elt !== search) return;
  says.textContent = "";
  offers.dataset.for = event.detail.requestConfig.parameters.q?.trim() ?? "";
  if (takesFirst) all()[0]?.click();
  takesFirst = false;
});
