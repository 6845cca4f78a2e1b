// What every page shares: light and dark, dialogs, the list of shortcuts.
(() => {
  const byId = (id) => document.getElementById(id);
  byId("theme-button").addEventListener("click", () => window.cambrelTheme.turn());

  const keys = byId("keys");
  byId("keys-button").addEventListener("click", () => keys.showModal());
  const on = byId("keys-on");
  on.checked = localStorage.getItem("keys") !== "off";
  on.addEventListener("change", () => localStorage.setItem("keys", on.checked ? "on" : "off"));

  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-close]")) event.target.closest("dialog").close();
  });

  // Single keys act only outside of fields and dialogs, without Ctrl, Alt or Meta, and only while they are switched on.
  const actions = {};
  window.cambrelKeys = actions;
  document.addEventListener("keydown", (event) => {
    const typing = event.target.closest("input:not([type=range]):not([type=radio]):not([type=checkbox]), select, textarea, dialog");
    if (event.ctrlKey || event.altKey || event.metaKey || typing || document.querySelector("dialog[open]")) return;
    if (event.key === "?") {
      keys.showModal();
    } else if (on.checked && actions[event.key]) {
      event.preventDefault();
      actions[event.key](event.key);
    }
  });
})();

// A list: ticking, and packing into a kit at once. The last bench is remembered, so that gear is put on it and not on a new one.
(() => {
  const BENCH = "bench-address";
  document.addEventListener("change", (event) => {
    const { target } = event;
    if (target.id === "tick-all") document.querySelectorAll('#bulk [name="pk"]').forEach((box) => (box.checked = target.checked));
    if (target.matches("[data-into-kit]") && target.value) target.form.submit();
    const ticked = document.querySelectorAll('#bulk [name="pk"]:checked').length;
    if (target.closest("#bulk") && ticked) document.getElementById("ticked").textContent = `${ticked} ticked`;
  });

  function remember() {
    if (location.pathname === "/" && location.search.includes("b=")) sessionStorage.setItem(BENCH, location.search);
  }
  remember();
  window.addEventListener("pagehide", remember);
  document.body.addEventListener("htmx:pushedIntoHistory", remember);
  document.body.addEventListener("htmx:replacedInHistory", remember);
  document.addEventListener("click", (event) => {
    const link = event.target.closest("a[data-put], a[data-bench]");
    const kept = sessionStorage.getItem(BENCH);
    if (!link || !kept || (link.dataset.bench !== undefined && location.pathname === "/")) return;
    const address = new URL(link.href);
    for (const [name, value] of new URLSearchParams(kept)) if (!address.searchParams.has(name)) address.searchParams.append(name, value);
    link.href = address.pathname + address.search;
  });
})();

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
