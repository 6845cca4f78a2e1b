// Pictures back: heads first, whole files only where they are measured; one after the other, with a pause.
import { patient } from "../site/patient.js";
import { pausing, readHeads } from "../site/heads.js";

const place = document.querySelector(".bring");
const form = place.querySelector("form");
const says = place.querySelector("[data-says]");
const unread = place.querySelector("[data-unread]");
const progress = place.querySelector("[data-progress]");
const pause = place.querySelector("[data-pause]");
const simulate = place.querySelector("[data-simulate-all]");
const token = form.querySelector("[name='csrfmiddlewaretoken']").value;

const gate = pausing(pause);

function show(done, of, what) {
  progress.hidden = pause.hidden = false;
  progress.max = of;
  progress.value = done;
  says.textContent = `${done} of ${of} ${what}`;
}

function refuse(name, why) {
  const line = document.createElement("li");
  line.textContent = `${name}: ${why}`;
  unread.append(line);
}

async function bring(file, answer) {
  const body = new FormData();
  body.set("csrfmiddlewaretoken", token);
  if (answer.whole) body.set("file", file, "picture");
  else body.set("row", JSON.stringify(answer.row));
  const sent = await patient(place.dataset.bring, { method: "POST", body, headers: { "X-Requested-With": "fetch" } });
  if (sent.ok) return "";
  try {
    return (await sent.json()).problem;
  } catch {
    return `the server answered ${sent.status}`;
  }
}

async function bringAll(files) {
  unread.replaceChildren();
  const read = [];
  let count = 0;
  await readHeads(files, {
    address: place.dataset.heads,
    token,
    gate,
    tell(file, answer) {
      count += 1;
      show(count, files.length, "read");
      if (answer.problem) refuse(file.name, answer.problem);
      else read.push([file, answer]);
    },
  });
  read.sort(([, one], [, other]) => (one.row.at ?? "").localeCompare(other.row.at ?? "")); // by the cameras' clocks
  let done = 0;
  for (const [file, answer] of read) {
    await gate();
    const problem = await bring(file, answer).catch((error) => error.message);
    if (problem) refuse(file.name, problem);
    done += 1;
    show(done, read.length, "brought in");
  }
  pause.hidden = true;
  if (!unread.children.length) window.location.reload();
  else says.textContent = `${read.length} brought in. These were not read; the others stand below once you reload the page.`;
}

form.addEventListener("submit", (event) => {
  event.preventDefault();
  const files = [...form.elements.file.files];
  if (files.length) bringAll(files);
  else says.textContent = "Choose files first.";
});

simulate.hidden = false;
simulate.addEventListener("click", async () => {
  simulate.disabled = true;
  const keys = place.dataset.shots.split(" ").filter(Boolean);
  const files = [];
  for (const [k, key] of keys.entries()) {
    await gate();
    show(k, keys.length, "taken by the simulated camera");
    const body = new URLSearchParams({ csrfmiddlewaretoken: token });
    const answer = await patient(place.dataset.simulate.replace("KEY", key), { method: "POST", body });
    if (answer.status === 200) files.push(new File([await answer.blob()], `${key}`));
  }
  bringAll(files);
});
