// The live bench: the held key, numbers as they come, the picture over the board. The server decides; this only tells and shows.
import { rgb } from "./heat.js";
import { plot } from "./plot.js";

const root = document.getElementById("main");
const hold = document.getElementById("hold");
const canvas = document.getElementById("heat");
const over = document.getElementById("over");
const ALIVE_MS = 100;
const STEPS = 7;
const LEAST_K = 0.4;
const SVG = "http://www.w3.org/2000/svg";

let line = null;
let state = null;
let shapes = null;
let held = null;
let beat = 0;
let laying = false;
let again = 1000;
let warned = false;
let audio = null;
let sawSince = 0;
/** What the drawing over the picture was last made for. */
let marked = "";

const $ = id => document.getElementById(id);

function say(message) {
  if (line?.readyState === WebSocket.OPEN) {
    line.send(JSON.stringify(message));
  }
}

// ---- the held key ------------------------------------------------------------------------------

function press(what) {
  if (state?.powered) {
    say({ do: "tap" });
    return;
  }
  if (held || !state || line?.readyState !== WebSocket.OPEN) {
    return;
  }
  held = what;
  audio ??= new AudioContext();
  audio.resume();
  say(what === "hold" ? { do: "hold", step: chosen() } : { do: what });
  beat = setInterval(() => say({ do: "alive" }), ALIVE_MS);
  document.body.classList.add("holding");
}

function release() {
  if (held) {
    held = null;
    clearInterval(beat);
    say({ do: "release" });
    document.body.classList.remove("holding");
  }
}

/** What the one key does now: nothing flows into leads that nobody has tried. */
function next() {
  return state?.check?.ok ? "hold" : "check";
}

/** The step that was chosen here, until the bench says it back: a ladder that was on its way is not to undo it. */
let wanted = null;

function chosen() {
  const at = document.querySelector("#steps input:checked");
  return at ? Number(at.value) : (state?.steps.at ?? 0);
}

function holds(button, what) {
  button.addEventListener("pointerdown", event => {
    if (event.button === 0) {
      button.setPointerCapture(event.pointerId);
      press(what());
    }
  });
  for (const end of ["pointerup", "pointercancel", "lostpointercapture"]) {
    button.addEventListener(end, release);
  }
  button.addEventListener("contextmenu", event => event.preventDefault());
}

holds(hold, next);
for (const button of document.querySelectorAll("[data-hold]")) {
  holds(button, () => button.dataset.hold);
}

const pedal = () => localStorage.getItem("pedal");
let learning = false;

document.addEventListener("keydown", event => {
  if (learning) {
    learning = false;
    if (event.key !== "Escape") {
      localStorage.setItem("pedal", event.code);
    }
    pedalWords();
    event.preventDefault();
    event.stopPropagation();
    return;
  }
  // A step that was just chosen must not swallow the key; buttons are still pressed by Enter.
  const field = event.target.closest("select, input:not([type=radio]), textarea, dialog");
  if (held && event.code === "Space") {
    // The other hand may be typing: a key that is held repeats itself.
    event.preventDefault();
    return;
  }
  if (held && state?.byEye && event.key === "Enter" && !field) {
    say({ do: "mark", ref: "" });
    event.preventDefault();
    return;
  }
  const key = event.code === "Space" && !field || event.code === pedal();
  if (!key || event.ctrlKey || event.metaKey || event.altKey) {
    return;
  }
  event.preventDefault();
  if (!event.repeat) {
    const own = event.target.closest("[data-hold]");
    press(own ? own.dataset.hold : next());
  }
}, true);
document.addEventListener("keyup", event => {
  if (event.code === "Space" || event.code === pedal()) {
    if (held) {
      event.preventDefault();
    }
    release();
  }
}, true);
for (const gone of ["blur", "pagehide"]) {
  addEventListener(gone, release);
}
document.addEventListener("visibilitychange", () => document.hidden && release());

function pedalWords() {
  $("pedal-words").textContent = learning
    ? "Press the pedal now; Esc leaves it as it is."
    : pedal() ? `The pedal sends ${pedal()} and holds like the space bar.` : "A pedal that sends a key holds like the space bar.";
}

$("pedal").addEventListener("click", () => {
  learning = true;
  pedalWords();
});
pedalWords();

$("battery").addEventListener("click", () => say({ do: "battery" }));
$("read-diode").addEventListener("click", () => say({ do: "read", mode: "diode" }));
$("read-ohms").addEventListener("click", () => say({ do: "read", mode: "ohms" }));
$("walk-on").addEventListener("click", () => say({ do: "walk", on: !state?.walked }));
$("ends-on").addEventListener("click", () => say({ do: "ends", on: !state?.ends, ref: $("series")?.value ?? "" }));
$("series")?.addEventListener("change", event => say({ do: "ends", on: true, ref: event.target.value }));
for (const button of document.querySelectorAll("[data-means]")) {
  button.addEventListener("click", () => say({ do: "by-eye", means: state?.byEye?.means === button.dataset.means ? "" : button.dataset.means }));
}
$("mark-form").addEventListener("submit", event => {
  event.preventDefault();
  say({ do: "mark", ref: $("mark-ref").value });
  $("mark-ref").value = "";
});
$("keep-mark").addEventListener("click", () => say({ do: "keep-mark" }));
$("power-on").addEventListener("click", () => say({ do: "powered", on: !state?.powered }));
$("tap").addEventListener("click", () => say({ do: "tap" }));
$("again").addEventListener("click", () => say({ do: "again" }));
$("place").addEventListener("change", event => say({ do: "moved", place: Number(event.target.value) }));
$("snap").addEventListener("click", () => say({ do: "snap" }));
$("side").addEventListener("click", event => {
  const other = event.target.dataset.side === "TOP" ? "BOTTOM" : "TOP";
  event.target.dataset.side = other;
  say({ do: "side", side: other });
});
$("sound").addEventListener("click", event => {
  const on = event.target.getAttribute("aria-pressed") !== "true";
  event.target.setAttribute("aria-pressed", String(on));
});
$("lay").addEventListener("click", event => {
  laying = !laying;
  event.target.setAttribute("aria-pressed", String(laying));
  draw();
});

// ---- how things stand --------------------------------------------------------------------------

function number(value, digits) {
  return value === null || value === undefined ? "–" : value.toFixed(digits).replace(/^-(0\.?0*)$/, "$1");
}

function ohms(value) {
  return value === null || value === undefined ? "–" : value < 1 ? `${(1000 * value).toFixed(0)} m` : value.toFixed(value < 10 ? 2 : 0);
}

/** What is said already is not said again: the page is told how things stand many times a second, and each change is laid out and drawn. */
function tell(id, text) {
  const at = $(id);
  if (at.textContent !== text) {
    at.textContent = text;
  }
}

function items(list, made) {
  const same = list.childElementCount === made.length && made.every((li, i) => li.isEqualNode(list.children[i]));
  if (!same) {
    list.replaceChildren(...made);
  }
}

function item(text, attributes = {}) {
  const li = document.createElement("li");
  li.textContent = text;
  Object.assign(li.dataset, attributes);
  return li;
}

function show(now) {
  const before = state;
  state = now;
  tell("words", now.words);
  $("words").dataset.tone = now.tone;
  root.dataset.doing = now.doing;
  root.dataset.on = now.shown.on;
  tell("set-volts", now.set ? `${number(now.set.volts, 2)} V` : "–");
  tell("set-amps", now.set ? `${number(now.set.amps, 2)} A` : "–");
  if (now.set) {
    tell("set-over", `As the supply reads it back; ${now.set.over}.`);
  }
  tell("volts", number(now.shown.volts, 3));
  tell("amps", number(now.shown.amps, 3));
  tell("ohms", ohms(now.shown.ohms));
  tell("watts", number(now.shown.watts, 2));
  tell("hold-seconds", now.shown.seconds === null ? "" : `${now.shown.seconds.toFixed(1)} s`);
  const what = next();
  tell("hold-words", what === "check" ? "Hold: contact check" : now.walked ? "Hold, and walk" : now.ends ? `Hold: into ${now.ends.net || "no end"}` : `Hold: ${now.steps.steps[chosen()]?.set ?? ""}`);
  hold.disabled = line?.readyState !== WebSocket.OPEN;
  items($("there"), now.instruments.map(i => item(`${i.role}: ${i.state === "none" ? "none at this bench" : i.words || "there"}`, { state: i.state })));
  steps(now.steps, before?.steps);
  items($("kept"), now.kept.map(k => item(k)));
  named(now.named);
  walked(now.walked, before?.walked);
  ends(now.ends, before?.ends);
  powered(now.powered, before?.powered);
  byEye(now.byEye);
  warm(now.warm);
  const marks = JSON.stringify([now.warm, now.named.suspects]);
  if (marks !== marked) {
    marked = marks;
    draw();
  }
}

function steps(now, before) {
  if (wanted !== null && (now.at === wanted || wanted >= now.steps.length)) {
    wanted = null;
  }
  if (before && JSON.stringify(now.steps) === JSON.stringify(before.steps) && now.at === before.at) {
    return;
  }
  // Which one is chosen is no attribute: two lists may look equal and not be.
  $("steps").replaceChildren(...now.steps.map((s, i) => {
    const li = document.createElement("li");
    li.classList.toggle("done", s.done);
    const label = document.createElement("label");
    const radio = Object.assign(document.createElement("input"), { type: "radio", name: "step", value: String(i), checked: i === (wanted ?? now.at) });
    radio.addEventListener("change", () => {
      wanted = i;
      say({ do: "step", step: i });
      show(state);
    });
    const set = Object.assign(document.createElement("b"), { textContent: `${s.set}, ${s.time}` });
    const rest = Object.assign(document.createElement("span"), { textContent: `${s.done ? "tried · " : ""}${s.sees} · ${s.until}` });
    label.append(radio, set, rest);
    li.append(label);
    return li;
  }));
}

function named(now) {
  tell("calls", now.words || "The frames are looked into once a second while current flows.");
  items($("suspects"), now.suspects.map(suspect));
  tell("else", now.suspects.length ? `Elsewhere ${percent(now.elsewhere)}, nothing ${percent(now.none)}.` : "");
}

function suspect(s) {
  const li = item("");
  const ref = Object.assign(document.createElement("b"), { className: "rf", textContent: s.ref });
  const bar = document.createElement("meter");
  bar.value = s.probability;
  bar.textContent = percent(s.probability);
  bar.setAttribute("aria-label", `${s.ref}, ${percent(s.probability)}`);
  li.append(ref, bar, document.createTextNode(percent(s.probability)));
  return li;
}

/** The walk with the meter: which part is next, and what was read. */
function walked(now, before) {
  $("walk-on").setAttribute("aria-pressed", String(Boolean(now)));
  $("walked").hidden = !now;
  if (now) {
    tell("asked", now.asked || "nothing more");
    tell("walk-words", now.words);
    items($("walk-suspects"), now.suspects.map(suspect));
    items($("points"), now.points.map(p => item(p)));
    if (before && now.points.length > before.points.length) {
      beep(660);
    }
  }
}

/** A series part fed from one end, then from the other. */
function ends(now, before) {
  $("ends-on").setAttribute("aria-pressed", String(Boolean(now)));
  $("ends").hidden = !now;
  $("place").parentElement.hidden = Boolean(now);
  if (now) {
    document.querySelector(".asked-lead").hidden = !now.lead;
    tell("ends-net", now.net);
    tell("ends-lead", now.lead);
    tell("ends-words", now.words);
    items($("ends-fed"), now.fed.map(f => item(f)));
    if (before && now.fed.length > before.fed.length) {
      beep(660);
    }
  }
}

/** Warmth without a camera: the guide for it, and what showed so far. */
function byEye(now) {
  for (const button of document.querySelectorAll("[data-means]")) {
    button.setAttribute("aria-pressed", String(now?.means === button.dataset.means));
  }
  $("by-eye").hidden = !now;
  if (now) {
    tell("by-eye-guide", now.guide);
    items($("marks"), now.marks.map(m => item(m)));
    $("keep-mark").disabled = !now.marks.length;
  }
}

const GOES_ON = { charger: "Seen enough: keep what it drew", point: "Keep what it shows", elsewhere: "Ask again" };
const TONES = { bad: "bad", ok: "ok", look: "look" };

/** The board under power: the next point, what the meter shows, and what that means. */
function powered(now, before) {
  $("power-on").setAttribute("aria-pressed", String(Boolean(now)));
  $("powered").hidden = !now;
  for (const id of ["hold", "steps"]) {
    $(id).hidden = Boolean(now);
  }
  root.dataset.powered = String(Boolean(now));
  if (!now) {
    trace.forget();
    return;
  }
  if (!before) {
    $("powered").scrollIntoView({ block: "nearest" });
  }
  tell("power-asked", now.what === "elsewhere" ? "No more volts to read" : now.asked);
  tell("power-should", now.should);
  tell("power-volts", now.what === "point" ? `${number(now.volts, 3)} V` : "");
  tell("power-apart", now.what !== "point" || now.volts === null ? "" : now.apart === null ? "moving" : `rests, within ±${(1000 * now.apart).toFixed(0)} mV`);
  tell("power-step", now.verdict ? "" : `${now.sentence} ${now.why}`);
  const verdict = now.verdict ? `${now.verdict.headline}. ${now.verdict.meaning}` : "";
  tell("power-verdict", verdict);
  $("power-verdict").dataset.tone = TONES[now.verdict?.mark] ?? "plain";
  tell("power-trace", now.trace);
  tell("tap-words", now.verdict ? "Go on" : GOES_ON[now.what]);
  $("again").hidden = !now.verdict;
  if (now.verdict && !before?.verdict) {
    beep(now.verdict.mark === "bad" ? 330 : 660);
  }
}

/** The inline meter's trace: drawn once, then fed. */
const trace = {
  drawn: null,
  show(told) {
    if (this.drawn) {
      this.drawn.setData([told.t, told.amps, told.volts]);
    } else if (told.t.length > 1) {
      this.drawn = plot($("power-plot"), { t: told.t, amps: told.amps, volts: told.volts });
    }
  },
  forget() {
    this.drawn = null;
    $("power-plot").replaceChildren();
  },
};
document.addEventListener("themed", () => trace.forget());

function beep(hertz) {
  if (audio && $("sound").getAttribute("aria-pressed") === "true") {
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    tone.frequency.value = hertz;
    loud.gain.value = 0.15;
    tone.connect(loud).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.2);
  }
}

function percent(p) {
  return p > 0.99 ? "> 99 %" : p < 0.01 ? "< 1 %" : `${Math.round(100 * p)} %`;
}

/** Seen and heard when a place begins to warm. */
function warm(now) {
  tell("warm", now ? now.words : "");
  $("warm").dataset.what = now?.what ?? "";
  if (now && !warned) {
    beep(now.what === "suspect" ? 880 : 330);
  }
  warned = Boolean(now);
}

// ---- the picture -------------------------------------------------------------------------------

let ink = null;
document.addEventListener("themed", () => (ink = null));

const HEIGHT = 0;
const NO_VALUE = 255;

/** What it is, its size, lowest and highest value, and its cells between them. */
function unpacked(bytes) {
  const view = new DataView(bytes);
  return { kind: view.getInt32(0), w: view.getInt32(4), h: view.getInt32(8), low: view.getFloat32(12), high: view.getFloat32(16), cells: new Uint8Array(bytes, 20) };
}

/** Steps of one ink, as lines on a map: where it is more is read by the edges, whatever the eye does with the shade. */
function painted(on, p, colour, step) {
  if (on.width !== p.w || on.height !== p.h) {
    Object.assign(on, { width: p.w, height: p.h });
  }
  const context = on.getContext("2d");
  const image = context.createImageData(p.w, p.h);
  // A byte can say no more than 256 things: each is mixed once.
  const inks = new Uint32Array(NO_VALUE + 1);
  const bytes = new Uint8Array(inks.buffer);
  for (let cell = 0; cell < NO_VALUE; cell++) {
    bytes.set(colour, 4 * cell);
    bytes[4 * cell + 3] = Math.round(215 * step(p.low + (p.high - p.low) * cell / (NO_VALUE - 1)) / STEPS);
  }
  const pixels = new Uint32Array(image.data.buffer);
  for (let i = 0; i < p.cells.length; i++) {
    pixels[i] = inks[p.cells[i]];
  }
  context.putImageData(image, 0, 0);
}

function picture(bytes) {
  const p = unpacked(bytes);
  ink ??= { heat: rgb("--heat"), cold: rgb("--act") };
  if (p.kind !== HEIGHT) {
    lag(p);
    return;
  }
  if (canvas.width !== p.w || canvas.height !== p.h) {
    canvas.parentElement.style.setProperty("aspect-ratio", `${p.w} / ${p.h}`);
  }
  const most = Math.max(LEAST_K, p.high);
  painted(canvas, p, ink.heat, kelvin => Math.min(STEPS, Math.floor(STEPS * Math.max(0, kelvin - 0.08) / most)));
  $("no-eye").hidden = true;
  tell("scale", `warmest +${Math.max(0, p.high).toFixed(2)} K, ${STEPS} steps to ${most.toFixed(1)} K`);
  sawSince++;
  root.dataset.pictures = String(sawSince);
  requestAnimationFrame(() => say({ do: "picture" }));
}

/** How late each place swings with the pulses: the darker the sooner. */
function lag(p) {
  $("lag").hidden = false;
  painted($("lag-picture"), p, ink.cold, late => Math.max(1, STEPS - Math.floor(STEPS * (late - p.low) / Math.max(0.02, p.high - p.low))));
  tell("lag-words", `How late each place follows the pulses, 0 to ${(1000 * (p.high - p.low)).toFixed(0)} ms: the darkest first. What is heated follows at once; what only stands near comes later.`);
}

function el(name, attributes) {
  const made = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(attributes)) {
    made.setAttribute(key, value);
  }
  return made;
}

const points = corners => corners.map(c => c.join(",")).join(" ");

function draw() {
  if (!shapes) {
    return;
  }
  over.setAttribute("viewBox", `-0.5 -0.5 ${shapes.width} ${shapes.height}`);
  const made = [el("polygon", { class: "outline", points: points(shapes.outline) })];
  for (const part of shapes.behind) {
    made.push(el("polygon", { class: "part behind", points: points(part.corners) }));
  }
  for (const part of shapes.parts) {
    made.push(el("polygon", { class: part.rail ? "part rail" : "part", points: points(part.corners) }));
  }
  const leading = new Map((state?.named.suspects ?? []).filter((s, i) => i === 0 || s.probability >= 0.01).slice(0, 3).map((s, i) => [s.ref, i + 1]));
  const size = shapes.width / 46;
  for (const part of [...shapes.parts, ...shapes.behind].filter(p => leading.has(p.ref))) {
    const x = part.corners.reduce((sum, c) => sum + c[0], 0) / part.corners.length;
    const y = part.corners.reduce((sum, c) => sum + c[1], 0) / part.corners.length;
    const text = el("text", { class: "name", x: x + size * 0.6, y: y - size * 0.5, "font-size": size });
    text.textContent = `${leading.get(part.ref)} ${part.ref}`;
    made.push(text);
  }
  if (state?.warm) {
    made.push(el("circle", { class: `warm ${state.warm.what}`, cx: state.warm.x, cy: state.warm.y, r: size * 1.1 }));
  }
  if (laying) {
    shapes.pairs.forEach((p, i) => made.push(handle(p, i, size)));
  }
  over.replaceChildren(...made);
}

/** A corner of the board, to be dragged into place; arrow keys move it too. */
function handle(pair, index, size) {
  const dot = el("circle", { class: "handle", cx: pair[0], cy: pair[1], r: size * 0.7, tabindex: 0, role: "slider", "aria-label": `Pair ${index + 1}`, "aria-valuetext": `${pair[0].toFixed(1)}, ${pair[1].toFixed(1)}` });
  dot.addEventListener("pointerdown", event => {
    dot.setPointerCapture(event.pointerId);
    dot.onpointermove = move => {
      const at = new DOMPoint(move.clientX, move.clientY).matrixTransform(over.getScreenCTM().inverse());
      pair[0] = at.x;
      pair[1] = at.y;
      dot.setAttribute("cx", at.x);
      dot.setAttribute("cy", at.y);
    };
  });
  dot.addEventListener("pointerup", () => {
    dot.onpointermove = null;
    say({ do: "lay", pixels: shapes.pairs });
  });
  dot.addEventListener("keydown", event => {
    const by = { ArrowLeft: [-0.5, 0], ArrowRight: [0.5, 0], ArrowUp: [0, -0.5], ArrowDown: [0, 0.5] }[event.key];
    if (by) {
      event.preventDefault();
      pair[0] += by[0];
      pair[1] += by[1];
      say({ do: "lay", pixels: shapes.pairs });
    }
  });
  return dot;
}

// ---- the line to the bench ---------------------------------------------------------------------

function connect() {
  if (!root.dataset.bench) {
    tell("words", "Choose a bench first.");
    return;
  }
  line = new WebSocket(`${location.protocol === "https:" ? "wss" : "ws"}://${location.host}${root.dataset.line}?bench=${root.dataset.bench}`);
  line.binaryType = "arraybuffer";
  line.onopen = () => say({ do: "picture" });
  line.onmessage = event => {
    if (event.data instanceof ArrayBuffer) {
      picture(event.data);
      return;
    }
    const told = JSON.parse(event.data);
    if (told.state) {
      again = 1000;
      show(told.state);
    } else if (told.trace) {
      if (!$("powered").hidden) {
        trace.show(told.trace);
      }
    } else if (told.shapes) {
      shapes = told.shapes;
      tell("eye-side", { guess: "Camera, not laid yet", unlaid: "Camera, not laid: lay it by hand", snapped: "Camera, laid by its edges", earlier: "Camera, as it lay before", hand: "Camera, laid by hand" }[shapes.by] ?? "Camera");
      draw();
    } else if (told.refused) {
      tell("words", `Not opened: ${told.refused}.`);
      $("words").dataset.tone = "bad";
    }
  };
  line.onclose = () => {
    release();
    hold.disabled = true;
    if (state) {
      tell("words", "The line to the bench is gone, its output is switched off. Calling again …");
      $("words").dataset.tone = "bad";
    }
    setTimeout(connect, again);
    again = Math.min(10_000, again * 2);
  };
}

connect();
