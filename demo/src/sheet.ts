import { coverage, type RawPicture, type Ring, ringsBounds } from '@neotaxis/core'

/** A sheet that shapes are drawn on, with exact edges. Tones 0 black to 1 white. */
export class Sheet {
  readonly width: number
  readonly height: number
  readonly rgb: Float32Array
  readonly alpha: Float32Array

  constructor(width: number, height: number, paper: readonly [number, number, number] | undefined) {
    this.width = width
    this.height = height
    this.rgb = new Float32Array(width * height * 3)
    this.alpha = new Float32Array(width * height).fill(paper ? 1 : 0)
    if (paper) for (let i = 0; i < width * height; i++) this.rgb.set(paper, 3 * i)
  }

  /** Fills a shape; overlapping rings of one direction count once, rings turning the other way are holes. */
  fill(rings: readonly Ring[], tone: number | readonly [number, number, number], opacity = 1): void {
    const colour = typeof tone === 'number' ? [tone, tone, tone] : tone
    const box = ringsBounds(rings)
    const x0 = Math.max(0, Math.floor(box.x0))
    const y0 = Math.max(0, Math.floor(box.y0))
    const w = Math.min(this.width, Math.ceil(box.x1) + 1) - x0
    const h = Math.min(this.height, Math.ceil(box.y1) + 1) - y0
    if (w <= 0 || h <= 0) return
    const shifted = rings.map((ring) => ring.map((v, i) => v - (i % 2 ? y0 : x0)))
    const covered = coverage(shifted, w, h)
    for (let y = 0; y < h; y++) {
      for (let x = 0; x < w; x++) {
        const a = covered[y * w + x] * opacity
        if (a > 0) this.blend((y + y0) * this.width + x + x0, colour, a)
      }
    }
  }

  /** A tone for every pixel. */
  shade(tone: (x: number, y: number, before: number) => number): void {
    for (let y = 0; y < this.height; y++) {
      for (let x = 0; x < this.width; x++) {
        const i = y * this.width + x
        this.rgb.fill(tone(x, y, this.rgb[3 * i]), 3 * i, 3 * i + 3)
      }
    }
  }

  private blend(i: number, colour: readonly number[], a: number): void {
    const before = this.alpha[i]
    const after = a + before * (1 - a)
    for (let k = 0; k < 3; k++) this.rgb[3 * i + k] = (colour[k] * a + this.rgb[3 * i + k] * before * (1 - a)) / after
    this.alpha[i] = after
  }

  /** Samples as a picture of 1 (grey) or 4 (colour and transparency) channels. */
  picture(channels: 1 | 4): RawPicture {
    const n = this.width * this.height
    const samples = new Uint8Array(n * channels)
    for (let i = 0; i < n; i++) {
      if (channels === 1) samples[i] = Math.round(255 * Math.min(1, Math.max(0, this.rgb[3 * i])))
      else {
        for (let k = 0; k < 3; k++) samples[4 * i + k] = Math.round(255 * Math.min(1, Math.max(0, this.rgb[3 * i + k])))
        samples[4 * i + 3] = Math.round(255 * this.alpha[i])
      }
    }
    return { widthPx: this.width, heightPx: this.height, channels, samples, full: 255 }
  }
}
