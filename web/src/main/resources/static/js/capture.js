// The capture page: frames over the board, a place's time course, registration pairs to drag.
import { needed, on } from "./page.js";
import { fitted } from "./residuals.js";
import { BoardView } from "./board.js";
import { Frames } from "./frames.js";
import { HeatLayer, colour } from "./heat.js";

const root = document.getElementById("capture");
const canvas = document.getElementById("heat");
const scrub = document.getElementById("scrub");
const when = document.getElementById("when");
const svg = document.getElementById("board");
const pairLayer = document.getElementById("pairs");
const PLAY_MS = 90;

// Who moves the slider while the frames are still coming means it.
let chosen = false;
// So does who moves it while the page is being fetched anew.
let leaving = false;
let moved = () => {};
const LOOKED_AT = `frame ${location.pathname}`;
scrub.addEventListener("input", () => {
  chosen = true;
  if (leaving) {
    sessionStorage.setItem(LOOKED_AT, scrub.value);
  }
  moved();
});
// Not before somebody listens.
scrub.disabled = false;

const about = await needed(root.dataset.about, when);
const frames = new Frames(about, root.dataset.frames);
const board = new BoardView(svg);
const heat = new HeatLayer(canvas, svg, about, frames, root.dataset.fields);
const suspect = document.getElementById("suspect");
const words = document.getElementById("layer-words");
const WORDS = {
  measured: () => "",
  predicted: ref => `What the engine believes you see if ${ref} is the fault: its heat, the leads and series parts, the copper between.`,
  left: ref => `Measured less predicted, if ${ref} is the fault. Full lines: warmer than predicted; dashed: colder. Little should be left.`,
  onset: () => "Seconds from power to half of the last warmth. Heat is first where it starts, whatever the surface.",
};
let playing = 0;
let plot = null;
let place = null;

/** Board millimetres of a place in the drawing (y down, bottom mirrored). */
function toBoard(x, y) {
  const [x0, y0, x1, y1] = about.box;
  return [about.bottom ? x0 + x1 - x : x, y0 + y1 - y];
}

function toDrawing(xMm, yMm) {
  const [x0, y0, x1, y1] = about.box;
  return [about.bottom ? x0 + x1 - xMm : xMm, y0 + y1 - yMm];
}

function screen(x, y) {
  const p = new DOMPoint(x, y).matrixTransform(svg.getScreenCTM());
  const r = canvas.getBoundingClientRect();
  return [p.x - r.left, p.y - r.top];
}

function draw() {
  const frame = Number(scrub.value);
  if (!frames.counts[frame] || !frames.baseline) {
    return;
  }
  const there = heat.draw(frame);
  const first = about.steps.find(s => s.on)?.t ?? about.times[0];
  const after = about.times[frame] - first;
  when.textContent = `${frame + 1}/${about.frames}  ${after < 0 ? "−" : "+"}${Math.abs(after).toFixed(2)} s`;
  scrub.setAttribute("aria-valuetext", `frame ${frame + 1}, ${after.toFixed(1)} seconds after power`);
  say(there ? WORDS[heat.kind](heat.suspect) : "Computing…");
}
heat.onLate = () => say(WORDS[heat.kind](heat.suspect));

// Writing the same words again would lay the page out anew for every frame.
function say(text) {
  if (words.textContent !== text) {
    words.textContent = text;
  }
}

// ---- time course of a place -------------------------------------------------------------

function course(xMm, yMm) {
  place = [xMm, yMm];
  const first = about.steps.find(s => s.on)?.t ?? about.times[0];
  const t = [];
  const rise = [];
  const power = [];
  const [px, py] = frames.pixel(xMm, yMm);
  for (let f = 0; f < about.frames; f++) {
    let sum = 0;
    for (const dy of [-0.7, 0, 0.7]) {
      for (const dx of [-0.7, 0, 0.7]) {
        sum += frames.rise(f, px + dx, py + dy) / 9;
      }
    }
    t.push(about.times[f] - first);
    rise.push(about.segment[f] === -1 ? null : sum - frames.level(f));
    power.push(about.steps.filter(s => s.t <= about.times[f]).at(-1)?.on ? 1 : 0);
  }
  draw2(t, rise, power);
  const peak = Math.max(...rise.filter(v => v !== null));
  document.getElementById("course-words").textContent =
    `At ${xMm.toFixed(1)}, ${yMm.toFixed(1)} mm: ${peak.toFixed(2)} K at most. The bar below is the supply's output.`;
}

function draw2(t, rise, power) {
  const box = document.getElementById("course");
  const ink = colour("--ink-2");
  const grid = { stroke: colour("--rule-2"), width: 1 };
  const axis = { stroke: ink, font: '12px "Reading"', grid, ticks: grid };
  plot?.destroy();
  plot = new window.uPlot(
    {
      width: box.clientWidth - 20,
      height: box.clientHeight - 34,
      scales: { x: { time: false }, power: { range: [0, 8] } },
      legend: { live: true },
      cursor: { drag: { x: false, y: false } },
      axes: [{ ...axis }, { ...axis, label: "K", size: 52, labelFont: '12px "Text"' }],
      series: [
        { label: "s after power" },
        { label: "rise", stroke: colour("--heat"), width: 2, spanGaps: true, value: (u, v) => (v === null ? "–" : `${v.toFixed(2)} K`) },
        { label: "output", scale: "power", stroke: colour("--act"), fill: colour("--act"), width: 0, paths: window.uPlot.paths.stepped({ align: 1 }), points: { show: false }, value: (u, v) => (v ? "on" : "off") },
      ],
    },
    [t, rise, power],
    box,
  );
}

svg.addEventListener("click", event => {
  if (!board.moved) {
    course(...toBoard(...board.place(event)));
  }
});
svg.addEventListener("keydown", event => {
  const part = event.target.closest(".part");
  if (part && event.key === "Enter") {
    course(...toBoard(...board.centre(part)));
    event.preventDefault();
  }
});

// ---- registration -----------------------------------------------------------------------

const inputs = { x: [...document.querySelectorAll('[name="px"]')], y: [...document.querySelectorAll('[name="py"]')] };

function pixelsToBoard(px, py) {
  let [x, y] = [(about.box[0] + about.box[2]) / 2, (about.box[1] + about.box[3]) / 2];
  for (let i = 0; i < 20; i++) {
    const [ax, ay] = bare(x, y);
    const h = 0.01;
    const [bx, by] = bare(x + h, y);
    const [cx, cy] = bare(x, y + h);
    const a = (bx - ax) / h, b = (cx - ax) / h, c = (by - ay) / h, d = (cy - ay) / h;
    const det = a * d - b * c;
    x += (d * (px - ax) - b * (py - ay)) / det;
    y += (a * (py - ay) - c * (px - ax)) / det;
  }
  return [x, y];
}

function bare(x, y) {
  const m = about.toPx;
  const w = m[6] * x + m[7] * y + m[8];
  return [(m[0] * x + m[1] * y + m[2]) / w, (m[3] * x + m[4] * y + m[5]) / w];
}

function drawPairs() {
  pairLayer.replaceChildren();
  inputs.x.forEach((input, i) => {
    const [x, y] = screen(...toDrawing(...pixelsToBoard(Number(input.value), Number(inputs.y[i].value))));
    const g = document.createElementNS("http://www.w3.org/2000/svg", "g");
    g.setAttribute("transform", `translate(${x.toFixed(1)} ${y.toFixed(1)})`);
    g.innerHTML = '<circle r="13"/><path d="M-9 0H9M0-9V9"/>';
    const text = document.createElementNS("http://www.w3.org/2000/svg", "text");
    text.setAttribute("x", "9");
    text.setAttribute("y", "-8");
    text.textContent = i + 1;
    g.append(text);
    g.dataset.pair = i;
    pairLayer.append(g);
  });
}

pairLayer.addEventListener("pointerdown", event => {
  const g = event.target.closest("g");
  if (!g) {
    return;
  }
  g.setPointerCapture(event.pointerId);
  const i = Number(g.dataset.pair);
  const drag = e => {
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM().inverse());
    const [px, py] = bare(...toBoard(p.x, p.y));
    inputs.x[i].value = px.toFixed(1);
    inputs.y[i].value = py.toFixed(1);
    const r = canvas.getBoundingClientRect();
    g.setAttribute("transform", `translate(${(e.clientX - r.left).toFixed(1)} ${(e.clientY - r.top).toFixed(1)})`);
    fit();
  };
  g.addEventListener("pointermove", drag);
  g.addEventListener("pointerup", () => g.removeEventListener("pointermove", drag), { once: true });
});

for (const input of [...inputs.x, ...inputs.y]) {
  input.addEventListener("input", () => {
    drawPairs();
    fit();
  });
  input.addEventListener("keydown", event => {
    const steps = { ArrowUp: 0.1, ArrowDown: -0.1 };
    if (steps[event.key]) {
      input.value = (Number(input.value) + steps[event.key]).toFixed(1);
      input.dispatchEvent(new Event("input", { bubbles: true }));
      event.preventDefault();
    }
  });
}

function fit() {
  const query = new URLSearchParams();
  inputs.x.forEach(i => query.append("px", i.value));
  inputs.y.forEach(i => query.append("py", i.value));
  return fitted(`${root.dataset.fit}?${query}`);
}

// ---- playing ----------------------------------------------------------------------------

on("play", () => {
  const button = document.querySelector('[data-do="play"]');
  clearInterval(playing);
  const start = button.getAttribute("aria-pressed") !== "true";
  button.setAttribute("aria-pressed", String(start));
  if (start) {
    playing = setInterval(() => {
      scrub.value = (Number(scrub.value) + 1) % about.frames;
      draw();
    }, PLAY_MS);
  }
});
for (const [name, step] of [["back", -1], ["forth", 1]]) {
  on(name, () => {
    scrub.value = Number(scrub.value) + step;
    draw();
  });
}
for (const kind of ["wash", "isolines"]) {
  on(kind, button => {
    heat.show[kind] = !heat.show[kind];
    button.setAttribute("aria-pressed", String(heat.show[kind]));
    draw();
  });
}
for (const kind of Object.keys(WORDS)) {
  on(kind, button => {
    heat.kind = kind;
    heat.suspect = suspect?.value ?? null;
    button.parentElement.querySelectorAll("button").forEach(b => b.setAttribute("aria-pressed", String(b === button)));
    draw();
  });
}
suspect?.addEventListener("change", () => {
  heat.suspect = suspect.value;
  draw();
});
moved = draw;
document.addEventListener("themed", () => {
  draw();
  if (place) {
    course(...place);
  }
});
board.listeners.push(() => {
  heat.layout();
  draw();
  drawPairs();
});
// A new analysis changes what is drawn, not which frame one was looking at.
document.addEventListener("analysed", () => {
  leaving = true;
  if (root.dataset.ready || chosen) {
    sessionStorage.setItem(LOOKED_AT, scrub.value);
  }
  location.reload();
});

const asked = new URLSearchParams(location.search).get("suspect");
if (suspect && [...suspect.options].some(o => o.value === asked)) {
  suspect.value = asked;
}

try {
  await frames.load(n => {
    when.textContent = `${n} of ${about.frames} frames`;
  });
  const last = heat.scale();
  if (!chosen) {
    scrub.value = sessionStorage.getItem(LOOKED_AT) ?? last;
  }
  sessionStorage.removeItem(LOOKED_AT);
  if (suspect?.value === asked) {
    document.querySelector('[data-do="predicted"]').click();
  }
  draw();
  drawPairs();
  if (about.suspects.length) {
    course(...about.suspects[0]);
  }
  root.dataset.ready = "true";
} catch {
  when.textContent = "The frames could not be fetched: reload the page.";
}
