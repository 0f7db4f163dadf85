import { throughCuts } from '../hold/pieces.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { keyOf, type Supply } from '../lineage/supply.ts'
import type { Burning, Cutting } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { inverseOf, mapped } from '../space/affine.ts'
import type { Found } from './finding.ts'

/** Dots along a cut that must be marked before it is said: fewer are the border of what is meant … */
const MOST_MEANT = 6
/** … among so many in a row: dots scattered over a light ground are no mark that is lost. */
const IN_A_ROW = 60

/** A cut that runs through what is engraved: the mark ends in the kerf. */
export function cutThroughEngraving(job: JobDocument, supply: Supply): Found[] {
  const told = new Set<string>()
  return Object.keys(job.workpieces).flatMap((workpiece) =>
    throughCuts(job, supply, workpiece).flatMap(([id, cut]): Found[] => {
      if (told.has(id)) return []
      const through = burnOrder(job)
        .flatMap((other) => burningsOf(job, other, supply, workpiece))
        .flatMap((context) => {
          const place = marksOnCut(cut, context)
          return place ? [place] : []
        })[0]
      if (!through) return []
      told.add(id)
      return [
        {
          id: `through:${id}`,
          kind: 'cut-through-engraving',
          severity: 'note',
          operation: id,
          x: through[0],
          y: through[1],
          message: 'The cut runs through what is engraved: part of the mark is lost in it.',
          fixes: [],
        },
      ]
    }),
  )
}

/** A place where a cut meets marks on both sides of it; undefined where it keeps clear of them. */
function marksOnCut(cut: Cutting, context: Burning): readonly [number, number] | undefined {
  const made = processOf(context.operation).dots?.(context)
  if (!made) return undefined
  const { field, marks } = made
  const { key, levels, columns, rows } = marks
  const { x0, y0, pitch, toFace } = field
  return context.supply.cache.get(
    keyOf('marks on cut', key, x0, y0, toFace, cut.key),
    () => {
      const toSweep = inverseOf(toFace)
      /** How many dots the cut came over, and at which of them it met marks. */
      let at = 0
      let last = -1
      const hits: number[] = []
      for (const ring of cut.path()) {
        const n = ring.length
        for (let i = 0; i < n; i += 2) {
          const j = (i + 2) % n
          const long = Math.hypot(ring[j] - ring[i], ring[j + 1] - ring[i + 1])
          const parts = Math.max(1, Math.ceil(long / pitch))
          for (let k = 0; k < parts; k++) {
            const x = ring[i] + ((ring[j] - ring[i]) * k) / parts
            const y = ring[i + 1] + ((ring[j + 1] - ring[i + 1]) * k) / parts
            const [sx, sy] = mapped(toSweep, x, y)
            const c = Math.floor((sx - x0) / pitch)
            const r = Math.floor((sy - y0) / pitch)
            const dot = r * columns + c
            if (dot === last) continue
            last = dot
            at++
            if (c < 0 || r < 0 || c >= columns || r >= rows || levels[dot] === 0) continue
            hits.push(at)
            if (hits.length > MOST_MEANT && at - hits[hits.length - 1 - MOST_MEANT] < IN_A_ROW) return [x, y] as const
          }
        }
      }
      return undefined
    },
    () => 100,
  )
}
