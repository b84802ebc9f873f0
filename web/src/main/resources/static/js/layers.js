// What of a board is shown: kinds of parts, references, the photograph, the other side seen through.
const svgs = () => document.querySelectorAll("svg.board");

/** The other side's parts, mirrored under this side's own. */
function through(svg, on) {
  svg.querySelector(".through")?.remove();
  const other = document.getElementById(`board-${svg.dataset.side === "TOP" ? "BOTTOM" : "TOP"}-parts`);
  if (!on || !other) {
    return;
  }
  const use = document.createElementNS("http://www.w3.org/2000/svg", "use");
  use.setAttribute("class", "through");
  use.setAttribute("href", `#${other.id}`);
  use.setAttribute("aria-hidden", "true");
  const outline = svg.querySelector(".outline").getBBox();
  use.setAttribute("transform", `matrix(-1 0 0 1 ${outline.x * 2 + outline.width} 0)`);
  svg.querySelector(".parts").before(use);
}

for (const box of document.querySelectorAll("[data-layer]")) {
  const apply = () => {
    for (const svg of svgs()) {
      if (box.dataset.layer === "through") {
        through(svg, box.checked);
      } else {
        svg.classList.toggle(`no-${box.dataset.layer}`, !box.checked);
      }
    }
  };
  box.addEventListener("change", apply);
  apply();
}
