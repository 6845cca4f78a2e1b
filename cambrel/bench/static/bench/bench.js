// The bench in the browser: presses, menus, shortcuts. All figures come from the server.
import { keys } from "../site/site.js";
import { act, afterAnswer, byId, form, refresh, say } from "./asking.js";
import "./controls.js";
import "./dragging.js";
import { walk } from "./history.js";
import { openPicker, pick } from "./picker.js";
import "./scene.js";
import { sheetFile } from "./sharing.js";
import { flipTo } from "./stage.js";

// ---- rigs -------------------------------------------------------------------------------------------------------
let opened = Number(byId("opened").value);
function openRig(index) {
  const isOther = Number(index) !== opened;
  opened = Number(index);
  byId("opened").value = opened;
  document.querySelectorAll(".plate, .controls").forEach((plate) => plate.classList.toggle("opened", Number(plate.dataset.rig) === opened));
  if (isOther) refresh(); // what its settings are by now
}
const rigCount = () => document.querySelectorAll(".plate").length;
const openSame = () => openRig(Math.min(opened, rigCount() - 1));
afterAnswer.push(openSame);
openRig(opened);

// whoever goes from one to the next by keyboard finds the settings open that the line stands for
document.addEventListener("focusin", ({ target }) => {
  if (target.matches(".settings-press:focus-visible")) openRig(target.dataset.open);
});

const firstField = (controls) => [...controls.querySelectorAll("input, button")].find((field) => field.offsetParent);

// the sheet of shots is that of the bench as it is now
const fieldLink = byId("field-link");
const toField = () => (fieldLink.href = `${fieldLink.pathname}?b=${byId("token").value}`);
for (const kind of ["pointerdown", "focus", "click"]) fieldLink.addEventListener(kind, toField);

// ---- the words of the sentences -----------------------------------------------------------------------------------
function unfold(open) {
  byId("more-of-it").hidden = !open;
  byId("more-button").setAttribute("aria-expanded", String(open));
}
const openWord = () => document.querySelector(":is(.word-choice, .look-menu)[open]");
document.addEventListener("pointerdown", (event) => {
  const word = openWord();
  if (word && !word.contains(event.target)) word.open = false;
});
document.addEventListener("keydown", (event) => {
  const word = openWord();
  if (!word || event.key !== "Escape") return;
  word.open = false;
  word.querySelector("summary").focus();
});
document.addEventListener("toggle", (event) => {
  if (event.target.matches?.(".word-choice[open]") && event.target.contains(document.activeElement)) event.target.querySelector("input:checked")?.focus();
}, true);
document.addEventListener("toggle", (event) => {
  if (!event.target.closest?.("#scene-words")) return;
  const [was, now] = [byId("unfolded").value, document.querySelector("#scene-words details[open]") ? "1" : "0"];
  byId("unfolded").value = now;
  if (was === "0" && now === "1") refresh();
}, true);
// what is unfolded on the screen is unfolded on paper too
window.addEventListener("beforeprint", () => document.querySelectorAll("#more-to-say").forEach((more) => (more.open = true)));
document.body.addEventListener("home-kept", refresh);

// ---- menus ------------------------------------------------------------------------------------------------------
let menuRig = 0;
let menuQuestion = "";
let menuField = "";
function openMenu(menu, button) {
  const at = button.getBoundingClientRect(); // before a menu that it stands in is closed by the next
  menu.showPopover();
  menu.style.left = `${Math.max(4, Math.min(at.left, innerWidth - menu.offsetWidth - 4))}px`;
  menu.style.top = `${Math.min(at.bottom + 2, innerHeight - menu.offsetHeight - 4)}px`;
  menu.querySelector("button:not([hidden])").focus();
}
document.querySelectorAll(".menu").forEach((menu) =>
  menu.addEventListener("keydown", (event) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    const items = [...menu.querySelectorAll("button")];
    items[(items.indexOf(document.activeElement) + step + items.length) % items.length].focus();
  }),
);
// a rig's menu has the focus again, where the rig is then
function actOnRig(action) {
  byId("rig-menu").hidePopover();
  const rig = Number(menuRig) + ({ left: -1, right: 1 }[action] ?? 0);
  const last = rigCount() - (action === "remove" ? 2 : 1);
  act(`${action}:${menuRig}`, { focus: `menu-${Math.max(0, Math.min(rig, last))}` });
}

// ---- presses ----------------------------------------------------------------------------------------------------
document.addEventListener("click", (event) => {
  const button = event.target.closest("button");
  if (!button) return;
  const data = button.dataset;
  if (data.pick) openPicker(data.pick, data.rig, data.mount);
  else if (data.open !== undefined) {
    openRig(data.open);
    if (data.to) firstField(byId(data.to))?.focus();
  } else if (button.id === "more-button") unfold(byId("more-of-it").hidden);
  else if (button.classList.contains("rig-menu-button")) {
    menuRig = data.rig;
    openMenu(byId("rig-menu"), button);
  } else if (button.classList.contains("follow-mark")) {
    menuRig = data.rig;
    menuQuestion = data.question;
    menuField = data.field;
    byId("follow-menu").querySelector("[data-letter]").textContent = "ABCDEF"[menuRig];
    openMenu(byId("follow-menu"), button);
  } else if (data.rigAction) actOnRig(data.rigAction);
  else if (data.follow) {
    byId("follow-menu").hidePopover();
    act(data.follow === "by_hand" ? `by_hand:${menuQuestion}` : `reference:${menuRig}`, { focus: menuField });
  } else if (data.action) (button.closest("#picker") ? pick : act)(data.action);
  else if (button.name === "action" && button.closest("#bench")) {
    event.preventDefault();
    act(button.value);
  } else if (data.copy) copyTable(byId(data.copy), button);
});

// ---- copying and saving -----------------------------------------------------------------------------------------
// The button itself says what happened, for two seconds.
async function copy(text, button, done) {
  button.dataset.label ??= button.textContent;
  const before = button.dataset.label;
  try {
    await navigator.clipboard.writeText(text);
    button.textContent = done;
  } catch {
    button.textContent = "This browser does not let it be copied";
  }
  say(button.textContent);
  clearTimeout(button.revert);
  button.revert = setTimeout(() => (button.textContent = before), 2000);
}
function copyTable(table, button) {
  const rows = [...table.rows].map((row) => [...row.cells].map((cell) => cell.title || cell.textContent.trim()).join("\t"));
  copy(rows.join("\n"), button, "Copied with exact values");
}
byId("share-button").addEventListener("click", (event) => openMenu(byId("share-menu"), event.currentTarget));
byId("print-page").addEventListener("click", () => {
  byId("share-menu").hidePopover();
  window.print();
});
byId("copy-picture").addEventListener("click", async (event) => {
  const button = event.currentTarget;
  button.dataset.label ??= button.textContent;
  const put = () => navigator.clipboard.write([new ClipboardItem({ "image/png": sheetFile() })]);
  button.textContent = await put().then(() => "Picture copied", () => "This browser does not let it be copied");
  say(button.textContent);
  setTimeout(() => (button.textContent = button.dataset.label), 2000);
});
byId("save-picture").addEventListener("click", async () => {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(await sheetFile());
  link.download = "cambrel-comparison.png";
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10000);
});
byId("copy-link").addEventListener("click", (event) => copy(location.href, event.currentTarget, event.currentTarget.dataset.copied));
byId("save-button")?.addEventListener("click", () => {
  const dialog = byId("save-dialog");
  dialog.querySelector("[name=b]").value = byId("token").value;
  dialog.showModal();
  byId("save-name").select();
});

// ---- the first visit ----------------------------------------------------------------------------------------------
byId("start-line")?.addEventListener("click", (event) => {
  const step = event.target.closest("[data-start]")?.dataset.start;
  if (!step) return;
  document.cookie = "started=1; path=/; max-age=31536000; samesite=lax"; // it has been read
  byId("start-line").remove();
  if (step === "ask") byId("ask-q").focus();
  else if (step === "cameras") byId("body-0").click();
});

// ---- shortcuts --------------------------------------------------------------------------------------------------
for (const letter of "abcdef") {
  keys[letter] = () => {
    const index = "abcdef".indexOf(letter);
    if (!byId(`plate-${index}`) || flipTo(index)) return;
    openRig(index);
    firstField(byId(`controls-${index}`))?.focus();
  };
}
document.querySelectorAll("[name=panel]").forEach((_, index) => {
  keys[index + 1] = () => {
    const tab = document.querySelectorAll("[name=panel]")[index];
    tab.checked = true;
    tab.dispatchEvent(new Event("change", { bubbles: true }));
  };
});
keys.n = () => byId("add-rig")?.click();
keys.h = () => {
  if (!byId("said").offsetParent) byId("said").showPopover(); // on a narrow screen
  document.querySelector("#hold summary").focus();
};
keys.s = () => byId("save-button")?.click();
keys.u = () => walk(true);
keys.r = () => walk(false);

// ---- the width, which the server draws for ------------------------------------------------------------------------
const widths = [["narrow", "(max-width: 620px)"], ["middle", "(max-width: 1000px)"]].map(([name, query]) => [name, window.matchMedia(query)]);
function noteWidth() {
  const want = widths.find(([, query]) => query.matches)?.[0] ?? "wide";
  const has = document.cookie.split("; ").find((cookie) => cookie.startsWith("width="));
  if (has === `width=${want}` || (!has && want === "wide")) return;
  document.cookie = `width=${want}; path=/; max-age=31536000; samesite=lax`;
  htmx.trigger(form(), "typing");
}
widths.forEach(([, query]) => query.addEventListener("change", noteWidth));
document.addEventListener("DOMContentLoaded", noteWidth); // by then htmx listens
