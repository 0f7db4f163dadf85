import type { GreyPicture } from '../picture/picture.ts'

/** How a page for tests is written, ruled, lit and photographed. */
export interface PageLook {
  readonly seed: number
  readonly widthPx: number
  readonly heightPx: number
  /** Ink under the paper, 0–1, of the faintest and of the strongest stroke. */
  readonly ink: readonly [number, number]
  /** Width of strokes, px, of the finest and of the widest. */
  readonly strokePx: readonly [number, number]
  /** Ruled lines: their darkness 0–1, distance and thickness, px, how much they lean, and how far they sag, px. */
  readonly ruled?: {
    readonly dark: number
    readonly everyPx: number
    readonly thickPx: number
    readonly deg: number
    readonly sagPx?: number
    /** Lines across them as well: squared paper. */
    readonly squared?: boolean
  }
  /** Light in the darkest corner, of that in the lightest. */
  readonly dimmest: number
  /** A shadow over one corner: its light 0–1 and the width of its edge, px. */
  readonly shadow?: { readonly light: number; readonly softPx: number }
  /** Deviation of the noise, levels. */
  readonly noise: number
}

export interface InkPage {
  readonly picture: GreyPicture
  /** 1 where there is ink. */
  readonly truth: Uint8Array
}

/** Numbers 0–1 by a seed (xorshift32). */
export function seeded(seed: number): () => number {
  let s = seed | 0 || 1
  return () => {
    s ^= s << 13
    s ^= s >>> 17
    s ^= s << 5
    return (s >>> 0) / 4294967296
  }
}

/** Handwriting of nobody's: loops, strokes and dots in lines, over the ruled ones. */
function written(look: PageLook, random: () => number): { readonly cover: Float32Array; readonly dark: Float32Array } {
  const { widthPx: w, heightPx: h, strokePx, ink } = look
  const cover = new Float32Array(w * h)
  const dark = new Float32Array(w * h)
  const dab = (cx: number, cy: number, r: number, d: number): void => {
    for (let y = Math.max(0, Math.floor(cy - r - 1)); y <= Math.min(h - 1, cy + r + 1); y++) {
      for (let x = Math.max(0, Math.floor(cx - r - 1)); x <= Math.min(w - 1, cx + r + 1); x++) {
        const c = Math.min(1, Math.max(0, r + 0.5 - Math.hypot(x + 0.5 - cx, y + 0.5 - cy)))
        const i = y * w + x
        if (c > cover[i]) {
          cover[i] = c
          dark[i] = d
        }
      }
    }
  }
  const size = look.ruled?.everyPx ?? 40
  for (let line = 2 * size; line < h - 2 * size; line += size * 2) {
    let x = 2 * size
    while (x < w - 3 * size) {
      const r = (strokePx[0] + (strokePx[1] - strokePx[0]) * random()) / 2
      const d = ink[0] + (ink[1] - ink[0]) * random()
      const loops = 3 + Math.floor(5 * random())
      const [a, b, c] = [random() * 6.28, 0.25 + 0.3 * random(), 0.4 + 0.4 * random()]
      for (let t = 0; t < loops * 6.28; t += 0.02)
        dab(x + (t * size) / 14 + b * size * Math.cos(t), line + c * size * Math.sin(t * 1.07 + a), r, d)
      dab(x + size, line - 1.1 * size, r * 1.3, d)
      x += (loops * 6.28 * size) / 14 + size * (0.6 + random())
    }
  }
  // A flourish under it, and a straight stroke of the pen.
  for (let t = 0; t < 1; t += 0.0004) dab(w * (0.15 + 0.6 * t), h * (0.9 + 0.03 * Math.sin(9 * t)), strokePx[1] / 2, ink[1])
  for (let t = 0; t < 1; t += 0.0006) dab(w * (0.2 + 0.3 * t), h * 0.94, strokePx[0] / 2, ink[1])
  return { cover, dark }
}

/** A photographed page of ink with what is truly ink on it, the same for the same seed. */
export function inkPage(look: PageLook): InkPage {
  const { widthPx: w, heightPx: h, ruled, shadow, noise, dimmest } = look
  const random = seeded(look.seed)
  const { cover, dark } = written(look, random)
  const truth = Uint8Array.from(cover, (c) => (c >= 0.5 ? 1 : 0))
  const light = new Float32Array(w * h)
  const lean = Math.tan(((ruled?.deg ?? 0) * Math.PI) / 180)
  const rule = (along: number, across: number, length: number): number => {
    if (!ruled) return 0
    const at = across + lean * along + (ruled.sagPx ?? 0) * Math.sin((3 * along) / length)
    const off = Math.abs(((((at / ruled.everyPx) % 1) + 1) % 1) * ruled.everyPx - ruled.everyPx / 2)
    return ruled.dark * Math.min(1, Math.max(0, ruled.thickPx / 2 + 0.5 - off))
  }
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const i = y * w + x
      const lines = 1 - Math.max(rule(x, y, w), ruled?.squared ? rule(-y, x, h) : 0)
      const face = lines * (1 - cover[i]) + Math.min(lines, 1 - dark[i]) * cover[i]
      const far = (0.35 * x) / w + (0.65 * y) / h
      let lit = 0.93 * (1 - (1 - dimmest) * far * far)
      if (shadow) {
        const edge = x - 0.55 * w + 0.5 * (y - 0.5 * h)
        lit *= shadow.light + (1 - shadow.light) / (1 + Math.exp((4 * edge) / shadow.softPx))
      }
      light[i] = face * lit
    }
  }
  const samples = new Uint8Array(w * h)
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(6.2832 * random())
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      // As soft as a lens: a little of the neighbours.
      const at = (dx: number, dy: number): number =>
        light[Math.min(h - 1, Math.max(0, y + dy)) * w + Math.min(w - 1, Math.max(0, x + dx))]
      const soft = 0.6 * at(0, 0) + 0.1 * (at(1, 0) + at(-1, 0) + at(0, 1) + at(0, -1))
      samples[y * w + x] = Math.min(255, Math.max(0, Math.round(255 * soft + noise * normal())))
    }
  }
  return { picture: { widthPx: w, heightPx: h, samples, full: 255 }, truth }
}

/** How well found ink is the true ink: harmonic mean of precision and recall, each within a pixel. */
export function inkF1(found: Uint8Array, truth: Uint8Array, w: number): { f1: number; precision: number; recall: number } {
  const h = truth.length / w
  const within = (of: Uint8Array, of2: Uint8Array): number => {
    let all = 0
    let hit = 0
    for (let y = 0; y < h; y++) {
      for (let x = 0; x < w; x++) {
        if (!of[y * w + x]) continue
        all++
        let seen = false
        for (let v = Math.max(0, y - 1); v <= Math.min(h - 1, y + 1) && !seen; v++)
          for (let u = Math.max(0, x - 1); u <= Math.min(w - 1, x + 1) && !seen; u++) seen = of2[v * w + u] === 1
        if (seen) hit++
      }
    }
    return all ? hit / all : 1
  }
  const precision = within(found, truth)
  const recall = within(truth, found)
  return { f1: (2 * precision * recall) / (precision + recall), precision, recall }
}
