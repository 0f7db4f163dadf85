import { describe, expect, it } from 'vitest'
import { shapeArea } from '../../geometry/clip.ts'
import { flattenPath, type Path } from '../../geometry/path.ts'
import { nearestOn } from '../../geometry/pieces.ts'
import { type Ring, ringArea, ringsBounds } from '../../geometry/ring.ts'
import { type ColourPicture, labelled, NOTHING, oklab, palette } from './palette.ts'
import { outlinesOf, sharedEdges } from './separate.ts'

type Rgb = readonly [number, number, number]
const WHITE: Rgb = [250, 248, 240]
const RED: Rgb = [200, 40, 30]
const BLUE: Rgb = [30, 60, 150]
const GREEN: Rgb = [40, 140, 60]

/** A picture whose pixels mean over 6 × 6 places, as a camera or a drawing program softens edges. */
function painted(w: number, h: number, colour: (x: number, y: number) => Rgb): ColourPicture {
  const [red, green, blue] = [0, 1, 2].map(() => new Uint8Array(w * h))
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const sum = [0, 0, 0]
      for (let j = 0; j < 6; j++)
        for (let i = 0; i < 6; i++) {
          const rgb = colour(x + (i + 0.5) / 6, y + (j + 0.5) / 6)
          for (let k = 0; k < 3; k++) sum[k] += rgb[k]
        }
      const at = y * w + x
      ;[red[at], green[at], blue[at]] = sum.map((v) => Math.round(v / 36))
    }
  return { widthPx: w, heightPx: h, red, green, blue }
}

/** Two discs that overlap, on paper. */
const discs = painted(160, 120, (x, y) =>
  Math.hypot(x - 65, y - 60) < 40 ? RED : Math.hypot(x - 105, y - 60) < 38 ? BLUE : WHITE,
)
const flat = (paths: readonly Path[]): Ring[] => paths.map((path) => flattenPath(path, 0.01))
const area = (paths: readonly Path[]): number => Math.abs(flat(paths).reduce((sum, ring) => sum + ringArea(ring), 0))

describe('a palette', () => {
  it('has the colours that are meant, the largest first, and knows the paper', () => {
    const colours = palette(discs, 3)
    expect(colours.map(({ rgb }) => rgb)).toEqual([WHITE, RED, BLUE])
    expect(colours.map(({ paper }) => paper)).toEqual([true, false, false])
    expect(colours.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 6)
  })

  it('has no more colours than there are, and is the same every time', () => {
    const two = painted(40, 40, (x) => (x < 20 ? RED : WHITE))
    expect(palette(two, 6).length).toBeLessThanOrEqual(3)
    expect(palette(discs, 4)).toEqual(palette(discs, 4))
    expect(palette({ ...discs, alpha: new Uint8Array(160 * 120) }, 4)).toEqual([])
  })

  it('measures colours as they are seen', () => {
    expect(oklab(255, 255, 255)[0]).toBeCloseTo(1, 3)
    expect(oklab(0, 0, 0)[0]).toBe(0)
    expect(oklab(255, 0, 0).map((v) => Number(v.toFixed(3)))).toEqual([0.628, 0.225, 0.126])
  })

  it('gives edges between two colours to one of them, not to a third', () => {
    // Between green and white lies a tone near to the blue and the red.
    const grey: Rgb = [145, 194, 150]
    const three = painted(90, 60, (x, y) => (x > 70 ? grey : Math.hypot(x - 30, y - 30) < 20 ? GREEN : WHITE))
    const colours = palette(three, 3)
    const labels = labelled(three, colours)
    const third = colours.findIndex(({ rgb }) => rgb.join() === grey.join())
    expect(third).toBeGreaterThanOrEqual(0)
    let strays = 0
    for (let y = 0; y < 60; y++) for (let x = 0; x < 60; x++) if (labels[y * 90 + x] === third) strays++
    expect(strays).toBeLessThan(6)
  })
})

describe('edges between colours', () => {
  const colours = palette(discs, 3)
  const edges = sharedEdges(discs, colours, 0.2)
  const [white, red, blue] = [0, 1, 2]

  it('are found to a fraction of a pixel', () => {
    const [disc, ...more] = outlinesOf(edges, new Set([red]))
    expect(more).toEqual([])
    expect(area([disc])).toBeCloseTo(Math.PI * 1600, -2)
    const off = flat([disc])[0]
    let sum = 0
    for (let i = 0; i < off.length; i += 2) sum += (Math.hypot(off[i] - 65, off[i + 1] - 60) - 40) ** 2
    expect(Math.sqrt(sum / (off.length / 2))).toBeLessThan(0.35)
  })

  it('are shared exactly: no gap, no overlap, and together they are the picture', () => {
    const outlines = [white, red, blue].map((label) => outlinesOf(edges, new Set([label])))
    expect(outlines.reduce((sum, paths) => sum + shapeAreaOf(paths), 0)).toBeCloseTo(160 * 120, 6)
    // Every place on the edge between both discs lies on both outlines.
    const between = edges.filter(
      ({ left, right }) => new Set([left, right, white]).size === 3 && left !== NOTHING && right !== NOTHING,
    )
    expect(between.length).toBeGreaterThan(0)
    for (const { pieces } of between)
      for (const piece of pieces) {
        expect(nearestOn(outlines[red], piece[0], piece[1])!.distance).toBeLessThan(1e-5)
        expect(nearestOn(outlines[blue], piece[0], piece[1])!.distance).toBeLessThan(1e-5)
      }
  })

  it('vanish inside where colours are merged', () => {
    const [both, ...more] = outlinesOf(edges, new Set([red, blue]))
    expect(more).toEqual([])
    expect(area([both])).toBeCloseTo(area(outlinesOf(edges, new Set([red]))) + area(outlinesOf(edges, new Set([blue]))), 6)
    const all = outlinesOf(edges, new Set([white, red, blue]))
    expect(ringsBounds(flat(all))).toEqual({ x0: 0, y0: 0, x1: 160, y1: 120 })
    expect(all.flatMap(({ kinds }) => [...kinds])).toEqual([0, 0, 0, 0])
  })

  it('keep what is transparent out', () => {
    const alpha = new Uint8Array(160 * 120).map((_, i) => (i % 160 < 20 ? 0 : 255))
    const cut = sharedEdges({ ...discs, alpha }, colours, 0.2)
    const all = outlinesOf(cut, new Set([white, red, blue]))
    expect(area(all)).toBeCloseTo(140 * 120, -1)
  })

  it('of 2 MP are found', () => {
    const large = painted(320, 240, (x, y) => [WHITE, RED, BLUE, GREEN][(Math.floor(x / 23) * 7 + Math.floor(y / 31) * 3) % 4])
    const twice: ColourPicture = {
      widthPx: 1600,
      heightPx: 1200,
      ...(Object.fromEntries(
        (['red', 'green', 'blue'] as const).map((channel) => [
          channel,
          Uint8Array.from(
            { length: 1600 * 1200 },
            (_, i) => large[channel][Math.floor(Math.floor(i / 1600) / 5) * 320 + Math.floor((i % 1600) / 5)],
          ),
        ]),
      ) as Pick<ColourPicture, 'red' | 'green' | 'blue'>),
    }
    const found = sharedEdges(twice, palette(twice, 4), 0.3)
    expect(found.length).toBeGreaterThan(100)
  })
})

/** Area by even-odd of paths that may hold each other. */
function shapeAreaOf(paths: readonly Path[]): number {
  return Math.abs(flat(paths).reduce((sum, ring) => sum + ringArea(ring), 0)) || Math.abs(shapeArea(flat(paths)))
}
