// The scripts' own arithmetic, run by node's test runner. What needs a page is tested in the browser.
import assert from "node:assert/strict";
import test from "node:test";

import { pictureIn, placeOf, timesFarther } from "../../../bench/static/bench/gesture.js";
import { HEIGHTS, heightFor, isGivenUp, jobsFor } from "../../../bench/static/bench/queueing.js";
import { distanceFor, laidOver, subjectOf } from "../../../bench/static/bench/registering.js";
import { numberOf, positionOf, shown, textAt } from "../../../bench/static/bench/sliding.js";
import { canRedo, canUndo, placed, pushed } from "../../../bench/static/bench/steps.js";
import { keeping } from "../../static/site/keep.js";
import { rewritten } from "../../static/site/rewriting.js";

const near = (got, wanted) => assert.ok(Math.abs(got - wanted) < 1e-9, `${got} is not ${wanted}`);

test("figures are read as they are typed", () => {
  for (const [text, value] of [["2.8", 2.8], ["f/2,8", 2.8], ["F/4", 4], [" 1/250 ", 0.004], ["2", 2], ["30/2", 15]]) near(numberOf(text), value);
  for (const text of ["", "abc", "1/2/3", "1/", "/4", "2 m"]) assert.ok(Number.isNaN(numberOf(text)), text);
});

const STOPS = { stops: "1.4 2 2.8 4 5.6", max: 4 };
const RANGE = { low: 0.1, high: 1000, max: 1000 };

test("a slider over stops stands at the nearest by ratio, and gives the stop as it is written", () => {
  for (const [text, position] of [["2.8", 2], ["f/2.7", 2], ["3.3", 2], ["3.5", 3], ["0.9", 0], ["90", 4]]) {
    assert.equal(positionOf(text, STOPS), position, text);
  }
  assert.equal(positionOf("fast", STOPS), null);
  assert.equal(positionOf("0", STOPS), null);
  assert.equal(positionOf("-2", STOPS), null);
  assert.equal(textAt(3, STOPS), "4");
  assert.equal(textAt(0, { stops: "1/500 1/250", max: 1 }), "1/500");
});

test("a slider over a range goes by ratio, stays in it, and comes back to where it was", () => {
  assert.equal(positionOf("10", RANGE), 500);
  assert.equal(positionOf("1", RANGE), 250);
  assert.equal(positionOf("0.001", RANGE), 0);
  assert.equal(positionOf("1e9", RANGE), 1000);
  assert.equal(textAt(0, RANGE), "0.1");
  assert.equal(textAt(1000, RANGE), "1000");
  for (let position = 0; position <= 1000; position += 1) assert.ok(Math.abs(positionOf(textAt(position, RANGE), RANGE) - position) <= 1);
  assert.equal(shown(1234.5), "1230");
  assert.equal(shown(0.012345), "0.0123");
});

test("undo and redo follow the browser's own history", () => {
  const start = placed(null, { run: "old", top: 9 }, "new");
  assert.deepEqual([start.step, canUndo(start), canRedo(start)], [0, false, false]);
  const third = pushed(pushed(pushed(start)));
  assert.deepEqual([third.run, third.step, canUndo(third), canRedo(third)], ["new", 3, true, false]);
  // back by the browser: the page is loaded anew with the entry of the step before
  const back = placed({ run: "new", step: 2 }, { run: "new", top: 3 }, "other");
  assert.deepEqual([back.run, back.step, canUndo(back), canRedo(back)], ["new", 2, true, true]);
  // a change after that leaves nothing to redo
  assert.equal(canRedo(pushed(back)), false);
  // an entry of another run, reached by Back over pages between
  assert.deepEqual(placed({ run: "old", step: 4 }, { run: "new", top: 9 }, "x"), { run: "old", step: 4, top: 4 });
  assert.equal(canUndo(placed({ run: "new", step: 0 }, { run: "new", top: 3 }, "x")), false);
});

test("pictures are asked for at the height that they are shown in, the quick ones smaller, none twice", () => {
  assert.deepEqual([heightFor(280), heightFor(281), heightFor(282), heightFor(5000), heightFor(1)], [280, 280, 420, 840, 60]);
  const images = [{ keep: "0", shot: "a", pixels: 280 }, { keep: "1", shot: "b", pixels: 60 }];
  assert.deepEqual(jobsFor(images, new Map(), false).map((job) => job.height), [280, 60]);
  assert.deepEqual(jobsFor(images, new Map(), true).map((job) => job.height), [HEIGHTS[HEIGHTS.indexOf(280) - 2], 60]);
  const loaded = new Map([["0", { shot: "a", height: 280 }], ["1", { shot: "old", height: 840 }]]);
  assert.deepEqual(jobsFor(images, loaded, false), [{ keep: "1", shot: "b", address: undefined, height: 60 }]);
  assert.deepEqual(jobsFor(images, new Map([["0", { shot: "a", height: 140 }]]), false).map((job) => job.keep), ["0", "1"]);
  assert.deepEqual(jobsFor(images, new Map([["0", { shot: "a", height: 140 }]]), true).map((job) => job.keep), ["1"]);
});

test("a picture that is not wanted any more is given up only where it is long in coming", () => {
  const job = { keep: "0", shot: "old", since: 1000 };
  const [same, other] = [[{ keep: "0", shot: "old" }], [{ keep: "0", shot: "new" }]];
  assert.equal(isGivenUp(job, other, 1401, 400), true);
  assert.equal(isGivenUp(job, other, 1400, 400), false);
  assert.equal(isGivenUp(job, same, 9000, 400), false);
  assert.equal(isGivenUp(job, [{ keep: "1", shot: "old" }], 9000, 400), true);
  assert.equal(isGivenUp(null, other, 9000, 400), false);
});

test("a picture stands centred in its box, and a point is a place of it or none", () => {
  assert.deepEqual(pictureIn({ left: 10, top: 20, width: 300, height: 300 }, 1.5), { left: 10, top: 70, width: 300, height: 200 });
  assert.deepEqual(pictureIn({ left: 0, top: 0, width: 400, height: 100 }, 1.5), { left: 125, top: 0, width: 150, height: 100 });
  const picture = { left: 100, top: 50, width: 200, height: 100 };
  assert.deepEqual(placeOf(picture, { x: 150, y: 75 }), { across: 0.25, down: 0.25 });
  for (const [x, y] of [[99, 75], [301, 75], [150, 49], [150, 151]]) assert.equal(placeOf(picture, { x, y }), null);
});

test("up and right are farther, down and left nearer, and a small move is a press", () => {
  const from = { x: 100, y: 100 };
  assert.equal(timesFarther(from, { x: 102, y: 101 }, 200), 1);
  near(timesFarther(from, { x: 100, y: 80 }, 200), Math.exp(0.2));
  near(timesFarther(from, { x: 100, y: 120 }, 200), Math.exp(-0.2));
  near(timesFarther(from, { x: 140, y: 110 }, 200), Math.exp(0.4));
  near(timesFarther(from, { x: 60, y: 110 }, 200), Math.exp(-0.4));
});

test("a browser that keeps nothing breaks nothing", () => {
  const refusing = keeping(() => {
    throw new Error("blocked");
  });
  refusing.set("key", "value");
  assert.equal(refusing.get("key"), null);
  assert.equal(refusing.get("key", "usual"), "usual");
  assert.equal(refusing.record("key"), null);
  const kept = new Map();
  const area = keeping(() => ({ getItem: (key) => kept.get(key) ?? null, setItem: (key, value) => kept.set(key, value) }));
  area.set("key", '{"top": 3}');
  assert.deepEqual([area.get("key"), area.record("key"), area.get("other", "x")], ['{"top": 3}', { top: 3 }, "x"]);
  area.set("key", "not a record");
  assert.equal(area.record("key"), null);
});

test("an even scale goes through zero, and back", () => {
  const light = { low: -6, high: 18, max: 240, even: true };
  for (const value of [-6, -3, 0, 0.1, 8, 18]) near(Number(textAt(positionOf(String(value), light), light)), value);
  assert.equal(positionOf("\u22123", light), 30);
  assert.equal(positionOf("dusk", light), null);
});

test("a picture is laid over another by the subject", () => {
  const box = { width: 900, height: 400 };
  const first = { ratio: 1.5, subject: subjectOf("0.4,0.6,0.8") };
  const second = { ratio: 4 / 3, subject: subjectOf("0.5,0.45,0.5") };
  const { scale, x, y } = laidOver(box, first, second);
  near(scale, 0.8 / 0.5);
  const of = ({ ratio, subject }) => [(900 - 400 * ratio) / 2 + subject.across * 400 * ratio, subject.down * 400];
  const [to, from] = [of(first), of(second)];
  near(scale * from[0] + x, to[0]);
  near(scale * from[1] + y, to[1]);
  const same = laidOver(box, first, first);
  near(same.scale, 1);
  near(same.x, 0);
});

test("a screen is as large as the print from nearer by as much as it is smaller", () => near(distanceFor(210, 420, 500), 250));

test("a piece of a line is changed where it stands, and added where it was not said", () => {
  const line = "📷 85 mm f/1.8 ff at 2 m"; // places count letters, and the first is one
  assert.equal(rewritten(line, { start: 14, end: 16 }, "mft"), "📷 85 mm f/1.8 mft at 2 m");
  assert.equal(rewritten("85 mm", { start: 5, end: 5, before: " on " }, "mft"), "85 mm on mft");
  assert.equal(rewritten("24 mm true f/2", { start: 6, end: 10 }, ""), "24 mm f/2");
  assert.equal(rewritten("24 mm f/2", { start: 5, end: 5, before: " " }, ""), "24 mm f/2");
});
