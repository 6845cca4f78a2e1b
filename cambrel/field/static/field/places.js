// Scenes are brought in one after the other: it is shown how far it is.
const EVERY_MS = 500;
const form = document.querySelector("form.place-in");

form.addEventListener("submit", async (event) => {
  if (form.elements.file.files.length === 0) return;
  event.preventDefault();
  const button = form.querySelector("button");
  const bar = document.createElement("progress");
  bar.max = 1;
  bar.value = 0;
  bar.setAttribute("aria-label", "Bringing in scenes");
  button.replaceWith(bar);
  const asking = setInterval(async () => {
    const answer = await fetch(form.dataset.progress);
    if (answer.ok) bar.value = (await answer.json()).done;
  }, EVERY_MS);
  try {
    const answer = await fetch(form.action, { method: "POST", body: new FormData(form), redirect: "manual" });
    if (answer.type !== "opaqueredirect") throw new Error(answer.status);
    location.reload();
  } catch {
    bar.replaceWith(button);
    form.querySelector("[role=status]").textContent = "It could not be brought in just now: try it once more.";
  } finally {
    clearInterval(asking);
  }
});
