// The logbook: heads of many files, or a table, are read first and shown; they are kept by one press.
import { patient } from "../site/patient.js";
import { pausing, readHeads } from "../site/heads.js";

const place = document.querySelector(".bring");
const token = place.querySelector("[name='csrfmiddlewaretoken']").value;
const says = place.querySelector("[data-says]");
const unread = place.querySelector("[data-unread]");
const progress = place.querySelector("[data-progress]");
const pause = place.querySelector("[data-pause]");
const keep = place.querySelector("[data-keep]");
const MOST_NAMED = 200;
let rows = [];

const gate = pausing(pause);

function refuse(text) {
  if (unread.children.length >= MOST_NAMED) return;
  const line = document.createElement("li");
  line.textContent = text;
  unread.append(line);
}

function ready(_read, of) {
  keep.hidden = !rows.length;
  pause.hidden = true;
  says.textContent = `${rows.length} of ${of} say how they were taken.${rows.length ? " Nothing is kept yet." : ""}`;
  if (rows.length) keep.focus();
}

function begin() {
  rows = [];
  unread.replaceChildren();
  keep.hidden = true;
}

const figures = ["focal_length_mm", "focal_35_mm", "f_number", "shutter_s", "iso"];
async function readFiles(list) {
  const files = [...list];
  begin();
  let done = 0;
  progress.hidden = pause.hidden = false;
  progress.max = files.length;
  await readHeads(files, {
    address: place.dataset.heads,
    token,
    gate,
    tell(file, answer) {
      done += 1;
      progress.value = done;
      says.textContent = `${done} of ${files.length} read`;
      if (answer.problem) refuse(`${file.name}: ${answer.problem}`);
      else if (figures.some((name) => answer.log[name])) rows.push(answer.log);
      else refuse(`${file.name}: its file does not say how it was taken`);
    },
  });
  ready(done, files.length);
}

async function readTable(file) {
  begin();
  const body = new FormData();
  body.set("csrfmiddlewaretoken", token);
  body.set("file", file, "table");
  const answer = await patient(place.dataset.table, { method: "POST", body, headers: { "X-Requested-With": "fetch" } });
  const read = await answer.json().catch(() => ({ problem: `the server answered ${answer.status}` }));
  if (read.problem) {
    says.textContent = read.problem;
    return;
  }
  rows = read.rows;
  for (const line of read.problems) refuse(line);
  if (read.more) refuse(`and ${read.more} more`);
  ready(rows.length, rows.length + read.problems.length + read.more);
}

// One file that is a table is read as one; all else is pictures.
const TABLE = /\.(csv|tsv|txt|json)$/i;
function bring(files) {
  if (files.length === 1 && TABLE.test(files[0].name)) readTable(files[0]);
  else if (files.length) readFiles(files);
}
for (const id of ["log-files", "log-folder"]) {
  document.getElementById(id).addEventListener("change", (event) => bring([...event.target.files]));
}

// Dropped anywhere on the page: files, or folders with all that is in them.
async function filesIn(entry) {
  if (entry.isFile) return [await new Promise((done, left) => entry.file(done, left))];
  const reader = entry.createReader();
  const found = [];
  for (;;) {
    const some = await new Promise((done, left) => reader.readEntries(done, left));
    if (!some.length) return found;
    for (const one of some) found.push(...(await filesIn(one)));
  }
}
const page = document.getElementById("main");
page.addEventListener("dragover", (event) => {
  event.preventDefault();
  place.classList.add("is-over");
});
page.addEventListener("dragleave", (event) => {
  if (!page.contains(event.relatedTarget)) place.classList.remove("is-over");
});
page.addEventListener("drop", async (event) => {
  event.preventDefault();
  place.classList.remove("is-over");
  const entries = [...event.dataTransfer.items].map((item) => item.webkitGetAsEntry?.()).filter(Boolean);
  const files = entries.length ? (await Promise.all(entries.map(filesIn))).flat() : [...event.dataTransfer.files];
  place.scrollIntoView({ block: "nearest" });
  bring(files);
});

keep.addEventListener("click", async () => {
  keep.disabled = true;
  const body = new FormData();
  body.set("csrfmiddlewaretoken", token);
  body.set("rows", new Blob([JSON.stringify(rows)]), "rows");
  const answer = await patient(place.dataset.log, { method: "POST", body, headers: { "X-Requested-With": "fetch" } });
  const kept = await answer.json().catch(() => ({ problem: `the server answered ${answer.status}` }));
  keep.disabled = false;
  if (kept.problem) says.textContent = kept.problem;
  else window.location.assign(window.location.pathname);
});
