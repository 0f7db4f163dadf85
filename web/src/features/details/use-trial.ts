import type { StockItem } from '@neotaxis/contract'
import { faceSize, type JobDocument, mainPiece, outlineSize, withStock } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { bringIn, jobOrders } from '../../api/orders.ts'
import { useStockQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { useSelector } from '../../store/hooks.ts'
import type { TrialMade } from '../../workers/trials-made.ts'
import { pieceOf } from '../stock/stock-words.ts'

/** Offcuts that a card can lie on: rectangles. */
const isScrap = (item: StockItem): boolean => item.kind === 'offcut' && item.count >= 1 && item.outline.kind === 'rect'

/** The smallest offcut of the card's own material that it has room on. */
function scrapFor(card: JobDocument, stock: readonly StockItem[]): StockItem | undefined {
  const piece = mainPiece(card)
  const { widthMm, heightMm } = faceSize(piece)
  return stock
    .filter((item) => {
      const size = outlineSize(item.outline)
      return isScrap(item) && item.material === piece.material && size.widthMm >= widthMm && size.heightMm >= heightMm
    })
    .sort((a, b) => a.areaMm2 - b.areaMm2)[0]
}

/** Makes a card of trials of an operation: a job of its own, on an offcut of the stock where one has room. */
export function useTrial(id: string) {
  const navigate = useNavigate()
  const { enqueueSnackbar } = useSnackbar()
  const [making, setMaking] = useState(false)
  const own = useSelector((state) => state.job.id)
  const { data: stock = [] } = useKept(useStockQuery, null)
  const make = async (trial: () => Promise<TrialMade>): Promise<void> => {
    setMaking(true)
    try {
      const { job: made, files } = await trial()
      for (const file of files) await bringIn(new Blob([file]))
      const scrap = scrapFor(made, stock)
      const card = scrap ? withStock(made, pieceOf(scrap)) : made
      const kept = own && card.trial ? { ...card, trial: { ...card.trial, from: { job: own, operation: id } } } : card
      void navigate(`/jobs/${(await jobOrders.create(kept)).id}/compose`)
      if (scrap) enqueueSnackbar(`The card lies on “${scrap.name}” from stock.`)
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'The card could not be made.', { variant: 'error' })
      setMaking(false)
    }
  }
  /** Materials of which an offcut lies in the shop, by their ids. */
  const scraps = [...new Set(stock.filter(isScrap).map(({ material }) => material))]
  return { making, make, scraps }
}
