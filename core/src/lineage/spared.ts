import { together } from '../geometry/clip.ts'
import { coverage } from '../geometry/coverage.ts'
import type { Ring } from '../geometry/ring.ts'
import { type JobDocument, placesOf, sourceOf } from '../job/document/document.ts'
import { inverseOf } from '../space/affine.ts'
import { mappedRings } from '../space/map-shapes.ts'
import { outlineKey, outlineRings } from './evaluate.ts'
import type { DotField } from './field.ts'
import { ringBytes } from './local.ts'
import { keyOf, type Supply } from './supply.ts'

/** Settings of an operation that leaves out what lies within other artwork. */
export interface Sparing {
  /** Outlines within which it burns nothing: what lies there is burned by something else. */
  readonly spares?: readonly string[]
}

/** Where spared artwork lies on a workpiece. */
const spots = (job: JobDocument, { spares = [] }: Sparing, workpiece: string) =>
  spares
    .filter((node) => job.nodes[node])
    .flatMap((node) => placesOf(job, sourceOf(job, node)).map((place) => ({ node, place })))
    .filter(({ place }) => job.placements[place].on === workpiece)

/** What spared ground depends on; undefined where nothing is spared. */
export function sparedKey(job: JobDocument, operation: Sparing, workpiece: string, supply: Supply): string | undefined {
  const all = spots(job, operation, workpiece)
  return all.length === 0 ? undefined : keyOf('spared', ...all.map(({ node, place }) => outlineKey(job, node, supply, place)))
}

/** The ground that an operation spares on a workpiece. @returns rings by even-odd, face mm */
export function sparedRings(job: JobDocument, operation: Sparing, workpiece: string, supply: Supply): readonly Ring[] {
  const key = sparedKey(job, operation, workpiece, supply)
  if (key === undefined) return []
  return supply.cache.get(
    key,
    () => {
      const each = spots(job, operation, workpiece).map(({ node, place }) => outlineRings(job, node, supply, place))
      return each.length === 1 ? each[0] : together(each.flat())
    },
    ringBytes,
  )
}

/** Dots are looked at so many rows at a time. */
const BAND = 256

/** Marks without those whose middle lies on spared ground; all others as they are. @param rings face mm */
export function withoutSpared(levels: Uint8Array, field: DotField, rings: readonly Ring[]): Uint8Array {
  const { columns, rows, pitch, x0, y0, toFace } = field
  const swept = mappedRings(inverseOf(toFace), rings)
  const cells = swept.map((ring) => ring.map((v, i) => (v - (i % 2 === 0 ? x0 : y0)) / pitch))
  const out = levels.slice()
  for (let from = 0; from < rows; from += BAND) {
    const high = Math.min(BAND, rows - from)
    const inside = coverage(
      cells.map((ring) => ring.map((v, i) => (i % 2 === 0 ? v : v - from))),
      columns,
      high,
    )
    const at = from * columns
    for (let i = 0; i < inside.length; i++) if (inside[i] >= 0.5) out[at + i] = 0
  }
  return out
}
