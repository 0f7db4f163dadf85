import { Button } from '@mui/material'
import { useCallback } from 'react'
import { Link } from 'react-router'
import { stockOrders } from '../../api/orders.ts'
import { useAnswer } from '../../api/use-answer.ts'
import { Row } from '../../parts/Row.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { useCatalogue } from '../bar/use-catalogue.ts'
import { onStockItem } from '../stock/on-stock.ts'
import { sizeWords } from '../stock/stock-words.ts'
import { useEdit } from '../use-edit.ts'

/** A code that the photo shows: what of the shelf it is, taken with one press, and the jig that is made for it. */
export function CodeFound({ code }: { readonly code: string }) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  const materials = useCatalogue()?.materials ?? []
  const { value: item, error } = useAnswer(useCallback(() => stockOrders.byCode(code), [code]))
  if (error) return <Quiet data-testid="photo-code">A code in the photo says “{code}”: nothing on the shelf has it.</Quiet>
  if (!item) return <Quiet data-testid="photo-code">A code in the photo says “{code}” …</Quiet>
  const material = materials.find(({ id }) => id === item.material)
  return (
    <Row wraps data-testid="photo-code">
      <Words size="small">
        By its code this is <b>{item.name}</b>: {material?.name ?? item.material}, {sizeWords(item, unit)}, {item.thicknessMm} mm
      </Words>
      <Button
        size="small"
        variant="outlined"
        onClick={() => edit(`on “${item.name}” from stock`, (base) => onStockItem(base, item, material))}
        data-testid="take-code"
      >
        Take it
      </Button>
      {item.jig && (
        <Button size="small" component={Link} to={`/jobs/${item.jig}/compose`}>
          Open its jig
        </Button>
      )}
    </Row>
  )
}
