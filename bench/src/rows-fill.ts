import { filledBy } from '@neotaxis/core/geometry/clip'
import { mapRing, type Ring } from '@neotaxis/core/geometry/ring'
import { filled } from '@neotaxis/core/process/area/fill'
import { linesOf } from '@neotaxis/core/process/area/lines'
import { SAME } from '@neotaxis/core/space/affine'
import { Clipper, Clipper64, ClipType, EndType, FillRule, JoinType, type Paths64 } from 'clipper2-ts'
import { pairSeconds, type Row, seconds, timeRow } from './measure.ts'
import { randomFrom } from './random.ts'

const UNITS = 10_000
const PITCH = 0.1

/** A rough shore of so many vertices, about 130 mm across. */
function shore(vertices: number, random: () => number): Ring {
  const [a, b, c] = [7 + Math.floor(9 * random()), 31 + Math.floor(20 * random()), 200 + Math.floor(40 * random())]
  return Float64Array.from({ length: 2 * vertices }, (_, i) => {
    const turn = (2 * Math.PI * (i >> 1)) / vertices
    const r = 55 + 7 * Math.sin(a * turn) + 3 * Math.sin(b * turn) + Math.sin(c * turn)
    return 70 + r * (i % 2 ? Math.sin(turn) : Math.cos(turn))
  })
}

const toGrid = (rings: readonly Ring[]): Paths64 =>
  rings.map((ring) =>
    Array.from({ length: ring.length / 2 }, (_, i) => ({
      x: Math.round(ring[2 * i] * UNITS),
      y: Math.round(ring[2 * i + 1] * UNITS),
    })),
  )

/** The same lines by clipping open paths. */
function clippedLines(grid: Paths64, pitch: number, high: number): Paths64 {
  const lines: Paths64 = []
  for (let v = pitch / 2; v < high; v += pitch)
    lines.push([
      { x: -10 * UNITS, y: Math.round(v * UNITS) },
      { x: 200 * UNITS, y: Math.round(v * UNITS) },
    ])
  const clipper = new Clipper64()
  clipper.addOpenSubject(lines)
  clipper.addClip(grid)
  const open: Paths64 = []
  clipper.execute(ClipType.Intersection, FillRule.EvenOdd, [], open)
  return open
}

/** Offsets of offsets until nothing is left, as the library gives them. */
function chainedOffsets(grid: Paths64, pitch: number): number {
  let rings = 0
  let now = Clipper.inflatePaths(grid, (-pitch / 2) * UNITS, JoinType.Round, EndType.Polygon)
  while (now.length > 0) {
    rings += now.length
    now = Clipper.inflatePaths(now, -pitch * UNITS, JoinType.Round, EndType.Polygon)
  }
  return rings
}

/** Letters in bold strokes, filled outlines: rings with and without holes. */
function glyphs(count: number, random: () => number): Ring[] {
  const rings: Ring[] = []
  for (let k = 0; k < count; k++) {
    const [x, y] = [12 * (k % 40), 12 * Math.floor(k / 40)]
    const lobes = 2 + Math.floor(4 * random())
    const wobble = 0.3 + 0.5 * random()
    const edge = (r: number, way: 1 | -1): Ring =>
      Float64Array.from({ length: 160 }, (_, i) => {
        const turn = (way * 2 * Math.PI * (i >> 1)) / 80
        const d = r + wobble * Math.sin(lobes * turn)
        return d * (i % 2 ? Math.sin(turn) : Math.cos(turn))
      })
    rings.push(mapRing(edge(4.2, 1), 1, 1, x, y), mapRing(edge(2.8, -1), 1, 1, x, y))
  }
  return filledBy('evenodd', rings)
}

/** Areas filled with lines, against the library called directly. */
export async function fillRows(seed: number): Promise<Row[]> {
  const random = randomFrom(seed)
  const rows: Row[] = []
  for (const vertices of [10_000, 20_000, 40_000]) {
    const region = [shore(vertices, random)]
    const grid = toGrid(region)
    const times = await pairSeconds(
      () => linesOf(region, PITCH, 0),
      () => clippedLines(grid, PITCH, 140),
      3,
    )
    rows.push(timeRow(`sweep lines over a region of ${vertices} vertices, ${PITCH} mm`, times, 0.05))
  }
  const base = { intervalMm: PITCH, deg: 0, begins: 'far', insetMm: 0 } as const
  for (const count of [250, 500, 1000]) {
    const area = glyphs(count, random)
    const grid = toGrid(area)
    const ours = seconds(() => void filled(area, { ...base, strategy: 'rings' }, SAME), 1)
    // Once is enough: it takes minutes.
    const started = performance.now()
    const rings = count > 250 ? undefined : chainedOffsets(grid, PITCH)
    const reference = rings === undefined ? undefined : (performance.now() - started) / 1000
    const note = reference === undefined ? 'the library was asked for 250 only' : undefined
    rows.push(
      timeRow(
        `rings in ${count} rings of letters’ size, ${PITCH} mm`,
        [ours, reference],
        reference === undefined ? undefined : 0.05,
        note,
      ),
    )
  }
  const area = glyphs(1000, random)
  for (const strategy of ['sweep', 'patches'] as const)
    rows.push(
      timeRow(
        `${strategy} over 1000 of them`,
        [seconds(() => void filled(area, { ...base, strategy, shareMm: 20 }, SAME), 3), undefined],
        undefined,
      ),
    )
  return rows
}
