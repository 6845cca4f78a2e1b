// A part of a picture marked by dragging over it; the numbers follow, and can be typed or stepped with the arrow keys.
const picture = document.querySelector(".look-picture");
const box = picture.querySelector(".look-box");
const part = document.querySelector(".look-part");
const fields = Object.fromEntries(["left", "top", "wide", "high"].map((name) => [name, document.getElementById(`box-${name}`)]));
const size = { wide: Number(picture.dataset.wide), high: Number(picture.dataset.high) };
const STEP = 10;
let from = null;
let later = 0;

function shown() {
  const value = (name) => Math.max(0, Number.parseInt(fields[name].value, 10) || 0);
  box.setAttribute("x", value("left"));
  box.setAttribute("y", value("top"));
  box.setAttribute("width", value("wide"));
  box.setAttribute("height", value("high"));
  clearTimeout(later);
  later = setTimeout(() => {
    const asked = new URLSearchParams({ side: 1200, left: value("left"), top: value("top"), wide: value("wide"), high: value("high") });
    part.src = `${part.dataset.part}?${asked}`;
  }, 250);
}

function at(event) {
  const frame = picture.getBoundingClientRect();
  const share = (place, start, length) => Math.min(1, Math.max(0, (place - start) / length));
  return {
    x: Math.round(share(event.clientX, frame.left, frame.width) * size.wide),
    y: Math.round(share(event.clientY, frame.top, frame.height) * size.high),
  };
}

if (picture.dataset.marked) {
  picture.addEventListener("pointerdown", (event) => {
    event.preventDefault();
    picture.setPointerCapture(event.pointerId);
    from = at(event);
  });
  picture.addEventListener("pointermove", (event) => {
    if (!from) return;
    const to = at(event);
    fields.left.value = Math.min(from.x, to.x);
    fields.top.value = Math.min(from.y, to.y);
    fields.wide.value = Math.abs(to.x - from.x);
    fields.high.value = Math.abs(to.y - from.y);
    shown();
  });
  picture.addEventListener("pointerup", () => (from = null));
  for (const field of Object.values(fields)) {
    field.addEventListener("input", shown);
    field.addEventListener("keydown", (event) => {
      const way = { ArrowUp: 1, ArrowDown: -1 }[event.key];
      if (!way) return;
      event.preventDefault();
      field.value = Math.max(0, (Number.parseInt(field.value, 10) || 0) + way * (event.shiftKey ? 10 * STEP : STEP));
      shown();
    });
  }
}
