import { Link as Anchor, Button } from '@mui/material'
import { Link } from 'react-router'
import { stockOrders } from '../../api/orders.ts'
import { useStockUsesQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { Row } from '../../parts/Row.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { tellArea, tellDay, tellMoney } from '../field/told.ts'
import { useDoing } from '../run/use-doing.ts'

/** What runs took of one piece; each can be taken back. */
export function StockUses({ stock, currency }: { readonly stock: string; readonly currency: string }) {
  const doing = useDoing()
  const { data: uses } = useKept(useStockUsesQuery, { stock })
  if (!uses || uses.length === 0) return null
  return (
    <>
      <Title variant="h3" top="wide">
        What was taken of it
      </Title>
      {uses.map(({ id, runId, name, areaMm2, cents, at, note }) => (
        <Row key={id} align="baseline" top="tight">
          <Words size="plain" grow>
            <Anchor component={Link} to={`/journal?run=${runId}`}>
              {name}
            </Anchor>{' '}
            {tellArea(areaMm2)}, {tellMoney(cents, currency)}, {tellDay(at)}
            {note && <Quiet tone="ask">{note}</Quiet>}
          </Words>
          <Button size="small" onClick={() => void doing(() => stockOrders.takeBack(id))}>
            Take back
          </Button>
        </Row>
      ))}
    </>
  )
}
