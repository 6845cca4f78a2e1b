// Files read from their heads: the first bytes of each go to the server, and more only where it asks for them.
import { patient } from "./patient.js";

export const HEAD_BYTES = 65536;
export const AT_ONCE = 16;
const MOST_ROUNDS = 4;
const MOST_PARTS = 90; // the server takes a hundred files in one request

// the parts of a file that are sent in one round: the head, then what was asked for besides
export function partsOf(size, asked) {
  return [[0, Math.min(HEAD_BYTES, size)], ...asked];
}

async function ask(address, token, batch) {
  const body = new FormData();
  const says = batch.map((one) => ({ id: one.id, size: one.file.size, rounds: one.rounds, parts: partsOf(one.file.size, one.asked) }));
  body.set("csrfmiddlewaretoken", token);
  body.set("says", JSON.stringify(says));
  for (const [k, one] of batch.entries()) {
    for (const [start, length] of says[k].parts) body.append("part", one.file.slice(start, start + length), "part");
  }
  const answer = await patient(address, { method: "POST", body, headers: { "X-Requested-With": "fetch" } });
  if (!answer.ok) throw new Error(`the server answered ${answer.status}`);
  return (await answer.json()).files;
}

// A button that pauses what is read and lets it go on; what it gives is awaited before each step.
export function pausing(button) {
  let paused = false;
  let resume = () => {};
  button.addEventListener("click", () => {
    paused = !paused;
    button.textContent = paused ? "Go on" : "Pause";
    if (!paused) resume();
  });
  return async () => {
    while (paused) await new Promise((done) => (resume = done));
    return true;
  };
}

// What the files say, in batches: `tell` gets each answer as it comes; `gate` is awaited before each batch and stops it where it says no.
export async function readHeads(files, { address, token, tell, gate }) {
  const waiting = files.map((file, id) => ({ id, file, rounds: 1, asked: [] }));
  while (waiting.length) {
    if (!(await gate())) return;
    let count = 0;
    let parts = 0;
    while (count < waiting.length && count < AT_ONCE && (!count || parts + 1 + waiting[count].asked.length <= MOST_PARTS)) {
      parts += 1 + waiting[count].asked.length;
      count += 1;
    }
    const batch = waiting.splice(0, count);
    let answers;
    try {
      answers = await ask(address, token, batch);
    } catch (error) {
      answers = batch.map((one) => ({ id: one.id, problem: `it could not be sent: ${error.message}` }));
    }
    for (const answer of answers) {
      const one = batch.find((held) => held.id === answer.id);
      if (answer.asked && one.rounds < MOST_ROUNDS) {
        waiting.unshift({ ...one, rounds: one.rounds + 1, asked: [...one.asked, ...answer.asked] });
      } else {
        tell(one.file, answer);
      }
    }
  }
}
