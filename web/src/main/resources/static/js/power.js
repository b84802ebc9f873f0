// Traces: volts and amperes over time.
import { told } from "./page.js";
import { plot } from "./plot.js";

async function draw(box) {
  const trace = await told(box.dataset.trace);
  if (trace && window.uPlot) {
    plot(box, trace);
  }
}

function all() {
  for (const box of document.querySelectorAll(".trace-plot")) {
    if (!box.firstChild) {
      draw(box);
    }
  }
}

addEventListener("load", all);
document.addEventListener("htmx:afterSettle", all);
document.addEventListener("themed", () => document.querySelectorAll(".trace-plot").forEach(draw));
