// The look tour: one key a finding; after each the board shows the next part.
import "./page.js";
import { turned } from "./asked.js";

document.addEventListener(
  "keydown",
  event => {
    const typing = event.target.closest("input, textarea, select, dialog");
    if (typing || event.ctrlKey || event.metaKey || event.altKey || event.key.length !== 1) {
      return;
    }
    const button = document.querySelector(`.findings [data-key="${CSS.escape(event.key)}"]`);
    if (button) {
      event.preventDefault();
      event.stopImmediatePropagation();
      button.click();
    }
  },
  { capture: true },
);

document.addEventListener("htmx:afterSettle", turned);
