import { readDxf } from '@neotaxis/core/formats/dxf/dxf'
import { writeDxf } from '@neotaxis/core/formats/dxf/dxf-write'
import { readSvg } from '@neotaxis/core/formats/svg/svg'
import { combine, offset } from '@neotaxis/core/geometry/clip'
import { pathFromRing } from '@neotaxis/core/geometry/path'
import { mapRing, type Ring, ringArea } from '@neotaxis/core/geometry/ring'
import { cleaned } from '@neotaxis/core/outline/clean/clean'
import type { OutlineStep } from '@neotaxis/core/outline/clean/steps'
import { type ColourPicture, palette } from '@neotaxis/core/outline/colours/palette'
import { outlinesOf, sharedEdges } from '@neotaxis/core/outline/colours/separate'
import { piecesOfSheet } from '@neotaxis/core/outline/hold/pieces'
import { setText } from '@neotaxis/core/text/set-text'
import { STROKE_FONT } from '@neotaxis/core/text/stroke-font'
import { Clipper, FillRule, type Paths64 } from 'clipper2-ts'
import { pairSeconds, type Row, seconds, timeRow } from './measure.ts'
import { randomFrom } from './random.ts'

const UNITS = 10_000

/** Rough blobs on a sheet, `corners` corners in all, some of them overlapping. */
function blobs(corners: number, random: () => number): Ring[] {
  const each = 400
  return Array.from({ length: Math.round(corners / each) }, () => {
    const [cx, cy, r] = [random() * 600, random() * 400, 6 + random() * 10]
    const ring = new Float64Array(2 * each)
    for (let i = 0; i < each; i++) {
      const a = (2 * Math.PI * i) / each
      const rough = r * (1 + 0.15 * Math.sin(3 * a + r) + 0.02 * random())
      ring[2 * i] = cx + rough * Math.cos(a)
      ring[2 * i + 1] = cy + rough * Math.sin(a)
    }
    return ring
  })
}

const toGrid = (rings: readonly Ring[]): Paths64 =>
  rings.map((ring) =>
    Array.from({ length: ring.length / 2 }, (_, i) => ({
      x: Math.round(ring[2 * i] * UNITS),
      y: Math.round(ring[2 * i + 1] * UNITS),
    })),
  )

/** Outlines: polygons against the library called directly, clean-up, colours, vector files, pieces, texts. */
export async function outlineRows(seed: number): Promise<Row[]> {
  const rows: Row[] = []
  for (const corners of [25_000, 50_000, 100_000]) {
    const rings = blobs(corners, randomFrom(seed))
    const grid = toGrid(rings)
    rows.push(
      timeRow(
        `union of ${corners} vertices`,
        await pairSeconds(
          () => combine('union', rings),
          () => Clipper.union(grid, FillRule.EvenOdd),
          5,
        ),
        1.1,
      ),
    )
  }
  for (const corners of [50_000, 100_000, 200_000]) {
    const paths = blobs(corners, randomFrom(seed)).map(pathFromRing)
    const size = { widthMm: 600, heightMm: 400 }
    const steps: Record<string, OutlineStep> = {
      specks: { kind: 'specks', on: true, areaMm2: 1 },
      doubles: { kind: 'doubles', on: true, withinMm: 0.05 },
      join: { kind: 'join', on: true, gapMm: 0.5 },
      'fewer nodes': { kind: 'simplify', on: true, toleranceMm: 0.05 },
    }
    for (const [name, step] of Object.entries(steps))
      rows.push(
        timeRow(
          `clean-up ${corners / 1000} k nodes: ${name}`,
          [seconds(() => cleaned(paths, [step], size), 3), undefined],
          undefined,
        ),
      )
  }
  for (const side of [1000, 2000]) {
    const picture = discs(side, randomFrom(seed))
    const found = palette(picture, 6)
    const run = (): unknown => outlinesOf(sharedEdges(picture, found, 0.2), new Set([1, 2]))
    rows.push(
      timeRow(`colours ${(side * side) / 1e6} MP, palette of 6`, [seconds(() => palette(picture, 6), 3), undefined], undefined),
    )
    rows.push(timeRow(`colours ${(side * side) / 1e6} MP, shared edges`, [seconds(run, 3), undefined], undefined))
  }
  for (const corners of [50_000, 200_000]) {
    const shapes = blobs(corners, randomFrom(seed)).map((ring) => ({
      paths: [pathFromRing(ring)],
      look: { stroke: '#000000', strokeMm: 0.1 },
      rule: 'nonzero' as const,
    }))
    const dxf = new TextEncoder().encode(writeDxf({ shapes, notices: [] }))
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="600mm" height="400mm" viewBox="0 0 600 400">${shapes
      .map(({ paths: [{ points }] }) => `<path d="M${Array.from(points, (v) => v.toFixed(3)).join(' ')}Z"/>`)
      .join('')}</svg>`
    rows.push(timeRow(`DXF ${corners / 1000} k nodes, read`, [seconds(() => readDxf(dxf), 3), undefined], undefined))
    rows.push(timeRow(`SVG ${corners / 1000} k nodes, read`, [seconds(() => readSvg(svg), 3), undefined], undefined))
  }
  for (const parts of [250, 500, 1000]) {
    const random = randomFrom(seed)
    const bands = Array.from({ length: parts }, (_, i) => {
      const columns = Math.ceil(Math.sqrt(parts))
      const ring = blobs(400, random)[0]
      const { x, y } = { x: (i % columns) * 40, y: Math.floor(i / columns) * 40 }
      return mapRing(ring, 1, 1, x - ring[0], y - ring[1])
    })
    const kerf = combine('subtract', offset(bands, 0.15), bands)
    const far = 40 * Math.ceil(Math.sqrt(parts)) + 100
    const sheet = Float64Array.of(-100, -100, far, -100, far, far, -100, far)
    rows.push(
      timeRow(`pieces of a sheet with ${parts} parts`, [seconds(() => piecesOfSheet([sheet], kerf), 3), undefined], undefined),
    )
  }
  const page = `${'Harbour office of Saltmere '.repeat(4)}\n`.repeat(33)
  const spec = {
    kind: 'text',
    text: page,
    font: { kind: 'strokes' },
    capMm: 8,
    letterMm: 0,
    lineShare: 1.6,
    align: 'left',
  } as const
  rows.push(timeRow(`text of ${page.length} letters`, [seconds(() => setText(spec, STROKE_FONT), 3), undefined], undefined))
  const square = Float64Array.of(0, 0, 10, 0, 10, 10, 0, 10)
  const steiner = 100 + 4 * 10 * 3 + Math.PI * 9
  rows.push({
    what: 'offset of a square, area against Steiner’s formula',
    ours: Math.abs(offset([square], 3).reduce((sum, ring) => sum + ringArea(ring), 0) / steiner - 1),
    reference: undefined,
    unit: '',
    target: undefined,
  })
  return rows
}

/** Coloured discs on paper, with soft edges. */
function discs(side: number, random: () => number): ColourPicture {
  const colours = [
    [250, 248, 240],
    [200, 60, 40],
    [40, 90, 160],
    [230, 190, 60],
    [60, 140, 90],
    [40, 40, 40],
  ]
  const channels = [0, 1, 2].map((c) => new Uint8Array(side * side).fill(colours[0][c]))
  for (let d = 0; d < 40; d++) {
    const [cx, cy, r] = [random() * side, random() * side, side * (0.03 + random() * 0.1)]
    const colour = colours[1 + (d % 5)]
    for (let y = Math.max(0, Math.floor(cy - r - 1)); y < Math.min(side, cy + r + 1); y++)
      for (let x = Math.max(0, Math.floor(cx - r - 1)); x < Math.min(side, cx + r + 1); x++) {
        const share = Math.min(1, Math.max(0, r - Math.hypot(x + 0.5 - cx, y + 0.5 - cy) + 0.5))
        const at = y * side + x
        channels.forEach((channel, c) => {
          channel[at] = Math.round(channel[at] * (1 - share) + colour[c] * share)
        })
      }
  }
  const [red, green, blue] = channels
  return { widthPx: side, heightPx: side, red, green, blue }
}
