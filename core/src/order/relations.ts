import { boundsHold, isEmptyBounds } from '../geometry/bounds.ts'
import { type Ring, ringBounds, ringContains, ringsBounds } from '../geometry/ring.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { dotOnFace } from '../lineage/field.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedPoints } from '../process/burned-points.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'

/** One operation that belongs before another, and why. */
export interface Relation {
  readonly first: string
  readonly then: string
  /** `then` frees what `first` marks, or what `first` cuts. */
  readonly why: 'marks-on' | 'cuts-in'
  /** A place of `first` inside, face mm. */
  readonly x: number
  readonly y: number
}

/** Whether an operation marks the piece, and frees nothing of it. */
export function marksOnly(operation: Operation): boolean {
  const { cutting, silent } = processOf(operation)
  return cutting === undefined && !silent?.(operation)
}

/** Which operations belong before others: what lies inside a part comes before the cut that frees it. */
export function relationsOf(job: JobDocument, supply: Supply): Relation[] {
  const found: Relation[] = []
  const order = burnOrder(job)
  for (const then of order) {
    const { cutting } = processOf(job.operations[then])
    if (!cutting) continue
    const known = new Set<string>()
    for (const cut of burningsOf(job, then, supply)) {
      // Lines that are followed free nothing.
      const { encloses, path } = cutting(cut)
      if (!encloses) continue
      const rings = path()
      if (rings.length === 0) continue
      for (const first of order) {
        if (first === then || known.has(first)) continue
        const marks = marksOnly(job.operations[first])
        // What is cut by both is no part in a part.
        if (!marks && (!processOf(job.operations[first]).cutting || sharesArtwork(job, first, then))) continue
        for (const context of burningsOf(job, first, supply, cut.piece.workpieceId)) {
          const place = marks ? insideOfRings(context, rings) : wholeInside(context, rings)
          if (!place) continue
          known.add(first)
          found.push({ first, then, why: marks ? 'marks-on' : 'cuts-in', x: place[0], y: place[1] })
          break
        }
      }
    }
  }
  // Two cuts that lie in each other on one sheet, here and there: neither belongs before the other.
  const both = new Set(found.map(({ first, then }) => `${first} ${then}`))
  return found.filter(({ first, then }) => !both.has(`${then} ${first}`))
}

/** A place of cuts that lies in a part which others free; undefined where one of them does not lie in any. */
function wholeInside(context: Burning, rings: readonly Ring[]): readonly [number, number] | undefined {
  const own = processOf(context.operation).cutting!(context).path()
  const isInside = insideTest(rings)
  if (own.length === 0 || !own.every((ring) => isInside(ring[0], ring[1]))) return undefined
  const [x, y] = own[0]
  return [x, y]
}

const sharesArtwork = (job: JobDocument, a: string, b: string): boolean =>
  job.operations[a].of.some((node) => job.operations[b].of.includes(node))

function insideTest(rings: readonly Ring[]): (x: number, y: number) => boolean {
  const box = ringsBounds(rings)
  if (isEmptyBounds(box)) return () => false
  const boxes = rings.map(ringBounds)
  return (x, y) => boundsHold(box, x, y) && rings.some((ring, i) => boundsHold(boxes[i], x, y) && ringContains(ring, x, y))
}

/** So many places of lines and areas are tried. */
const MOST_TRIED = 2000

/** A place where an operation marks inside closed cuts: looked for on every row, at most 200 of them, at their marks. */
function insideOfRings(context: Burning, rings: readonly Ring[]): readonly [number, number] | undefined {
  const box = ringsBounds(rings)
  if (isEmptyBounds(box)) return undefined
  const isInside = insideTest(rings)
  const made = processOf(context.operation).dots?.(context)
  if (!made) {
    const points = burnedPoints(context)
    const step = 2 * Math.max(1, Math.floor(points.length / 2 / MOST_TRIED))
    for (let i = 0; i < points.length; i += step) if (isInside(points[i], points[i + 1])) return [points[i], points[i + 1]]
    return undefined
  }
  const { field, marks } = made
  const { levels, columns, rows } = marks
  const stepRow = Math.max(1, Math.floor(rows / 200))
  for (let r = 0; r < rows; r += stepRow) {
    let tried = 0
    for (let c = 0; c < columns && tried < 50; c++) {
      if (levels[r * columns + c] === 0) continue
      const [x, y] = dotOnFace(field, c, r)
      if (x < box.x0 || x > box.x1 || y < box.y0 || y > box.y1) continue
      tried++
      if (isInside(x, y)) return [x, y]
      c += Math.max(1, columns >> 5)
    }
  }
  return undefined
}
