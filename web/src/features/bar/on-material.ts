import {
  burnOrder,
  burnsRows,
  faceSize,
  type JobDocument,
  type Machine,
  type Material,
  mainPieceId,
  materialOf,
  operationMaterial,
  processOf,
  withPiece,
} from '@neotaxis/core'
import { pageOf } from '../../processes/table.ts'

/** The job with the main workpiece of another material: its snapshot changes, and operations take its recipes. */
export function onMaterial(job: JobDocument, material: Material): JobDocument {
  const piece = mainPieceId(job)
  const old = job.workpieces[piece].material
  const operations = Object.fromEntries(
    Object.entries(job.operations).map(([id, op]) => [
      id,
      operationMaterial(job, op).id === old ? processOf(op).onMaterial(op, material, job.machine) : op,
    ]),
  )
  const changed = withPiece({ ...job, operations }, { material: material.id, thicknessMm: material.thicknessMm }, piece)
  const used = new Set(Object.values(changed.workpieces).map((each) => each.material))
  const materials = Object.fromEntries(
    Object.entries({ ...job.materials, [material.id]: material }).filter(([id]) => used.has(id)),
  )
  return { ...changed, materials }
}

/** The job on another machine, its main workpiece in the middle of the bed. */
export function onMachine(job: JobDocument, machine: Machine): JobDocument {
  const { widthMm, heightMm } = faceSize(job.workpieces[mainPieceId(job)])
  const xMm = Math.max(0, (machine.axes.x.travelMm - widthMm) / 2)
  const yMm = Math.max(0, (machine.axes.y.travelMm - heightMm) / 2)
  const { pose } = job.workpieces[mainPieceId(job)]
  return onMaterial(withPiece({ ...job, machine }, { pose: { ...pose, xMm, yMm } }), materialOf(job))
}

/** What operations are set to otherwise than before, in words: “1 Picture: interval 0.127 → 0.1 mm, power 32 → 40 %”. */
export function changedSettings(before: JobDocument, after: JobDocument): string[] {
  const percent = (share: number): string => String(Number((100 * share).toFixed(1)))
  const mm = (value: number): string => String(Number(value.toFixed(4)))
  return burnOrder(after).flatMap((id, i) => {
    const [was, is] = [before.operations[id], after.operations[id]]
    if (!was) return []
    const changes = [
      ...(burnsRows(was) && burnsRows(is) && was.intervalMm !== is.intervalMm
        ? [`interval ${mm(was.intervalMm)} → ${mm(is.intervalMm)} mm`]
        : []),
      ...(was.power !== is.power ? [`power ${percent(was.power)} → ${percent(is.power)} %`] : []),
      ...(was.speedMmS !== is.speedMmS ? [`speed ${mm(was.speedMmS)} → ${mm(is.speedMmS)} mm/s`] : []),
      ...(was.passes !== is.passes ? [`passes ${was.passes} → ${is.passes}`] : []),
    ]
    return changes.length > 0 ? [`${i + 1} ${pageOf(is).name}: ${changes.join(', ')}`] : []
  })
}
