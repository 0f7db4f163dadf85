import { describe, expect, it } from 'vitest'
import { drawnSvg } from '../drawn/drawn.ts'
import { readDrawing } from '../formats/read-drawing.ts'
import { ringsBounds } from '../geometry/ring.ts'
import { type JobDocument, mainPiece, placeOf, placesOf } from '../job/document/document.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { faceSize, type Workpiece } from '../job/document/workpiece.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { outlinePaths } from '../lineage/evaluate.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { writeProgram } from '../plan/write-program.ts'
import { proposalsFor } from '../proposals/proposals-for.ts'
import { checkJob } from '../reading/check-job.ts'
import { poseBounds } from '../space/pose.ts'
import type { TextSpec } from '../text/text-spec.ts'
import { onEach, withoutPiece, withPieceMore } from './piece-edits.ts'

const NAMES = ['Tern', 'Eider', 'Gannet', 'Kittiwake of the outer skerries', 'Fulmar']
const LIST: TextSpec = {
  kind: 'text',
  text: '{}',
  font: { kind: 'strokes' },
  capMm: 6,
  letterMm: 0,
  lineShare: 1.6,
  align: 'middle',
  series: { entries: NAMES, columns: 2, pitchXMm: 60, pitchYMm: 20 },
}
const bytes = new TextEncoder().encode(drawnSvg(LIST).svg)
const supply = assetsSupply(() => bytes)

/** Names of a list, scored, on the first of five round blanks. */
function tray(): JobDocument {
  const setting = {
    workpiece: { widthMm: 60, heightMm: 60, thicknessMm: 5, outline: { kind: 'circle', diameterMm: 60 } as const },
    material: MATERIALS.find(({ id }) => id === 'slate-5')!,
    machine: MACHINES[0],
  }
  const { widthMm, heightMm, shapes } = readDrawing(bytes)
  const drawing = { widthMm, heightMm, shapes: shapes.length, notices: [] }
  const facts = { name: 'names', asset: 'a'.repeat(64), widthPx: 0, heightPx: 0, hasAlpha: false, drawing, drawn: LIST }
  const { job } = proposalsFor(facts, setting, supply).find(({ id }) => id === 'score-lines')!
  const first: Workpiece = { ...job.workpieces.piece, name: 'pebble 1', pose: { xMm: 10, yMm: 10 } }
  return [2, 3, 4, 5].reduce((sum, n) => withPieceMore(sum, `p${n}`, first), {
    ...job,
    workpieces: { piece: first },
  } as JobDocument)
}

describe('workpieces', () => {
  it('are laid beside each other where there is room on the bed, each with a name of its own', () => {
    const job = tray()
    expect(Object.values(job.workpieces).map(({ name }) => name)).toEqual([1, 2, 3, 4, 5].map((n) => `pebble ${n}`))
    const boxes = Object.values(job.workpieces).map((each) => poseBounds(each.pose, faceSize(each)))
    for (const [i, a] of boxes.entries())
      for (const b of boxes.slice(0, i)) expect(a.x0 < b.x1 && a.x1 > b.x0 && a.y0 < b.y1 && a.y1 > b.y0).toBe(false)
    for (const { x0, y0, x1, y1 } of boxes) {
      expect(Math.min(x0, y0)).toBeGreaterThanOrEqual(0)
      expect(x1).toBeLessThanOrEqual(job.machine.axes.x.travelMm)
      expect(y1).toBeLessThanOrEqual(job.machine.axes.y.travelMm)
    }
  })

  it('carry a list, the next entry on each, as large as it is written and smaller only where it has no room', () => {
    const job = onEach(tray(), 'source')
    expect(() => checkJob(JSON.parse(JSON.stringify(job)))).not.toThrow()
    const [operation] = Object.values(job.operations)
    const pieces = burnedPieces(job, operation)
    expect(pieces.map(({ placement }) => placement.entry)).toEqual([0, 1, 2, 3, 4])
    expect(new Set(pieces.map(({ workpieceId }) => workpieceId)).size).toBe(5)
    const boxes = pieces.map(({ node, place }) =>
      ringsBounds(outlinePaths(job, node, supply, place).map(({ points }) => Float64Array.from(points))),
    )
    for (const { x0, x1, y0, y1 } of boxes) {
      // In the middle of a round blank.
      expect((x0 + x1) / 2).toBeCloseTo(30, 0)
      expect((y0 + y1) / 2).toBeCloseTo(30, 0)
      expect(x1 - x0).toBeLessThan(60 * 0.7 + 0.01)
    }
    const high = boxes.map(({ y0, y1 }) => y1 - y0)
    expect(high[0]).toBeCloseTo(6, 0)
    expect(high[3]).toBeLessThan(4)
    // Each has a name of its own, not the first one five times.
    expect(new Set(boxes.map(({ x0, x1 }) => (x1 - x0).toFixed(2))).size).toBe(NAMES.length)
  })

  it('are each burned where they lie, the same whichever is looked at', () => {
    const job = onEach(tray(), 'source')
    const program = (of: JobDocument): string => {
      let text = ''
      writeProgram(of, supply, (bytes) => {
        text += new TextDecoder().decode(bytes)
      })
      return text
    }
    const text = program(job)
    expect(program({ ...job, lookedAt: 'p3' })).toBe(text)
    const xs = [...text.matchAll(/X([\d.]+)/g)].map(([, x]) => Number(x))
    const boxes = Object.values(job.workpieces).map((each) => poseBounds(each.pose, faceSize(each)))
    for (const { x0, x1 } of boxes) expect(xs.some((x) => x > x0 && x < x1)).toBe(true)
  })

  it('that are looked at are what the job is about on a screen', () => {
    const job = { ...onEach(tray(), 'source'), lookedAt: 'p4' }
    expect(mainPiece(job).name).toBe('pebble 4')
    expect(placeOf(job, 'source')).toMatchObject({ on: 'p4', entry: 3 })
    expect(mainPiece({ ...job, lookedAt: 'gone' }).name).toBe('pebble 2')
  })

  it('are taken away with what lies on them alone; the last one stays', () => {
    const job = onEach(tray(), 'source')
    const less = withoutPiece(job, 'p3')
    expect(() => checkJob(JSON.parse(JSON.stringify(less)))).not.toThrow()
    expect(placesOf(less, 'source')).toHaveLength(4)
    const alone = withoutPiece(tray(), 'piece')
    expect(Object.keys(alone.nodes)).toHaveLength(0)
    expect(alone.order).toHaveLength(0)
    const last = ['piece', 'p2', 'p3', 'p4', 'p5'].reduce(withoutPiece, job)
    expect(Object.keys(last.workpieces)).toEqual(['p5'])
  })
})
