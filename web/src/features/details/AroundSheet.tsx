import { Button, Checkbox, Dialog, DialogActions, DialogContent, DialogTitle, FormControlLabel } from '@mui/material'
import {
  type Bounds,
  canBeCutAround,
  formatLength,
  isEmptyBounds,
  type JobDocument,
  outlineAround,
  RANGES,
  sourceOf,
  tellArtwork,
  unite,
} from '@neotaxis/core'
import { useState } from 'react'
import { Wrong } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { Choice } from '../field/Choice.tsx'
import { LengthField } from '../field/quantities.tsx'
import { newId } from '../new-id.ts'
import { useEdit } from '../use-edit.ts'
import { type AroundShape, shapeAround, withShapeAroundIt } from './shape-around.ts'

type Around = 'outline' | AroundShape
const AROUND: Readonly<Record<Around, string>> = {
  outline: 'their own outline, at a distance',
  rectangle: 'a rectangle',
  rounded: 'a rectangle with round corners',
  circle: 'a circle',
}

/** One cut around several pieces of artwork together, whatever they are: along their outline, or as a shape of a size, centred on them. */
export function AroundSheet({ job, onClose }: { readonly job: JobDocument; readonly onClose: () => void }) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  const bounds = useEvaluation(({ drawing }) => drawing?.bounds)
  const roots = canBeCutAround(job)
  const [chosen, setChosen] = useState<readonly string[]>(roots)
  const [around, setAround] = useState<Around>('outline')
  const [distanceMm, setDistance] = useState(3)
  const [radiusMm, setRadius] = useState(5)
  /** Typed: it counts instead of the distance. */
  const [size, setSize] = useState<{ readonly widthMm?: number; readonly heightMm?: number }>({})
  const [failed, setFailed] = useState<string>()
  const [busy, setBusy] = useState(false)
  const box = boxAround(job, chosen, bounds)
  const shape = around !== 'outline' && box ? shapeAround(around, box, { distanceMm, radiusMm, ...size }) : undefined
  const cut = async (): Promise<void> => {
    if (around === 'outline') {
      edit(`cut ${formatLength(distanceMm, unit)} around`, (base) => outlineAround(base, chosen, distanceMm, newId().slice(0, 8)))
      onClose()
      return
    }
    if (!shape) return
    setBusy(true)
    try {
      const change = await withShapeAroundIt(job, chosen, shape, newId().slice(0, 8))
      edit(`cut ${AROUND[around]} around`, change)
      onClose()
    } catch (cause) {
      setFailed(cause instanceof Error ? cause.message : 'It could not be drawn.')
      setBusy(false)
    }
  }
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth data-testid="around">
      <DialogTitle>Cut around these together</DialogTitle>
      <DialogContent>
        {roots.map((id) => (
          <FormControlLabel
            key={id}
            sx={{ display: 'flex' }}
            control={
              <Checkbox
                checked={chosen.includes(id)}
                onChange={(_, on) => setChosen((now) => (on ? [...now, id] : now.filter((each) => each !== id)))}
              />
            }
            label={tellArtwork(job, id)}
          />
        ))}
        <Choice label="Cut" value={around} options={AROUND} testId="around-shape" onChoose={setAround} />
        <LengthField
          label="Distance"
          value={distanceMm}
          range={{ min: 0, max: RANGES.distanceMm.max }}
          digits={2}
          hint="From what is seen of them: pictures by what is opaque or dark, drawings and texts by their lines and areas."
          onCommit={(v) => {
            setDistance(v)
            setSize({})
          }}
        />
        {shape && around === 'circle' && (
          <LengthField
            label="Diameter"
            value={shape.widthMm}
            range={RANGES.sizeMm}
            onCommit={(v) => setSize({ widthMm: v, heightMm: v })}
          />
        )}
        {shape && around !== 'circle' && (
          <>
            <LengthField
              label="Width"
              value={shape.widthMm}
              range={RANGES.sizeMm}
              onCommit={(widthMm) => setSize({ ...size, widthMm })}
            />
            <LengthField
              label="Height"
              value={shape.heightMm}
              range={RANGES.sizeMm}
              onCommit={(heightMm) => setSize({ ...size, heightMm })}
            />
          </>
        )}
        {around === 'rounded' && (
          <LengthField label="Corners" value={radiusMm} range={{ min: 0.1, max: 500 }} onCommit={setRadius} />
        )}
        {failed && <Wrong role="alert">{failed}</Wrong>}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          disabled={chosen.length === 0 || busy || (around !== 'outline' && !shape)}
          onClick={() => void cut()}
          data-testid="around-it"
        >
          Cut around
        </Button>
      </DialogActions>
    </Dialog>
  )
}

/** The box around all that is burned of some families, mm of the face. */
function boxAround(
  job: JobDocument,
  roots: readonly string[],
  bounds: Readonly<Record<string, Bounds>> | undefined,
): Bounds | undefined {
  const boxes = Object.values(job.operations)
    .flatMap(({ of }) => of)
    .filter((node) => roots.includes(sourceOf(job, node)))
    .flatMap((node) => (bounds?.[node] && !isEmptyBounds(bounds[node]) ? [bounds[node]] : []))
  return boxes.length > 0 ? boxes.reduce(unite) : undefined
}
