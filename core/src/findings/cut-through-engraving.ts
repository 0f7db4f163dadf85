import { type Bench, keyOf } from '../job/bench.ts'
import type { JobDocument } from '../job/document.ts'
import { kerfRings, outlineKey } from '../job/evaluate.ts'
import { cutsThrough, kerfSide } from '../job/hold.ts'
import { operationMarks } from '../job/pictured.ts'
import { dotGrid } from '../plan/grid.ts'
import type { Found } from './finding.ts'

/** Dots along a cut that must be marked before it is said: fewer are the border of what is meant … */
const MOST_MEANT = 6
/** … among so many in a row: dots scattered over a light ground are no mark that is lost. */
const IN_A_ROW = 60

/** A cut that runs through what is engraved: the mark ends in the kerf. */
export function cutThroughEngraving(job: JobDocument, bench: Bench): Found[] {
  const cuts = job.runOrder.filter((id) => {
    const operation = job.operations[id]
    return operation.kind === 'cut' && cutsThrough(job, operation)
  })
  return cuts.flatMap((id): Found[] => {
    const cut = job.operations[id]
    if (cut.kind !== 'cut') return []
    const through = job.runOrder.flatMap((other) => {
      const place = marksOnCut(job, id, other, bench)
      return place ? [place] : []
    })[0]
    if (!through) return []
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
  })
}

/** A place where a cut meets marks on both sides of it; undefined where it keeps clear of them. */
function marksOnCut(job: JobDocument, cutId: string, pictureId: string, bench: Bench): readonly [number, number] | undefined {
  const cut = job.operations[cutId]
  const picture = job.operations[pictureId]
  if (cut.kind !== 'cut' || picture.kind !== 'picture') return undefined
  const { key, levels, columns, rows } = operationMarks(job, picture, bench)
  const { x0, y0, pitch } = dotGrid(job, picture)
  return bench.cache.get(
    keyOf('marks on cut', key, x0, y0, outlineKey(job, cut.node, bench), cut.kerfMm, cut.keeps),
    () => {
      /** How many dots the cut came over, and at which of them it met marks. */
      let at = 0
      let last = -1
      const hits: number[] = []
      for (const ring of kerfRings(job, cut.node, (kerfSide(cut) * cut.kerfMm) / 2, bench)) {
        const n = ring.length
        for (let i = 0; i < n; i += 2) {
          const j = (i + 2) % n
          const long = Math.hypot(ring[j] - ring[i], ring[j + 1] - ring[i + 1])
          const parts = Math.max(1, Math.ceil(long / pitch))
          for (let k = 0; k < parts; k++) {
            const x = ring[i] + ((ring[j] - ring[i]) * k) / parts
            const y = ring[i + 1] + ((ring[j + 1] - ring[i + 1]) * k) / parts
            const c = Math.floor((x - x0) / pitch)
            const r = Math.floor((y - y0) / pitch)
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
