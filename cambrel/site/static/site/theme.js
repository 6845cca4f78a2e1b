// Light or dark before the first paint: the reader's choice, else the system's.
(() => {
  const system = window.matchMedia("(prefers-color-scheme: dark)");
  const apply = () => {
    const chosen = localStorage.getItem("theme");
    document.documentElement.dataset.bsTheme = chosen || (system.matches ? "dark" : "light");
  };
  system.addEventListener("change", apply);
  window.cambrelTheme = {
    turn() {
      localStorage.setItem("theme", document.documentElement.dataset.bsTheme === "dark" ? "light" : "dark");
      apply();
    },
  };
  apply();
})();
