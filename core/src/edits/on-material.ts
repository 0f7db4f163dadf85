import { type JobDocument, mainPieceId, materialOf, withPiece } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { faceSize } from '../job/document/workpiece.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import { processOf } from '../process/table.ts'
import { plugged } from '../rotary/plugged.ts'

/**
 * An operation on another material or machine: one that followed its recipe, or whose settings are worked out, has the values for the
 * new one; one that departed from its recipe, or for which nothing is known there, keeps its settings and says whose they are.
 */
function carried(operation: Operation, old: Material, material: Material, machine: Machine): Operation {
  const process = processOf(operation)
  const recipe = old.recipes.find(({ id }) => id === operation.recipe)
  const made = process.onMaterial(operation, material, machine)
  if (process.silent?.(operation)) return made
  const departed = recipe !== undefined && process.departs(operation, recipe).length > 0
  const unknown = made.recipe === undefined && operation.recipe !== undefined
  if (!departed && !unknown) return { ...made, keptFrom: undefined } as Operation
  return { ...(departed ? { ...operation, recipe: made.recipe } : made), keptFrom: operation.keptFrom ?? old.name } as Operation
}

/** The job with the main workpiece of another material: its snapshot changes, and operations that followed a recipe take its own. */
export const onMaterial = (job: JobDocument, material: Material): JobDocument => changedTo(job, material, job.machine)

/** The job on another machine, its main workpiece in the middle of the bed. */
export function onMachine(job: JobDocument, profile: Machine): JobDocument {
  // What turns in one turns in the other.
  const { turns } = job.machine
  const machine = turns ? plugged(profile, turns.device, turns.diameterMm) : profile
  const { widthMm, heightMm } = faceSize(job.workpieces[mainPieceId(job)])
  const xMm = Math.max(0, (machine.axes.x.travelMm - widthMm) / 2)
  const yMm = Math.max(0, (machine.axes.y.travelMm - heightMm) / 2)
  const { pose } = job.workpieces[mainPieceId(job)]
  return changedTo(withPiece(job, { pose: { ...pose, xMm, yMm } }), materialOf(job), machine)
}

function changedTo(job: JobDocument, material: Material, machine: Machine): JobDocument {
  const piece = mainPieceId(job)
  const old = job.workpieces[piece].material
  const operations = Object.fromEntries(
    Object.entries(job.operations).map(([id, operation]) => {
      const own = operationMaterial(job, operation)
      return [id, own.id === old ? carried(operation, own, material, machine) : operation]
    }),
  )
  const changed = withPiece({ ...job, machine, operations }, { material: material.id, thicknessMm: material.thicknessMm }, piece)
  const used = new Set(Object.values(changed.workpieces).map((each) => each.material))
  const materials = Object.fromEntries(
    Object.entries({ ...job.materials, [material.id]: material }).filter(([id]) => used.has(id)),
  )
  return { ...changed, materials }
}
