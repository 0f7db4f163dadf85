import DeleteIcon from '@mui/icons-material/DeleteOutlined'
import { Button, IconButton } from '@mui/material'
import {
  faceSize,
  type JobDocument,
  type KeepOut,
  mainPiece,
  outlineSize,
  type PieceOutline,
  RANGES,
  withPiece,
} from '@neotaxis/core'
import { useState } from 'react'
import { Row } from '../../parts/Row.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Title } from '../../parts/Title.tsx'
import { Words } from '../../parts/words.tsx'
import { Choice } from '../field/Choice.tsx'
import { WORDS } from '../field/measures.ts'
import { DegreesField, LengthField } from '../field/quantities.tsx'
import { TypedField } from '../field/TypedField.tsx'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'

/** What of a workpiece is not free: its grain, and places where nothing may be burned. */
export function FreeFields({ job }: { readonly job: JobDocument }) {
  const edit = useEdit()
  const piece = mainPiece(job)
  const [open, setOpen] = useState<string>()
  const set = (name: string, id: string, keepOut: KeepOut | undefined): void =>
    edit(name, (base) => {
      const { [id]: _, ...others } = mainPiece(base).keepOuts
      return withPiece(base, { keepOuts: keepOut ? { ...others, [id]: keepOut } : others })
    })
  const add = (): void => {
    const { widthMm, heightMm } = faceSize(piece)
    const id = newId().slice(0, 8)
    const outline: PieceOutline = { kind: 'rect', widthMm: 20, heightMm: 20 }
    set('keep a place free', id, { name: 'clamp', outline, pose: { xMm: (widthMm - 20) / 2, yMm: (heightMm - 20) / 2 } })
    setOpen(id)
  }
  return (
    <>
      <SwitchRow
        label="It has a grain"
        on={piece.grainDeg !== undefined}
        onSwitch={(on) => edit('grain of the workpiece', (base) => withPiece(base, { grainDeg: on ? 0 : undefined }))}
        testId="has-grain"
      />
      {piece.grainDeg !== undefined && (
        <DegreesField
          label="Grain runs"
          value={piece.grainDeg}
          range={RANGES.degrees}
          hint="0 from left to right, clockwise from there, on the piece as it is drawn."
          onCommit={(grainDeg) => edit('grain of the workpiece', (base) => withPiece(base, { grainDeg }))}
        />
      )}
      {Object.entries(piece.keepOuts).map(([id, keepOut]) => (
        <KeepOutFields
          key={id}
          keepOut={keepOut}
          isOpen={open === id}
          onOpen={() => setOpen(open === id ? undefined : id)}
          onChange={(next) => set(next ? 'a place kept free' : 'free a place', id, next)}
        />
      ))}
      <Button fullWidth size="small" onClick={add} data-testid="keep-out">
        Keep a place free (clamp, hole, handle)…
      </Button>
      {Object.entries(piece.marks).map(([id, at], i) => (
        <MarkFields
          key={id}
          name={`Mark ${i + 1}`}
          at={at}
          onChange={(next) =>
            edit('a mark of the workpiece', (base) => {
              const { [id]: _, ...others } = mainPiece(base).marks
              return withPiece(base, { marks: next ? { ...others, [id]: next } : others })
            })
          }
        />
      ))}
      <Button
        fullWidth
        size="small"
        onClick={() => {
          const id = newId().slice(0, 8)
          edit('a mark of the workpiece', (base) =>
            withPiece(base, { marks: { ...mainPiece(base).marks, [id]: { xMm: 10, yMm: 10 } } }),
          )
        }}
        data-testid="add-mark"
      >
        A mark to find it by (pin, printed cross)…
      </Button>
    </>
  )
}

interface MarkProps {
  readonly name: string
  readonly at: { readonly xMm: number; readonly yMm: number }
  /** Undefined: it is none any more. */
  readonly onChange: (at: { readonly xMm: number; readonly yMm: number } | undefined) => void
}

function MarkFields({ name, at, onChange }: MarkProps) {
  return (
    <>
      <Row line>
        <Words grow weight="strong">
          {name}
        </Words>
        <IconButton size="small" aria-label={`Take ${name} away`} onClick={() => onChange(undefined)}>
          <DeleteIcon fontSize="small" />
        </IconButton>
      </Row>
      <LengthField
        label="From its left"
        value={at.xMm}
        range={RANGES.positionMm}
        digits={2}
        onCommit={(xMm) => onChange({ ...at, xMm })}
      />
      <LengthField
        label="From its rear"
        value={at.yMm}
        range={RANGES.positionMm}
        digits={2}
        onCommit={(yMm) => onChange({ ...at, yMm })}
      />
    </>
  )
}

interface KeepOutProps {
  readonly keepOut: KeepOut
  readonly isOpen: boolean
  readonly onOpen: () => void
  /** Undefined: it is free again. */
  readonly onChange: (keepOut: KeepOut | undefined) => void
}

function KeepOutFields({ keepOut, isOpen, onOpen, onChange }: KeepOutProps) {
  const { outline, pose, name } = keepOut
  const { widthMm, heightMm } = outlineSize(outline)
  const shape = (next: PieceOutline): void => onChange({ ...keepOut, outline: next })
  return (
    <>
      <Row line>
        <Button size="small" onClick={onOpen} sx={{ flex: 1, justifyContent: 'flex-start' }}>
          <Words cut>
            {name}: {Number(widthMm.toFixed(1))} × {Number(heightMm.toFixed(1))} mm
          </Words>
        </Button>
        <IconButton size="small" aria-label={`Free “${name}” again`} onClick={() => onChange(undefined)}>
          <DeleteIcon fontSize="small" />
        </IconButton>
      </Row>
      {isOpen && (
        <>
          <Title variant="h3">Nothing is burned there</Title>
          <TypedField as={WORDS} label="Name" value={name} onTake={(next) => next && onChange({ ...keepOut, name: next })} />
          {outline.kind !== 'rings' && (
            <Choice
              label="Shape"
              value={outline.kind}
              options={{ rect: 'a rectangle', circle: 'a circle' }}
              onChoose={(kind) =>
                shape(kind === 'rect' ? { kind, widthMm, heightMm } : { kind: 'circle', diameterMm: Math.max(widthMm, heightMm) })
              }
            />
          )}
          {outline.kind === 'rect' && (
            <>
              <LengthField
                label="Width"
                value={outline.widthMm}
                range={RANGES.workpieceMm}
                onCommit={(v) => shape({ ...outline, widthMm: v })}
              />
              <LengthField
                label="Height"
                value={outline.heightMm}
                range={RANGES.workpieceMm}
                onCommit={(v) => shape({ ...outline, heightMm: v })}
              />
            </>
          )}
          {outline.kind === 'circle' && (
            <LengthField
              label="Diameter"
              value={outline.diameterMm}
              range={RANGES.workpieceMm}
              onCommit={(diameterMm) => shape({ kind: 'circle', diameterMm })}
            />
          )}
          <LengthField
            label="From its left"
            value={pose.xMm}
            range={RANGES.positionMm}
            onCommit={(xMm) => onChange({ ...keepOut, pose: { ...pose, xMm } })}
          />
          <LengthField
            label="From its rear"
            value={pose.yMm}
            range={RANGES.positionMm}
            onCommit={(yMm) => onChange({ ...keepOut, pose: { ...pose, yMm } })}
          />
        </>
      )}
    </>
  )
}
