// Frames of a capture: fetched a few at a time, kept as counts; places on the board mapped to camera pixels.
const CHUNK = 24;
// Below this a frame is taken as it stands.
const STILL_PX = 0.06;

export class Frames {
  constructor(about, url) {
    this.about = about;
    this.url = url;
    this.counts = new Array(about.frames);
    this.baseline = null;
  }

  /** Fetches everything, telling after each chunk how many frames are there. */
  async load(told) {
    const size = this.about.width * this.about.height;
    for (let from = 0; from < this.about.frames; from += CHUNK) {
      const answer = await fetch(`${this.url}?from=${from}&count=${CHUNK}`);
      const all = new Uint16Array(await answer.arrayBuffer());
      for (let i = 0; i * size < all.length; i++) {
        this.counts[from + i] = all.subarray(i * size, (i + 1) * size);
      }
      if (from === 0) {
        this.setBaseline();
      }
      told(Math.min(this.about.frames, from + CHUNK));
    }
    this.setBaseline();
  }

  /** Mean of the frames before power, each laid over the first. */
  setBaseline() {
    const { width, height, frames, times, segment, steps } = this.about;
    const first = steps.find(s => s.on)?.t ?? Infinity;
    const sum = new Float64Array(width * height);
    let n = 0;
    for (let f = 0; f < frames; f++) {
      const before = times[f] < first - 0.15;
      const counts = this.counts[f];
      if (counts && (before && segment[f] !== -1 || f === 0)) {
        const motion = this.motion(f);
        const still = Math.hypot(motion.dx, motion.dy, motion.turn * motion.cx) < STILL_PX;
        for (let y = 0, i = 0; y < height; y++) {
          for (let x = 0; x < width; x++, i++) {
            const v = still ? counts[i] : this.moved(counts, x, y, motion);
            // What has moved out of the picture is taken as it stands.
            sum[i] += v === v ? v : counts[i];
          }
        }
        n++;
      }
    }
    this.baseline = Float32Array.from(sum, v => v / Math.max(1, n));
  }

  /** How a frame has moved: to the right, down, and turned about the middle, where that is. */
  motion(frame) {
    const { shiftX, shiftY, turn, width, height } = this.about;
    return {
      dx: shiftX[frame] ?? 0,
      dy: shiftY[frame] ?? 0,
      turn: turn[frame] ?? 0,
      cx: (width - 1) / 2,
      cy: (height - 1) / 2,
    };
  }

  /** Counts where a pixel of the cold picture has gone by such a motion; NaN outside. */
  moved(counts, px, py, { dx, dy, turn, cx, cy }) {
    return this.between(counts, px + dx - turn * (py - cy), py + dy + turn * (px - cx));
  }

  between(picture, px, py) {
    const { width, height } = this.about;
    if (!(px >= 0 && py >= 0 && px <= width - 1 && py <= height - 1)) {
      return NaN;
    }
    const x = Math.min(width - 2, px | 0);
    const y = Math.min(height - 2, py | 0);
    const a = px - x;
    const b = py - y;
    const at = y * width + x;
    const low = at + width;
    return (1 - b) * ((1 - a) * picture[at] + a * picture[at + 1]) + b * ((1 - a) * picture[low] + a * picture[low + 1]);
  }

  /** The pixel of the cold picture where a board place lies. */
  pixel(xMm, yMm) {
    const m = this.about.toPx;
    const w = m[6] * xMm + m[7] * yMm + m[8];
    return [(m[0] * xMm + m[1] * yMm + m[2]) / w, (m[3] * xMm + m[4] * yMm + m[5]) / w];
  }

  /** Kelvin above the cold picture at one of its places; NaN outside. */
  rise(frame, px, py) {
    const counts = this.counts[frame];
    return counts
      ? this.about.kelvinPerCount * (this.moved(counts, px, py, this.motion(frame)) - this.between(this.baseline, px, py))
      : NaN;
  }

  /** Rise of the colder half of the picture: the camera's own drift. */
  level(frame) {
    const { width, height, kelvinPerCount } = this.about;
    const counts = this.counts[frame];
    const motion = this.motion(frame);
    const step = Math.max(1, Math.floor((width * height) / 997));
    const sample = [];
    for (let i = 0; i < width * height; i += step) {
      const rise = this.moved(counts, i % width, Math.floor(i / width), motion) - this.baseline[i];
      if (rise === rise) {
        sample.push(rise);
      }
    }
    const sorted = Float32Array.from(sample).sort();
    return sorted.length > 0 ? kelvinPerCount * sorted[sorted.length >> 2] : 0;
  }
}
