import { describe, expect, it } from 'vitest'
import { type InkPage, inkF1, inkPage, type PageLook, seeded } from '../../testing/ink-page.ts'
import { greyPicture } from '../../testing/sample-job.ts'
import type { GreyPicture } from '../picture.ts'
import { INK, type InkOnly, type InkOptions, inkOnly, inkPicture } from './ink-only.ts'
import { judgePage } from './judge-page.ts'

const BASE: PageLook = { seed: 5, widthPx: 1000, heightPx: 700, ink: [0.4, 0.6], strokePx: [2, 5], dimmest: 0.5, noise: 4 }
const RULED = { dark: 0.2, everyPx: 40, thickPx: 2, deg: 1.3, sagPx: 6 }

const planeOf = ({ widthPx, heightPx, samples }: GreyPicture) => ({
  width: widthPx,
  height: heightPx,
  tone: Uint16Array.from(samples, (v) => v * 257),
})
const found = ({ tone }: InkOnly): Uint8Array => Uint8Array.from(tone, (v) => (v < 32_768 ? 1 : 0))

function tried(page: InkPage, options: InkOptions = INK) {
  const made = inkOnly(planeOf(page.picture), options)
  return { ...made, ...inkF1(found(made), page.truth, page.picture.widthPx) }
}

/** Share of what was ruled, and is no ink within two pixels, that came out as ink. */
function ruledLeft(look: PageLook): number {
  const page = inkPage(look)
  const bare = inkPage({ ...look, noise: 0, dimmest: 1, shadow: undefined, ink: [0, 0] })
  const ink = found(inkOnly(planeOf(page.picture), INK))
  const w = look.widthPx
  let all = 0
  let left = 0
  for (let i = 2 * w; i < ink.length - 2 * w; i++) {
    if (bare.picture.samples[i] > 225 || [0, -2, 2, -2 * w, 2 * w].some((d) => page.truth[i + d])) continue
    all++
    left += ink[i]
  }
  expect(all).toBeGreaterThan(1000)
  return left / all
}

describe('ink only', () => {
  const looks: Readonly<Record<string, PageLook>> = {
    'in uneven light': BASE,
    'on ruled paper that leans and sags': { ...BASE, seed: 6, ruled: RULED },
    'on squared paper': { ...BASE, seed: 8, ruled: { ...RULED, everyPx: 30, deg: 3, sagPx: 0, squared: true } },
    'half in shadow': { ...BASE, seed: 9, shadow: { light: 0.6, softPx: 40 }, ruled: RULED },
    'with much noise': { ...BASE, seed: 10, noise: 9, ruled: RULED },
    'on lines as dark as its ink': { ...BASE, seed: 11, ruled: { ...RULED, dark: 0.5, thickPx: 2.5 } },
    'of a broad pen': { ...BASE, seed: 12, strokePx: [6, 14], ruled: { ...RULED, everyPx: 80, thickPx: 4 } },
  }
  for (const [name, look] of Object.entries(looks)) {
    it(`is what was written, ${name}`, () => {
      const { f1, lines } = tried(inkPage(look))
      expect(f1).toBeGreaterThan(0.975)
      expect(lines > 5).toBe(look.ruled !== undefined)
      if (look.ruled) expect(ruledLeft(look)).toBeLessThan(0.05)
    })
  }

  it('is so on pages of any kind, by a seed', () => {
    for (let seed = 100; seed < 106; seed++) {
      const r = seeded(seed * 7919)
      r()
      const look: PageLook = {
        seed,
        widthPx: Math.round(900 + 700 * r()),
        heightPx: Math.round(800 + 500 * r()),
        ink: [0.4, 0.4 + 0.2 * r()],
        strokePx: [1.8 + r(), 3 + 5 * r()],
        dimmest: 0.4 + 0.4 * r(),
        noise: 2 + 5 * r(),
        ruled: { dark: 0.1 + 0.2 * r(), everyPx: 26 + 40 * r(), thickPx: 1 + 2 * r(), deg: -4 + 8 * r(), sagPx: 10 * r() },
        shadow: { light: 0.55 + 0.3 * r(), softPx: 40 + 60 * r() },
      }
      const { f1 } = tried(inkPage(look))
      expect(f1, JSON.stringify(look)).toBeGreaterThan(0.97)
    }
  })

  it('keeps ruled lines where they are wanted, and straight strokes of the pen', () => {
    const page = inkPage({ ...BASE, seed: 6, ruled: { ...RULED, dark: 0.45 } })
    expect(tried(page, { ruled: false, from: 0.5 }).precision).toBeLessThan(0.9)
    // A frame that was drawn is no ruled paper.
    const frame = greyPicture(900, 600, (x, y) =>
      (Math.abs(y - 100) < 2 || Math.abs(y - 500) < 2 || Math.abs(x - 100) < 2 || Math.abs(x - 800) < 2) && x > 98 && x < 802
        ? 70
        : 220,
    )
    const made = inkOnly(planeOf(frame), INK)
    expect(made.lines).toBe(0)
    expect(found(made)[100 * 900 + 450]).toBe(1)
  })

  it('gives a picture as large as it was, deterministic, of ink and paper alone', () => {
    const { picture } = inkPage({ ...BASE, widthPx: 500, heightPx: 300, ruled: RULED })
    const made = inkPicture(picture, INK)
    expect([made.widthPx, made.heightPx, made.full]).toEqual([500, 300, 255])
    expect(made.samples).toEqual(inkPicture(picture, INK).samples)
    const between = Array.from(made.samples).filter((v) => v > 20 && v < 235).length
    expect(between / made.samples.length).toBeLessThan(0.08)
  })

  it('tells how far it is, and can be stopped', () => {
    const { picture } = inkPage({ ...BASE, widthPx: 400, heightPx: 300 })
    const told: number[] = []
    inkOnly(planeOf(picture), INK, (done) => told.push(done))
    expect(told.length).toBeGreaterThan(3)
    expect(told).toEqual([...told].sort((a, b) => a - b))
    expect(() =>
      inkOnly(planeOf(picture), INK, () => {
        throw new Error('no longer wanted')
      }),
    ).toThrow('no longer wanted')
  })

  it('of nothing, of all black and of a speck of a picture is nothing that fails', () => {
    for (const [w, h, v] of [
      [1, 1, 0],
      [3, 200, 255],
      [64, 64, 0],
      [200, 150, 128],
    ])
      expect(
        inkPicture(
          greyPicture(w, h, () => v),
          INK,
        ).samples,
      ).toHaveLength(w * h)
  })
})

describe('a page of ink', () => {
  it('is told from a photograph, a silhouette and a height map', () => {
    expect(judgePage(inkPage(BASE).picture)).toMatchObject({ likely: true, lines: 0 })
    const ruled = judgePage(inkPage({ ...BASE, seed: 6, ruled: RULED }).picture)
    expect(ruled.likely).toBe(true)
    expect(ruled.lines).toBeGreaterThan(10)
    expect(ruled.reasons.join()).toMatch(/ruled lines/)
    const random = seeded(3)
    const waves = greyPicture(900, 600, (x, y) => 120 + 70 * Math.sin(x / 31) * Math.cos(y / 23) + 30 * Math.sin((x + y) / 7))
    const noisy = greyPicture(900, 600, (x) => 60 + (x / 900) * 150 + 60 * random())
    const disc = greyPicture(900, 600, (x, y) => (Math.hypot(x - 450, y - 300) < 200 ? 20 : 235))
    const hill = greyPicture(900, 600, (x, y) => 255 * Math.exp(-((x - 450) ** 2 + (y - 300) ** 2) / 40_000))
    // Small enough for its light to be evened, its rim would be taken for a stroke.
    const discs = [30, 60, 90, 140].map((r) => greyPicture(400, 300, (x, y) => (Math.hypot(x - 200, y - 150) < r ? 55 : 255)))
    for (const picture of [waves, noisy, disc, hill, ...discs]) expect(judgePage(picture).likely).toBe(false)
  })

  it('tells how wide its strokes are', () => {
    const { strokePx } = judgePage(inkPage({ ...BASE, strokePx: [6, 6], noise: 2 }).picture)
    expect(strokePx).toBeGreaterThan(4.8)
    expect(strokePx).toBeLessThan(9)
  })
})
