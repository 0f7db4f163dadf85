import { Button, Chip, Menu, MenuItem } from '@mui/material'
import {
  inOrder,
  type JobDocument,
  mainPiece,
  mainPieceId,
  namedPiece,
  onEach,
  type TurnedOver,
  withoutPiece,
  withPieceMore,
} from '@neotaxis/core'
import { lazy, Suspense, useState } from 'react'
import { Row } from '../../parts/Row.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { pieceLookedAt } from '../../store/view-slice.ts'
import { WORDS } from '../field/measures.ts'
import { TypedField } from '../field/TypedField.tsx'
import { newId } from '../new-id.ts'
import { selectedNodes } from '../selection.ts'
import { useEdit } from '../use-edit.ts'
import { useSecondSide } from '../use-second-side.ts'

const FromStock = lazy(() => import('../stock/FromStock.tsx'))

const WAYS: Readonly<Record<TurnedOver, string>> = {
  'left-right': 'Turned like a page, left to right',
  'top-bottom': 'Turned away from you, rear to front',
}

/** The workpieces of a job: which of them is looked at, one more, one less; the selected artwork on all of them. */
export function PieceList({ job }: { readonly job: JobDocument }) {
  const edit = useEdit()
  const dispatch = useDispatch()
  const { selection, also } = useSelector((state) => state.view)
  const [menu, setMenu] = useState<HTMLElement | null>(null)
  const [choosing, setChoosing] = useState(false)
  const [turning, setTurning] = useState<HTMLElement | null>(null)
  const main = mainPieceId(job)
  const ids = inOrder(job)
  const piece = mainPiece(job)
  const nodes = selectedNodes(job, selection, also)
  const turnOver = useSecondSide(job)
  const turn = (way: TurnedOver): void => {
    setTurning(null)
    turnOver(way)
  }
  const another = (count: number): void => {
    setMenu(null)
    const { stock: _, ...like } = piece
    edit(count === 1 ? 'another workpiece' : `${count} workpieces more`, (base) =>
      Array.from({ length: count }, () => newId().slice(0, 8)).reduce((sum, id) => withPieceMore(sum, id, like), base),
    )
  }
  return (
    <>
      {ids.length > 1 && (
        <>
          <Row wraps gap="tight" bottom="room" data-testid="pieces">
            {ids.map((id) => (
              <Chip
                key={id}
                size="small"
                label={job.workpieces[id].name}
                color={id === main ? 'primary' : 'default'}
                variant={id === main ? 'filled' : 'outlined'}
                onClick={() => dispatch(pieceLookedAt(id))}
              />
            ))}
          </Row>
          <TypedField
            as={WORDS}
            label="Name"
            value={piece.name}
            onTake={(name) => name && edit('name the workpiece', (base) => namedPiece(base, name))}
          />
        </>
      )}
      <Row wraps gap="tight" top="tight">
        <Button size="small" onClick={(event) => setMenu(event.currentTarget)} data-testid="another-piece">
          Lay another one in…
        </Button>
        {ids.length > 1 && (
          <Button
            size="small"
            color="secondary"
            onClick={() => {
              edit(`take “${piece.name}” away`, (base) => withoutPiece(base, main))
              dispatch(pieceLookedAt(null))
            }}
          >
            Take this one away
          </Button>
        )}
        {piece.back === undefined && (
          <Button size="small" onClick={(event) => setTurning(event.currentTarget)} data-testid="second-side">
            Its second side…
          </Button>
        )}
        {ids.length > 1 && nodes.length > 0 && (
          <Button
            size="small"
            data-testid="on-each"
            onClick={() => edit('once on each workpiece', (base) => nodes.reduce((sum, id) => onEach(sum, id), base))}
          >
            The selection on each
          </Button>
        )}
      </Row>
      <Menu anchorEl={turning} open={turning !== null} onClose={() => setTurning(null)}>
        {(Object.keys(WAYS) as TurnedOver[]).map((way) => (
          <MenuItem key={way} onClick={() => turn(way)} data-testid={`turn-${way}`}>
            {WAYS[way]}
          </MenuItem>
        ))}
      </Menu>
      <Menu anchorEl={menu} open={menu !== null} onClose={() => setMenu(null)}>
        <MenuItem onClick={() => another(1)} data-testid="another-1">
          Like this one
        </MenuItem>
        {[3, 5, 11].map((count) => (
          <MenuItem key={count} onClick={() => another(count)} data-testid={`another-${count}`}>
            {count} like this one
          </MenuItem>
        ))}
        <MenuItem
          onClick={() => {
            setMenu(null)
            setChoosing(true)
          }}
          data-testid="another-stock"
        >
          From stock…
        </MenuItem>
      </Menu>
      {choosing && (
        <Suspense fallback={null}>
          <FromStock job={job} another onClose={() => setChoosing(false)} />
        </Suspense>
      )}
    </>
  )
}
