import { Typography } from '@mui/material'
import { type Bounds, effectiveDpi, type JobDocument, placeOf, RANGES, resized, sourceOf, turnedTo } from '@neotaxis/core'
import { useState } from 'react'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { DegreesField, LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'

/** Width and height of what is selected; the family scales as one. */
export function SizeDetails({ job, node, box }: { readonly job: JobDocument; readonly node: string; readonly box: Bounds }) {
  const edit = useEdit()
  const anchor = useSelector((state) => state.view.anchor)
  const [keepRatio, setKeepRatio] = useState(true)
  const sourceId = sourceOf(job, node)
  const source = job.nodes[sourceId]
  const place = placeOf(job, sourceId)
  const options = { anchorX: (anchor.h + 1) / 2, anchorY: (anchor.v + 1) / 2, keepRatio }
  const where =
    anchor.h === 0 && anchor.v === 0
      ? 'its middle'
      : `its ${['top', '', 'bottom'][anchor.v + 1]} ${['left', '', 'right'][anchor.h + 1]}`.replace(/\s+/g, ' ').trim()
  return (
    <>
      <Typography variant="h3" component="h3" sx={{ mt: 2.2, mb: 0.4 }}>
        Size, {where} stays
      </Typography>
      <LengthField
        label="Width"
        value={box.x1 - box.x0}
        range={RANGES.sizeMm}
        onCommit={(v) => edit('width', (base) => resized(base, node, box, { widthMm: v }, options))}
      />
      <LengthField
        label="Height"
        value={box.y1 - box.y0}
        range={RANGES.sizeMm}
        onCommit={(v) => edit('height', (base) => resized(base, node, box, { heightMm: v }, options))}
      />
      <SwitchRow label="Keep the ratio" on={keepRatio} onSwitch={(on) => setKeepRatio(on)} />
      <DegreesField
        label="Turned"
        value={place.deg ?? 0}
        range={RANGES.degrees}
        hint="Clockwise about its middle; what is grouped with it turns along."
        onCommit={(v) => edit(`turn to ${Number(v.toFixed(2))}°`, (base) => turnedTo(base, node, v))}
      />
      {source.kind === 'source' && (
        <Quiet>{Math.round(effectiveDpi(source.widthPx, place.widthMm))} dpi there at this size</Quiet>
      )}
    </>
  )
}
