import { bedSize, MATERIALS, type Machine } from '@neotaxis/core'
import { bringIn, jobOrders } from '../../api/orders.ts'
import { proposals } from '../../workers/engine.ts'

/** Dots are burned on card: they are dark there, and it lies flat. */
const CARD = 'grey-card-1'
export const CARD_MM = 1

/**
 * Makes a job that burns dots into the middle of the bed: a camera is calibrated by them, in the machine's own mm.
 * @param sheet how large the card is, mm; it lies in the middle of the bed @returns its id
 */
export async function marksJob(
  machine: Machine,
  name: string,
  svg: string,
  sheet: { readonly widthMm: number; readonly heightMm: number } = bedSize(machine),
): Promise<string> {
  const bed = bedSize(machine)
  const facts = await bringIn(new Blob([svg]))
  const cards = await proposals({
    facts: { ...facts, name },
    workpiece: {
      ...sheet,
      thicknessMm: CARD_MM,
      pose: { xMm: (bed.widthMm - sheet.widthMm) / 2, yMm: (bed.heightMm - sheet.heightMm) / 2 },
    },
    material: MATERIALS.find(({ id }) => id === CARD)!,
    machine,
  })
  const made = cards?.find(({ id }) => id === 'engrave-seen')?.job
  if (!made) throw new Error('The job was not made: try it again.')
  return (await jobOrders.create({ ...made, name })).id
}
