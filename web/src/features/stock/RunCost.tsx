import { Link as Anchor, Button } from '@mui/material'
import type { RunFull } from '@neotaxis/contract'
import { costOf, FIRST_RATES } from '@neotaxis/core'
import { Link } from 'react-router'
import { stockOrders } from '../../api/orders.ts'
import { useRatesQuery, useStockUsesQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { tellArea, tellMoney } from '../field/told.ts'
import { useDoing } from '../run/use-doing.ts'
import { costWords } from './JobCost.tsx'

/** What a run took from stock, and what it really cost. */
export function RunCost({ run }: { readonly run: RunFull }) {
  const doing = useDoing()
  const { data: rates = FIRST_RATES } = useKept(useRatesQuery, null)
  const first = run.parentId ?? run.id
  const { data: uses } = useKept(useStockUsesQuery, { run: first })
  if (run.seconds <= 0 || !uses) return null
  const isFromStock = Object.values(run.document.workpieces).some(({ stock }) => stock !== undefined)
  const handMinutes = Object.values(run.document.steps).reduce((sum, s) => sum + (s.kind === 'by-hand' ? s.minutes : 0), 0)
  // What makes another run good is done on the same piece: its material is counted there.
  const pieceCents = run.parentId ? 0 : uses.reduce((sum, { cents }) => sum + cents, 0)
  const cost = costOf({ pieceCents, usedShare: 1, machineSeconds: run.seconds, handMinutes }, rates)
  return (
    <Words size="plain" data-testid="run-cost">
      <b>{tellMoney(cost.totalCents, rates.currency)}</b> <Quiet as="span">{costWords(cost, rates)}</Quiet>
      {uses.map(({ id, stockId, areaMm2, note }) => (
        <Row key={id} align="baseline">
          <Words grow>
            {tellArea(areaMm2)} of{' '}
            <Anchor component={Link} to={`/stock?piece=${stockId}`}>
              a piece of stock
            </Anchor>
            {note && <Quiet tone="ask">{note}</Quiet>}
          </Words>
          <Button size="small" onClick={() => void doing(() => stockOrders.takeBack(id))}>
            Take back
          </Button>
        </Row>
      ))}
      {isFromStock && uses.length === 0 && (
        <Row align="baseline">
          <Quiet grow>Nothing was taken off the shelf for it.</Quiet>
          <Button size="small" onClick={() => void doing(() => stockOrders.use(first))}>
            The piece was used
          </Button>
        </Row>
      )}
    </Words>
  )
}
