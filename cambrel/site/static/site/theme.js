// Light or dark before the first paint: the reader's choice, else the system's. No module: those come after the first paint.
(() => {
  const system = window.matchMedia("(prefers-color-scheme: dark)");
  let chosen = null;
  try {
    chosen = localStorage.getItem("theme");
  } catch {
    // storage is blocked: the choice lasts as long as the page
  }
  if (!["light", "dark"].includes(chosen)) chosen = null;
  const apply = () => (document.documentElement.dataset.bsTheme = chosen || (system.matches ? "dark" : "light"));
  system.addEventListener("change", apply);
  document.addEventListener("cambrel:turn", () => {
    chosen = document.documentElement.dataset.bsTheme === "dark" ? "light" : "dark";
    apply();
    try {
      localStorage.setItem("theme", chosen);
    } catch {
      // as above
    }
  });
  apply();
})();
