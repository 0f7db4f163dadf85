import { burnOrder, type JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { burnedPieces } from '../job/document/pieces.ts'
import { RANGES } from '../job/document/ranges.ts'
import { isTried } from '../job/document/trial.ts'
import { powerFor, spotMm, wattsAt } from '../machine/machine.ts'
import { topLayer } from '../material/material.ts'
import { processOf } from '../process/table.ts'
import { poseBounds } from '../space/pose.ts'
import { isFurtherPass } from './burned-twice.ts'
import type { Fix, Found } from './finding.ts'

/** A little more than what just begins to mark, or to cut: what is at the edge of a window fails in places. */
const SURE = 1.1

/** An operation that leaves no mark, or does not cut through, by the numbers of the material itself. */
export function tooWeak(job: JobDocument): Found[] {
  return burnOrder(job).flatMap((id, place): Found[] => {
    if (isTried(job, id)) return []
    const operation = job.operations[id]
    const process = processOf(operation)
    const piece = burnedPieces(job, operation, id)[0]
    if (!piece || process.silent?.(operation)) return []
    // What goes over the same artwork after another is there to clean it.
    if (
      burnOrder(job)
        .slice(0, place)
        .some((before) => isFurtherPass(job, before, id))
    )
      return []
    const { doseJPerMm, doseJPerMm2 } = process.dose(operation, job.machine)
    const cuts = process.cutting !== undefined
    const share = cuts
      ? (doseJPerMm ?? 0) / piece.material.cutDose.from
      : (doseJPerMm2 ?? (doseJPerMm ?? 0) / Math.max(0.02, spotMm(job.machine))) / topLayer(piece.material).markDose.from
    // What is written elsewhere has no dose of its own.
    if (share >= 1 || (doseJPerMm === undefined && doseJPerMm2 === undefined)) return []
    const { x0, x1, y0 } = poseBounds(piece.placement, piece.placement)
    const at = { id: `too-weak:${id}`, kind: 'too-weak', operation: id, x: (x0 + x1) / 2, y: y0 }
    const percent = Math.max(1, Math.round(100 * share))
    const refusal = process.refused?.(piece.material, job.machine)
    if (refusal !== undefined) return [{ ...at, message: `${place + 1}: ${refusal}`, severity: 'ask', fixes: [] }]
    const what = cuts ? 'does not cut through' : 'leaves no mark'
    return [
      {
        ...at,
        severity: cuts ? 'note' : 'ask',
        message: `Too weak: ${place + 1} ${what} by the numbers of ${piece.material.name}. It has ${percent} % of the dose that begins to.`,
        fixes: stronger(job, id, operation, share),
      },
    ]
  })
}

/** Ways to the dose that is missing: more power, else more passes, else slower. */
function stronger(job: JobDocument, id: string, operation: Operation, share: number): Fix[] {
  const wanted = (wattsAt(job.machine, operation.power) * SURE) / share
  if (wanted <= wattsAt(job.machine, 1)) {
    const power = Math.min(1, Math.ceil(powerFor(job.machine, wanted) * 1000) / 1000)
    return [
      {
        label: `Burn with ${Number((100 * power).toFixed(1))} %`,
        patches: [{ path: ['operations', id, 'power'], value: power }],
      },
    ]
  }
  const passes = Math.ceil((operation.passes * SURE) / share)
  if (passes <= RANGES.passes.max && passes <= 2 * operation.passes + 2)
    return [{ label: `Burn it in ${passes} passes`, patches: [{ path: ['operations', id, 'passes'], value: passes }] }]
  const speedMmS = Math.max(RANGES.speedMmS.min, Math.floor((10 * operation.speedMmS * share) / SURE) / 10)
  return [{ label: `Slow down to ${speedMmS} mm/s`, patches: [{ path: ['operations', id, 'speedMmS'], value: speedMmS }] }]
}
