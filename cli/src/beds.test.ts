// Beds with and without something on them, by a simulated camera: how many are looked at grows with the patience one has.
import { type Camera, calibrated, FAINT, flattenPath, seenBlanks } from '@neotaxis/core'
import { DAYLIGHT, hungOver, type Light, laidOut, type Optics, photographed, rays, type Thing } from '@neotaxis/stand-ins'
import { describe, expect, it } from 'vitest'
import { offEdges } from './testing/off-edges.ts'

const BED = { x: 600, y: 400 }
const SEEDS = Math.min(50, Math.max(2, Math.round(Number(process.env.NEOTAXIS_HISTORIES ?? 0) / 200)))

describe('beds of any kind', () => {
  /** Numbers from 0 to 1 that follow from a seed. */
  const from = (seed: number): (() => number) => {
    let state = seed * 7919 + 13
    return () => {
      state = (state * 48271) % 2147483647
      return state / 2147483647
    }
  }
  const size = { widthPx: 1296, heightPx: 972 }

  it(
    `show nothing where nothing lies, and all five blanks where five lie: ${SEEDS} seeds`,
    () => {
      for (let seed = 1; seed <= SEEDS; seed++) {
        const random = from(seed)
        const optics = hungOver(BED, seed % 3 === 0 ? 'wide' : 'moderate', seed)
        const camera = trueCamera(optics, size)
        const light: Light = {
          ...DAYLIGHT,
          bed: (['honeycomb', 'grid', 'plain'] as const)[seed % 3],
          uneven: 0.1 + 0.3 * random(),
          glare: { x: 600 * random(), y: 400 * random(), widthMm: 30 + 50 * random(), bright: 0.3 * random() },
        }
        const thicknessMm = 3 + 9 * random()
        const look = (['paper', 'card', 'ply', 'driftwood', 'acrylic'] as const)[Math.floor(5 * random())]
        const things = [0, 1, 2, 3, 4].map((i): Thing => {
          const [cx, cy] = [90 + 210 * (i % 3) + 20 * random(), 100 + 190 * Math.floor(i / 3) + 20 * random()]
          const [long, short, turn, waves] = [
            30 + 40 * random(),
            22 + 20 * random(),
            Math.PI * random(),
            Math.floor(4 * random()),
          ]
          const ring = Array.from({ length: 120 }, (_, k) => {
            const a = (2 * Math.PI * k) / 120
            const r = 1 + 0.1 * Math.cos(waves * a)
            const [u, v] = [long * r * Math.cos(a), short * r * Math.sin(a)]
            return [cx + Math.cos(turn) * u - Math.sin(turn) * v, cy + Math.sin(turn) * u + Math.cos(turn) * v]
          }).flat()
          return { rings: [ring], thicknessMm, look }
        })
        const bare = { ...size, rgba: photographed(optics, size, [], light, seed + 500) }
        const photo = { ...size, rgba: photographed(optics, size, laidOut(things), light, seed) }
        const bed = { widthMm: BED.x, heightMm: BED.y }
        const words = `seed ${seed}, ${look}, ${thicknessMm.toFixed(1)} mm on ${light.bed}`
        for (const empty of [undefined, { ...size, rgba: photographed(optics, size, [], light, seed + 900) }]) {
          const how = { bed, ...(empty && { empty }) }
          expect(seenBlanks(bare, camera, { ...how, thicknessMm: 0 }), words).toHaveLength(0)
          const found = seenBlanks(photo, camera, { ...how, thicknessMm })
          expect(found, words).toHaveLength(5)
          const edges = things.flatMap(({ rings }) => rings)
          // What is faint is told, and left to the operator's eye.
          for (const { edge } of found.filter(({ faint }) => faint <= FAINT)) {
            const ring = flattenPath(edge, 0.05)
            const off = Array.from({ length: ring.length / 2 }, (_, i) => offEdges(edges, ring[2 * i], ring[2 * i + 1])).sort(
              (a, b) => a - b,
            )
            expect(off[Math.floor(0.9 * off.length)], words).toBeLessThan(0.8)
          }
        }
      }
    },
    30_000 + 30_000 * SEEDS,
  )
})

/** The camera as it truly hangs, from what its rays say: what is tested with it is not its calibration. */
function trueCamera(optics: Optics, size: { readonly widthPx: number; readonly heightPx: number }): Camera {
  const mesh = Math.round(size.widthPx / 24)
  const { columns, ways } = rays(optics, size.widthPx, size.heightPx, mesh)
  const views = [0, 12, 25].map((heightMm) => {
    const spots = []
    for (let i = 0; i < ways.length; i += 2) {
      const fall = optics.highMm - heightMm
      const [x, y, k] = [optics.over[0] + ways[i] * fall, optics.over[1] + ways[i + 1] * fall, i / 2]
      if (x > -50 && y > -50 && x < BED.x + 50 && y < BED.y + 50)
        spots.push({ x, y, u: (k % columns) * mesh, v: Math.floor(k / columns) * mesh })
    }
    return { heightMm, spots }
  })
  return calibrated(size, views).camera
}
