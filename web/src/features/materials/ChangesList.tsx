import { useMaterialHistoryQuery } from '../../api/shop.ts'
import { useKept } from '../../api/use-kept.ts'
import { BareList } from '../../parts/Column.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { tellMoment } from '../field/told.ts'

/** What was changed of a material and its recipes, the latest first. */
export function ChangesList({ id }: { readonly id: string }) {
  const { data: changes } = useKept(useMaterialHistoryQuery, id)
  if (changes?.length === 0) return <Words tone="quiet">Nothing was changed since it came into the shop.</Words>
  return (
    <BareList gap="snug">
      {changes?.map(({ number, at, by, what }) => (
        <li key={number}>
          <Words>{what}</Words>
          <Quiet>
            {tellMoment(at)}
            {by ? `, ${by}` : ''}
          </Quiet>
        </li>
      ))}
    </BareList>
  )
}
