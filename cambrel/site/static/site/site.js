// What every page shares: light and dark, dialogs, the list of shortcuts.
import "./ask.js";
import { always, thisTab } from "./keep.js";

const byId = (id) => document.getElementById(id);
byId("theme-button").addEventListener("click", () => document.dispatchEvent(new Event("cambrel:turn")));

const help = byId("keys");
byId("keys-button").addEventListener("click", () => help.showModal());
const on = byId("keys-on");
on.checked = always.get("keys") !== "off";
on.addEventListener("change", () => always.set("keys", on.checked ? "on" : "off"));

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-close]")) event.target.closest("dialog").close();
});

// What is kept for where there is no network goes with whoever signs out, also in browsers that do not empty it when they are told to.
document.querySelector("form[data-signs-out]")?.addEventListener("submit", async (event) => {
  if (!("caches" in window)) return;
  const form = event.currentTarget;
  event.preventDefault();
  for (const name of await caches.keys()) await caches.delete(name);
  form.submit();
});

// A link within the page goes there without an entry in the history: the address says what is shown, not where on it one reads.
document.addEventListener("click", (event) => {
  const link = event.target.closest('a[href^="#"]');
  const to = link && byId(link.hash.slice(1));
  if (!to) return;
  event.preventDefault();
  if (to.tabIndex < 0) to.tabIndex = -1;
  to.focus({ preventScroll: true });
  to.scrollIntoView();
});

// Single keys act only outside of fields and dialogs, without Ctrl, Alt or Meta, and only while they are switched on.
export const keys = {};
document.addEventListener("keydown", (event) => {
  const typing = event.target.closest("input:not([type=range]):not([type=radio]):not([type=checkbox]), select, textarea, dialog");
  if (event.ctrlKey || event.altKey || event.metaKey || typing || document.querySelector("dialog[open]")) return;
  if (event.key === "?") {
    help.showModal();
  } else if (event.key === "/") {
    event.preventDefault();
    byId("ask-q").focus();
  } else if (on.checked && keys[event.key]) {
    event.preventDefault();
    keys[event.key](event.key);
  }
});

// Why something is so is asked of the bench as it stands.
function whyOf(link) {
  const token = byId("token")?.value;
  const at = new URL(link.href);
  if (token && !at.searchParams.has("b")) at.searchParams.set("b", token);
  at.searchParams.set("card", "1");
  return at.pathname + at.search;
}

// A word of the trade explains itself where it stands; without a script its link leads to the page of words.
document.addEventListener("click", async (event) => {
  const link = event.target.closest("a.term");
  if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
  event.preventDefault();
  const card = byId("term-card");
  await htmx.ajax("GET", link.dataset.says ?? whyOf(link), { target: byId("term-says"), swap: "innerHTML" });
  card.showPopover();
  // one that is longer than it is high is read with the arrow keys; Escape leads back to where it was opened
  if (card.querySelector(".why-card")) card.focus();
  const at = link.getBoundingClientRect();
  card.style.left = `${Math.max(4, Math.min(at.left, innerWidth - card.offsetWidth - 4))}px`;
  card.style.top = `${at.bottom + card.offsetHeight + 6 < innerHeight ? at.bottom + 4 : Math.max(4, at.top - card.offsetHeight - 4)}px`;
});

// A list: ticking, and packing into a kit at once. The last bench is remembered, so that gear is put on it and not on a new one.
{
  const BENCH = "bench-address";
  document.addEventListener("change", (event) => {
    const { target } = event;
    if (target.id === "tick-all") document.querySelectorAll('#bulk [name="pk"]').forEach((box) => (box.checked = target.checked));
    if (target.matches("[data-into-kit]") && target.value) target.form.submit();
    const ticked = document.querySelectorAll('#bulk [name="pk"]:checked').length;
    if (target.closest("#bulk") && ticked) document.getElementById("ticked").textContent = `${ticked} ticked`;
  });

  const benchPath = document.querySelector("a[data-bench]").pathname;
  function remember() {
    if (location.pathname === benchPath && location.search.includes("b=")) thisTab.set(BENCH, location.search);
  }
  remember();
  window.addEventListener("pagehide", remember);
  document.body.addEventListener("htmx:pushedIntoHistory", remember);
  document.body.addEventListener("htmx:replacedInHistory", remember);
  document.addEventListener("click", (event) => {
    const link = event.target.closest("a[data-put], a[data-bench]");
    const kept = thisTab.get(BENCH);
    if (!link || !kept || (link.dataset.bench !== undefined && location.pathname === benchPath)) return;
    const address = new URL(link.href);
    for (const [name, value] of new URLSearchParams(kept)) if (!address.searchParams.has(name)) address.searchParams.append(name, value);
    link.href = address.pathname + address.search;
  });
}

// What is half filled in is not lost unasked: the browser asks before it leaves.
{
  // one that came back with a message holds what is kept nowhere yet
  const half = new Set([...document.querySelectorAll("form[data-half]")].filter((form) => form.querySelector(".field-error:not(:empty)")));
  const heeded = (event) => event.target.closest("form[data-half]");
  document.addEventListener("input", (event) => heeded(event) && half.add(heeded(event)));
  document.addEventListener("submit", (event) => half.delete(event.target));
  document.addEventListener("reset", (event) => half.delete(event.target));
  window.addEventListener("beforeunload", (event) => {
    if ([...half].some((form) => form.isConnected)) event.preventDefault();
  });
}

// A page that comes back from the memory of the browser shows what it was made from.
window.addEventListener("pageshow", (event) => {
  if (event.persisted) document.querySelectorAll("form[data-as-made]").forEach((form) => form.reset());
});

// A page that says that it is busy asks again by itself.
const again = document.querySelector("form[data-again]");
if (again) setTimeout(() => again.requestSubmit(), 3000);

// Files that are too large are not sent at all.
document.addEventListener("change", (event) => {
  const most = Number(event.target.dataset?.mostBytes);
  if (!most) return;
  const size = [...event.target.files].reduce((sum, file) => sum + file.size, 0);
  event.target.setCustomValidity(size > most ? `Together they have ${(size / 2 ** 20).toFixed(1)} MB; at most ${most / 2 ** 20} MB are read at a time.` : "");
  event.target.reportValidity();
});

// A drawing as PNG: the server's SVG, drawn on a canvas at twice its size.
document.addEventListener("click", async (event) => {
  const button = event.target.closest("[data-png]");
  if (!button) return;
  const source = URL.createObjectURL(await (await fetch(button.dataset.png)).blob());
  const picture = new Image();
  picture.src = source;
  await picture.decode();
  const canvas = Object.assign(document.createElement("canvas"), { width: 2 * picture.naturalWidth, height: 2 * picture.naturalHeight });
  canvas.getContext("2d").drawImage(picture, 0, 0, canvas.width, canvas.height);
  canvas.toBlob((blob) => {
    const link = Object.assign(document.createElement("a"), { href: URL.createObjectURL(blob), download: "cambrel-drawing.png" });
    link.click();
    button.dataset.size = blob.size;
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
  }, "image/png");
  URL.revokeObjectURL(source);
});
