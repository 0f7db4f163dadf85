import { combine, offset } from '../geometry/clip.ts'
import { type Ring, reversed, ringArea, ringBounds } from '../geometry/ring.ts'
import { type JobPiece, jobPieces, thinnestMm } from '../hold/pieces.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { keyOf, type Supply } from '../lineage/supply.ts'
import { processOf } from '../process/table.ts'
import type { Found } from './finding.ts'

/**
 * Where what stays is thinner than holds: shrunk by half the limit, a piece falls apart, closes less holes or vanishes. Walls
 * between cuts and to the sheet's edge are all walls of some piece.
 */
export function thinParts(job: JobDocument, supply: Supply): Found[] {
  const limit = thinnestMm(job)
  return jobPieces(job, supply)
    .filter(({ fate }) => fate === 'part' || fate === 'stays')
    .flatMap((piece, i): Found[] => {
      const place = thinPlace(piece, limit, supply)
      if (!place) return []
      const operation = piece.operation ?? burnOrder(job).find((id) => processOf(job.operations[id]).cutting)
      const what = piece.fate === 'part' ? 'The part' : 'The sheet'
      return [
        {
          id: `thin:${operation}:${i}`,
          kind: 'thin',
          severity: 'note',
          operation,
          x: place[0],
          y: place[1],
          message: `${what} is thinner than ${limit.toFixed(1)} mm here: it may break, or burn through between cuts.`,
          fixes: [],
        },
      ]
    })
}

/** Rings with more corners than this are not looked at. */
const MOST_CORNERS = 40_000

/** A ring whose area has a sign. */
const turning = (ring: Ring, sign: 1 | -1): Ring => (Math.sign(ringArea(ring)) === -sign ? reversed(ring) : ring)

/** Left over where an edge is curved or a corner is round: no wall, mm. */
const SLIVER_MM = 0.1

function thinPlace({ outer, holes }: JobPiece, limit: number, supply: Supply): readonly [number, number] | undefined {
  const rings = [turning(outer, 1), ...holes.map((hole) => turning(hole, -1))]
  const corners = rings.reduce((sum, ring) => sum + ring.length / 2, 0)
  if (corners > MOST_CORNERS) return undefined
  const digest = rings.map((ring) => [ring.length, Math.round(1e4 * ringArea(ring)), ring[0], ring[1]])
  return supply.cache.get(
    keyOf('thin', limit, digest),
    () => {
      const core = offset(rings, -limit / 2, { simple: true })
      const count = (list: readonly Ring[], sign: 1 | -1): number =>
        list.filter((ring) => Math.sign(ringArea(ring)) === sign).length
      if (count(core, 1) === 1 && count(core, -1) === holes.length) return undefined
      // What the limit takes away, most of it where the wall is thin.
      const rest = offset(combine('subtract', rings, offset(core, limit / 2, { simple: true })), -SLIVER_MM, { simple: true })
      const largest = rest.filter((ring) => ringArea(ring) > 0).sort((a, b) => ringArea(b) - ringArea(a))[0] ?? outer
      const { x0, y0, x1, y1 } = ringBounds(largest)
      return [(x0 + x1) / 2, (y0 + y1) / 2] as const
    },
    () => 100,
  )
}
