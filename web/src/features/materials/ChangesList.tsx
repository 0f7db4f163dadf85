import { Link } from '@mui/material'
import { shopOrders } from '../../api/orders.ts'
import { useMaterialHistoryQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { BareList } from '../../parts/Column.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { tellMoment } from '../field/told.ts'
import { useDoing } from '../run/use-doing.ts'

/** What was changed of a material and its recipes, the latest first. */
export function ChangesList({ id }: { readonly id: string }) {
  const { data: changes } = useKept(useMaterialHistoryQuery, id)
  const doing = useDoing()
  if (changes?.length === 0) return <Words tone="quiet">Nothing was changed since it came into the shop.</Words>
  return (
    <BareList gap="snug">
      {changes?.map(({ number, at, by, what, goesBack }) => (
        <li key={number}>
          <Words>{what}</Words>
          <Quiet>
            {tellMoment(at)}
            {by ? `, ${by}` : ''}{' '}
          </Quiet>
          {goesBack && (
            <Link
              component="button"
              onClick={() => void doing(() => shopOrders.bringBefore(id, number))}
              aria-label={`As it was before: ${what}`}
              data-testid={`before-${number}`}
            >
              As it was before
            </Link>
          )}
        </li>
      ))}
    </BareList>
  )
}
