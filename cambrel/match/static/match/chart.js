// Weight (or price) against the equivalent f-number, by a chart library. The table beside it says the same.
(() => {
  const STOPS = [0.7, 1, 1.4, 2, 2.8, 4, 5.6, 8, 11, 16, 22, 32, 45, 64];
  let chart = null;
  function draw() {
    const canvas = document.querySelector("canvas[data-label]");
    const data = document.getElementById("points");
    chart?.destroy();
    chart = null;
    if (!canvas || !data || !window.Chart) return;
    const styles = getComputedStyle(document.documentElement);
    Chart.defaults.font.family = getComputedStyle(document.body).fontFamily;
    Chart.defaults.font.size = 12;
    const colour = (name) => styles.getPropertyValue(name).trim();
    const points = JSON.parse(data.textContent).map((p) => ({ x: p.cost, y: p.f_number, name: p.name, efficient: p.efficient }));
    const set = (label, chosen, style) => ({ label, data: points.filter((p) => p.efficient === chosen), ...style });
    const axis = (text) => ({ title: { display: true, text, color: colour("--quiet") }, ticks: { color: colour("--quiet") }, grid: { color: colour("--rule") } });
    chart = new Chart(canvas, {
      type: "scatter",
      data: {
        datasets: [
          set("none better for less", true, { pointStyle: "rectRot", radius: 6, backgroundColor: colour("--accent"), borderColor: colour("--accent"), showLine: true, borderDash: [4, 3], borderWidth: 1 }),
          set("others", false, { pointStyle: "circle", radius: 3, backgroundColor: colour("--quiet"), borderColor: colour("--quiet") }),
        ],
      },
      options: {
        animation: false,
        responsive: false,
        scales: { x: axis(canvas.dataset.label), y: { ...axis("equivalent f-number"), type: "logarithmic", grace: "8%", ticks: { color: colour("--quiet"), callback: (v) => `f/${v}` }, afterBuildTicks: (scale) => (scale.ticks = STOPS.filter((v) => v >= scale.min * 0.99 && v <= scale.max * 1.01).map((value) => ({ value }))) } },
        plugins: { legend: { labels: { color: colour("--ink"), usePointStyle: true, boxHeight: 6 } }, tooltip: { callbacks: { label: (c) => `${c.raw.name}: ${c.raw.x}, f/${c.raw.y}` } } },
      },
    });
  }
  document.body.addEventListener("htmx:afterSettle", () => {
    draw();
    document.querySelectorAll("[data-now]").forEach((field) => (field.value = location.pathname + location.search));
  });
  window.addEventListener("load", draw);
  draw();
})();
