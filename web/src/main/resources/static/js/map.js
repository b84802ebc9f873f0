// A board's map on its photographs: corners, then parts by click and letter, nets by brush, undo.
import { BoardView } from "./board.js";
import { csrf, needed, on, told } from "./page.js";

const SVG = "http://www.w3.org/2000/svg";
const MARGIN_MM = 2.5;
const KEYS = { c: "CAPACITOR", r: "RESISTOR", l: "INDUCTOR", k: "FERRITE", d: "DIODE", v: "TVS", q: "MOSFET", f: "FUSE", u: "IC", j: "CONNECTOR", y: "CRYSTAL" };
const TWO_PINS = new Set(["CAPACITOR", "RESISTOR", "INDUCTOR", "FERRITE", "DIODE", "TVS", "FUSE"]);
const BY_CORNERS = new Set(["IC", "CONNECTOR"]);
const BODY = { MOSFET: [2.9, 1.4], CRYSTAL: [3.2, 2.5] };
const NUDGE_MM = 0.25;
const LEAP = 8;

const page = document.getElementById("map-page");
const svg = document.getElementById("map");
const words = document.getElementById("map-words");
const at = id => document.getElementById(id);
const base = `/boards/${page.dataset.board}/map`;

let state = await needed(`${base}/state`, words);
let side = page.dataset.side;
let mode = "none";
let cursor = [0, 0];
let found = [];
let corner = null;
let row = null;
let stroke = null;
let holding = null;
let holes = null;
let waiting = null;
let last = { kind: "CAPACITOR", rot: 0 };
let dragged = null;
let points = { corners: [], edges: [], ruler: [] };

function element(name, attributes, ...children) {
  const node = document.createElementNS(SVG, name);
  Object.entries(attributes).forEach(([k, v]) => node.setAttribute(k, v));
  node.append(...children);
  return node;
}

const layers = Object.fromEntries(["photo", "found", "parts", "marks"].map(name => [name, element("g", { class: name === "parts" ? "map-parts parts" : `map-${name}` })]));
svg.setAttribute("viewBox", "0 0 100 70");
svg.append(...Object.values(layers));

/** Pans and zooms as every board does, but leaves keys and clicks to the map. */
class MapView extends BoardView {
  key() {}
  down(event) {
    if (event.target.closest(".handle") || (mode === "parts" && painting())) {
      return;
    }
    super.down(event);
  }
}
const view = new MapView(svg);
const painting = () => at("paint").getAttribute("aria-pressed") === "true";
const of = () => state.sides[side];
const say = text => { words.textContent = text; };

// Board axes to the picture's and back: y up, the bottom turned over.
const sx = x => side === "BOTTOM" ? state.widthMm - x : x;
const sy = y => state.heightMm - y;
const toMm = ([x, y]) => ({ xMm: round(side === "BOTTOM" ? state.widthMm - x : x), yMm: round(state.heightMm - y) });
const round = v => Math.round(v * 1000) / 1000;

async function send(path, body) {
  const answer = await fetch(`${base}/${path}`, { method: "POST", headers: { "Content-Type": "application/json", ...csrf() }, body: body === undefined ? "" : JSON.stringify(body) });
  const told = await answer.json().catch(() => ({ problem: "The server did not take it." }));
  if (!answer.ok) {
    say(`${told.problem ?? "The server did not take it"}.`);
    return false;
  }
  state = told;
  draw();
  return true;
}

const step = body => send("steps", body);

// --- drawing

function draw() {
  const one = of();
  const next = !one.photo ? "none" : one.laid && mode !== "corners" ? "parts" : mode === "corners" && points.photo === one.photo ? "corners" : one.laid ? "parts" : "corners";
  if (next !== mode) {
    enter(next);
  }
  at("bring").hidden = false;
  at("bring-words").textContent = side.toLowerCase();
  at("bring-side").value = side;
  document.querySelectorAll(".bring-side").forEach(i => { i.value = side; });
  at("squaring").hidden = mode !== "corners";
  at("putting").hidden = mode !== "parts";
  for (const id of ["paint", "propose", "again"]) {
    at(id).hidden = mode !== "parts";
  }
  at("holes").hidden = mode !== "parts" || !state.sides.TOP.laid || !state.sides.BOTTOM.laid;
  at("keep-form").hidden = !Object.values(state.sides).some(s => s.laid);
  at("undo").disabled = state.steps === 0;
  document.querySelectorAll("[data-side-of]").forEach(b => b.setAttribute("aria-pressed", String(b.dataset.sideOf === side)));
  if (mode === "parts") {
    drawParts();
    drawLists();
  } else if (mode === "none") {
    say(`No photograph of the ${side.toLowerCase()} yet: choose one, drop it here, or paste it.`);
  }
  drawMarks();
  view.layout();
}

function enter(next) {
  mode = next;
  layers.photo.replaceChildren();
  layers.parts.replaceChildren();
  layers.found.replaceChildren();
  found = [];
  const one = of();
  if (mode === "corners") {
    layers.photo.append(element("image", { href: `${base}/photos/${one.photo}.jpg`, x: -0.5, y: -0.5, width: one.widthPx, height: one.heightPx }));
    home([-0.03 * one.widthPx, -0.03 * one.heightPx, 1.06 * one.widthPx, 1.06 * one.heightPx]);
    beginCorners(one);
    say("Drag each handle to its corner; arrows move the one that has the focus.");
  } else if (mode === "parts") {
    const [w, h] = [state.widthMm + 2 * MARGIN_MM, state.heightMm + 2 * MARGIN_MM];
    layers.photo.append(element("image", { href: `${base}/${side}.jpg?v=${one.version}`, x: -MARGIN_MM, y: -MARGIN_MM, width: w, height: h, preserveAspectRatio: "none" }));
    home([-MARGIN_MM, -MARGIN_MM, w, h]);
    cursor = [state.widthMm / 2, state.heightMm / 2];
    say("Point at a part and press its letter.");
    seek();
  }
}

function home(box) {
  view.home = box;
  view.whole();
}

function drawParts() {
  layers.parts.replaceChildren(...state.parts.filter(p => p.side === side).map(part => {
    const turn = side === "BOTTOM" ? part.rotDeg : -part.rotDeg;
    const [w, h] = Math.round(part.rotDeg / 90) % 2 ? [part.hMm, part.wMm] : [part.wMm, part.hMm];
    const g = element("g", { class: "part", transform: `translate(${sx(part.xMm)} ${sy(part.yMm)}) rotate(${turn})`, "data-ref": part.ref, "data-w": w, "data-h": h, role: "img", "aria-label": tip(part) },
      element("rect", { x: -part.wMm / 2, y: -part.hMm / 2, width: part.wMm, height: part.hMm }),
      element("text", { class: "ref", transform: `rotate(${-turn})` }));
    g.lastChild.textContent = part.ref;
    return g;
  }), ...state.parts.filter(p => p.side === side).flatMap(part => part.pins.map(pin =>
    element("circle", { class: `pad ${pin.net === net() ? "mine" : ground(pin.net) ? "ground" : "other"}`, cx: sx(pin.xMm), cy: sy(pin.yMm), r: Math.min(0.28, 0.3 * Math.min(part.wMm, part.hMm)) }))));
}

const tip = part => `${part.ref}${part.value ? ` ${part.value}` : ""}: ${part.pins.map(p => p.net).join(" – ") || "no net yet"}`;
const ground = name => state.nets.find(n => n.name === name)?.kind === "GROUND";
const net = () => at("net").value.trim();

function drawLists() {
  const here = state.parts.filter(p => p.side === side);
  at("count").textContent = here.length;
  at("placed").replaceChildren(...here.slice().reverse().map(part => {
    const item = document.createElement("li");
    item.textContent = tip(part);
    return item;
  }));
  at("net-list").replaceChildren(...state.nets.map(n => {
    const option = document.createElement("option");
    option.value = n.name;
    return option;
  }));
  at("waiting-box").hidden = !state.waiting.length;
  at("waiting").replaceChildren(...state.waiting.map(w => {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "small";
    button.textContent = `${w.ref} · ${w.words}`;
    button.dataset.ref = w.ref;
    button.setAttribute("aria-pressed", String(waiting?.ref === w.ref));
    return button;
  }));
}

/** What moves: the cursor, a corner, a row, the brush's stroke, handles. */
function drawMarks() {
  const marks = [];
  if (mode === "corners") {
    const named = [...points.corners.map((p, i) => [p, String(i + 1), "corners", i]), ...(at("bowed").checked ? points.edges.map((p, i) => [p, "·", "edges", i]) : []), ...(at("length").value ? points.ruler.map((p, i) => [p, "R", "ruler", i]) : [])];
    marks.push(element("polygon", { class: "quad", points: points.corners.map(p => p.join(",")).join(" ") }));
    if (at("length").value) {
      marks.push(element("path", { class: "quad", d: `M${points.ruler[0].join(" ")}L${points.ruler[1].join(" ")}` }));
    }
    for (const [p, name, kind, index] of named) {
      const g = element("g", { class: "handle fixed", "data-x": p[0], "data-y": p[1], "data-kind": kind, "data-index": index, tabindex: 0, role: "slider", "aria-label": kind === "corners" ? `Corner ${name}` : kind === "edges" ? `Edge ${index + 1}` : `Ruler's end ${index + 1}`, "aria-valuenow": Math.round(p[0]), "aria-valuetext": `${Math.round(p[0])} across, ${Math.round(p[1])} down` },
        element("circle", { r: kind === "corners" ? 13 : 10 }), element("path", { d: "M-5 0H5M0 -5V5" }), element("text", { x: 15, y: -9 }));
      g.lastChild.textContent = name;
      marks.push(g);
    }
  } else if (mode === "parts") {
    marks.push(element("path", { class: "cursor fixed", "data-x": cursor[0], "data-y": cursor[1], d: "M-11 0H-3M3 0H11M0 -11V-3M0 3V11" }));
    if (corner) {
      const [x, y] = corner.from;
      marks.push(element("rect", { class: "quad", x: Math.min(x, cursor[0]), y: Math.min(y, cursor[1]), width: Math.abs(cursor[0] - x), height: Math.abs(cursor[1] - y) }));
    }
    if (row) {
      const to = row.to ?? cursor;
      for (let i = 0; i < (row.count ?? 2); i++) {
        const share = i / ((row.count ?? 2) - 1);
        marks.push(element("circle", { class: "quad", cx: row.from[0] + share * (to[0] - row.from[0]), cy: row.from[1] + share * (to[1] - row.from[1]), r: 0.4 }));
      }
    }
    if (stroke) {
      marks.push(element("polyline", { class: "brush", points: stroke.map(p => p.join(",")).join(" ") }));
    }
    (holes?.[side] ?? []).forEach((p, i) => {
      const g = element("g", { class: "handle fixed", "data-x": sx(p.xMm), "data-y": sy(p.yMm) }, element("circle", { r: 9 }), element("text", { x: 12, y: -6 }));
      g.lastChild.textContent = "AB"[i];
      marks.push(g);
    });
  }
  const focus = document.activeElement?.closest?.(".handle")?.dataset;
  layers.marks.replaceChildren(...marks);
  if (focus) {
    layers.marks.querySelector(`.handle[data-kind="${focus.kind}"][data-index="${focus.index}"]`)?.focus();
  }
}

function marks() {
  drawMarks();
  const k = view.mmPerPx;
  for (const g of layers.marks.querySelectorAll(".fixed")) {
    g.setAttribute("transform", `translate(${g.dataset.x} ${g.dataset.y}) scale(${k.toFixed(5)})`);
  }
}

// --- corners

function beginCorners(one) {
  const [w, h] = [one.widthPx, one.heightPx];
  const quad = [[0.1, 0.1], [0.9, 0.1], [0.9, 0.9], [0.1, 0.9]].map(([x, y]) => [(side === "BOTTOM" ? 1 - x : x) * w, y * h]);
  points = { photo: one.photo, corners: one.corners.length ? one.corners.map(p => [p.xPx, p.yPx]) : quad, ruler: [[0.3 * w, 0.5 * h], [0.7 * w, 0.5 * h]], edges: [] };
  points.edges = points.corners.map((p, i) => [0, 1].map(c => (p[c] + points.corners[(i + 1) % 4][c]) / 2));
  if (state.widthMm && (state.sides.TOP.laid || state.sides.BOTTOM.laid)) {
    at("width").value = round(state.widthMm);
    at("height").value = round(state.heightMm);
  }
}

const px = list => list.map(([x, y]) => ({ xPx: round(x), yPx: round(y) }));

at("square-form").addEventListener("submit", async event => {
  event.preventDefault();
  const one = of();
  const length = Number(at("length").value);
  const [width, height] = [Number(at("width").value), Number(at("height").value)];
  if (!length && !(width && height)) {
    say("Type the board's width and height, or a length on it and drag the two R handles to its ends.");
    return;
  }
  const known = state.sides[side === "TOP" ? "BOTTOM" : "TOP"].laid;
  mode = "none";
  const taken = await send("square", { side, photo: one.photo, widthPx: one.widthPx, heightPx: one.heightPx, corners: px(points.corners), edges: at("bowed").checked ? px(points.edges) : [], ruler: length && !known ? px(points.ruler) : [], lengthMm: length || 0, widthMm: width || 0, heightMm: height || 0 });
  if (!taken) {
    mode = "corners";
  }
});
for (const id of ["length", "bowed"]) {
  at(id).addEventListener("input", marks);
}
at("known").addEventListener("change", () => {
  at("length").value = at("known").value;
  marks();
});
at("again").addEventListener("click", () => {
  enter("corners");
  draw();
});

// --- parts

async function seek() {
  const list = await told(`${base}/found?side=${side}`);
  if (list && mode === "parts") {
    found = list;
    drawFound();
    if (proposing()) {
      tellProposed();
    }
  }
}

const proposing = () => at("propose").getAttribute("aria-pressed") === "true";
const tellProposed = () => say(proposing() ? `${free().length} bodies proposed: a click takes one as it is guessed, a letter as you say.` : "Point at a part and press its letter.");

function drawFound() {
  const shown = proposing();
  layers.found.replaceChildren(...(shown ? free().map(f => element("rect", { x: -f.wMm / 2, y: -f.hMm / 2, width: f.wMm, height: f.hMm, transform: `translate(${sx(f.xMm)} ${sy(f.yMm)}) rotate(${side === "BOTTOM" ? f.rotDeg : -f.rotDeg})` })) : []));
}

const free = () => found.filter(f => !state.parts.some(p => p.side === side && (covers(p, f, 0) || covers(f, p, 0))));

function covers(body, place, beside) {
  const turn = body.rotDeg * Math.PI / 180;
  const [dx, dy] = [place.xMm - body.xMm, place.yMm - body.yMm];
  return Math.abs(Math.cos(turn) * dx + Math.sin(turn) * dy) <= body.wMm / 2 + beside && Math.abs(-Math.sin(turn) * dx + Math.cos(turn) * dy) <= body.hMm / 2 + beside;
}

const under = place => state.parts.filter(p => p.side === side && covers(p, place, 0.2)).sort((a, b) => a.wMm * a.hMm - b.wMm * b.hMm)[0];
const seen = place => free().filter(f => covers(f, place, 0.15)).sort((a, b) => a.wMm * a.hMm - b.wMm * b.hMm)[0];

function put(kind, body, name = "") {
  const ref = name || at("ref").value.trim();
  at("ref").value = "";
  last = { kind, rot: body.rotDeg, wMm: body.wMm, hMm: body.hMm, packageName: body.packageName ?? "" };
  return step({ step: "put", side, ref, kind, packageName: body.packageName ?? "", at: { xMm: round(body.xMm), yMm: round(body.yMm) }, wMm: round(body.wMm), hMm: round(body.hMm), rotDeg: body.rotDeg, net: name ? "" : net(), other: "" });
}

/** A body of the usual size, or as the picture shows it. */
function body(kind, place) {
  const shown = seen(place);
  if (shown && (TWO_PINS.has(kind) || shown.wMm * shown.hMm > 1)) {
    return shown;
  }
  const size = at("size").selectedOptions[0].dataset;
  const [wMm, hMm] = TWO_PINS.has(kind) ? [Number(size.w), Number(size.h)] : BODY[kind] ?? [4, 4];
  const like = last.kind === kind && last.wMm ? last : { rot: last.rot, wMm, hMm };
  return { ...place, wMm: like.wMm, hMm: like.hMm, rotDeg: like.rot, packageName: TWO_PINS.has(kind) ? at("size").value : "" };
}

async function letter(kind) {
  const place = toMm(cursor);
  if (BY_CORNERS.has(kind) && !seen(place)) {
    if (!corner) {
      corner = { kind, from: [...cursor] };
      say("Now the opposite corner, and the same letter.");
      marks();
      return;
    }
    const [a, b] = [toMm(corner.from), place];
    const [wMm, hMm] = [Math.abs(a.xMm - b.xMm), Math.abs(a.yMm - b.yMm)];
    corner = null;
    await put(kind, wMm < 0.3 || hMm < 0.3 ? { ...place, wMm: 4, hMm: 4, rotDeg: 0 } : { xMm: (a.xMm + b.xMm) / 2, yMm: (a.yMm + b.yMm) / 2, wMm, hMm, rotDeg: 0 });
  } else {
    await put(kind, body(kind, place));
  }
  tellLast();
}

function tellLast() {
  const part = state.parts[state.parts.length - 1];
  if (part) {
    say(`${tip(part)}. Next: ${state.next[part.kind]}.`);
  }
  drawFound();
}

function rowKey() {
  if (!row) {
    row = { from: [...cursor] };
    say("And m again at the row's other end.");
  } else if (!row.to) {
    row.to = [...cursor];
    const length = Math.hypot(row.to[0] - row.from[0], row.to[1] - row.from[1]);
    const along = free().filter(f => {
      const p = [sx(f.xMm), sy(f.yMm)];
      const t = ((p[0] - row.from[0]) * (row.to[0] - row.from[0]) + (p[1] - row.from[1]) * (row.to[1] - row.from[1])) / (length * length);
      return t > -0.02 && t < 1.02 && Math.hypot(p[0] - row.from[0] - t * (row.to[0] - row.from[0]), p[1] - row.from[1] - t * (row.to[1] - row.from[1])) < 0.4;
    });
    row.count = along.length > 2 ? along.length : Math.max(2, Math.round(length / 1.5) + 1);
    const first = seen(toMm(row.from));
    row.kind = first && TWO_PINS.has(first.kind) ? first.kind : last.kind;
    row.body = first ?? body(last.kind, toMm(row.from));
    say(`${row.count} ${row.kind.toLowerCase()}s in the row: + and − change the number, Enter keeps, Esc leaves it.`);
  }
  marks();
}

async function rowKeep() {
  const { from, to, count, kind, body: like } = row;
  row = null;
  const ends = [seen(toMm(from)) ?? toMm(from), seen(toMm(to)) ?? toMm(to)];
  const ref = at("ref").value.trim();
  at("ref").value = "";
  last = { kind, rot: like.rotDeg, wMm: like.wMm, hMm: like.hMm };
  await step({ step: "row", first: { side, ref, kind, packageName: like.packageName ?? "", at: { xMm: round(ends[0].xMm), yMm: round(ends[0].yMm) }, wMm: round(like.wMm), hMm: round(like.hMm), rotDeg: like.rotDeg, net: net(), other: "" }, last: { xMm: round(ends[1].xMm), yMm: round(ends[1].yMm) }, count });
  tellLast();
}

function rename(part) {
  const dialog = at("say");
  at("say-title").textContent = part.ref;
  at("say-ref").value = part.ref;
  at("say-value").value = part.value;
  dialog.returnValue = "no";
  dialog.showModal();
  dialog.addEventListener("close", () => {
    if (dialog.returnValue === "yes") {
      step({ step: "say", ref: part.ref, called: at("say-ref").value.trim(), kind: null, value: at("say-value").value.trim(), turnDeg: 0 });
    }
    svg.focus();
  }, { once: true });
}

// --- brush

function touches(path) {
  const touched = new Map();
  for (const place of path.map(toMm)) {
    const part = under(place);
    if (part) {
      // A two-pin part's ends count once each; a chip's places, a fifth of a millimetre apart.
      const key = TWO_PINS.has(part.kind) ? `${part.ref}/${end(part, place)}` : `${part.ref}/${Math.round(place.xMm * 2)}/${Math.round(place.yMm * 2)}`;
      if (!touched.has(key)) {
        touched.set(key, { ref: part.ref, at: place });
      }
    }
  }
  return [...touched.values()];
}

function end(part, place) {
  const turn = part.rotDeg * Math.PI / 180;
  return Math.cos(turn) * (place.xMm - part.xMm) + Math.sin(turn) * (place.yMm - part.yMm) > 0;
}

function painted(path) {
  const list = touches(path);
  if (!net()) {
    say("Type the net first: n goes to its field.");
  } else if (list.length) {
    step({ step: "paint", net: net(), touches: list }).then(taken => taken && say(`${list.length} on ${net()}.`));
  }
}

// --- pointer and keys

svg.addEventListener("pointerdown", event => {
  const handle = event.target.closest(".handle");
  if (mode === "corners" && handle) {
    dragged = { kind: handle.dataset.kind, index: Number(handle.dataset.index) };
    svg.setPointerCapture(event.pointerId);
  } else if (mode === "parts" && painting()) {
    stroke = [view.place(event)];
    svg.setPointerCapture(event.pointerId);
  }
});
svg.addEventListener("pointermove", event => {
  const place = view.place(event);
  if (dragged) {
    points[dragged.kind][dragged.index] = place;
    marks();
  } else if (mode === "parts") {
    cursor = place;
    stroke?.push(place);
    const part = under(toMm(place));
    if (part && !row && !corner) {
      say(tip(part));
    }
    marks();
  }
});
svg.addEventListener("pointerup", () => {
  if (stroke) {
    const path = stroke;
    stroke = null;
    painted(path);
  }
  if (dragged) {
    const { kind, index } = dragged;
    dragged = null;
    layers.marks.querySelector(`.handle[data-kind="${kind}"][data-index="${index}"]`)?.focus();
  }
});
svg.addEventListener("click", async event => {
  if (mode !== "parts" || view.moved || painting()) {
    return;
  }
  cursor = view.place(event);
  await chosen();
});

/** A click, or the space bar, where the cursor is. */
async function chosen() {
  const place = toMm(cursor);
  if (holes) {
    return hole(place);
  }
  if (waiting) {
    const one = waiting;
    waiting = null;
    if (await put(one.kind, body(one.kind, place), one.ref)) {
      say(`${one.ref} is on the photograph.`);
      drawFound();
    }
  } else if (painting()) {
    painted([cursor]);
  } else if (proposing()) {
    const shown = seen(place);
    if (shown) {
      await put(shown.kind, shown);
      tellLast();
    }
  }
}

async function hole(place) {
  holes[side].push(place);
  marks();
  const full = s => holes[s].length === 2;
  if (full("TOP") && full("BOTTOM")) {
    const both = holes;
    holes = null;
    if (await step({ step: "align", top: both.TOP, bottom: both.BOTTOM })) {
      enter(mode);
      draw();
      say("The bottom lies under the top.");
    }
  } else if (full(side)) {
    turn();
    say("And the same two holes here, A first.");
  } else {
    say("Now hole B, far from A.");
  }
}

at("holes").addEventListener("click", () => {
  holes = { TOP: [], BOTTOM: [] };
  say("Click hole A, then hole B, on this side.");
  svg.focus();
});

function toggle(id) {
  at(id).setAttribute("aria-pressed", String(at(id).getAttribute("aria-pressed") !== "true"));
  svg.classList.toggle("painting", painting());
}
at("paint").addEventListener("click", () => toggle("paint"));
at("propose").addEventListener("click", () => {
  toggle("propose");
  drawFound();
  tellProposed();
});
at("undo").addEventListener("click", () => undo());
at("waiting").addEventListener("click", event => {
  const button = event.target.closest("button");
  if (button) {
    waiting = state.waiting.find(w => w.ref === button.dataset.ref);
    drawLists();
    say(`Where is ${waiting.ref}? Click it on the photograph.`);
    svg.focus();
  }
});
at("net").addEventListener("input", () => {
  if (mode === "parts") {
    drawParts();
    view.layout();
  }
});
at("net").addEventListener("keydown", event => {
  if (event.key === "Enter") {
    event.preventDefault();
    svg.focus();
  }
});
at("ref").addEventListener("keydown", event => {
  if (event.key === "Enter") {
    event.preventDefault();
    svg.focus();
  }
});
at("net-say").addEventListener("click", () => {
  if (net()) {
    step({ step: "net", net: net(), kind: at("net-kind").value, volts: null }).then(taken => taken && say(`${net()} is ${at("net-kind").value.toLowerCase()}.`));
  }
});
document.querySelectorAll("[data-side-of]").forEach(b => b.addEventListener("click", () => b.dataset.sideOf !== side && turn()));

function turn() {
  side = side === "TOP" ? "BOTTOM" : "TOP";
  mode = "none";
  row = corner = null;
  const one = of();
  enter(!one.photo ? "none" : one.laid ? "parts" : "corners");
  draw();
}

async function undo() {
  const before = mode;
  if (await send("undo")) {
    say(`Taken back. ${state.steps} steps are left.`);
    if (before !== mode || of().laid) {
      enter(mode);
      draw();
    }
  }
}

function nudge(event) {
  const ways = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
  const way = ways[event.key];
  if (!way) {
    return false;
  }
  const by = event.shiftKey ? LEAP : 1;
  const handle = document.activeElement?.closest?.(".handle");
  if (mode === "corners" && handle) {
    const point = points[handle.dataset.kind][Number(handle.dataset.index)];
    points[handle.dataset.kind][Number(handle.dataset.index)] = [point[0] + way[0] * by, point[1] + way[1] * by];
  } else if (mode === "parts") {
    cursor = [cursor[0] + way[0] * by * NUDGE_MM, cursor[1] + way[1] * by * NUDGE_MM];
    const part = under(toMm(cursor));
    say(part ? tip(part) : `${toMm(cursor).xMm}, ${toMm(cursor).yMm} mm`);
  } else {
    return false;
  }
  marks();
  return true;
}

function key(event) {
  if (event.ctrlKey || event.metaKey || event.altKey) {
    if ((event.ctrlKey || event.metaKey) && event.key === "z") {
      undo();
      return true;
    }
    return false;
  }
  const part = mode === "parts" ? under(toMm(cursor)) : null;
  if (nudge(event)) {
    return true;
  }
  if (event.key === "z") {
    undo();
  } else if (event.key === "x") {
    turn();
  } else if (event.key === "0") {
    view.whole();
  } else if ((event.key === "+" || event.key === "-") && row?.count) {
    row.count = Math.max(2, Math.min(200, row.count + (event.key === "+" ? 1 : -1)));
    say(`${row.count} in the row: Enter keeps.`);
    marks();
  } else if (event.key === "+" || event.key === "=") {
    view.zoom(1 / 1.25, ...cursor);
  } else if (event.key === "-") {
    view.zoom(1.25, ...cursor);
  } else if (mode !== "parts") {
    return false;
  } else if (event.key === "Enter" && row?.to) {
    rowKeep();
  } else if (event.key === "Escape") {
    row = corner = holes = waiting = null;
    marks();
    drawLists();
  } else if (event.key === " ") {
    chosen();
  } else if (event.key === "m") {
    rowKey();
  } else if (event.key === "n") {
    at("net").focus();
    at("net").select();
  } else if (event.key === "p") {
    at("paint").click();
  } else if (event.key === "h") {
    at("propose").click();
  } else if (event.key === "e" && part) {
    rename(part);
  } else if (event.key === "o") {
    if (part) {
      step({ step: "say", ref: part.ref, called: "", kind: null, value: null, turnDeg: 90 });
    } else {
      last.rot = (last.rot + 90) % 180;
      say(`What comes next lies at ${last.rot}°.`);
    }
  } else if ((event.key === "Delete" || event.key === "Backspace") && part) {
    step({ step: "take", ref: part.ref });
  } else if (KEYS[event.key]) {
    letter(KEYS[event.key]);
  } else {
    return false;
  }
  return true;
}

// Before the page's own keys: here letters put parts.
window.addEventListener("keydown", event => {
  const typing = event.target.closest?.("input, textarea, select, dialog");
  const pressed = event.target.closest?.("button, a") && (event.key === " " || event.key === "Enter");
  if (!typing && !pressed && key(event)) {
    event.preventDefault();
    event.stopImmediatePropagation();
  }
}, true);

// --- photographs dropped and pasted

function bring(files) {
  const pictures = [...files].filter(f => f.type === "image/jpeg" || f.type === "image/png");
  if (pictures.length) {
    const transfer = new DataTransfer();
    transfer.items.add(pictures[0]);
    at("photos").files = transfer.files;
    at("bring-form").requestSubmit();
  }
}
at("photos").addEventListener("change", () => at("photos").files.length && at("bring-form").requestSubmit());
document.addEventListener("paste", event => bring(event.clipboardData?.files ?? []));
document.addEventListener("dragover", event => event.preventDefault());
document.addEventListener("drop", event => {
  event.preventDefault();
  bring(event.dataTransfer?.files ?? []);
});
on("whole", () => view.whole());

view.listeners.push(() => marks());
mode = "none";
enter(!of().photo ? "none" : of().laid ? "parts" : "corners");
draw();
page.dataset.ready = "yes";
