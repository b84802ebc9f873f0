// Two captures in the board's axes: one cross for both.
import { BoardView } from "./board.js";

const SVG = "http://www.w3.org/2000/svg";
const boards = [...document.querySelectorAll("#beside svg.board")];
const crosses = boards.map(svg => {
  const cross = document.createElementNS(SVG, "path");
  cross.setAttribute("class", "cross");
  svg.append(cross);
  return cross;
});
const words = document.getElementById("cross-words");
const ARM_MM = 2.5;

const views = boards.map(svg => new BoardView(svg));

boards.forEach((svg, i) => {
  svg.addEventListener("pointermove", event => {
    const [x, y] = views[i].place(event);
    for (const cross of crosses) {
      cross.setAttribute("d", `M${x - ARM_MM} ${y}H${x + ARM_MM}M${x} ${y - ARM_MM}V${y + ARM_MM}`);
    }
    const part = event.target.closest(".part");
    words.textContent = part ? part.getAttribute("aria-label") : "";
  });
});
document.getElementById("beside").dataset.ready = "true";
