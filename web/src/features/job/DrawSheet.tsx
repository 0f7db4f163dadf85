import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, MenuItem, TextField } from '@mui/material'
import { SHAPE_NAMES, type ShapeSpec, shapeSvg } from '@neotaxis/core'
import { useState } from 'react'
import { CountField, LengthField, PercentField } from '../field/quantities.tsx'

const FIRST: Readonly<Record<ShapeSpec['kind'], ShapeSpec>> = {
  rectangle: { kind: 'rectangle', widthMm: 60, heightMm: 40, radiusMm: 3 },
  ellipse: { kind: 'ellipse', widthMm: 40, heightMm: 40 },
  polygon: { kind: 'polygon', sides: 6, diameterMm: 40 },
  star: { kind: 'star', points: 5, diameterMm: 40, innerShare: 0.45 },
  line: { kind: 'line', lengthMm: 60, angleDeg: 0 },
}
const LENGTH = { min: 0.1, max: 10_000 }
const COPIES = { min: 1, max: 200 }

interface Props {
  readonly onClose: () => void
  /** The shape as a drawing file. */
  readonly onDrawn: (file: File) => void
}

/** A shape drawn by exact numbers, once, in rows, or around a circle. */
export function DrawSheet({ onClose, onDrawn }: Props) {
  const [spec, setSpec] = useState<ShapeSpec>(FIRST.rectangle)
  const set = (values: object): void => setSpec((now) => ({ ...now, ...values }) as ShapeSpec)
  const length = (label: string, key: string, value: number, min = LENGTH.min) => (
    <LengthField label={label} value={value} range={{ ...LENGTH, min }} digits={2} onCommit={(v) => set({ [key]: v })} />
  )
  const { repeat } = spec
  const svg = shapeSvg(spec)
  const draw = (): void => onDrawn(new File([svg], `${SHAPE_NAMES[spec.kind]}.svg`, { type: 'image/svg+xml' }))
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth data-testid="draw">
      <DialogTitle>Draw by numbers</DialogTitle>
      <DialogContent>
        <TextField
          select
          fullWidth
          size="small"
          label="Shape"
          value={spec.kind}
          onChange={(event) => setSpec({ ...FIRST[event.target.value as ShapeSpec['kind']], ...(repeat ? { repeat } : {}) })}
          sx={{ my: 1 }}
          data-testid="draw-kind"
        >
          {Object.entries(SHAPE_NAMES).map(([kind, name]) => (
            <MenuItem key={kind} value={kind}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        {(spec.kind === 'rectangle' || spec.kind === 'ellipse') && (
          <>
            {length('Shape width', 'widthMm', spec.widthMm)}
            {length('Shape height', 'heightMm', spec.heightMm)}
          </>
        )}
        {spec.kind === 'rectangle' && length('Corner radius', 'radiusMm', spec.radiusMm, 0)}
        {spec.kind === 'polygon' && (
          <CountField label="Sides" value={spec.sides} range={{ min: 3, max: 200 }} onCommit={(sides) => set({ sides })} />
        )}
        {spec.kind === 'star' && (
          <>
            <CountField label="Points" value={spec.points} range={{ min: 2, max: 200 }} onCommit={(points) => set({ points })} />
            <PercentField
              label="Inner corners at"
              value={spec.innerShare}
              range={{ min: 0.05, max: 1 }}
              onCommit={(innerShare) => set({ innerShare })}
            />
          </>
        )}
        {(spec.kind === 'polygon' || spec.kind === 'star') && length('Across its corners', 'diameterMm', spec.diameterMm)}
        {spec.kind === 'line' && (
          <>
            {length('Length', 'lengthMm', spec.lengthMm)}
            <CountField
              label="Angle"
              unit="°"
              value={spec.angleDeg}
              range={{ min: -180, max: 180 }}
              onCommit={(angleDeg) => set({ angleDeg })}
            />
          </>
        )}
        <TextField
          select
          fullWidth
          size="small"
          label="How often"
          value={repeat?.kind ?? 'once'}
          onChange={(event) =>
            set({
              repeat:
                event.target.value === 'grid'
                  ? { kind: 'grid', columns: 3, rows: 2, pitchXMm: 70, pitchYMm: 50 }
                  : event.target.value === 'round'
                    ? { kind: 'round', count: 12, diameterMm: 120 }
                    : undefined,
            })
          }
          sx={{ my: 1 }}
          data-testid="draw-repeat"
        >
          <MenuItem value="once">once</MenuItem>
          <MenuItem value="grid">in rows and columns</MenuItem>
          <MenuItem value="round">around a circle</MenuItem>
        </TextField>
        {repeat?.kind === 'grid' && (
          <>
            <CountField
              label="Columns"
              value={repeat.columns}
              range={COPIES}
              onCommit={(columns) => set({ repeat: { ...repeat, columns } })}
            />
            <CountField
              label="Rows"
              value={repeat.rows}
              range={{ min: 1, max: 25 }}
              onCommit={(rows) => set({ repeat: { ...repeat, rows } })}
            />
            <LengthField
              label="Pitch across"
              value={repeat.pitchXMm}
              range={LENGTH}
              digits={2}
              onCommit={(pitchXMm) => set({ repeat: { ...repeat, pitchXMm } })}
            />
            <LengthField
              label="Pitch down"
              value={repeat.pitchYMm}
              range={LENGTH}
              digits={2}
              onCommit={(pitchYMm) => set({ repeat: { ...repeat, pitchYMm } })}
            />
          </>
        )}
        {repeat?.kind === 'round' && (
          <>
            <CountField
              label="Copies"
              value={repeat.count}
              range={{ min: 1, max: 360 }}
              onCommit={(count) => set({ repeat: { ...repeat, count } })}
            />
            <LengthField
              label="Circle of"
              value={repeat.diameterMm}
              range={LENGTH}
              digits={2}
              onCommit={(diameterMm) => set({ repeat: { ...repeat, diameterMm } })}
            />
          </>
        )}
        <Box sx={{ color: 'text.secondary', fontSize: 13, pt: 1 }}>
          What becomes of it, cut, scored or engraved, is chosen next.
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="contained" onClick={draw} data-testid="draw-it">
          Draw it
        </Button>
      </DialogActions>
    </Dialog>
  )
}
