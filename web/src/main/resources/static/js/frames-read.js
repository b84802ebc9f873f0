// How uploaded frames are to be read: the preview follows the turn, only the chosen scale's fields are shown.
const form = document.getElementById("reading");
const preview = document.getElementById("preview");
const frame = document.getElementById("preview-frame");

function show() {
  preview.src = `${preview.dataset.base}?turn=${form.elements.turn.value}&frame=${frame.value}`;
}

function scales() {
  for (const part of form.querySelectorAll("[data-scale]")) {
    part.hidden = part.dataset.scale !== form.elements.scale.value;
  }
}

form.elements.turn.addEventListener("change", show);
frame.addEventListener("change", show);
form.addEventListener("change", scales);
scales();
