import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { pieceChart } from '../job/document/pieces.ts'
import type { Supply } from '../lineage/supply.ts'
import { topSpeedAlong } from '../plan/corner-power.ts'
import { runUp } from '../plan/picture-rows.ts'
import type { RowSettings } from '../process/picture/settings.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { pointsToAxes } from '../space/chart.ts'
import { atOperation } from './at-operation.ts'
import type { Found } from './finding.ts'

/** Paths that come this near to their speed are fine. */
const NEARLY = 0.95
/** So many points of an operation are looked at. */
const MOST_POINTS = 200_000

/** Less than this share of the run-up that is needed is told. */
const ENOUGH = 0.9

/** How far rows have to get to their speed, where that is too little: by what was typed, or by the edge of the bed. */
function shortRunUp(
  job: JobDocument,
  id: string,
  supply: Supply,
): { readonly mm: number; readonly needed: number; readonly typed: boolean } | undefined {
  const operation = job.operations[id]
  const { machine } = job
  if (!processOf(operation).dots || machine.head.kind === 'mirrors') return undefined
  const needed = runUp(machine, Math.min(operation.speedMmS, machine.axes.x.speedMmS))
  const { runUpMm = Number.POSITIVE_INFINITY } = operation as RowSettings
  let room = Number.POSITIVE_INFINITY
  for (const context of burningsOf(job, id, supply)) {
    const { x0, y0, x1, y1 } = processOf(operation).extent(context)
    if (!(x1 > x0)) continue
    const corners = pointsToAxes(pieceChart(job, context.piece), Float64Array.of(x0, y0, x1, y0, x1, y1, x0, y1))
    const xs = [0, 2, 4, 6].map((i) => corners[i] / 1000)
    room = Math.min(room, Math.min(...xs), machine.axes.x.travelMm - Math.max(...xs))
  }
  const mm = Math.max(0, Math.min(room, runUpMm))
  return mm < ENOUGH * needed ? { mm, needed, typed: runUpMm < room } : undefined
}

/** A speed to which these paths never let the machine come: it brakes for the next corner before. */
export function neverReached(job: JobDocument, supply: Supply): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    const operation = job.operations[id]
    const { follows, strokes, strokesTogether } = processOf(operation)
    const at = atOperation(job, 'never-reached', id)
    const short = at && shortRunUp(job, id, supply)
    if (short)
      return [
        {
          ...at,
          severity: 'note',
          message: `${place + 1} begins its rows below ${operation.speedMmS} mm/s: they have ${short.mm.toFixed(1)} mm to get there, and ${short.needed.toFixed(1)} mm are needed.`,
          fixes: short.typed
            ? [{ label: 'As much run-up as is needed', patches: [{ path: ['operations', id, 'runUpMm'] }] }]
            : [],
        },
      ]
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
