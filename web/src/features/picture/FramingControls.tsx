import { Button, MenuItem, TextField } from '@mui/material'
import { croppedTo, type FramingStep, type JobDocument, picturedRoot, placeOf, RANGES, withFraming } from '@neotaxis/core'
import { Row } from '../../parts/Row.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet } from '../../parts/words.tsx'
import { ValueSlider } from '../details/ValueSlider.tsx'
import { DEGREES } from '../field/measures.ts'
import { QuantityField } from '../field/QuantityField.tsx'
import { LengthField } from '../field/quantities.tsx'
import { type Change, useEdit } from '../use-edit.ts'

/** A scan is straightened by tenths. */
const FINE_DEGREES = { ...DEGREES, step: 0.1 }

interface Props {
  readonly job: JobDocument
  readonly node: string
  readonly index: number
  readonly step: FramingStep
  readonly keepRatio: boolean
  readonly onKeepRatio: (keep: boolean) => void
}

const number = (mm: number): number => Number(mm.toFixed(2))

const RATIOS = [
  ['0', 'from its corners'],
  ['1.4142', 'A4, lying'],
  ['0.7071', 'A4, standing'],
  ['1', 'square'],
  ['1.5', '3 : 2'],
  ['1.3333', '4 : 3'],
] as const

/** The values of one framing step. */
export function FramingControls({ job, node, index, step, keepRatio, onKeepRatio }: Props) {
  const edit = useEdit()
  const root = picturedRoot(job, node)
  const place = placeOf(job, root.id)
  const set =
    (change: object): Change =>
    (base) =>
      withFraming(
        base,
        node,
        picturedRoot(base, node).framing.map((each, i) => (i === index ? ({ ...each, ...change } as FramingStep) : each)),
      )
  switch (step.kind) {
    case 'crop': {
      const exact = (size: { widthMm?: number; heightMm?: number }): void => {
        // The side that is not typed is as it is by then, not as it was when this was drawn.
        const name = size.widthMm !== undefined ? `${number(size.widthMm)} mm wide` : `${number(size.heightMm ?? 0)} mm high`
        edit(`crop to ${name}`, (base) => {
          const now = base.placements[root.id]
          return croppedTo(base, node, index, { widthMm: now.widthMm, heightMm: now.heightMm, ...size })
        })
        onKeepRatio(true)
      }
      return (
        <>
          <Quiet bottom="tight">Exactly this size on the workpiece:</Quiet>
          <LengthField
            label="Crop width"
            value={place.widthMm}
            range={RANGES.sizeMm}
            digits={2}
            onCommit={(widthMm) => exact({ widthMm })}
          />
          <LengthField
            label="Crop height"
            value={place.heightMm}
            range={RANGES.sizeMm}
            digits={2}
            onCommit={(heightMm) => exact({ heightMm })}
          />
          <SwitchRow label="Keep this ratio while dragging" on={keepRatio} onSwitch={(keep) => onKeepRatio(keep)} />
        </>
      )
    }
    case 'straighten':
      return (
        <TextField
          select
          size="small"
          fullWidth
          label="The real page"
          value={RATIOS.some(([value]) => value === String(step.ratio)) ? String(step.ratio) : '0'}
          onChange={(event) => edit('ratio of the page', set({ ratio: Number(event.target.value) }))}
          margin="dense"
        >
          {RATIOS.map(([value, name]) => (
            <MenuItem key={value} value={value}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      )
    case 'turn':
      return (
        <>
          <Row align="stretch" bottom="snug">
            {[-90, 90, 180].map((by) => (
              <Button
                key={by}
                size="small"
                variant="outlined"
                color="secondary"
                sx={{ flex: 1 }}
                onClick={() => edit(`turn ${by}°`, set({ degrees: ((step.degrees + by + 540) % 360) - 180 }))}
              >
                {by > 0 ? `+${by}°` : `−${-by}°`}
              </Button>
            ))}
          </Row>
          <QuantityField
            label="Clockwise"
            value={step.degrees}
            as={FINE_DEGREES}
            range={RANGES.degrees}
            hint="Quarter turns move pixels; anything else draws them anew."
            onCommit={(degrees) => edit(`turn ${degrees}°`, set({ degrees }))}
          />
          <ValueSlider
            label="Fine turn"
            value={step.degrees}
            min={-15}
            max={15}
            step={0.1}
            text={(v) => `${v.toFixed(1)}°`}
            change={(degrees) => set({ degrees })}
            name={(v) => `turn ${v.toFixed(1)}°`}
          />
        </>
      )
    case 'mirror':
      return (
        <TextField
          select
          size="small"
          fullWidth
          label="Mirrored"
          value={step.way}
          onChange={(event) => edit('mirror', set({ way: event.target.value }))}
          margin="dense"
        >
          <MenuItem value="left-right">left and right</MenuItem>
          <MenuItem value="top-bottom">top and bottom</MenuItem>
        </TextField>
      )
  }
}
