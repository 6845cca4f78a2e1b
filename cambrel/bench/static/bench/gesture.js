// A press or a drag on a picture. Pure.

const PRESS = 0.03; // of the picture's height: less is no drag

// the picture inside a box, centred and in its own proportions
export function pictureIn(box, ratio) {
  const width = Math.min(box.width, box.height * ratio);
  const height = width / ratio;
  return { left: box.left + (box.width - width) / 2, top: box.top + (box.height - height) / 2, width, height };
}

// the place of a point as shares of the picture; null beside it
export function placeOf(picture, { x, y }) {
  const across = (x - picture.left) / picture.width;
  const down = (y - picture.top) / picture.height;
  return across < 0 || across > 1 || down < 0 || down > 1 ? null : { across, down };
}

// how many times as far what was dragged shall be: up and right are farther, whichever went more; 1 for a press
export function timesFarther(from, to, height) {
  const up = (from.y - to.y) / height;
  const right = (to.x - from.x) / height;
  const moved = Math.abs(up) >= Math.abs(right) ? up : right;
  return Math.abs(moved) < PRESS ? 1 : Math.exp(2 * moved);
}
