import { Button, Dialog, DialogActions, DialogContent, DialogTitle, LinearProgress } from '@mui/material'
import type { StockItem } from '@neotaxis/contract'
import { burnOrder, type JobDocument, mainPiece, materialOf } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useCallback, useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { stockOrders } from '../../api/orders.ts'
import { useStockQuery } from '../../api/shop.ts'
import { useAnswer } from '../../api/use-answer.ts'
import { useKept } from '../../api/use-kept.ts'
import { PickCard } from '../../parts/Card.tsx'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words, Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { cancelWork, progressNow, stockFits } from '../../workers/engine.ts'
import type { StockFitView } from '../../workers/shared.ts'
import { toldOfChange } from '../bar/changed-settings.ts'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { WORDS } from '../field/measures.ts'
import { LengthField } from '../field/quantities.tsx'
import { TypedField } from '../field/TypedField.tsx'
import { tellArea } from '../field/told.ts'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import { onStockItem, withStockMore } from './on-stock.ts'
import { PieceShape } from './PieceShape.tsx'
import { pieceOf, sizeWords } from './stock-words.ts'

interface Props {
  readonly job: JobDocument
  /** It is laid in beside what lies there; else it is what the job is made of. */
  readonly another?: boolean
  readonly onClose: () => void
}

/** Which pieces of stock take this job, the least waste first; any piece by its code. */
export default function FromStock({ job, another = false, onClose }: Props) {
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  const materials = useCatalogue()?.materials ?? []
  const unit = useSelector((state) => state.view.lengthUnit)
  const { data: stock, trouble } = useKept(useStockQuery, null)
  const [marginMm, setMargin] = useState(useSelector((state) => state.view.marginMm))
  const [unknown, setUnknown] = useState<string>()
  const [progress, setProgress] = useState(0)
  const asked = useRef(job).current
  const burnsNothing = another || burnOrder(asked).length === 0
  const { material, thicknessMm } = mainPiece(asked)
  const look = useCallback(async (): Promise<readonly StockFitView[]> => {
    const there = (stock ?? []).filter(({ count }) => count > 0).map(pieceOf)
    const timer = setInterval(() => setProgress(progressNow()), 150)
    try {
      return (await stockFits(asked, there, marginMm)) ?? []
    } finally {
      clearInterval(timer)
    }
  }, [asked, stock, marginMm])
  const found = useAnswer(stock && !burnsNothing ? look : undefined)
  useEffect(() => cancelWork, [])
  const fits = found.isCurrent ? found.value : undefined
  const item = (id: string): StockItem | undefined => stock?.find((each) => each.id === id)
  const ofKind = (stock ?? []).filter((each) => (another || each.material === material) && each.count > 0)
  const others = ofKind.filter(({ id }) => burnsNothing || (fits && !fits.some((fit) => fit.id === id)))
  const take = (of: StockItem, placements?: JobDocument['placements']): void => {
    const its = materials.find(({ id }) => id === of.material)
    if (another) {
      edit(`lay “${of.name}” in`, (base) => withStockMore(base, of, its, newId().slice(0, 8)))
      onClose()
      return
    }
    const after = onStockItem(job, of, its, placements)
    if (its && its.id !== material)
      for (const told of toldOfChange(job, after, its.name)) enqueueSnackbar(told, { autoHideDuration: 12_000 })
    edit(`on “${of.name}” from stock`, (base) => onStockItem(base, of, its, placements))
    onClose()
  }
  const byCode = async (code: string): Promise<void> => {
    if (code === '') return
    setUnknown(undefined)
    try {
      take(await stockOrders.byCode(code))
    } catch (cause) {
      setUnknown(cause instanceof Error ? cause.message : 'This code cannot be looked up now.')
    }
  }
  const card = (of: StockItem, told: string, placements?: JobDocument['placements']) => (
    <PickCard key={of.id} chosen={false} onClick={() => take(of, placements)} data-testid={`take-${of.name}`}>
      <Row gap="wide">
        <div style={{ width: 92, display: 'grid', placeItems: 'center' }}>
          <PieceShape piece={of} px={84} look={materials.find(({ id }) => id === of.material)?.look} scaled />
        </div>
        <Words grow>
          <Words weight="strong" cut>
            {of.count > 1 ? `${of.count} × ` : ''}
            {of.name}
          </Words>
          <Quiet>
            {sizeWords(of, unit)} · {of.thicknessMm} mm{of.shelf ? ` · ${of.shelf}` : ''}
          </Quiet>
          <Words size="plain">{told}</Words>
        </Words>
      </Row>
    </PickCard>
  )
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth data-testid="from-stock">
      <DialogTitle>From stock</DialogTitle>
      <DialogContent>
        <Row gap="wide" align="start" top="snug">
          <TypedField
            as={WORDS}
            label="Code on the piece or its jig"
            value=""
            onTake={(code) => void byCode(code)}
            refused={unknown}
            hint="typed or scanned: brings its material, thickness and recipe"
            wide
            testId="stock-code-typed"
          />
          <Words width={210}>
            <LengthField
              label="Kept free"
              value={marginMm}
              range={{ min: 0, max: 200 }}
              hint="From the edge of the piece."
              onCommit={setMargin}
            />
          </Words>
        </Row>
        <Column gap="snug" top="room">
          {!fits && !burnsNothing && !found.error && (
            <LinearProgress
              variant={progress > 0 ? 'determinate' : 'indeterminate'}
              value={100 * progress}
              aria-label="Trying the pieces"
            />
          )}
          {(trouble || found.error) && <Wrong role="alert">{found.error ?? trouble?.message}</Wrong>}
          {fits?.map((fit) => {
            const of = item(fit.id)
            const turned = Math.round(fit.angleDeg * 10) / 10
            return (
              of &&
              card(
                of,
                `takes it${turned === 0 ? ' as it is laid out' : `, turned ${turned}°`}; ${tellArea(fit.wasteMm2)} over`,
                fit.placements,
              )
            )
          })}
          {fits?.length === 0 && (
            <Words tone="ask" data-testid="none-fits">
              No piece of {materialOf(job).name} {thicknessMm} mm takes this job with {marginMm} mm around it.
              {ofKind.length > 0
                ? ' A smaller edge, pieces laid out closer together, or smaller artwork would do.'
                : ' None of it is on the shelf.'}
            </Words>
          )}
          {others.length > 0 && <Quiet top="room">{burnsNothing ? 'On the shelf' : 'Too small, too thick or too thin'}</Quiet>}
          {others.map((of) => card(of, burnsNothing ? '' : 'does not take it as it is laid out'))}
        </Column>
      </DialogContent>
      <DialogActions>
        <Button component={Link} to="/stock" color="secondary">
          All stock
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </DialogActions>
    </Dialog>
  )
}
