// One picture laid over another by what both are of. Pure.
import { pictureIn } from "./gesture.js";

// "0.5,0.4,0.8" as the subject's middle and height in shares of a picture
export const subjectOf = (text) => {
  const [across, down, high] = (text || "0.5,0.5,1").split(",").map(Number);
  return { across, down, high };
};

const placed = (box, { ratio, subject }) => {
  const picture = pictureIn({ left: 0, top: 0, ...box }, ratio);
  return { x: picture.left + subject.across * picture.width, y: picture.top + subject.down * picture.height, high: subject.high * picture.height };
};

// how the second picture is moved and scaled within a box, so that its subject stands where the first one's does and is as high
export function laidOver(box, first, second) {
  const [to, from] = [placed(box, first), placed(box, second)];
  const scale = to.high / from.high;
  return { scale, x: to.x - scale * from.x, y: to.y - scale * from.y };
}

// from how far a screen shows a picture as large as its print looks from where that is looked at from
export const distanceFor = (shownMm, printMm, fromMm) => (fromMm * shownMm) / printMm;
