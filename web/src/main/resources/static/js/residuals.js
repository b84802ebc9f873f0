// The table of registration pairs: what the server makes of the pixels in it.
import { told } from "./page.js";

let asked = 0;

/** Fits the pairs, shows each one's residual; null where something newer was asked meanwhile, or nothing came. */
export async function fitted(url) {
  const mine = ++asked;
  const laid = await told(url);
  if (!laid || mine !== asked) {
    return null;
  }
  document.querySelectorAll(".residual").forEach((cell, i) => {
    cell.textContent = `${laid.residualsMm[i].toFixed(2)} mm`;
    cell.closest("tr").classList.toggle("left-out", laid.leftOut === i);
  });
  document.getElementById("fit-words").textContent =
    `A place near the middle is known to ${laid.sigmaMm.toFixed(2)} mm. Keep the pairs to look at the frames with them.`;
  return laid;
}
