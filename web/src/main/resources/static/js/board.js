// The board: turn over, pan, zoom, parts by keyboard, suspects joined to their flags.
import { on } from "./page.js";

const LABEL_PX = 11.5;
const ZOOM_STEP = 1.25;
const MOST_ZOOM = 40;
/** With more parts than this a drag moves the drawn picture, and draws it anew where the hand rests. */
const MANY_PARTS = 800;
const REST_MS = 140;
const MOST_DRAWN = 0.3;

/** One side's view: keeps the view box, and everything of fixed size at its size. */
export class BoardView {
  constructor(svg) {
    this.svg = svg;
    this.home = svg.getAttribute("viewBox").split(" ").map(Number);
    this.box = [...this.home];
    this.pointers = new Map();
    this.listeners = [];
    this.many = svg.querySelectorAll(".part").length > MANY_PARTS;
    svg.classList.toggle("many", this.many);
    svg.addEventListener("wheel", e => this.wheel(e), { passive: false });
    svg.addEventListener("pointerdown", e => this.down(e));
    svg.addEventListener("pointermove", e => this.move(e));
    for (const end of ["pointerup", "pointercancel", "pointerleave"]) {
      svg.addEventListener(end, e => this.up(e));
    }
    svg.addEventListener("keydown", e => this.key(e));
    svg.addEventListener("focusin", e => this.tell(e.target.closest(".part")));
    svg.addEventListener("pointerover", e => this.tell(e.target.closest(".part")));
    new ResizeObserver(() => this.resized()).observe(svg);
    this.layout();
  }

  /** Millimetres that one screen pixel shows. */
  get mmPerPx() {
    // Asked of the page once a size: asking after each move would have it laid out anew.
    this.rect ??= this.svg.getBoundingClientRect();
    const r = this.rect;
    return r.width ? Math.max(this.box[2] / r.width, this.box[3] / r.height) : this.home[2] / 660;
  }

  resized() {
    this.rect = undefined;
    this.layout();
  }

  /** Another scale needs everything of fixed size anew; panning moves the box and nothing else. */
  layout(anew = true) {
    clearTimeout(this.resting);
    this.drawn = [...this.box];
    this.svg.style.transform = "";
    this.svg.setAttribute("viewBox", this.box.map(v => v.toFixed(3)).join(" "));
    const k = this.mmPerPx;
    if (anew || k !== this.k) {
      this.k = k;
      for (const g of this.svg.querySelectorAll(".fixed")) {
        g.setAttribute("transform", `translate(${g.dataset.x} ${g.dataset.y}) scale(${k.toFixed(5)})`);
      }
      this.label(k, anew);
      this.declutter(k);
    }
    this.listeners.forEach(l => l(this));
  }

  /**
   * References stand on the bodies that are large enough for them. Each body has a scale from which its own fits; a zoom
   * touches those between the scale before and now, whatever the board has.
   */
  label(k, anew) {
    if (anew) {
      this.labels = [...this.svg.querySelectorAll(".part")].map(part => {
        const text = part.querySelector(".ref");
        const fits = Math.min(part.dataset.w / (text.textContent.length * LABEL_PX * 0.6), part.dataset.h / (LABEL_PX * 0.9));
        text.classList.toggle("on", fits >= k || part.classList.contains("lit"));
        return { fits, text, part };
      }).sort((a, b) => b.fits - a.fits);
      this.shown = this.labels.findIndex(l => l.fits < k);
      this.shown = this.shown < 0 ? this.labels.length : this.shown;
    }
    while (this.shown < this.labels.length && this.labels[this.shown].fits >= k) {
      this.labels[this.shown++].text.classList.add("on");
    }
    while (this.shown > 0 && this.labels[this.shown - 1].fits < k) {
      const { text, part } = this.labels[--this.shown];
      text.classList.toggle("on", part.classList.contains("lit"));
    }
    // An attribute, and on the parts' own group: what is swapped in may carry no style of its own.
    this.svg.querySelector(".parts")?.setAttribute("font-size", (LABEL_PX * k).toFixed(4));
  }

  /** Contour labels give way to flags and to each other; the warmer line keeps its label. */
  declutter(k) {
    const taken = [...this.svg.querySelectorAll(".flag")].map(g => [Number(g.dataset.x), Number(g.dataset.y), 12 * k]);
    const labels = [...this.svg.querySelectorAll(".contours .fixed")].reverse();
    for (const g of labels) {
      const [x, y] = [Number(g.dataset.x), Number(g.dataset.y) + 4 * k];
      const clash = taken.some(([tx, ty, reach]) => Math.abs(tx - x) < 15 * k + reach && Math.abs(ty - y) < 7 * k + reach);
      g.classList.toggle("crowded", clash);
      if (!clash) {
        taken.push([x, y, 8 * k]);
      }
    }
  }

  zoom(factor, cx, cy) {
    const size = Math.max(this.home[2] / MOST_ZOOM, Math.min(this.home[2], this.box[2] * factor));
    const f = size / this.box[2];
    const x = cx ?? this.box[0] + this.box[2] / 2;
    const y = cy ?? this.box[1] + this.box[3] / 2;
    this.box = [x - (x - this.box[0]) * f, y - (y - this.box[1]) * f, this.box[2] * f, this.box[3] * f];
    this.keepIn();
  }

  pan(dx, dy) {
    this.box[0] += dx;
    this.box[1] += dy;
    this.keepIn(this.many && this.listeners.length === 0);
  }

  /** Moves what is drawn, as one picture: O(1) whatever the board has. Drawn anew once the hand rests, or far off. */
  slide() {
    const [x, y] = [0, 1].map(i => this.drawn[i] - this.box[i]);
    clearTimeout(this.resting);
    if (Math.abs(x) > this.box[2] * MOST_DRAWN || Math.abs(y) > this.box[3] * MOST_DRAWN) {
      this.layout(false);
      return;
    }
    this.svg.style.transform = `translate(${x / this.mmPerPx}px, ${y / this.mmPerPx}px)`;
    this.resting = setTimeout(() => this.layout(false), REST_MS);
  }

  keepIn(sliding = false) {
    for (const i of [0, 1]) {
      const low = this.home[i] - this.box[i + 2] / 2;
      const high = this.home[i] + this.home[i + 2] - this.box[i + 2] / 2;
      this.box[i] = Math.max(low, Math.min(high, this.box[i]));
    }
    if (sliding) {
      this.slide();
    } else {
      this.layout(false);
    }
  }

  whole() {
    this.box = [...this.home];
    this.layout(false);
  }

  place(event) {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(this.svg.getScreenCTM().inverse());
    return [point.x, point.y];
  }

  wheel(event) {
    event.preventDefault();
    const [x, y] = this.place(event);
    this.zoom(event.deltaY > 0 ? ZOOM_STEP : 1 / ZOOM_STEP, x, y);
  }

  down(event) {
    this.pointers.set(event.pointerId, [event.clientX, event.clientY]);
    this.moved = false;
  }

  move(event) {
    const before = this.pointers.get(event.pointerId);
    if (!before) {
      return;
    }
    const k = this.mmPerPx;
    const now = [event.clientX, event.clientY];
    if (this.pointers.size === 1) {
      if (Math.hypot(now[0] - before[0], now[1] - before[1]) > 3 || this.moved) {
        this.moved = true;
        this.svg.classList.add("dragging");
        this.svg.setPointerCapture(event.pointerId);
        this.pan((before[0] - now[0]) * k, (before[1] - now[1]) * k);
        this.pointers.set(event.pointerId, now);
      }
    } else {
      const other = [...this.pointers].find(([id]) => id !== event.pointerId)[1];
      const was = Math.hypot(before[0] - other[0], before[1] - other[1]);
      const is = Math.hypot(now[0] - other[0], now[1] - other[1]);
      this.zoom(was / Math.max(1, is), ...this.place({ clientX: (now[0] + other[0]) / 2, clientY: (now[1] + other[1]) / 2 }));
      this.pointers.set(event.pointerId, now);
    }
  }

  up(event) {
    this.pointers.delete(event.pointerId);
    this.svg.classList.remove("dragging");
  }

  key(event) {
    const part = event.target.closest(".part");
    const ways = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
    if (ways[event.key]) {
      if (part) {
        this.goFrom(part, ways[event.key]);
      } else {
        this.pan(ways[event.key][0] * this.box[2] / 10, ways[event.key][1] * this.box[3] / 10);
      }
    } else if (event.key === "+" || event.key === "=") {
      this.zoom(1 / ZOOM_STEP);
    } else if (event.key === "-") {
      this.zoom(ZOOM_STEP);
    } else if (event.key === "Enter" && !part) {
      this.lead()?.focus();
    } else if (event.key === "Escape" && part) {
      this.svg.focus();
    } else {
      return;
    }
    event.preventDefault();
    event.stopPropagation();
  }

  lead() {
    const ref = this.svg.querySelector(".flag")?.dataset.ref;
    return (ref && this.part(ref)) ?? this.svg.querySelector(".part.rail") ?? this.svg.querySelector(".part");
  }

  part(ref) {
    return this.svg.querySelector(`.part[data-ref="${CSS.escape(ref)}"]`);
  }

  centre(part) {
    const m = part.transform.baseVal.consolidate().matrix;
    return [m.e, m.f];
  }

  goFrom(part, [wx, wy]) {
    const [x, y] = this.centre(part);
    let best = null;
    let least = Infinity;
    for (const other of this.svg.querySelectorAll(".part")) {
      const [ox, oy] = this.centre(other);
      const along = (ox - x) * wx + (oy - y) * wy;
      const across = Math.abs((ox - x) * wy - (oy - y) * wx);
      if (other !== part && along > 0.05 && along + 2 * across < least) {
        least = along + 2 * across;
        best = other;
      }
    }
    best?.focus();
  }

  tell(part) {
    const tip = document.getElementById("part-tip");
    if (part && tip) {
      tip.textContent = part.getAttribute("aria-label");
    }
  }

  /** Marks a suspect's part and flag. */
  light(ref) {
    for (const lit of this.svg.querySelectorAll(".lit")) {
      lit.classList.remove("lit");
    }
    this.part(ref)?.classList.add("lit");
    this.svg.querySelector(`.flag[data-ref="${CSS.escape(ref)}"]`)?.classList.add("lit");
    this.tell(this.part(ref));
    this.layout();
  }
}

const views = new Map();

function view(svg) {
  if (!views.has(svg)) {
    views.set(svg, new BoardView(svg));
  }
  return views.get(svg);
}

function all() {
  return [...document.querySelectorAll("svg.board")].map(view);
}

function shown() {
  return all().find(v => !v.svg.closest("[hidden]"));
}

function show(side) {
  for (const box of document.querySelectorAll(".side, .caption")) {
    box.hidden = (box.dataset.side ?? box.dataset.for) !== side;
  }
  const name = document.getElementById("side-name");
  if (name) {
    name.textContent = side === "TOP" ? "Top side" : "Bottom side, turned over";
  }
  shown()?.layout();
}

export function choose(ref) {
  const owner = all().find(v => v.part(ref));
  if (owner && owner !== shown()) {
    show(owner.svg.dataset.side);
  }
  all().forEach(v => v.light(ref));
  for (const pick of document.querySelectorAll(".sus .pick")) {
    pick.setAttribute("aria-current", String(pick.dataset.ref === ref));
  }
}

on("flip", () => {
  const now = shown();
  if (now && document.querySelectorAll(".side").length > 1) {
    show(now.svg.dataset.side === "TOP" ? "BOTTOM" : "TOP");
  }
});
on("whole", () => shown()?.whole());
on("board", () => shown()?.svg.focus());
on("lines", button => {
  const off = button.getAttribute("aria-pressed") === "true";
  button.setAttribute("aria-pressed", String(!off));
  document.querySelectorAll(".contours").forEach(g => g.classList.toggle("off", off));
});
for (const rank of [1, 2, 3]) {
  on(`suspect${rank}`, () => document.querySelectorAll(".sus .pick")[rank - 1]?.click());
}

document.addEventListener("click", event => {
  const pick = event.target.closest(".sus .pick");
  if (pick) {
    choose(pick.dataset.ref);
    return;
  }
  const part = event.target.closest("svg.board .part");
  if (part && document.querySelector(".sus") && !view(part.ownerSVGElement).moved) {
    choose(part.dataset.ref);
  }
});

all();
document.addEventListener("htmx:afterSettle", () => all().forEach(v => v.layout()));
