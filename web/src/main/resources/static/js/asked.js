// A page that asks for one place after another: the board shows the side on which the next one is.

/** @returns the form that asks, null when nothing is left */
export function turned() {
  const form = document.querySelector(".ask[data-side]");
  if (form) {
    for (const box of document.querySelectorAll(".side")) {
      box.hidden = box.dataset.side !== form.dataset.side;
    }
    document.getElementById("side-name").textContent = form.dataset.side === "TOP" ? "Top side" : "Bottom side, turned over";
  }
  return form;
}
