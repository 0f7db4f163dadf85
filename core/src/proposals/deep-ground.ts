import { stepAdded } from '../edits/steps-edits.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import { type FillFacts, type FillName, filledAs, fillFacts } from '../plan/compare-fills.ts'
import { deepened } from '../process/area/depth.ts'
import type { AreaOperation } from '../process/area/settings.ts'

/** Depths that a ground is begun with, mm: the first that leaves enough below and was measured. */
const DEPTHS_MM = [1.5, 1, 0.6] as const
/** So much of a piece may go. */
const MOST_OF_IT = 0.4
/** The ways that leave the same ground: two angles burn twice. */
const WAYS: readonly FillName[] = ['sweep', 'patches', 'rings']

/** A fill made deep, and how. */
interface DeepGround {
  readonly operation: AreaOperation
  readonly depthMm: number
}

/** A fill as deep as a ground is begun with; undefined where its depth was never measured, or does not go so far. */
export function deepGround(fill: AreaOperation, material: Material, machine: Machine): DeepGround | undefined {
  for (const depthMm of DEPTHS_MM) {
    if (depthMm > MOST_OF_IT * material.thicknessMm) continue
    const way = deepened(fill, depthMm, material, machine)
    if ('change' in way) return { operation: { ...fill, ...way.change }, depthMm }
  }
  return undefined
}

/** The quickest way to fill an area, planned as it would be run in one pass: the others go as often. */
function quickestFill(job: JobDocument, id: string, supply: Supply): FillFacts {
  const once = { ...job, operations: { ...job.operations, [id]: { ...job.operations[id], passes: 1, passPowers: undefined } } }
  return WAYS.map((name) => fillFacts(once as JobDocument, id, name, supply)).reduce((best, one) =>
    one.seconds < best.seconds ? one : best,
  )
}

/** A job whose ground is filled and sanded by hand at the end, burned in the quickest way. */
export function deepJob(job: JobDocument, id: string, supply: Supply): { readonly job: JobDocument; readonly way: FillName } {
  const { name: way } = quickestFill(job, id, supply)
  const last = { kind: 'by-hand', text: 'Fill the ground, let it set, sand it flush', minutes: 20 } as const
  return { job: stepAdded(filledAs(job, id, way), last).job, way }
}
