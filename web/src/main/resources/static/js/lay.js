// The board over the camera's cold picture: pairs to drag, nudge or snap.
import { needed, on, told } from "./page.js";
import { fitted } from "./residuals.js";

const SVG = "http://www.w3.org/2000/svg";
const COLD_FRAMES = 6;
const NUDGE_PX = 0.25;
const LEAP_PX = 2;
const HANDLE_PX = 12;

const root = document.getElementById("lay");
const canvas = document.getElementById("picture");
const over = document.getElementById("over");
const shapeLayer = document.getElementById("shapes");
const handleLayer = document.getElementById("handles");
const words = document.getElementById("lay-words");
const inputs = { x: [...document.querySelectorAll('[name="px"]')], y: [...document.querySelectorAll('[name="py"]')] };
const kept = inputs.x.map((input, i) => [input.value, inputs.y[i].value]);

const shapes = await needed(root.dataset.shapes, words);
let matrix = null;

over.setAttribute("viewBox", `-0.5 -0.5 ${shapes.width} ${shapes.height}`);

/** The mean of the first frames, its middle 98 % spread over the paper's tones. */
async function drawPicture() {
  const answer = await fetch(`${root.dataset.frames}?from=0&count=${COLD_FRAMES}`);
  const all = new Uint16Array(await answer.arrayBuffer());
  const size = shapes.width * shapes.height;
  const n = Math.floor(all.length / size);
  const mean = new Float32Array(size);
  for (let f = 0; f < n; f++) {
    for (let i = 0; i < size; i++) {
      mean[i] += all[f * size + i] / n;
    }
  }
  const sorted = mean.slice().sort();
  const low = sorted[Math.floor(size * 0.01)];
  const high = Math.max(low + 1, sorted[Math.floor(size * 0.99)]);
  canvas.width = shapes.width;
  canvas.height = shapes.height;
  const image = new ImageData(shapes.width, shapes.height);
  for (let i = 0; i < size; i++) {
    const share = Math.max(0, Math.min(1, (mean[i] - low) / (high - low)));
    image.data.set([40 + 190 * share, 44 + 184 * share, 48 + 172 * share, 255], 4 * i);
  }
  canvas.getContext("2d").putImageData(image, 0, 0);
}

function toPx(xMm, yMm) {
  const m = matrix;
  const w = m[6] * xMm + m[7] * yMm + m[8];
  return [(m[0] * xMm + m[1] * yMm + m[2]) / w, (m[3] * xMm + m[4] * yMm + m[5]) / w];
}

function polygon(corners, kind) {
  const shape = document.createElementNS(SVG, "polygon");
  shape.setAttribute("class", kind);
  shape.setAttribute("points", corners.map(c => toPx(...c).map(v => v.toFixed(2)).join(",")).join(" "));
  return shape;
}

function drawShapes() {
  shapeLayer.replaceChildren(polygon(shapes.outline, "lay-outline"), ...shapes.parts.map(p => polygon(p.corners, "lay-body")));
}

/** A handle stays as large on the screen however large the picture is. */
function unit() {
  return shapes.width / over.getBoundingClientRect().width;
}

function drawHandles() {
  const r = HANDLE_PX * unit();
  inputs.x.forEach((input, i) => {
    let g = handleLayer.children[i];
    if (!g) {
      g = document.createElementNS(SVG, "g");
      g.setAttribute("tabindex", "0");
      g.setAttribute("role", "slider");
      g.setAttribute("aria-label", `Pair ${i + 1}`);
      g.setAttribute("aria-valuemin", "0");
      g.setAttribute("aria-valuemax", String(shapes.width));
      g.dataset.pair = i;
      for (const name of ["circle", "path", "text"]) {
        g.append(document.createElementNS(SVG, name));
      }
      handleLayer.append(g);
    }
    const x = Number(input.value);
    const y = Number(inputs.y[i].value);
    g.setAttribute("transform", `translate(${x} ${y})`);
    g.setAttribute("aria-valuenow", String(x));
    g.setAttribute("aria-valuetext", `${x.toFixed(1)} across, ${y.toFixed(1)} down`);
    const [circle, cross, text] = g.children;
    circle.setAttribute("r", r);
    cross.setAttribute("d", `M${-0.7 * r} 0H${0.7 * r}M0 ${-0.7 * r}V${0.7 * r}`);
    text.setAttribute("x", 0.8 * r);
    text.setAttribute("y", -0.8 * r);
    text.setAttribute("font-size", r);
    text.textContent = i + 1;
  });
}

async function fit() {
  const laid = await fitted(`${root.dataset.fit}?${query()}`);
  if (laid) {
    matrix = laid.matrix;
    drawShapes();
  }
}

function query() {
  const q = new URLSearchParams();
  inputs.x.forEach(i => q.append("px", i.value));
  inputs.y.forEach(i => q.append("py", i.value));
  return q;
}

function set(i, x, y) {
  inputs.x[i].value = Math.round(x * 100) / 100;
  inputs.y[i].value = Math.round(y * 100) / 100;
}

function changed() {
  drawHandles();
  return fit();
}

function picturePlace(event) {
  const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(over.getScreenCTM().inverse());
  return [p.x, p.y];
}

over.addEventListener("pointerdown", event => {
  const handle = event.target.closest("#handles g");
  if (!handle && !event.target.closest("#shapes")) {
    return;
  }
  over.setPointerCapture(event.pointerId);
  const [fromX, fromY] = picturePlace(event);
  const before = inputs.x.map((input, i) => [Number(input.value), Number(inputs.y[i].value)]);
  const moved = handle ? [Number(handle.dataset.pair)] : before.map((_, i) => i);
  const drag = e => {
    const [x, y] = picturePlace(e);
    moved.forEach(i => set(i, before[i][0] + x - fromX, before[i][1] + y - fromY));
    changed();
  };
  over.addEventListener("pointermove", drag);
  over.addEventListener("pointerup", () => over.removeEventListener("pointermove", drag), { once: true });
});

handleLayer.addEventListener("keydown", event => {
  const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
  const handle = event.target.closest("g");
  if (way && handle) {
    const i = Number(handle.dataset.pair);
    const by = event.shiftKey ? LEAP_PX : NUDGE_PX;
    set(i, Number(inputs.x[i].value) + way[0] * by, Number(inputs.y[i].value) + way[1] * by);
    changed();
    event.preventDefault();
    event.stopPropagation();
  }
});

for (const input of [...inputs.x, ...inputs.y]) {
  input.addEventListener("input", changed);
}

on("snap", async button => {
  button.disabled = true;
  words.textContent = "Looking for the board's edges in the picture…";
  const snapped = await told(`${root.dataset.snap}?${query()}`);
  button.disabled = false;
  if (!snapped) {
    words.textContent = "The picture could not be looked at: try again.";
    return;
  }
  snapped.px.forEach((x, i) => set(i, x, snapped.py[i]));
  words.textContent = snapped.words;
  await changed();
});
on("undo-lay", () => {
  kept.forEach(([x, y], i) => set(i, Number(x), Number(y)));
  changed();
});
on("bodies", button => {
  const shown = over.classList.toggle("bare");
  button.setAttribute("aria-pressed", String(!shown));
});
addEventListener("resize", drawHandles);

try {
  await drawPicture();
  drawHandles();
  await fit();
  root.dataset.ready = "true";
} catch {
  words.textContent = "The picture could not be fetched: reload the page.";
}
