import { Link, TextField } from '@mui/material'
import { isOutline, type JobDocument, type Operation, RANGES, type Sparing, tellArtwork } from '@neotaxis/core'
import { useEffect, useState } from 'react'
import { Words } from '../../parts/words.tsx'
import { LengthField } from '../field/quantities.tsx'

interface Props {
  readonly job: JobDocument
  readonly operation: Operation
  readonly set: (name: string, change: Partial<Operation>) => void
}

/** How the piece is prepared for an operation, and what it leaves out because something else burns it. */
export function MoreFields({ job, operation, set }: Props) {
  const { prepared = '' } = operation
  const { spares = [] } = operation as Sparing
  const left = spares.filter((node) => isOutline(job.nodes[node]))
  const [text, setText] = useState(prepared)
  useEffect(() => setText(prepared), [prepared])
  return (
    <>
      {left.length > 0 && (
        <Words size="plain" tone="quiet" top="snug" data-testid="spares">
          Leaves out {left.map((node) => tellArtwork(job, node)).join(', ')}: burned by something else.{' '}
          <Link component="button" onClick={() => set('burn it as well', { spares: undefined } as Partial<Operation>)}>
            Burn it as well
          </Link>
        </Words>
      )}
      {job.machine.axes.z && (
        <LengthField
          label="Lens off its focus"
          value={operation.offFocusMm ?? 0}
          range={RANGES.offFocusMm}
          digits={2}
          step={0.1}
          hint="How far the lens stands over its focus while this burns; below 0 under it. A wider, weaker line."
          onCommit={(mm) => set('lens off its focus', { offFocusMm: mm === 0 ? undefined : mm } as Partial<Operation>)}
        />
      )}
      <TextField
        fullWidth
        size="small"
        label="The piece is prepared"
        placeholder="as it is"
        value={text}
        onChange={(event) => setText(event.target.value.slice(0, 60))}
        onBlur={() => text.trim() !== prepared && set('how it is prepared', { prepared: text.trim() || undefined })}
        helperText="Masked, sprayed, wiped: where it differs from the block before, the machine has to wait."
        margin="dense"
      />
    </>
  )
}
