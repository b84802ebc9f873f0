// The survey sheet: after each reading the field is ready again and the board shows the next place.
import { turned } from "./asked.js";

document.addEventListener("htmx:afterSettle", () => {
  document.getElementById("value")?.focus();
  const form = turned();
  if (!form) {
    return;
  }
  const nets = ` ${form.dataset.net} `;
  for (const part of document.querySelectorAll("svg.board .part")) {
    const on = part.getAttribute("aria-label").split(" · ").slice(2).some(p => ` ${p.replaceAll(",", " ")} `.includes(nets));
    part.classList.toggle("rail", on);
  }
});
