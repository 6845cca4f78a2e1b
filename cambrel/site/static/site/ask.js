// The line of questions: its answer lies under it while it is typed, and goes with Escape, a press elsewhere or an empty line.
import { rewritten } from "./rewriting.js";

const line = document.getElementById("ask-line");
const field = document.getElementById("ask-q");
const card = document.getElementById("ask-card");

const show = (isShown) => (card.hidden = !isShown);
const grow = () => line.style.setProperty("--typed", field.value.length);

document.body.addEventListener("htmx:configRequest", (event) => {
  if (event.detail.elt === line) delete event.detail.parameters.go; // only Enter goes on to the bench
});
document.body.addEventListener("htmx:afterSwap", (event) => {
  if (event.detail.target === card) show(line.contains(document.activeElement));
});
line.addEventListener("keydown", (event) => {
  if (event.key !== "Escape") return;
  show(false);
  field.focus();
});
field.addEventListener("input", grow);
// an empty line offers what people ask
field.addEventListener("focus", () => (card.childElementCount ? show(true) : htmx.trigger(line, "empty")));
document.addEventListener("pointerdown", (event) => event.target.closest("#ask-line") || show(false));

function ask(text) {
  field.value = text;
  grow();
  field.focus();
  htmx.trigger(line, "empty");
}

// A piece that was understood is changed in place, and the line asked anew with it.
document.addEventListener(
  "change",
  (event) => {
    const chip = event.target.closest?.("[data-chip]");
    if (!chip) return;
    event.stopPropagation();
    const { start, end, before } = chip.dataset;
    const text = rewritten(chip.closest("[data-line]").dataset.line, { start: Number(start), end: Number(end), before }, chip.value);
    if (line.contains(chip)) ask(text);
    else location.search = new URLSearchParams({ q: text });
  },
  true,
);
// What a line may have meant is put into it
card.addEventListener("click", (event) => {
  const offer = event.target.closest("[data-ask]");
  if (!offer) return;
  event.preventDefault();
  ask(offer.dataset.ask);
});
grow();
