// Volts and amperes over time, drawn in the page's own colours.
import { colour } from "./heat.js";

/** Draws a trace into a box. Seconds, and volts or amperes or both; the box must be laid out. Gives back what was drawn. */
export function plot(box, trace) {
  const grid = { stroke: colour("--rule-2"), width: 1 };
  const axis = { stroke: colour("--ink-2"), font: '12px "Reading"', grid, ticks: grid };
  const series = [{ label: "s" }];
  const axes = [{ ...axis }];
  const data = [trace.t];
  if (trace.amps) {
    series.push({ label: "A", scale: "a", stroke: colour("--heat"), width: 2, value: (u, v) => (v == null ? "–" : `${v.toFixed(3)} A`) });
    axes.push({ ...axis, scale: "a", label: "A", size: 54 });
    data.push(trace.amps);
  }
  if (trace.volts) {
    series.push({ label: "V", scale: "v", stroke: colour("--act"), width: 1.6, dash: [6, 4], value: (u, v) => (v == null ? "–" : `${v.toFixed(2)} V`) });
    axes.push({ ...axis, scale: "v", label: "V", size: 50, side: trace.amps ? 1 : 3, grid: { show: !trace.amps } });
    data.push(trace.volts);
  }
  box.replaceChildren();
  return new window.uPlot({ width: box.clientWidth, height: 190, scales: { x: { time: false }, a: { range: (u, low, high) => [Math.min(0, low), Math.max(0.05, high * 1.1)] }, v: { range: (u, low, high) => [0, Math.max(1, high * 1.15)] } }, axes, series, cursor: { drag: { x: false, y: false } } }, data, box);
}
