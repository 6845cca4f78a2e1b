// The dialog in which a rig gets another body or lens. It stays open until a press in it was carried out, or it is closed.
import { act, afterAnswer, byId, form, whatWentWrong } from "./asking.js";

const picker = byId("picker");
const search = byId("picker-search");
const says = byId("offers-problem");
const PRESSES = /^(gear|convert|own_body|own_lens):/;

export function openPicker(kind, rig, mount) {
  search.elements.kind.value = kind;
  search.elements.rig.value = rig;
  search.elements.mount.value = mount || "";
  search.elements.q.value = "";
  byId("offers").textContent = "Looking on your shelf…";
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
export const pick = (action, parameters = {}) =>
  act(action, { ...parameters, focus: `${search.elements.kind.value}-${search.elements.rig.value}` });

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
    if (asked === search) byId("offers").textContent = "";
    if (asked === search || (asked === form() && picker.open)) says.textContent = whatWentWrong(event);
  });
}
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.requestConfig?.elt === search) says.textContent = "";
});
