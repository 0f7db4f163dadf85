import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { MACHINES, ResultCache, writeProgram } from '@neotaxis/core'
import { offset } from '@neotaxis/core/geometry/clip'
import { motionClock } from '@neotaxis/core/motion/clock'
import { orderCuts } from '@neotaxis/core/plan/order'
import { writeRings } from '@neotaxis/core/plan/paths'
import { burning, onRectangle, sampleJob } from '@neotaxis/core/testing/sample-job'
import { MoveWriter } from '@neotaxis/core/toolpath/moves'
import { Clipper, EndType, FillRule, JoinType } from 'clipper2-ts'
import { openTourBound } from './held-karp.ts'
import { pairSeconds, type Row, seconds, timeRow } from './measure.ts'
import { randomFrom } from './random.ts'
import { blob } from './shapes.ts'

/** Small squares to cut, their places given by `at`. */
const squares = (n: number, side: number, at: (i: number) => readonly [number, number]): Float64Array[] =>
  Array.from({ length: n }, (_, i) => {
    const [x, y] = at(i)
    return Float64Array.of(x, y, x + side, y, x + side, y + side, x, y + side)
  })

const travel = (rings: readonly Float64Array[], steps: readonly { ring: number; start: number }[]): number => {
  let [x, y] = [0, 0]
  let sum = 0
  for (const { ring, start } of steps) {
    const u = rings[ring][2 * start]
    const v = rings[ring][2 * start + 1]
    sum += Math.hypot(u - x, v - y)
    x = u
    y = v
  }
  return sum
}

/** Cut order: travel against a lower bound, and against layouts whose shortest way is known. */
function orderRows(seed: number): Row[] {
  const rows: Row[] = []
  for (const n of [1000, 10_000]) {
    const random = randomFrom(seed + n)
    const rings = squares(n, 0.001, () => [random() * 400, random() * 400])
    let steps = orderCuts(rings, [0, 0])
    const time = seconds(() => {
      steps = orderCuts(rings, [0, 0])
    }, 3)
    const points = [[0, 0], ...rings.map((ring) => [ring[0], ring[1]])]
    const bound = openTourBound(points, n > 2000 ? 60 : 200)
    rows.push({
      what: `cut order of ${n}: travel over the lower bound`,
      ours: travel(rings, steps),
      reference: bound,
      unit: 'mm',
      target: 1.12,
    })
    rows.push(timeRow(`cut order of ${n}`, [time, n === 1000 ? 1 : 10], 1, 'reference: the time allowed'))
  }
  const grid = squares(900, 0.001, (i) => [(i % 30) * 10, Math.floor(i / 30) * 10])
  rows.push({
    what: 'cut order of a 30 × 30 grid: over the optimum',
    ours: travel(grid, orderCuts(grid, [0, 0])),
    reference: 899 * 10,
    unit: 'mm',
    target: 1.03,
  })
  const circle = squares(1000, 0.001, (i) => [
    200 + 190 * Math.cos((2 * Math.PI * ((i * 607) % 1000)) / 1000 + Math.PI * 1.25),
    200 + 190 * Math.sin((2 * Math.PI * ((i * 607) % 1000)) / 1000 + Math.PI * 1.25),
  ])
  const best = Math.hypot(200, 200) - 190 + 999 * 2 * 190 * Math.sin(Math.PI / 1000)
  rows.push({
    what: 'cut order of 1000 on a circle: over the optimum',
    ours: travel(circle, orderCuts(circle, [0, 0])),
    reference: best,
    unit: 'mm',
    target: 1.03,
  })
  return rows
}

/** Offsets against the library called directly with the same settings. */
async function offsetRows(seed: number): Promise<Row[]> {
  const rows: Row[] = []
  for (const vertices of [25_000, 50_000, 100_000]) {
    const random = randomFrom(seed)
    const count = 40
    const rings = Array.from({ length: count }, (_, i) => {
      const dense = blob((i % 8) * 60 + 30, Math.floor(i / 8) * 60 + 30, 24, random)
      const n = vertices / count
      return Float64Array.from({ length: 2 * n }, (_, k) => dense[2 * Math.floor(((k >> 1) * (dense.length / 2)) / n) + (k & 1)])
    })
    const direct = rings.map((ring) =>
      Array.from({ length: ring.length / 2 }, (_, i) => ({
        x: Math.round(ring[2 * i] * 1e4),
        y: Math.round(ring[2 * i + 1] * 1e4),
      })),
    )
    const library = () =>
      Clipper.simplifyPaths(
        Clipper.inflatePaths(Clipper.union(direct, FillRule.EvenOdd), 15_000, JoinType.Round, EndType.Polygon, 4, 100),
        20,
      )
    rows.push(timeRow(`offset of ${vertices} vertices`, await pairSeconds(() => offset(rings, 1.5), library), 1.1))
  }
  return rows
}

/** A full bed at 0.1 mm: picture to program, against writing the same bytes to a file. */
async function programRows(seed: number): Promise<Row[]> {
  const rows: Row[] = []
  for (const intervalMm of [0.2, 0.1]) {
    const random = randomFrom(seed)
    const w = 3000
    const h = 2000
    const samples = Uint8Array.from(
      { length: w * h },
      (_, i) => 120 + 90 * Math.sin((i % w) * 0.01) * Math.cos(i / w / 90) + 40 * (random() - 0.5),
    )
    const picture = { widthPx: w, heightPx: h, samples, full: 255 }
    const sample = sampleJob({ picture, widthMm: 600, xMm: 0, yMm: 0, engrave: { power: 0.3, intervalMm } })
    const job = onRectangle(burning(sample, 'engrave'), { widthMm: 600, heightMm: 400, xMm: 0, yMm: 0 })
    const folder = mkdtempSync(join(tmpdir(), 'neotaxis-bench-'))
    try {
      let bytes = 0
      const ours = (): void => {
        const file = openSync(join(folder, 'ours'), 'w')
        bytes = 0
        writeProgram(job, { picture: () => picture, cache: new ResultCache() }, (piece) => {
          bytes += piece.length
          writeSync(file, piece)
        })
        closeSync(file)
      }
      const piece = new Uint8Array(1 << 18).fill(49)
      const plainly = (): void => {
        const file = openSync(join(folder, 'plain'), 'w')
        for (let left = bytes; left > 0; left -= piece.length)
          writeSync(file, left >= piece.length ? piece : piece.subarray(0, left))
        closeSync(file)
      }
      const times = await pairSeconds(ours, plainly, 5)
      const peak = process.resourceUsage().maxRSS / 1024
      rows.push(
        timeRow(
          `full bed at ${intervalMm} mm → program of ${(bytes / 1e6).toFixed(0)} MB`,
          times,
          10,
          `peak memory of the whole benchmark so far ${peak.toFixed(0)} MB`,
        ),
      )
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  }
  return rows
}

/** 100 000 segments to cut: ordered, what is shared burned once, written and timed, against the time allowed. */
function segmentRows(seed: number): Row[] {
  const random = randomFrom(seed + 5)
  const wavy = (n: number, x: number, y: number, r: number): Float64Array => {
    const [waves, phase] = [3 + Math.floor(random() * 6), random() * 6]
    return Float64Array.from({ length: 2 * n }, (_, i) => {
      const a = (2 * Math.PI * (i >> 1)) / n
      const far = r * (1 + 0.15 * Math.sin(waves * a + phase))
      return Math.round(i % 2 === 0 ? x + far * Math.cos(a) : y + far * Math.sin(a))
    })
  }
  const grid = (count: number, side: number, make: (x: number, y: number) => Float64Array): Float64Array[] =>
    Array.from({ length: count }, (_, i) => {
      const columns = Math.ceil(Math.sqrt(count * 1.5))
      return make((i % columns) * side, Math.floor(i / columns) * side)
    })
  const layouts: readonly (readonly [string, readonly Float64Array[]])[] = [
    ['1 000 rings apart', grid(1000, 14_000, (x, y) => wavy(100, x + 7000, y + 7000, 5000))],
    [
      '500 rings with 500 in them, close together',
      grid(500, 20_000, (x, y) => wavy(100, x + 10_000, y + 10_000, 8800)).concat(
        grid(500, 20_000, (x, y) => wavy(100, x + 10_000, y + 10_000, 5000)),
      ),
    ],
    [
      '25 000 squares edge to edge',
      grid(25_000, 3000, (x, y) => Float64Array.of(x, y, x + 3000, y, x + 3000, y + 3000, x, y + 3000)),
    ],
  ]
  return layouts.map(([what, rings]) => {
    const work = (): void => {
      const clock = motionClock(MACHINES[0])
      clock.section()
      const writer = new MoveWriter({ operation: () => {}, event: () => {}, moves: (block) => clock.add(block) })
      writeRings(
        writer,
        rings.map((points) => ({ points })),
        { speedMmS: 20, passes: [500] },
        MACHINES[0],
      )
      writer.flush()
      clock.finish()
    }
    return timeRow(`plan of 100 000 segments: ${what}`, [seconds(work, 3), 1.5], 1, 'reference: the time allowed')
  })
}

export const planRows = async (seed: number): Promise<Row[]> => [
  ...(await programRows(seed)),
  ...orderRows(seed),
  ...segmentRows(seed),
  ...(await offsetRows(seed)),
]
