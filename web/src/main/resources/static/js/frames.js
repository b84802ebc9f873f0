// Frames of a capture: fetched a few at a time, kept as counts; places on the board mapped to camera pixels.
const CHUNK = 24;

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

  /** Mean of the frames before power, camera still. */
  setBaseline() {
    const first = this.about.steps.find(s => s.on)?.t ?? Infinity;
    const size = this.about.width * this.about.height;
    const sum = new Float64Array(size);
    let n = 0;
    for (let f = 0; f < this.about.frames; f++) {
      const before = this.about.times[f] < first - 0.15;
      if (this.counts[f] && (before && this.about.segment[f] !== -1 || f === 0)) {
        for (let i = 0; i < size; i++) {
          sum[i] += this.counts[f][i];
        }
        n++;
      }
    }
    this.baseline = sum.map(v => v / Math.max(1, n));
  }

  /** Camera pixels of a board place in a frame, shake included. */
  pixel(xMm, yMm, frame) {
    const m = this.about.toPx;
    const w = m[6] * xMm + m[7] * yMm + m[8];
    return [
      (m[0] * xMm + m[1] * yMm + m[2]) / w + (this.about.shiftX[frame] ?? 0),
      (m[3] * xMm + m[4] * yMm + m[5]) / w + (this.about.shiftY[frame] ?? 0),
    ];
  }

  /** Kelvin above the baseline at camera pixels; NaN outside the picture. */
  rise(frame, px, py) {
    const { width, height, kelvinPerCount } = this.about;
    if (!(px >= 0 && py >= 0 && px <= width - 1 && py <= height - 1) || !this.counts[frame]) {
      return NaN;
    }
    const x = Math.min(width - 2, Math.floor(px));
    const y = Math.min(height - 2, Math.floor(py));
    const a = px - x;
    const b = py - y;
    const at = y * width + x;
    const c = this.counts[frame];
    const z = this.baseline;
    const d = i => c[i] - z[i];
    return kelvinPerCount * ((1 - b) * ((1 - a) * d(at) + a * d(at + 1)) + b * ((1 - a) * d(at + width) + a * d(at + width + 1)));
  }

  /** Rise of the colder half of the picture: the camera's own drift. */
  level(frame) {
    const c = this.counts[frame];
    const step = Math.max(1, Math.floor(c.length / 997));
    const sample = new Float32Array(Math.ceil(c.length / step));
    for (let i = 0, n = 0; i < c.length; i += step) {
      sample[n++] = c[i] - this.baseline[i];
    }
    sample.sort();
    return sample[sample.length >> 2] * this.about.kelvinPerCount;
  }
}
