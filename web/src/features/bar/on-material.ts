import {
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
