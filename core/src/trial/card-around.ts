import type { JobDocument } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { RANGES } from '../job/document/ranges.ts'
import { processOf } from '../process/table.ts'
import type { Setting } from '../proposals/new-job.ts'
import type { CardSpec } from './card.ts'

/** A card that is begun from an operation has so many values either way. */
const COUNT = 5
/** Its strongest and its weakest power, and its fastest and slowest speed, by what the operation has. */
const POWERS = [0.5, 1.5] as const
const SPEEDS = [2, 0.5] as const
/** Scrap that a card is laid on where nothing else is said, mm. */
const SCRAP = { widthMm: 90, heightMm: 90 } as const

/** Three digits: what a dial shows. */
const dial = (v: number): number => Number(v.toPrecision(3))

/** Whether an operation can be tried on a card: what is filled or followed and burns something, and no program that is run as it is written. */
export const canBeTried = (job: JobDocument, id: string): boolean => {
  const operation = job.operations[id]
  const { form, silent } = processOf(operation)
  return form !== 'as written' && form !== 'heights' && !silent?.(operation)
}

/**
 * The card of power and speed around what an operation has, on a piece of scrap of its material: all else as the operation says.
 * The job itself stays as it is.
 */
export function cardAround(job: JobDocument, id: string): { readonly spec: CardSpec; readonly setting: Setting } {
  const operation = job.operations[id]
  const { of: _, at: __, recipe: ___, process, ...settings } = operation
  const material = operationMaterial(job, operation)
  const { machine } = job
  const least = Math.max(0.01, POWERS[0] * operation.power)
  const most = Math.max(least * 1.2, Math.min(1, POWERS[1] * operation.power))
  const top = Math.min(RANGES.speedMmS.max, machine.axes.x.speedMmS, SPEEDS[0] * operation.speedMmS)
  const slowest = Math.max(RANGES.speedMmS.min, Math.min(top / 2, SPEEDS[1] * operation.speedMmS))
  const share = (i: number): number => i / (COUNT - 1)
  return {
    spec: {
      process,
      settings,
      across: {
        setting: 'power',
        values: Array.from({ length: COUNT }, (_, i) => dial(Math.min(1, least + (most - least) * share(i)))),
      },
      down: { setting: 'speedMmS', values: Array.from({ length: COUNT }, (_, i) => dial(top * (slowest / top) ** share(i))) },
    },
    setting: { workpiece: { ...SCRAP, thicknessMm: material.thicknessMm }, material, machine },
  }
}
