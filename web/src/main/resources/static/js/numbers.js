// What the shop's jobs come to, drawn in the page's own colours; the tables beside say the same in words.
import { colour } from "./heat.js";

const HEIGHT = 240;

function axes(labels) {
  const grid = { stroke: colour("--rule-2"), width: 1 };
  return labels.map((more) => ({ stroke: colour("--ink-2"), font: '12px "Reading"', labelFont: '13px "Text"', grid, ticks: grid, ...more }));
}

const percent = (u, values) => values.map((v) => (v == null ? "" : `${Math.round(100 * v)} %`));

/** Stated against right, with the line on which both are the same. */
function sure(box, points) {
  const stops = [...new Set([0, ...points.map((p) => p[0]), 1])].sort((a, b) => a - b);
  const right = new Map(points);
  const data = [stops, stops.map((x) => right.get(x) ?? null), stops];
  const options = {
    width: box.clientWidth, height: HEIGHT, legend: { show: false }, cursor: { show: false },
    scales: { x: { time: false, range: [0, 1] }, y: { range: [0, 1] } },
    axes: axes([{ label: "stated", values: percent }, { label: "right", values: percent, size: 60 }]),
    series: [{}, { stroke: colour("--heat"), width: 2, spanGaps: true, points: { show: true, size: 9 } }, { stroke: colour("--ink-2"), width: 1, dash: [4, 4], points: { show: false } }],
  };
  return new window.uPlot(options, data, box);
}

/** Jobs a month, those proven, and the share named before heat. */
function months(box, rows) {
  const data = [rows.map((r, i) => i), rows.map((r) => Number(r[1])), rows.map((r) => Number(r[2])), rows.map((r) => (r[3] ? Number(r[3]) : null))];
  const options = {
    width: box.clientWidth, height: HEIGHT, cursor: { drag: { x: false, y: false } },
    scales: { x: { time: false, range: [-0.5, rows.length - 0.5] }, y: { range: (u, low, high) => [0, Math.max(1, 1.1 * high)] }, s: { range: [0, 1] } },
    axes: axes([{ values: (u, at) => at.map((v) => (Number.isInteger(v) && rows[v] ? rows[v][0] : "")) }, { label: "jobs", size: 54 }, { scale: "s", side: 1, label: "named", values: percent, size: 60, grid: { show: false } }]),
    series: [
      { label: "month", value: (u, v) => (v == null || !rows[v] ? "–" : rows[v][0]) },
      { label: "jobs", stroke: colour("--ink-2"), width: 1.5, points: { show: true, size: 6 } },
      { label: "proven", stroke: colour("--act"), width: 2, points: { show: true, size: 6 } },
      { label: "named before heat", scale: "s", stroke: colour("--heat"), width: 2, points: { show: true, size: 7 }, value: (u, v) => (v == null ? "–" : `${Math.round(100 * v)} %`) },
    ],
  };
  return new window.uPlot(options, data, box);
}

function all() {
  for (const box of document.querySelectorAll(".chart[data-points]")) {
    box.replaceChildren();
    const rows = box.dataset.points.split(" ").filter(Boolean).map((row) => row.split(","));
    box.hidden = rows.length === 0 || (box.dataset.kind === "months" && rows.length < 2);
    if (!box.hidden && window.uPlot) {
      if (box.dataset.kind === "sure") {
        sure(box, rows.map((row) => row.map(Number)));
      } else {
        months(box, rows);
      }
    }
  }
}

addEventListener("load", all);
addEventListener("resize", all);
document.addEventListener("themed", all);
