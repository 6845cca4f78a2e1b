// The line of questions: its answer lies under it while it is typed, and goes with Escape, a press elsewhere or an empty line.
const line = document.getElementById("ask-line");
const field = document.getElementById("ask-q");
const card = document.getElementById("ask-card");

const show = (isShown) => (card.hidden = !isShown);

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
// an empty line offers what people ask
field.addEventListener("focus", () => (card.childElementCount ? show(true) : htmx.trigger(line, "empty")));
document.addEventListener("pointerdown", (event) => event.target.closest("#ask-line") || show(false));
