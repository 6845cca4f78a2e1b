// Looking through a large shelf for what would help most takes a while: it is shown how far it is, and can be left.
const LOOK = "help";
let leaving = null;

async function* linesOf(body) {
  const reader = body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + value).split("\n");
    rest = lines.pop();
    yield* lines;
  }
}

function waiting(place) {
  place.innerHTML = `<div class="choose-progress"><label>Looking through the shelf <progress max="1" value="0"></progress></label>
    <button type="button" class="btn btn-sm btn-plain">Cancel</button></div>`;
  place.querySelector("button").addEventListener("click", () => leaving?.abort());
  return place.querySelector("progress");
}

async function look(form, place) {
  leaving?.abort();
  leaving = new AbortController();
  const asked = new URLSearchParams(new FormData(form));
  const bar = waiting(place);
  try {
    const answer = await fetch(`${form.dataset.helping}?${asked}`, { signal: leaving.signal });
    if (answer.status === 503 || answer.status === 429) {
      place.innerHTML = `<p role="status">Many are looking just now: try it again in a minute.</p>`;
      return;
    }
    if (!answer.ok) throw new Error(answer.status);
    for await (const line of linesOf(answer.body)) {
      const { done, html } = JSON.parse(line);
      bar.value = done;
      if (html !== undefined) place.innerHTML = html;
    }
    asked.set("look", LOOK);
    history.replaceState(null, "", `?${asked}`);
  } catch (error) {
    place.innerHTML = `<p role="status">${error.name === "AbortError" ? "Left: nothing was looked for to the end." : "It could not be looked for: try it once more."}</p>`;
  }
}

document.addEventListener("submit", (event) => {
  const form = event.target.closest("form[data-helping]");
  if (form === null || event.submitter?.name !== "look" || event.submitter.value !== LOOK) return;
  event.preventDefault();
  look(form, document.getElementById("look"));
});

// A kit that is pressed on a chart is the one that is taken.
document.querySelector(".choose-charts")?.addEventListener("click", (event) => {
  const mark = event.target.closest("[data-took]");
  const took = document.getElementById("keep-took");
  if (!mark || !took) return;
  took.value = mark.dataset.took;
  document.querySelectorAll(".kit-mark").forEach((other) => other.classList.toggle("is-taken", other.dataset.took === took.value));
});

// How often a picture is made can be dragged too; its number is what counts.
const MOST_OFTEN = 5;
document.querySelectorAll(".choose-table input[id^='share-']").forEach((field) => {
  const slider = document.createElement("input");
  Object.assign(slider, { type: "range", min: 0, step: 0.5, className: "share-slider" });
  slider.max = Math.max(MOST_OFTEN, Number(field.value) || 0);
  slider.value = field.value;
  slider.setAttribute("aria-label", `${field.labels[0]?.textContent ?? ""}, by dragging`);
  slider.addEventListener("input", () => {
    field.value = slider.value;
  });
  slider.addEventListener("change", () => field.form.requestSubmit());
  field.after(slider);
});
