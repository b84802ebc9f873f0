// The entry line: says what a line would be kept as, completes names, takes a pasted block.
import { on, told } from "./page.js";

const WAIT_MS = 180;
const OFFERED = 6;
let timer = 0;
let asked = 0;

const line = () => document.getElementById("line");

document.addEventListener("input", event => {
  if (event.target.id !== "line") {
    return;
  }
  if (!/^\s*fix\s/i.test(event.target.value)) {
    event.target.form.elements.seen.value = "";
  }
  clearTimeout(timer);
  timer = setTimeout(() => echo(event.target), WAIT_MS);
  offer(event.target);
});

async function echo(input) {
  const mine = ++asked;
  if (!input.value.trim()) {
    say("", true);
    return;
  }
  const read = await told(`${input.form.dataset.echo}?line=${encodeURIComponent(input.value)}`);
  if (read && mine === asked) {
    say(read.words, read.understood);
  }
}

/** Sought anew each time: the answer to a line that was sent brings an echo of its own. */
function say(words, good) {
  const output = document.getElementById("echo");
  output.textContent = words;
  output.classList.toggle("bad-words", !good);
}

/** The word under the caret and the names that begin with it. */
function matches(input) {
  const upTo = input.value.slice(0, input.selectionStart);
  const word = upTo.match(/[^\s]*$/)[0];
  if (word.length < 2 || /^[.\d]/.test(word)) {
    return { word, names: [] };
  }
  const start = word.toLowerCase();
  const names = input.form.dataset.words.split(" ").filter(n => n.toLowerCase().startsWith(start) && n.toLowerCase() !== start);
  return { word, names };
}

function offer(input) {
  const { names } = matches(input);
  document.getElementById("completions").textContent = names.length ? `Tab: ${names.slice(0, OFFERED).join(" ")}` : "";
}

document.addEventListener("keydown", event => {
  if (event.target.id !== "line" || event.key !== "Tab" || event.shiftKey) {
    return;
  }
  const { word, names } = matches(event.target);
  if (names.length) {
    const at = event.target.selectionStart;
    event.target.setRangeText(`${names[0]} `, at - word.length, at, "end");
    event.target.dispatchEvent(new Event("input", { bubbles: true }));
    event.preventDefault();
  }
});

document.addEventListener("paste", event => {
  const text = event.clipboardData?.getData("text") ?? "";
  if (event.target.id !== "line" || !/\S\s*\n\s*\S/.test(text)) {
    return;
  }
  event.preventDefault();
  const form = event.target.form;
  htmx.ajax("POST", form.getAttribute("hx-post"), { source: form, target: form.getAttribute("hx-target"), select: form.getAttribute("hx-select"), swap: "outerHTML", values: { line: text } });
});

document.addEventListener("htmx:afterRequest", event => {
  const { elt, xhr, successful } = event.detail;
  if (successful && elt.matches(".entry-form") && xhr.getResponseHeader("X-Kept") !== "false") {
    if (line().value !== (event.detail.requestConfig.parameters.line ?? line().value)) {
      // The next line is being typed already; what was said of it went with the answer.
      echo(line());
      return;
    }
    clearTimeout(timer);
    asked++;
    line().value = "";
    line().form.elements.seen.value = "";
    say("", true);
    document.getElementById("completions").textContent = "";
  }
});

on("fill", button => {
  const input = line();
  input.value = button.dataset.fill;
  // What is corrected is the entry as it was shown here, not what somebody else has made of it meanwhile.
  input.form.elements.seen.value = button.dataset.version ?? "";
  input.focus();
  input.setSelectionRange(input.value.length, input.value.length);
  input.dispatchEvent(new Event("input", { bubbles: true }));
});
on("grammar", () => document.getElementById("grammar").showModal());
