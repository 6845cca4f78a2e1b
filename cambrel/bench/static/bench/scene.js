// The Scene in the browser: pictures are asked for one at a time, half size first, and put in only once decoded, so that nothing flashes
// and nothing queues. Presses and drags on a picture are sent as places of it; what stands there the server knows.
(() => {
  const byId = (id) => document.getElementById(id);
  const HEIGHTS = [60, 80, 105, 140, 210, 280, 420, 630, 840];
  const REST_MS = 160;

  // ---- pictures -------------------------------------------------------------------------------------------------
  const loaded = new Map(); // by what is kept: the shot and the height that are shown
  let wanted = []; // what is still to be asked for, the quick ones first
  let busy = false;
  let rest = null;

  const addressOf = (shot, height) => `/scene/${shot}/${height}.webp`;
  function heightFor(img) {
    const need = img.getBoundingClientRect().height * Math.min(devicePixelRatio || 1, 2);
    return HEIGHTS.find((height) => height >= need - 1) || HEIGHTS.at(-1);
  }
  const images = () => [...document.querySelectorAll("img[data-shot]")];

  function ask(quick) {
    wanted = images()
      .map((img) => {
        const full = heightFor(img);
        const height = quick ? HEIGHTS[Math.max(0, HEIGHTS.indexOf(full) - 2)] : full;
        return { keep: img.dataset.keep, shot: img.dataset.shot, height };
      })
      .filter(({ keep, shot, height }) => {
        const has = loaded.get(keep);
        return !(has && has.shot === shot && has.height >= height);
      });
    next();
  }
  async function next() {
    if (busy) return;
    const job = wanted.shift();
    if (!job) return;
    busy = true;
    const picture = new Image();
    picture.src = addressOf(job.shot, job.height);
    try {
      await picture.decode();
      const img = images().find((one) => one.dataset.keep === job.keep && one.dataset.shot === job.shot);
      if (img) {
        img.src = picture.src;
        loaded.set(job.keep, job);
        byId("first-time")?.remove();
        if (!byId("seam")?.hidden) placeSeam();
      }
    } catch {
      // a picture that cannot be had leaves the one before; the figures stand beside it
    }
    busy = false;
    next();
  }
  function refresh() {
    if (!byId("views")) return;
    applyMarks();
    ask(true);
    clearTimeout(rest);
    rest = setTimeout(() => ask(false), REST_MS);
  }
  // an answer brings new markup: the picture on the screen stays until the next one is decoded
  let onLoupe = false;
  window.cambrelKeep = (present, output) => {
    onLoupe = document.activeElement?.id === "loupes";
    output.querySelectorAll("img[data-keep]").forEach((img) => {
      const old = present.querySelector(`img[data-keep="${img.dataset.keep}"]`);
      if (!old) return loaded.delete(img.dataset.keep);
      old.dataset.shot = img.dataset.shot;
      old.alt = img.alt;
      old.width = img.width;
      old.height = img.height;
      img.replaceWith(old);
    });
  };
  document.body.addEventListener("htmx:afterSettle", (event) => {
    if (event.target.id !== "bench") return;
    if (onLoupe) byId("loupes")?.focus();
    refresh();
  });
  document.body.addEventListener("htmx:load", () => refresh());
  window.addEventListener("resize", () => {
    clearTimeout(rest);
    rest = setTimeout(() => ask(false), 300);
  });

  // ---- what is shown over the pictures ------------------------------------------------------------------------
  const shown = { marks: false, frame: "", seam: false, at: 50, from: "", to: "", larger: sessionStorage.getItem("larger") === "1" };
  function applyMarks() {
    const panel = byId("panel");
    panel.classList.toggle("show-marks", shown.marks);
    for (let index = 0; index < 6; index += 1) panel.classList.toggle(`show-frame-${index}`, shown.frame === String(index));
    document.querySelector(".answer").classList.toggle("larger", shown.larger && Boolean(byId("views")));
    const set = (name, property, value) => {
      const control = document.querySelector(`[data-scene="${name}"]`);
      if (control) control[property] = value;
    };
    set("marks", "checked", shown.marks);
    set("frame", "value", shown.frame);
    document.querySelector('[data-scene="larger"]')?.setAttribute("aria-pressed", shown.larger);
    document.querySelector('[data-scene="seam"]')?.setAttribute("aria-pressed", shown.seam);
    if (!byId("seam")) return;
    byId("seam").hidden = !shown.seam;
    byId("seam-at").value = shown.at;
    for (const [id, chosen] of [["seam-from", shown.from], ["seam-to", shown.to]]) {
      if (chosen && byId(id).querySelector(`[value="${chosen}"]`)) byId(id).value = chosen;
    }
    if (shown.seam) placeSeam();
  }
  document.addEventListener("change", (event) => {
    const kind = event.target.dataset?.scene;
    if (!kind && !event.target.closest?.("#seam, [data-arrange]")) return;
    event.stopPropagation();
    if (kind === "marks") shown.marks = event.target.checked;
    if (kind === "frame") shown.frame = event.target.value;
    if (kind === "loupe") {
      byId("loupe-at").value = event.target.checked ? "0,1.5" : "";
      if (event.target.checked) window.cambrelAct("loupe_at:0:0.5:0.4");
      else htmx.trigger(byId("bench"), "typing");
    }
    if (event.target.id === "seam-from") shown.from = event.target.value;
    if (event.target.id === "seam-to") shown.to = event.target.value;
    applyMarks();
  }, true);
  document.addEventListener("click", (event) => {
    const kind = event.target.closest("button")?.dataset.scene;
    if (kind === "larger") {
      shown.larger = !shown.larger;
      sessionStorage.setItem("larger", shown.larger ? "1" : "0");
      refresh();
    }
    if (kind === "seam") {
      shown.seam = !shown.seam;
      applyMarks();
    }
    const place = event.target.closest("[data-place]");
    if (place) {
      const fields = [...place.closest("tr").querySelectorAll("[data-arrange]")].map((field) => field.value.replace(/:/g, " "));
      window.cambrelAct(["arrange", place.dataset.place, ...fields].join(":"));
    }
  });

  // ---- split view with a seam ---------------------------------------------------------------------------------
  function placeSeam() {
    // by class: what has an id would get its style copied by htmx, as an attribute that the security policy forbids
    const [left, right] = [document.querySelector(".seam-left"), document.querySelector(".seam-right")];
    for (const [img, from] of [[left, byId("seam-from")], [right, byId("seam-to")]]) {
      const view = document.querySelector(`img[data-keep="${from.value}"]`);
      if (!view) return;
      const address = addressOf(view.dataset.shot, 420);
      if (!img.src.endsWith(address)) img.src = address;
      img.alt = view.alt;
    }
    const at = byId("seam-at").value;
    right.style.clipPath = `inset(0 0 0 ${at}%)`;
    left.style.clipPath = `inset(0 ${100 - at}% 0 0)`;
  }
  document.addEventListener("input", (event) => {
    if (event.target.id !== "seam-at") return;
    event.stopPropagation();
    shown.at = event.target.value;
    placeSeam();
  }, true);
  // the loupe by keyboard, five centimetres at a time
  const MOVES = { ArrowLeft: [-0.05, 0], ArrowRight: [0.05, 0], ArrowUp: [0, 0.05], ArrowDown: [0, -0.05] };
  document.addEventListener("keydown", (event) => {
    const move = MOVES[event.key];
    if (!move || event.target.id !== "loupes") return;
    event.preventDefault();
    const at = byId("loupe-at").value.split(",").map(Number);
    byId("loupe-at").value = at.map((part, i) => (part + move[i]).toFixed(3)).join(",");
    htmx.trigger(byId("bench"), "typing");
  });
  function dragSeam(event) {
    const box = byId("seam-stage").getBoundingClientRect();
    shown.at = (100 * (event.clientX - box.left)) / box.width;
    byId("seam-at").value = shown.at;
    placeSeam();
  }

  // ---- presses and drags on a picture -------------------------------------------------------------------------
  let held = null;
  function pictureBox(mat) {
    const box = mat.getBoundingClientRect();
    const img = mat.querySelector("img");
    const ratio = img.naturalWidth / img.naturalHeight || 1.5;
    const width = Math.min(box.width, box.height * ratio);
    const height = width / ratio;
    return { left: box.left + (box.width - width) / 2, top: box.top + (box.height - height) / 2, width, height };
  }
  document.addEventListener("pointerdown", (event) => {
    if (event.target.closest("#seam-stage")) {
      held = { seam: true };
      dragSeam(event);
      return event.preventDefault();
    }
    const view = event.target.closest(".view[data-view] .mat");
    if (!view || event.button) return;
    const box = pictureBox(view);
    const x = (event.clientX - box.left) / box.width;
    const y = (event.clientY - box.top) / box.height;
    if (x < 0 || x > 1 || y < 0 || y > 1) return; // on the mat beside the picture
    held = { rig: view.closest("[data-view]").dataset.view, x: x.toFixed(4), y: y.toFixed(4), from: event.clientY, high: box.height };
    event.preventDefault();
  });
  document.addEventListener("pointermove", (event) => held?.seam && dragSeam(event));
  document.addEventListener("pointerup", (event) => {
    const was = held;
    held = null;
    if (!was || was.seam) return;
    const up = (was.from - event.clientY) / was.high;
    const place = `${was.rig}:${was.x}:${was.y}`;
    if (document.querySelector('[data-scene="loupe"]').checked) window.cambrelAct(`loupe_at:${place}`);
    else if (Math.abs(up) < 0.03) window.cambrelAct(`focus_at:${place}`);
    else window.cambrelAct(`drag_at:${place}:${Math.exp(2 * up).toFixed(4)}`);
  });
  refresh();
})();
