// The entry line: says what a line would be kept as, while it is typed.
const WAIT_MS = 180;
let timer = 0;
let asked = 0;

document.addEventListener("input", event => {
  if (event.target.id !== "line") {
    return;
  }
  clearTimeout(timer);
  timer = setTimeout(() => echo(event.target), WAIT_MS);
});

async function echo(input) {
  const output = document.getElementById("echo");
  const mine = ++asked;
  if (!input.value.trim()) {
    output.textContent = "";
    return;
  }
  const answer = await fetch(`${input.form.dataset.echo}?line=${encodeURIComponent(input.value)}`);
  const told = await answer.json();
  if (mine === asked) {
    output.textContent = told.words;
    output.classList.toggle("bad-words", !told.understood);
  }
}
