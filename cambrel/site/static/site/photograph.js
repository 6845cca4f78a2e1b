// A photograph dropped on a page, or chosen: its head goes to the server, the picture itself stays in this tab.
import { readHeads } from "./heads.js";
import { thisTab } from "./keep.js";

const MOST_PX = 1000;
const byId = (id) => document.getElementById(id);
const drop = byId("photograph-drop");
const says = byId("photograph-says");

function tell(text) {
  says.textContent = text;
  says.hidden = !text;
}

// The picture made small, as an address that this tab can keep; empty for a kind of file that the browser does not show.
async function small(file) {
  try {
    const image = await createImageBitmap(file);
    const scale = Math.min(1, MOST_PX / Math.max(image.width, image.height));
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [image.width * scale, image.height * scale].map((side) => Math.max(1, Math.round(side)));
    canvas.getContext("2d").drawImage(image, 0, 0, canvas.width, canvas.height);
    return canvas.toDataURL("image/jpeg", 0.8);
  } catch {
    return "";
  }
}

export const kept = () => thisTab.record("photograph");
export const forget = () => thisTab.set("photograph", "null");

// Put the picture that is kept into a figure, where it is the one that the figure is of.
export function show(figure) {
  const photograph = kept();
  if (!figure || photograph?.name !== figure.dataset.name) return false;
  const image = figure.querySelector("img");
  image.hidden = !photograph.source;
  if (photograph.source && image.src !== photograph.source) image.src = photograph.source;
  figure.querySelector("[data-says]").textContent = photograph.source ? "" : "This browser cannot show such a file. Its settings were read.";
  figure.hidden = false;
  return true;
}

export async function begin(files, bench = "") {
  const [file] = files;
  if (!file) return;
  tell(files.length > 1 ? `Reading ${file.name}, the first of ${files.length}` : `Reading ${file.name}`);
  await readHeads([file], {
    address: drop.dataset.heads,
    token: drop.querySelector("[name='csrfmiddlewaretoken']").value,
    gate: async () => true,
    async tell(_, answer) {
      if (answer.problem) {
        tell(`${file.name}: ${answer.problem}`);
        return;
      }
      thisTab.set("photograph", JSON.stringify({ name: answer.name, source: await small(file) }));
      const query = new URLSearchParams(answer.query);
      if (bench) query.set("b", bench);
      query.set("file", "1");
      location.href = `${drop.dataset.page}?${query}`;
    },
  });
}

const bench = () => byId("token")?.value ?? drop.dataset.bench ?? "";
const input = drop.querySelector("[type='file']");
input.addEventListener("change", () => {
  begin([...input.files], bench());
  input.value = "";
});
document.addEventListener("click", (event) => {
  if (!event.target.closest("[data-choose-photograph]")) return;
  event.preventDefault();
  input.click();
});
const hasFiles = (event) => [...(event.dataTransfer?.types ?? [])].includes("Files");
document.addEventListener("dragover", (event) => {
  if (!hasFiles(event)) return;
  event.preventDefault();
  tell("Drop the photograph: only its settings are read");
});
document.addEventListener("dragleave", (event) => {
  if (!event.relatedTarget) tell("");
});
document.addEventListener("drop", (event) => {
  if (!hasFiles(event)) return;
  event.preventDefault();
  begin([...event.dataTransfer.files], bench());
});
