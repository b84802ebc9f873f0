// The survey sheet: after each reading the field is ready again and the board shows the next place.
document.addEventListener("htmx:afterSettle", () => {
  const form = document.querySelector(".ask[data-side]");
  document.getElementById("value")?.focus();
  if (!form) {
    return;
  }
  for (const box of document.querySelectorAll(".side")) {
    box.hidden = box.dataset.side !== form.dataset.side;
  }
  document.getElementById("side-name").textContent = form.dataset.side === "TOP" ? "Top side" : "Bottom side, turned over";
  const nets = ` ${form.dataset.net} `;
  for (const part of document.querySelectorAll("svg.board .part")) {
    const on = part.getAttribute("aria-label").split(" · ").slice(2).some(p => ` ${p.replaceAll(",", " ")} `.includes(nets));
    part.classList.toggle("rail", on);
  }
});
