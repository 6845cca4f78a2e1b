// The comparison as one picture: what each camera sees, its settings and figures, the headline, and the link as text and as a code.
import { byId } from "./asking.js";

const WIDE = 1600, EDGE = 40, GAP = 24, LINE = 34, CODE = 260;
const FONT = getComputedStyle(document.body).fontFamily;
const MOST_ACROSS = 3;

// a text in lines that are no longer than that
export function wrapped(measure, text, wide) {
  const lines = [];
  for (const word of text.split(" ")) {
    const longer = lines.length ? `${lines.at(-1)} ${word}` : word;
    if (lines.length && measure(longer) <= wide) lines[lines.length - 1] = longer;
    else lines.push(word);
  }
  return lines;
}

// what is read of an element, without what stands beside it or is for those who do not see it
function textOf(element) {
  const copy = element?.cloneNode(true);
  copy?.querySelectorAll("small, .visually-hidden").forEach((part) => part.remove());
  return (copy?.textContent ?? "").replace(/\s+/g, " ").replace(/ why\?/g, "").trim();
}

function cameras() {
  return [...document.querySelectorAll(".plate")].map((plate) => ({
    letter: "ABCDEF"[plate.dataset.rig],
    colour: getComputedStyle(plate).borderTopColor,
    picture: plate.querySelector("img[data-shot]"),
    gear: [...plate.querySelectorAll(".gear-name")].map((name) => name.title).filter(Boolean).join(", "),
    settings: textOf(plate.querySelector(".settings-press")),
    figures: [...plate.querySelectorAll(".figures dl > div")].map(
      (figure) => `${textOf(figure.querySelector("dt .long") ?? figure.querySelector("dt"))}: ${textOf(figure.querySelector("dd"))}`,
    ),
  }));
}

const loaded = (address) =>
  new Promise((done) => {
    const image = new Image();
    image.onload = () => done(image);
    image.onerror = () => done(null);
    image.src = address;
  });

export async function sheetFile() {
  await document.fonts.ready;
  const shown = cameras();
  const across = Math.min(shown.length, MOST_ACROSS);
  const column = (WIDE - 2 * EDGE - GAP * (across - 1)) / across;
  const high = (column * 2) / 3;
  const canvas = document.createElement("canvas");
  const pen = canvas.getContext("2d");
  const set = (weight, size) => (pen.font = `${weight} ${size}px ${FONT}`);
  set(600, 32);
  const headline = wrapped((text) => pen.measureText(text).width, textOf(document.querySelector(".headline")), WIDE - 2 * EDGE);
  const top = EDGE + headline.length * 40 + 16;
  const block = high + LINE * (2 + shown[0].figures.length) + 36;
  canvas.width = WIDE;
  canvas.height = top + Math.ceil(shown.length / across) * block + CODE + EDGE;
  pen.fillStyle = "#ffffff";
  pen.fillRect(0, 0, canvas.width, canvas.height);
  pen.fillStyle = "#161616";
  set(600, 32);
  headline.forEach((line, number) => pen.fillText(line, EDGE, EDGE + 28 + 40 * number));
  shown.forEach((camera, index) => {
    const x = EDGE + (index % across) * (column + GAP), y = top + Math.floor(index / across) * block;
    pen.fillStyle = "#0c0c0c";
    pen.fillRect(x, y, column, high);
    if (camera.picture?.naturalWidth) {
      const times = Math.min(column / camera.picture.naturalWidth, high / camera.picture.naturalHeight);
      const [wide, tall] = [camera.picture.naturalWidth * times, camera.picture.naturalHeight * times];
      pen.drawImage(camera.picture, x + (column - wide) / 2, y + (high - tall) / 2, wide, tall);
    }
    pen.fillStyle = camera.colour;
    pen.fillRect(x, y, column, 6);
    set(600, 28);
    pen.fillText(camera.letter, x, y + high + 34);
    pen.fillStyle = "#161616";
    set(600, 24);
    pen.fillText(camera.gear, x + 30, y + high + 34, column - 30);
    set(400, 24);
    [camera.settings, ...camera.figures].forEach((line, number) => pen.fillText(line, x, y + high + 34 + LINE * (number + 1), column));
  });
  const code = await loaded(`/code.png?b=${encodeURIComponent(byId("token").value)}`);
  const foot = canvas.height - CODE - EDGE / 2;
  if (code) pen.drawImage(code, WIDE - EDGE - CODE, foot, CODE, CODE);
  set(400, 20);
  pen.fillStyle = "#565656";
  const link = wrapped((text) => pen.measureText(text).width, `${location.origin}/?b=${byId("token").value}`.replace(/(.{12})/g, "$1 "), WIDE - 3 * EDGE - CODE);
  ["Cambrel", ...link].slice(0, 9).forEach((line, number) => pen.fillText(line.replaceAll(" ", ""), EDGE, foot + 24 + 27 * number));
  return new Promise((done) => canvas.toBlob(done, "image/png"));
}
