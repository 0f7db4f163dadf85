import { Link as Anchor, Button } from '@mui/material'
import { type StockSaid, UNSAID } from '@neotaxis/contract'
import { type JobDocument, mainPiece, withPiece } from '@neotaxis/core'
import { lazy, Suspense, useState } from 'react'
import { Link } from 'react-router'
import { stockOrders } from '../../api/orders.ts'
import { useStockQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { canRun, runCommand } from '../bar/commands.ts'
import { useDoing } from '../run/use-doing.ts'
import { useEdit } from '../use-edit.ts'

const FromStock = lazy(() => import('./FromStock.tsx'))

/** Which piece of the shelf the workpiece is; it is taken from there, or kept there. */
export function StockFields({ job }: { readonly job: JobDocument }) {
  const doing = useDoing()
  const edit = useEdit()
  const piece = mainPiece(job)
  const [choosing, setChoosing] = useState(false)
  const { data: stock } = useKept(useStockQuery, piece.stock ? null : undefined)
  const own = stock?.find(({ id }) => id === piece.stock?.id)
  const keep = (): void =>
    void doing(async () => {
      const { outline, thicknessMm, keepOuts, marks, grainDeg, material } = piece
      const said: StockSaid = {
        ...UNSAID,
        name: job.name,
        kind: 'blank',
        material,
        outline,
        thicknessMm,
        keepOuts,
        marks,
        ...(grainDeg === undefined ? {} : { grainDeg }),
      }
      const { id, cents } = await stockOrders.keep(said)
      edit('keep the workpiece in stock', (base) => withPiece(base, { stock: { id, cents } }))
    })
  return (
    <>
      <Row top="snug" bottom="snug">
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          onClick={() => setChoosing(true)}
          data-testid="from-stock-open"
          sx={{ flex: 1 }}
        >
          From stock…
        </Button>
        {!piece.stock && (
          <Button size="small" onClick={keep} data-testid="keep-piece">
            Keep it there
          </Button>
        )}
      </Row>
      {piece.stock && (
        <Words size="plain" data-testid="own-stock">
          {own ? (
            <>
              <Anchor component={Link} to={`/stock?piece=${own.id}`}>
                {own.name}
              </Anchor>
              {own.shelf && `, ${own.shelf}`}
              {own.count === 0 && <Words tone="ask">None of it is left on the shelf.</Words>}
            </>
          ) : (
            stock && <Words tone="ask">It is not on the shelf any more.</Words>
          )}
          <Quiet>What a run takes of it is written down there.</Quiet>
        </Words>
      )}
      {canRun('cut-off') && (
        <Button fullWidth size="small" onClick={() => runCommand('cut-off')} data-testid="cut-off">
          Cut the rest of it off, last
        </Button>
      )}
      {choosing && (
        <Suspense fallback={null}>
          <FromStock job={job} onClose={() => setChoosing(false)} />
        </Suspense>
      )}
    </>
  )
}
