import MoreIcon from '@mui/icons-material/ExpandMore'
import { Button, ButtonGroup, Menu, MenuItem, Tooltip } from '@mui/material'
import type { StockItem } from '@neotaxis/contract'
import { type CardKind, cardKinds, faceSize, type JobDocument, mainPiece, outlineSize, withStock } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { bringIn, jobOrders } from '../../api/orders.ts'
import { useStockQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { useSelector } from '../../store/hooks.ts'
import { cardOfTrials, stripOfTrials } from '../../workers/engine.ts'
import { pieceOf } from '../stock/stock-words.ts'

const WORDS: Readonly<Record<CardKind, { readonly name: string; readonly what: string }>> = {
  'power-speed': { name: 'Power and speed', what: 'five by five, around what is set' },
  wedge: { name: 'Step wedge', what: 'ten powers up to what is set: for depths and tones' },
  'turn-on': { name: 'Turn-on ramp', what: 'the weakest powers, until it marks' },
  interval: { name: 'Line interval', what: 'from half to twice what is set' },
  passes: { name: 'Passes', what: 'one to five' },
  pulses: { name: 'Pulses and speed', what: 'over all that the source can' },
  focus: { name: 'Focus ramp', what: 'the lens from under its focus to over it' },
  kerf: { name: 'Slots', what: 'cut at five speeds, to measure how wide they are' },
}

/** The smallest offcut of the card's own material that it has room on. */
function scrapFor(card: JobDocument, stock: readonly StockItem[]): StockItem | undefined {
  const piece = mainPiece(card)
  const { widthMm, heightMm } = faceSize(piece)
  return stock
    .filter((item) => {
      if (item.kind !== 'offcut' || item.count < 1 || item.material !== piece.material || item.outline.kind !== 'rect')
        return false
      const size = outlineSize(item.outline)
      return size.widthMm >= widthMm && size.heightMm >= heightMm
    })
    .sort((a, b) => a.areaMm2 - b.areaMm2)[0]
}

/** One press from an operation to a card that tries its settings on scrap: a job of its own. What is tried may be chosen. */
export function TryOnCard({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const navigate = useNavigate()
  const { enqueueSnackbar } = useSnackbar()
  const [making, setMaking] = useState(false)
  const [open, setOpen] = useState(false)
  const more = useRef<HTMLButtonElement>(null)
  const own = useSelector((state) => state.job.id)
  const { data: stock = [] } = useKept(useStockQuery, null)
  const kinds = cardKinds(job, id)
  const make = async (kind: CardKind | 'strip'): Promise<void> => {
    setOpen(false)
    setMaking(true)
    try {
      const { job: made, files } = await (kind === 'strip' ? stripOfTrials(job, id) : cardOfTrials(job, id, kind))
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
  return (
    <>
      <ButtonGroup fullWidth variant="outlined" color="secondary" disabled={making} style={{ marginTop: 4, marginBottom: 8 }}>
        <Button onClick={() => void make('power-speed')} data-testid="try-on-card">
          Try it on a card of scrap
        </Button>
        <Tooltip title="What is tried on it">
          <Button
            ref={more}
            style={{ flex: '0 0 40px', padding: 0 }}
            onClick={() => setOpen(true)}
            aria-label="What is tried on the card"
            aria-haspopup="menu"
            data-testid="try-what"
          >
            <MoreIcon fontSize="small" />
          </Button>
        </Tooltip>
      </ButtonGroup>
      <Menu anchorEl={() => more.current!} open={open} onClose={() => setOpen(false)}>
        <MenuItem onClick={() => void make('strip')} data-testid="try-strip">
          <span>
            <b>A strip of this artwork</b>: its hardest patch, three powers by three speeds
          </span>
        </MenuItem>
        {kinds.map((kind) => (
          <MenuItem key={kind} onClick={() => void make(kind)} data-testid={`try-${kind}`}>
            <span>
              <b>{WORDS[kind].name}</b>: {WORDS[kind].what}
            </span>
          </MenuItem>
        ))}
      </Menu>
    </>
  )
}
