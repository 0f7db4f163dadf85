import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { burnedDots } from '../forecast/burned-dots.ts'
import { coverOfDots } from '../forecast/darkness.ts'
import { grainAt } from '../forecast/grain.ts'
import type { DotLayer } from '../forecast/layers.ts'
import { addDots, paintForecast } from '../forecast/paint.ts'
import { buildPyramid } from '../forecast/pyramid.ts'
import type { View } from '../geometry/view.ts'
import { toneOf } from '../material/answer.ts'
import { MATERIALS } from '../material/catalogue.ts'
import { topLayer } from '../material/material.ts'
import { greyPicture, sampleJob, squarePicture, supplyWith } from '../testing/sample-job.ts'
import { forecastScene } from './scene.ts'

const picture = squarePicture(200, 20)
const supply = supplyWith(picture)
const scene = forecastScene(sampleJob({ picture }), supply)
const view = (x: number, y: number, pxPerMm: number, side: number): View => ({ x, y, pxPerMm, widthPx: side, heightPx: side })
const pixel = (rgba: Uint8ClampedArray, v: View, x: number, y: number): number[] => {
  const at = 4 * (Math.floor((y - v.y) * v.pxPerMm) * v.widthPx + Math.floor((x - v.x) * v.pxPerMm))
  return [...rgba.subarray(at, at + 4)]
}

describe('paintForecast', () => {
  const whole = view(0, 0, 1, 300)
  const rgba = paintForecast(scene, whole)

  it('shows the surface where nothing is burned, its burn where it is, and nothing beside the workpiece', () => {
    const [r, , , a] = pixel(rgba, whole, 20, 20)
    expect(a).toBe(255)
    expect(r).toBeGreaterThan(180)
    expect(pixel(rgba, whole, 120, 70)[0]).toBeLessThan(r - 25)
    expect(pixel(rgba, whole, 150, 250)[3]).toBe(0)
  })

  it('opens kerfs, as wide as they are, with a scorched rim', () => {
    // The square of 33.3 mm starts 3.33 mm inside the placement; the cut runs 3 mm outside it.
    const edge = 100 + 40 / 12 - 3
    const near = view(edge - 1, 69.5, 200, 400)
    const close = paintForecast(scene, near)
    const open: number[] = []
    for (let x = edge - 1; x < edge + 0.99; x += 0.005) if (pixel(close, near, x, 70)[3] < 128) open.push(x)
    expect(open[open.length - 1] - open[0]).toBeCloseTo(0.2, 1)
    expect(open[open.length - 1]).toBeCloseTo(edge, 1)
    expect(pixel(close, near, edge + 0.1, 70)[0]).toBeLessThan(pixel(close, near, edge + 0.9, 70)[0] - 30)
  })

  it('shows every dot at its place when close, and the same tone from afar', () => {
    const dots = greyPicture(20, 20, (x, y) => ((x + y) % 4 === 0 ? 0 : 255))
    const job = sampleJob({ picture: dots, widthMm: 10, engrave: { intervalMm: 0.5, power: 1, speedMmS: 60 } })
    const made = forecastScene(job, supplyWith(dots))
    const near = view(100, 50, 40, 400)
    const close = paintForecast(made, near)
    const dark = (x: number, y: number): boolean => pixel(close, near, 100 + (x + 0.5) / 2, 50 + (y + 0.5) / 2)[0] < 140
    for (let y = 0; y < 20; y++) for (let x = 0; x < 20; x++) expect(dark(x, y)).toBe((x + y) % 4 === 0)
    const mean = (list: Uint8ClampedArray): number => {
      let sum = 0
      for (let i = 0; i < list.length; i += 4) sum += list[i]
      return (4 * sum) / list.length
    }
    const far = paintForecast(made, view(100, 50, 1, 10))
    expect(Math.abs(mean(far) - mean(close))).toBeLessThan(12)
  })

  it('has the same tone near and far, however wide the spot is beside the pitch, and however far dots reach', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 2.2, noNaN: true }),
        fc.double({ min: 0, max: 0.3, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (wide, reach, tone) => {
          const pitch = 0.1
          const columns = 120
          const dark = Uint8Array.from({ length: columns * columns }, (_, i) =>
            (Math.imul(i + 1, 2654435761) >>> 0) / 2 ** 32 < tone ? 200 : 0,
          )
          const layer: DotLayer = {
            kind: 'dots',
            operation: 'dots',
            ...burnedDots({ columns, rows: columns }, dark, reach),
            reachMm: reach * pitch,
            x0: 0,
            y0: 0,
            pitch,
            spot: wide * pitch,
          }
          const mean = (pxPerDot: number): number => {
            const side = Math.round(80 * pxPerDot)
            const out = new Float32Array(side * side)
            addDots(out, layer, { x: 2, y: 2, pxPerMm: pxPerDot / pitch, widthPx: side, heightPx: side })
            return out.reduce((sum, d) => sum + d, 0) / out.length
          }
          // Ends that reach into each other from both sides of one free dot count twice from afar, and pixels near by are coarse.
          expect(Math.abs(mean(8) - mean(0.5))).toBeLessThan(0.02)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('paints tiles that meet without a seam', () => {
    const left = view(90, 60, 8, 64)
    const right = view(98, 60, 8, 64)
    const both = { ...view(90, 60, 8, 64), widthPx: 128 }
    const a = paintForecast(scene, left)
    const b = paintForecast(scene, right)
    const ab = paintForecast(scene, both)
    for (let y = 0; y < 64; y++) {
      expect([...ab.subarray(4 * 128 * y, 4 * (128 * y + 64))]).toEqual([...a.subarray(256 * y, 256 * (y + 1))])
      expect([...ab.subarray(4 * (128 * y + 64), 4 * 128 * (y + 1))]).toEqual([...b.subarray(256 * y, 256 * (y + 1))])
    }
  })

  it('leaves operations out that are not asked for', () => {
    expect(forecastScene(sampleJob({ picture }), supply, new Set(['cut'])).layers.map(({ kind }) => kind)).toEqual(['kerf'])
  })
})

describe('tone of the burn', () => {
  it('follows the dose between the ends of the material’s window', () => {
    const ply = MATERIALS[0]
    expect(toneOf(ply, topLayer(ply).markDose.from)).toBe(0)
    expect(toneOf(ply, topLayer(ply).markDose.to)).toBe(1)
    const steps = [0.1, 0.2, 0.35, 0.5, 0.8].map((dose) => toneOf(ply, dose))
    expect([...steps].sort((a, b) => a - b)).toEqual(steps)
  })

  it('has a grain that is always the same, between surface and grain colour', () => {
    for (let i = 0; i < 200; i++) {
      const g = grainAt('wood', i * 1.7, i * 0.3)
      expect(g).toBeGreaterThanOrEqual(0)
      expect(g).toBeLessThanOrEqual(1)
      expect(grainAt('wood', i * 1.7, i * 0.3)).toBe(g)
    }
  })

  it('shows a full area full everywhere, near by too, where spots are wider than the pitch', () => {
    for (const wide of [1, 1.2, 1.5, 2, 3]) {
      const dark = new Uint8Array(40 * 40).fill(255)
      const place = { x0: 0, y0: 0, pitch: 0.1, spot: 0.1 * wide, reachMm: 0 }
      const layer: DotLayer = { kind: 'dots', operation: 'dots', ...burnedDots({ columns: 40, rows: 40 }, dark, 0), ...place }
      const out = new Float32Array(80 * 80)
      addDots(out, layer, { x: 1, y: 1, pxPerMm: 80, widthPx: 80, heightPx: 80 })
      expect(out.reduce((least, d) => Math.min(least, d))).toBeGreaterThan(0.999)
    }
  })

  it('reaches from every dot into the cells beside it, rows for themselves', () => {
    expect([...coverOfDots(4, Uint8Array.of(0, 200, 0, 0, 40, 0, 0, 240), 0.25)]).toEqual([50, 200, 50, 0, 40, 10, 60, 240])
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 70 }),
        fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 1, maxLength: 300 }),
        fc.double({ min: 0.01, max: 0.5, noNaN: true }),
        (columns, list, reach) => {
          const dark = Uint8Array.from(list.slice(0, Math.max(columns, list.length - (list.length % columns))))
          if (dark.length % columns) return
          const beside = (i: number, j: number): number =>
            Math.floor(i / columns) === Math.floor(j / columns) && j >= 0 ? Math.max(0, (dark[j] ?? 0) - dark[i]) : 0
          coverOfDots(columns, dark, reach).forEach((cover, i) => {
            const exact = Math.min(255, dark[i] + reach * (beside(i, i - 1) + beside(i, i + 1)))
            expect(Math.abs(cover - exact)).toBeLessThanOrEqual(1.5)
          })
        },
      ),
    )
  })

  it('halves marks into a pyramid that keeps their mean', () => {
    const levels = Uint8Array.from({ length: 256 * 256 }, (_, i) => ((i * 2654435761) >>> 24) & 255)
    const pyramid = buildPyramid({ columns: 256, rows: 256, levels }).levels
    expect(pyramid.map(({ columns }) => columns)).toEqual([256, 128, 64])
    const mean = (list: Uint8Array): number => list.reduce((sum, v) => sum + v, 0) / list.length
    expect(mean(pyramid[2].levels)).toBeCloseTo(mean(levels), 0)
  })
})
