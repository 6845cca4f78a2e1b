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
