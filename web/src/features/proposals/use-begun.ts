import { type Blank, type JobDocument, type Machine, type Material, materialOf, type StockPiece } from '@neotaxis/core'
import { useMemo } from 'react'
import { useSelector } from '../../store/hooks.ts'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { blankOf, blankOfStock } from './blank-of.ts'

/** What a job is begun on, until the shop has told what it has. */
interface Begun {
  readonly materials: readonly Material[]
  readonly machines: readonly Machine[]
  readonly material: Material | undefined
  readonly machine: Machine | undefined
  /** The piece of stock that it is begun on. */
  readonly stock: StockPiece | null
  readonly blank: Blank | undefined
}

const NONE: readonly never[] = []

/** What the next job is begun on: the same as the last one, or a piece of stock. @param into a job that there is: its own holds */
export function useBegun(into?: JobDocument): Begun {
  const catalogue = useCatalogue()
  const begun = useSelector((state) => state.view.begun)
  const onStock = useSelector((state) => state.view.begunStock)
  const stock = into ? null : onStock
  const material =
    (into && materialOf(into)) ??
    catalogue?.materials.find(({ id }) => id === (stock?.material ?? begun.materialId)) ??
    catalogue?.materials[0]
  const machine = into?.machine ?? catalogue?.machines.find(({ id }) => id === begun.machineId) ?? catalogue?.machines[0]
  // A workpiece that fits the bed of the machine.
  const widthMm = Math.min(begun.widthMm, machine?.axes.x.travelMm ?? begun.widthMm)
  const heightMm = Math.min(begun.heightMm, machine?.axes.y.travelMm ?? begun.heightMm)
  const thicknessMm = material?.thicknessMm
  const blank = useMemo(
    () =>
      into
        ? blankOf(into)
        : stock
          ? blankOfStock(stock)
          : thicknessMm === undefined
            ? undefined
            : { widthMm, heightMm, thicknessMm },
    [into, stock, widthMm, heightMm, thicknessMm],
  )
  return { materials: catalogue?.materials ?? NONE, machines: catalogue?.machines ?? NONE, material, machine, stock, blank }
}
