// The bench in the browser: sliders beside typed figures, presses, menus, history. All figures come from the server.
(() => {
  const byId = (id) => document.getElementById(id);
  const form = () => byId("bench");

  // ---- outputs ----------------------------------------------------------------------------------------------------
  // An answer holds outputs only: each takes the place of the element of its name, where it differs at all.
  htmx.defineExtension("outputs", {
    isInlineSwap: (style) => style === "outputs",
    handleSwap(style, target, fragment) {
      if (style !== "outputs") return false;
      for (const output of [...fragment.children]) {
        const present = byId(output.id);
        if (!present || present.isEqualNode(output)) continue;
        window.cambrelKeep?.(present, output);
        present.replaceWith(output);
      }
      return [];
    },
  });

  // ---- what goes with the next request --------------------------------------------------------------------------
  let pending = null; // a press and its parameters
  let gestureStart = null; // the address before a slider was taken hold of
  let opened = 0;

  function act(action, extra = {}) {
    pending = { action, ...extra };
    htmx.trigger(form(), "act");
  }

  window.cambrelAct = act;

  document.body.addEventListener("htmx:configRequest", (event) => {
    if (event.detail.elt !== form()) return;
    const cause = event.detail.triggeringEvent?.type;
    performance.mark("change");
    if (pending) {
      Object.assign(event.detail.parameters, pending);
      pending = null;
    }
    if (cause === "change") event.detail.parameters.commit = "1";
  });

  // A drag replaces the address; its release pushes, so that Back returns to what was before the drag.
  document.body.addEventListener("htmx:beforeHistoryUpdate", (event) => {
    const update = event.detail.history;
    if (update.type !== "push") return;
    const before = gestureStart || location.pathname + location.search;
    gestureStart = null;
    if (before === update.path) {
      update.type = "replace";
      return;
    }
    history.replaceState({ htmx: true }, "", before);
    const steps = Number(sessionStorage.getItem("steps") || 0) + 1;
    sessionStorage.setItem("steps", steps);
    sessionStorage.setItem("undone", 0);
    showSteps();
  });
  window.addEventListener("popstate", () => location.reload());

  function walkHistory(back) {
    const steps = Number(sessionStorage.getItem("steps") || 0);
    const undone = Number(sessionStorage.getItem("undone") || 0);
    if (back ? steps < 1 : undone < 1) return;
    sessionStorage.setItem("steps", steps + (back ? -1 : 1));
    sessionStorage.setItem("undone", undone + (back ? 1 : -1));
    history.go(back ? -1 : 1);
  }
  function showSteps() {
    byId("undo-button").disabled = Number(sessionStorage.getItem("steps") || 0) < 1;
    byId("redo-button").disabled = Number(sessionStorage.getItem("undone") || 0) < 1;
  }
  byId("undo-button").addEventListener("click", () => walkHistory(true));
  byId("redo-button").addEventListener("click", () => walkHistory(false));

  // ---- sliders --------------------------------------------------------------------------------------------------
  const shown = (value) => String(Number(value.toPrecision(3)));
  function numberOf(text) {
    const [over, under] = text.replace(/^f\//, "").replace(",", ".").split("/");
    return Number(over) / Number(under || 1);
  }
  function slideTo(slider) {
    const field = byId(slider.dataset.for);
    const value = numberOf(field.value);
    if (!(value > 0)) return;
    if (slider.dataset.stops) {
      const marks = slider.dataset.stops.split(" ").map(numberOf);
      const away = marks.map((mark) => Math.abs(Math.log(mark / value)));
      slider.value = away.indexOf(Math.min(...away));
    } else {
      const { low, high } = slider.dataset;
      slider.value = Math.round((Number(slider.max) * Math.log(value / low)) / Math.log(high / low));
    }
    slider.setAttribute("aria-valuetext", field.value);
  }
  function slideFrom(slider) {
    const field = byId(slider.dataset.for);
    if (slider.dataset.stops) {
      field.value = slider.dataset.stops.split(" ")[slider.value];
    } else {
      const { low, high } = slider.dataset;
      field.value = shown(low * Math.pow(high / low, slider.value / slider.max));
    }
    slider.setAttribute("aria-valuetext", field.value);
  }
  const placeSliders = () => document.querySelectorAll("[data-slider]").forEach((slider) => slider !== document.activeElement && slideTo(slider));

  // Enter in a field has sent its change already
  document.addEventListener("submit", (event) => event.target === form() && event.preventDefault());

  let typingTimer = null;
  document.addEventListener("input", (event) => {
    const field = event.target;
    if (!field.closest("#bench")) return;
    if (field.dataset.slider) {
      gestureStart ??= location.pathname + location.search;
      slideFrom(field);
      htmx.trigger(form(), "drag");
    } else if (field.type === "text") {
      document.querySelectorAll(`[data-for="${field.id}"]`).forEach(slideTo);
      clearTimeout(typingTimer);
      if (field.value.trim()) {
        gestureStart ??= location.pathname + location.search;
        typingTimer = setTimeout(() => htmx.trigger(form(), "typing"), 350);
      }
    }
  });
  document.addEventListener("change", (event) => {
    clearTimeout(typingTimer);
    const list = event.target;
    if (list.dataset.fills) {
      byId(list.dataset.fills).value = list.value || byId(list.dataset.fills).value;
    } else if (list.dataset.choose) {
      event.stopPropagation();
      act(`${list.dataset.choose}:${list.value}`);
    }
  }, true);

  // ---- presses --------------------------------------------------------------------------------------------------
  let menuRig = 0;
  let menuQuestion = "";
  function openMenu(menu, button) {
    menu.showPopover();
    const at = button.getBoundingClientRect();
    menu.style.left = `${Math.max(4, Math.min(at.left, innerWidth - menu.offsetWidth - 4))}px`;
    menu.style.top = `${Math.min(at.bottom + 2, innerHeight - menu.offsetHeight - 4)}px`;
    menu.querySelector("button:not([hidden])").focus();
  }
  function openPicker(kind, rig, mount) {
    const picker = byId("picker");
    const search = byId("picker-search");
    search.elements.kind.value = kind;
    search.elements.rig.value = rig;
    search.elements.mount.value = mount || "";
    search.elements.q.value = "";
    byId("offers").textContent = "Looking on your shelf…";
    byId("own-body").hidden = kind !== "body";
    byId("own-lens").hidden = kind !== "lens";
    byId("picker-title").textContent = `${kind === "body" ? "Body" : "Lens"} for rig ${"ABCDEF"[rig]}`;
    document.querySelectorAll("#picker .field-error").forEach((p) => (p.textContent = ""));
    picker.showModal();
    htmx.trigger(search, "load-offers");
    search.elements.q.focus();
  }
  function openRig(index) {
    opened = Number(index);
    document.querySelectorAll(".plate").forEach((plate) => plate.classList.toggle("opened", Number(plate.dataset.rig) === opened));
  }

  document.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    const data = button.dataset;
    if (data.pick) openPicker(data.pick, data.rig, data.mount);
    else if (data.open !== undefined) openRig(data.open);
    else if (button.classList.contains("rig-menu-button")) {
      menuRig = data.rig;
      openMenu(byId("rig-menu"), button);
    } else if (button.classList.contains("follow-mark")) {
      menuRig = data.rig;
      menuQuestion = data.question;
      byId("follow-menu").querySelector("[data-letter]").textContent = "ABCDEF"[menuRig];
      openMenu(byId("follow-menu"), button);
    } else if (data.rigAction) {
      byId("rig-menu").hidePopover();
      act(`${data.rigAction}:${menuRig}`);
    } else if (data.follow) {
      byId("follow-menu").hidePopover();
      act(data.follow === "by_hand" ? `by_hand:${menuQuestion}` : `reference:${menuRig}`);
    } else if (data.action) {
      if (byId("picker").open) byId("picker").close();
      act(data.action);
    } else if (button.name === "action" && button.closest("#bench")) {
      event.preventDefault();
      act(button.value);
    } else if (data.copy) copyTable(byId(data.copy));
  });
  document.querySelectorAll("[data-own]").forEach((own) =>
    own.addEventListener("submit", (event) => {
      event.preventDefault();
      const kind = own.dataset.own;
      own.querySelector(".field-error").textContent = "";
      act(`own_${kind}:${byId("picker-search").elements.rig.value}`, Object.fromEntries(new FormData(own)));
    }),
  );
  document.querySelectorAll(".menu").forEach((menu) =>
    menu.addEventListener("keydown", (event) => {
      const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
      if (!step) return;
      event.preventDefault();
      const items = [...menu.querySelectorAll("button")];
      items[(items.indexOf(document.activeElement) + step + items.length) % items.length].focus();
    }),
  );

  function copyTable(table) {
    const rows = [...table.rows].map((row) => [...row.cells].map((cell) => cell.title || cell.textContent.trim()).join("\t"));
    navigator.clipboard.writeText(rows.join("\n")).then(() => say("Table copied with its exact values."));
  }
  byId("copy-link").addEventListener("click", () => navigator.clipboard.writeText(location.href).then(() => say("Link copied.")));
  byId("save-button")?.addEventListener("click", () => {
    const dialog = byId("save-dialog");
    dialog.querySelector("[name=b]").value = byId("token").value;
    dialog.showModal();
    byId("save-name").select();
  });

  // ---- after an answer ------------------------------------------------------------------------------------------
  let sayTimer = null;
  function say(text) {
    clearTimeout(sayTimer);
    sayTimer = setTimeout(() => (byId("status").textContent = text), 400);
  }
  function clearMessages() {
    document.querySelectorAll("#bench .field-error").forEach((p) => (p.textContent = ""));
    document.querySelectorAll("#bench [aria-invalid]").forEach((field) => field.removeAttribute("aria-invalid"));
  }
  document.body.addEventListener("htmx:beforeSwap", (event) => {
    if (event.detail.requestConfig?.elt !== form()) return;
    clearMessages();
    const refused = event.detail.xhr.status === 422;
    byId("stale").hidden = !refused;
    form().classList.toggle("is-stale", refused);
    if (!refused && byId("picker").open) byId("picker").close();
  });
  document.body.addEventListener("htmx:afterSettle", (event) => {
    if (event.target !== form()) return; // each swapped output settles too
    document.querySelectorAll("#bench .field-error[data-field]").forEach((p) => {
      document.querySelectorAll(`[aria-describedby="${p.id}"]`).forEach((field) => field.setAttribute("aria-invalid", "true"));
      p.closest("details")?.setAttribute("open", "");
    });
    const problem = byId("err-bench")?.textContent;
    if (problem && byId("picker").open) {
      document.querySelectorAll("#picker .own-figures:not([hidden]) .field-error").forEach((p) => (p.textContent = problem));
    }
    const wrong = document.querySelector("#bench .field-error[data-field]");
    say(wrong?.textContent || byId("status-next")?.textContent || "");
    placeSliders();
    openRig(Math.min(opened, document.querySelectorAll(".plate").length - 1));
    requestAnimationFrame(() =>
      setTimeout(() => {
        performance.mark("painted");
        if (performance.getEntriesByName("change").length) performance.measure("change-to-painted", "change", "painted");
      }),
    );
  });
  document.body.addEventListener("htmx:sendError", () => {
    byId("err-bench").textContent = "The server does not answer. Your settings are kept here; try again.";
  });

  // ---- shortcuts ------------------------------------------------------------------------------------------------
  const keys = window.cambrelKeys;
  for (const letter of "abcdef") {
    keys[letter] = () => {
      const index = "abcdef".indexOf(letter);
      const plate = byId(`plate-${index}`);
      if (!plate) return;
      openRig(index);
      const fields = [...plate.querySelectorAll("input")].filter((field) => field.offsetParent);
      (fields[0] || plate.querySelector("button")).focus();
    };
  }
  for (const number of "123456") {
    keys[number] = () => {
      const tab = document.querySelectorAll("[name=panel]")[Number(number) - 1];
      tab.checked = true;
      tab.dispatchEvent(new Event("change", { bubbles: true }));
    };
  }
  keys.n = () => byId("add-rig")?.click();
  keys.h = () => document.querySelector("#hold input:checked").focus();
  keys.s = () => byId("save-button")?.click();
  keys.u = () => walkHistory(true);
  keys.r = () => walkHistory(false);

  // ---- the start ------------------------------------------------------------------------------------------------
  const narrow = window.matchMedia("(max-width: 620px)");
  function noteWidth() {
    const want = narrow.matches ? "narrow" : "wide";
    const has = document.cookie.split("; ").find((cookie) => cookie.startsWith("width="));
    if (has === `width=${want}` || (!has && want === "wide")) return;
    document.cookie = `width=${want}; path=/; max-age=31536000; samesite=lax`;
    htmx.trigger(form(), "typing");
  }
  narrow.addEventListener("change", noteWidth);
  placeSliders();
  openRig(0);
  showSteps();
  noteWidth();
})();
