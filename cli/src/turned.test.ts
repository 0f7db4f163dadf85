import {
  burningsOf,
  burnOrder,
  chartOf,
  checkFindings,
  checkJob,
  compareBurn,
  dotsKept,
  faceOutline,
  forecastMaps,
  forecastScene,
  type JobDocument,
  MATERIALS,
  mainPiece,
  mappedRings,
  outlineOfFace,
  type PieceOutline,
  processOf,
  ResultCache,
  readProgram,
  relief,
  type Supply,
  sweptScene,
  turnedTo,
  withPiece,
  withPlace,
  writeProgram,
} from '@neotaxis/core'
import { greyPicture, sampleJob } from '@neotaxis/core/testing/sample-job'
import { Bed, Machine, TRUTHS, Workpiece } from '@neotaxis/stand-ins'
import { describe, expect, it } from 'vitest'

/** An odd blank: a driftwood slab with a bite out of it. */
const ODD: PieceOutline = faceOutline([
  Float64Array.of(4, 12, 30, 0, 62, 6, 90, 2, 98, 40, 84, 52, 96, 70, 60, 84, 20, 78, 0, 46),
])
const ROUND: PieceOutline = { kind: 'circle', diameterMm: 92 }

const picture = greyPicture(160, 120, (x, y) => {
  const d = Math.hypot(x - 80, y - 60)
  return d > 55 ? 255 : 30 + ((x * 5 + y * 3) % 120)
})

/** A picture, a relief of the same source beside it, and a cut around, all turned, on a workpiece that lies askew. */
function turnedJob(
  outline: PieceOutline,
  deg: number,
  lies: number,
  zero: 'front-left' | 'rear-left' = 'front-left',
): JobDocument {
  const base = sampleJob({
    picture,
    widthMm: 32,
    xMm: 16,
    yMm: 24,
    distanceMm: 2,
    engrave: { power: 0.5, speedMmS: 300, intervalMm: 0.2 },
    cut: { kerfMm: 0.18 },
  })
  const lime = MATERIALS.find(({ id }) => id === 'birch-ply-3')!
  const carved: JobDocument = {
    ...base,
    machine: { ...base.machine, zero },
    nodes: {
      ...base.nodes,
      hill: { ...base.nodes.source, name: 'hill' } as never,
      heights: {
        ...base.nodes.dots,
        name: 'heights',
        from: 'hill',
        dots: { ...(base.nodes.dots as { dots: object }).dots, kernel: 'none' },
      } as never,
    },
    placements: {
      ...base.placements,
      hill: { of: 'hill', on: 'piece', xMm: 54, yMm: 30, widthMm: 20, heightMm: 15 },
    },
    operations: {
      ...base.operations,
      carve: { ...relief.fromRecipe(['heights'], lime, base.machine), power: 0.4, speedMmS: 200, intervalMm: 0.2, passes: 1 },
    },
    steps: { ...base.steps, carve: { kind: 'burn', operation: 'carve' } },
    order: ['engrave', 'carve', 'cut'],
  }
  const laid = withPiece(carved, { outline, pose: { xMm: 140, yMm: 90, deg: lies } })
  return checkJob(turnedTo(turnedTo(laid, 'dots', deg), 'heights', -deg / 2))
}

const supply = (): Supply => ({ picture: () => picture, cache: new ResultCache() })

async function burned(job: JobDocument, work: Supply, cell: number) {
  let text = ''
  writeProgram(job, work, (bytes) => {
    text += new TextDecoder().decode(bytes)
  })
  const bed = new Bed(600, 400, cell, 0.12)
  const machine = new Machine(TRUTHS['bench-60'], bed)
  for (const line of text.split('\n')) {
    while (!machine.hasRoom) machine.finishMove()
    machine.take(line)
  }
  while (machine.finishMove());
  expect(machine.counts.alarms).toBe(0)
  // The same true edge is laid in, as it lies in the machine; what is within it is told by code of the stand-in's own.
  const edge = mappedRings(chartOf(job).toAxes, outlineOfFace(mainPiece(job).outline)).map((ring) => Array.from(ring))
  const xs = edge.flatMap((ring) => ring.filter((_, i) => i % 2 === 0))
  const ys = edge.flatMap((ring) => ring.filter((_, i) => i % 2 === 1))
  const box = { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) }
  const piece = new Workpiece({ material: 'birch-ply', thickness: 3, ...box, edge }, bed, 0)
  return { text, piece, box }
}

describe('a turned job on an odd workpiece that lies askew', () => {
  it.each([
    ['turned by 17° on a round one', ROUND, 17, -23],
    ['turned by 17° on an odd one', ODD, 17, 31.5],
    ['turned a quarter on an odd one that lies straight', ODD, 90, 0],
    ['upright on a round one that lies turned a quarter', ROUND, 0, 90],
  ] as const)(
    '%s burns as it was forecast: cuts by 97 %, every dot, and nothing beside it',
    { timeout: 120_000 },
    async (_what, outline, deg, lies) => {
      const cell = 0.02
      const job = turnedJob(outline, deg, lies)
      const work = supply()
      const { piece, box } = await burned(job, work, cell)
      const { pose } = mainPiece(job)
      // A window of the bed around what is burned, its first row at the rear.
      const columns = 4000
      const rows = 3400
      const x = Math.floor((box.x0 + 8) / cell) * cell
      const y = Math.floor((box.y0 + 12) / cell) * cell
      const seen = await piece.picture(x, y, columns, rows, cell)
      const x0 = x - pose.xMm
      const y0 = 400 - pose.yMm - y - rows * cell
      const maps = forecastMaps(sweptScene(forecastScene(job, work), chartOf(job)), columns, rows, cell, x0, y0)
      const picture = { ...seen, x0, y0, cellMm: cell }
      const { cutOverlap, toneOff, cutExpectedMm2 } = compareBurn(maps, picture)
      expect(cutExpectedMm2).toBeGreaterThan(10)
      expect(cutOverlap).toBeGreaterThan(0.97)
      expect(toneOff).toBeLessThan(0.02)
      const [engraved] = burningsOf(job, 'engrave', work)
      const { marks, field } = processOf(engraved.operation).dots!(engraved)
      expect(dotsKept(marks, field, picture, maps)).toBeGreaterThan(0.9999)
    },
  )

  it('has the same properties as any: dark in travel, inside the bed, and ends dark', () => {
    for (const zero of ['front-left', 'rear-left'] as const)
      for (const [deg, lies] of [
        [17, -23],
        [-140.5, 61],
        [90, 90],
      ]) {
        const job = turnedJob(ODD, deg, lies, zero)
        let text = ''
        const report = writeProgram(job, supply(), (bytes) => {
          text += new TextDecoder().decode(bytes)
        })
        const { moves, problems, box } = readProgram(text)
        expect(problems).toEqual([])
        expect(report.operations.map(({ id }) => id)).toEqual(burnOrder(job))
        for (let i = 0; i < moves.count; i++) {
          if (moves.speed[i] === 0) expect(moves.s[i]).toBe(0)
          if (moves.x[i] < 0 || moves.x[i] > 600_000 || moves.y[i] < 0 || moves.y[i] > 400_000)
            throw new Error('Outside the bed.')
        }
        expect(moves.s[moves.count - 1]).toBe(0)
        expect(box![2] - box![0]).toBeLessThan(110)
      }
  })

  it('is told where it leaves the true edge, though its box does not', () => {
    const kinds = (job: JobDocument): string[] => checkFindings(job, supply()).map(({ kind }) => kind)
    expect(kinds(turnedJob(ROUND, 17, -23))).not.toContain('outside-workpiece')
    const corner = withPlace(turnedJob(ROUND, 0, 0), 'source', { xMm: 4, yMm: 4 })
    expect(kinds(corner)).toContain('outside-workpiece')
    expect(kinds(withPiece(corner, { outline: { kind: 'rect', widthMm: 92, heightMm: 92 } }))).not.toContain('outside-workpiece')
  })
})
