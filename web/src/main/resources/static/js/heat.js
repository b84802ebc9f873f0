// Warmth drawn over the board: as measured, as the engine believes it, what is left over, or how fast it came.
import { told } from "./page.js";

const CELL_PX = 3;
const SHARES = [0.15, 0.3, 0.5, 0.75];
const LABEL_GAP_PX = 26;
const THICKEST = 0.62;

export function colour(name) {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}

export function rgb(name) {
  const probe = document.createElement("canvas").getContext("2d");
  probe.fillStyle = colour(name);
  const hex = probe.fillStyle;
  return [1, 3, 5].map(i => parseInt(hex.slice(i, i + 2), 16));
}

/** A grid of the server's, read at board places. */
class Grid {
  constructor({ x0, y0, step, columns, rows, values }) {
    Object.assign(this, { x0, y0, step, columns, rows });
    this.values = Float32Array.from(values, v => (v === null ? NaN : v));
  }

  at(x, y) {
    const u = (x - this.x0) / this.step;
    const v = (y - this.y0) / this.step;
    if (!(u > -1 && v > -1 && u < this.columns && v < this.rows)) {
      return NaN;
    }
    const c = Math.max(0, Math.min(this.columns - 2, Math.floor(u)));
    const r = Math.max(0, Math.min(this.rows - 2, Math.floor(v)));
    const a = Math.max(0, Math.min(1, u - c));
    const b = Math.max(0, Math.min(1, v - r));
    const i = r * this.columns + c;
    const z = this.values;
    return (1 - b) * ((1 - a) * z[i] + a * z[i + 1]) + b * ((1 - a) * z[i + this.columns] + a * z[i + this.columns + 1]);
  }
}

export class HeatLayer {
  constructor(canvas, svg, about, frames, fieldsUrl) {
    Object.assign(this, { canvas, svg, about, frames, fieldsUrl });
    this.show = { wash: true, isolines: true };
    this.kind = "measured";
    this.suspect = null;
    this.hottest = 0.5;
    this.fields = new Map();
    /** Called when a picture that had to be waited for is there. */
    this.onLate = () => {};
    this.small = document.createElement("canvas");
  }

  /** Where the grid's cells lie on the board and in the picture; to be called when the view has moved. */
  layout() {
    const r = this.canvas.getBoundingClientRect();
    const w = Math.ceil(r.width / CELL_PX) + 1;
    const h = Math.ceil(r.height / CELL_PX) + 1;
    const inverse = this.svg.getScreenCTM().inverse();
    const [x0, y0, x1, y1] = this.about.box;
    const m = this.about.toPx;
    const cells = { w, h, x: new Float32Array(w * h), y: new Float32Array(w * h), px: new Float32Array(w * h), py: new Float32Array(w * h) };
    for (let j = 0; j < h; j++) {
      for (let i = 0; i < w; i++) {
        const sx = r.left + i * CELL_PX;
        const sy = r.top + j * CELL_PX;
        const x = inverse.a * sx + inverse.c * sy + inverse.e;
        const y = inverse.b * sx + inverse.d * sy + inverse.f;
        const bx = this.about.bottom ? x0 + x1 - x : x;
        const by = y0 + y1 - y;
        const on = bx >= x0 && bx <= x1 && by >= y0 && by <= y1;
        const k = j * w + i;
        const d = m[6] * bx + m[7] * by + m[8];
        cells.x[k] = on ? bx : NaN;
        cells.y[k] = by;
        cells.px[k] = on ? (m[0] * bx + m[1] * by + m[2]) / d : NaN;
        cells.py[k] = (m[3] * bx + m[4] * by + m[5]) / d;
      }
    }
    this.cells = cells;
    this.rect = r;
    const dpr = window.devicePixelRatio || 1;
    this.canvas.width = r.width * dpr;
    this.canvas.height = r.height * dpr;
    this.small.width = w;
    this.small.height = h;
    this.values = new Float32Array(w * h);
    this.spare = new Float32Array(w * h);
    this.image = new ImageData(w, h);
    // A smooth line needs a few camera pixels' means, not more.
    this.reach = 2;
  }

  /** Kelvin above the cold frames, the picture's own drift off. */
  measured(frame, out) {
    const { width, height, kelvinPerCount } = this.about;
    const counts = this.frames.counts[frame];
    const { dx, dy, turn, cx, cy } = this.frames.motion(frame);
    const level = this.frames.level(frame);
    const { px, py } = this.cells;
    const base = this.cold();
    for (let k = 0; k < out.length; k++) {
      const u = px[k] + dx - turn * (py[k] - cy);
      const v = py[k] + dy + turn * (px[k] - cx);
      if (!(u >= 0 && v >= 0 && u <= width - 1 && v <= height - 1)) {
        out[k] = NaN;
        continue;
      }
      const c = Math.min(width - 2, u | 0);
      const r = Math.min(height - 2, v | 0);
      const a = u - c;
      const b = v - r;
      const i = r * width + c;
      const i2 = i + width;
      const top = (1 - a) * counts[i] + a * counts[i + 1];
      const low = (1 - a) * counts[i2] + a * counts[i2 + 1];
      out[k] = kelvinPerCount * ((1 - b) * top + b * low - base[k]) - level;
    }
    return out;
  }

  /** The cold picture at the cells, once for a layout and a baseline. */
  cold() {
    const { baseline } = this.frames;
    if (this.coldOf !== baseline || this.coldAt !== this.cells) {
      const { px, py } = this.cells;
      this.coldCounts = px.map((x, k) => this.frames.between(baseline, x, py[k]));
      this.coldOf = baseline;
      this.coldAt = this.cells;
    }
    return this.coldCounts;
  }

  sampled(grid, out) {
    const { x, y } = this.cells;
    for (let k = 0; k < out.length; k++) {
      out[k] = grid.at(x[k], y[k]);
    }
    return out;
  }

  /** A computed picture, fetched once. */
  async field(path) {
    if (!this.fields.has(path)) {
      const answer = await told(`${this.fieldsUrl}/${path}`);
      this.fields.set(path, answer && new Grid(answer));
    }
    return this.fields.get(path);
  }

  predictedPath(frame) {
    return `predicted?${new URLSearchParams({ suspect: this.suspect, frame })}`;
  }

  /** Draws at once when everything is there, else when it has come. Returns false while waiting. */
  draw(frame) {
    if (!this.frames.counts[frame] || !this.frames.baseline) {
      return true;
    }
    if (!this.cells) {
      this.layout();
    }
    const path = this.kind === "onset" ? "onset" : this.kind === "measured" ? null : this.predictedPath(frame);
    if (path && !this.fields.has(path)) {
      const wanted = (this.wanted = `${this.kind} ${path}`);
      this.field(path)
        .then(() => wanted === this.wanted && this.draw(frame) && this.onLate(frame))
        .catch(() => this.onLate(frame));
      return false;
    }
    const grid = path && this.fields.get(path);
    const v = this.values;
    if (this.kind === "measured") {
      this.measured(frame, v);
    } else if (!grid) {
      v.fill(NaN);
    } else if (this.kind === "left") {
      this.measured(frame, v);
      const p = this.sampled(grid, this.spare);
      for (let k = 0; k < v.length; k++) {
        v[k] -= p[k];
      }
      const middle = quantile(v, 0.5);
      for (let k = 0; k < v.length; k++) {
        v[k] -= middle;
      }
    } else {
      this.sampled(grid, v);
      if (this.kind === "predicted") {
        const cold = quantile(v, 0.05);
        for (let k = 0; k < v.length; k++) {
          v[k] -= cold;
        }
      }
    }
    this.paint(v);
    return true;
  }

  paint(v) {
    const dpr = window.devicePixelRatio || 1;
    const g = this.canvas.getContext("2d");
    g.setTransform(dpr, 0, 0, dpr, 0, 0);
    g.clearRect(0, 0, this.rect.width, this.rect.height);
    const onset = this.kind === "onset";
    const slowest = onset ? Math.max(0.5, quantile(v, 0.9)) : 0;
    if (this.show.wash) {
      this.wash(g, v, onset ? k => 1 - k / slowest : k => k / this.hottest);
    }
    if (this.show.isolines) {
      const smooth = onset ? v : this.smooth(v);
      if (onset) {
        this.contours(g, smooth, [0.15, 0.3, 0.5, 0.75].map(s => s * slowest), "s", false);
      } else {
        this.contours(g, smooth, SHARES.map(s => s * this.hottest), "K", false);
        if (this.kind === "left") {
          this.contours(g, smooth, SHARES.map(s => -s * this.hottest), "K", true);
        }
      }
    }
  }

  /** A single hue, thicker where it is warmer; what is colder than predicted takes the second one. */
  wash(g, v, strength) {
    const warm = rgb("--heat");
    const cold = rgb("--act");
    const data = this.image.data;
    for (let k = 0, i = 0; k < v.length; k++, i += 4) {
      const s = strength(v[k]);
      const size = this.kind === "left" ? Math.abs(s) : s;
      if (!(size > 0.04)) {
        data[i + 3] = 0;
        continue;
      }
      const [red, green, blue] = s > 0 ? warm : cold;
      data[i] = red;
      data[i + 1] = green;
      data[i + 2] = blue;
      data[i + 3] = 255 * Math.min(THICKEST, THICKEST * Math.sqrt(size));
    }
    this.small.getContext("2d").putImageData(this.image, 0, 0);
    g.imageSmoothingEnabled = true;
    g.drawImage(this.small, -CELL_PX / 2, -CELL_PX / 2, this.cells.w * CELL_PX, this.cells.h * CELL_PX);
  }

  /** Means over squares, along rows and then columns; nothing near the picture's rim. */
  smooth(v) {
    const { w, h } = this.cells;
    const reach = this.reach;
    const rows = this.spare;
    const out = (this.smoothed ??= new Float32Array(0)).length === v.length ? this.smoothed : (this.smoothed = new Float32Array(v.length));
    const n = 2 * reach + 1;
    rows.fill(NaN);
    out.fill(NaN);
    for (let j = 0; j < h; j++) {
      for (let k = j * w + reach; k < (j + 1) * w - reach; k++) {
        let sum = 0;
        for (let q = k - reach; q <= k + reach; q++) {
          sum += v[q];
        }
        rows[k] = sum / n;
      }
    }
    for (let k = reach * w; k < (h - reach) * w; k++) {
      let sum = 0;
      for (let q = k - reach * w; q <= k + reach * w; q += w) {
        sum += rows[q];
      }
      out[k] = sum / n;
    }
    return out;
  }

  /** Marching squares, with the level's number once a level. */
  contours(g, v, levels, unit, dashed) {
    const { w, h } = this.cells;
    g.strokeStyle = g.fillStyle = colour(dashed ? "--act" : "--heat");
    g.lineWidth = 1.6;
    g.setLineDash(dashed ? [5, 4] : []);
    g.font = '600 11px "Reading"';
    const labels = [];
    for (const level of levels) {
      let lx = 0;
      let ly = -1;
      g.beginPath();
      for (let j = 0; j + 1 < h; j++) {
        for (let i = 0; i + 1 < w; i++) {
          const k = j * w + i;
          const a = v[k];
          const b = v[k + 1];
          const c = v[k + w + 1];
          const d = v[k + w];
          const over = (a >= level) + (b >= level) + (c >= level) + (d >= level);
          if (over === 0 || over === 4 || a + b + c + d !== a + b + c + d) {
            continue;
          }
          const cut = [];
          if (a < level !== b < level) cut.push(i + (level - a) / (b - a), j);
          if (b < level !== c < level) cut.push(i + 1, j + (level - b) / (c - b));
          if (d < level !== c < level) cut.push(i + (level - d) / (c - d), j + 1);
          if (a < level !== d < level) cut.push(i, j + (level - a) / (d - a));
          for (let q = 0; q + 3 < cut.length; q += 4) {
            g.moveTo(cut[q] * CELL_PX, cut[q + 1] * CELL_PX);
            g.lineTo(cut[q + 2] * CELL_PX, cut[q + 3] * CELL_PX);
            if (cut[q + 1] > ly) {
              [lx, ly] = [cut[q], cut[q + 1]];
            }
          }
        }
      }
      g.stroke();
      if (ly >= 0 && labels.every(([x, y]) => Math.hypot(x - lx, y - ly) * CELL_PX > LABEL_GAP_PX)) {
        labels.push([lx, ly]);
        g.fillText(`${level.toPrecision(2).replace("-", "\u2212")} ${unit}`, lx * CELL_PX + 3, ly * CELL_PX + 11);
      }
    }
    g.setLineDash([]);
  }

  /** Fits the scale to the last frame under power; returns that frame. */
  scale() {
    const last = this.about.steps.findLast(s => !s.on)?.t ?? Infinity;
    let frame = this.about.frames - 1;
    while (frame > 0 && this.about.times[frame] > last) {
      frame--;
    }
    this.layout();
    this.hottest = Math.max(0.05, quantile(this.smooth(this.measured(frame, this.values)), 0.9985) || 0.5);
    return frame;
  }
}

function quantile(v, share) {
  const known = v.filter(k => k === k).sort();
  return known.length ? known[Math.floor((known.length - 1) * share)] : NaN;
}
