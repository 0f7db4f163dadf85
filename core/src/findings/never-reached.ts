import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { topSpeedAlong } from '../plan/corner-power.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** Paths that come this near to their speed are fine. */
const NEARLY = 0.95
/** So many points of an operation are looked at. */
const MOST_POINTS = 200_000

/** A speed to which these paths never let the machine come: it brakes for the next corner before. */
export function neverReached(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const { follows, strokes, strokesTogether } = processOf(operation)
    const at = atOperation(job, 'never-reached', id)
    if (follows === undefined || strokesTogether || !at || job.machine.head.kind === 'mirrors') return []
    let reached = 0
    let looked = 0
    for (const context of burningsOf(job, id, supply))
      for (const each of strokes(context)) {
        if (each.form !== 'paths') continue
        for (const path of each.paths) {
          looked += path.length / 2
          if (looked > MOST_POINTS || reached >= NEARLY * operation.speedMmS) break
          reached = Math.max(reached, topSpeedAlong(path, each.closed, operation.speedMmS, job.machine))
        }
      }
    if (reached === 0 || reached >= NEARLY * operation.speedMmS) return []
    const speedMmS = Math.max(0.1, Math.floor(10 * reached) / 10)
    return [
      {
        ...at,
        severity: 'note',
        message: `${place + 1} never comes to ${operation.speedMmS} mm/s: between these corners the machine reaches ${speedMmS} mm/s.`,
        fixes: [{ label: `Set ${speedMmS} mm/s`, patches: [{ path: ['operations', id, 'speedMmS'], value: speedMmS }] }],
      },
    ]
  })
}
