// A new job: a device that is known brings its board with it; Ctrl-Enter opens it from anywhere in the form.
import "./page.js";

const form = document.getElementById("new-form");
const device = document.getElementById("device");
const board = document.getElementById("board");

device.addEventListener("change", () => {
  const known = [...board.options].find(o => o.dataset.device === device.value.trim());
  if (known && (board.value === "" || board.selectedOptions[0].dataset.device)) {
    board.value = known.value;
  }
});
form.addEventListener("keydown", event => {
  if (event.key === "Enter" && (event.ctrlKey || event.metaKey)) {
    event.preventDefault();
    form.requestSubmit();
  }
});
