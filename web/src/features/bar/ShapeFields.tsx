import { Box, Button, MenuItem, TextField } from '@mui/material'
import {
  faceSize,
  isOutline,
  type JobDocument,
  mainPiece,
  type PieceOutline,
  RANGES,
  type Ring,
  type RotaryDevice,
  type Thick,
  tellArtwork,
  withFaceOf,
  withFlat,
  withRound,
  withShape,
  withShapeAround,
} from '@neotaxis/core'
import { useRef, useState } from 'react'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Wrong } from '../../parts/words.tsx'
import { TYPE } from '../../theme/tokens.ts'
import { outlineAsFace } from '../../workers/engine.ts'
import { fileOutline } from '../../workers/file-outline.ts'
import { LengthField } from '../field/quantities.tsx'
import { RoundFields } from '../round/RoundFields.tsx'
import { useEdit } from '../use-edit.ts'
import { ArchFields } from './ArchFields.tsx'
import { canRun, runCommand } from './commands.ts'
import { UnevenFields } from './UnevenFields.tsx'
import { troubleOf, useTurning } from './use-turning.ts'

const LARGEST_FILE = 20_000_000

/** The edge of the workpiece: a rectangle, a circle, or any outline of the job or of a file. */
export function ShapeFields({ job, onDraw }: { readonly job: JobDocument; readonly onDraw: () => void }) {
  const edit = useEdit()
  const { outline, surface } = mainPiece(job)
  const { turns } = job.machine
  const { canTurn, turning } = useTurning(job)
  const { widthMm, heightMm } = faceSize(mainPiece(job))
  const file = useRef<HTMLInputElement>(null)
  const [trouble, setTrouble] = useState<string>()
  const set = (name: string, next: PieceOutline): void => edit(name, (base) => withShape(base, next))
  const becomes = (name: string, next: PieceOutline): void => edit(name, (base) => withShapeAround(base, next))
  const round = (name: string, device: RotaryDevice, thick: Thick, lengthMm: number): void => {
    setTrouble(troubleOf(() => edit(name, (base) => withRound(base, device, thick, lengthMm))))
  }
  const cut = async (name: string, rings: Promise<readonly Ring[]>, fromFile: boolean): Promise<void> => {
    setTrouble(undefined)
    try {
      const edge = await rings
      edit(name, (base) => {
        const laid = withFaceOf(base, edge)
        // What comes from a file lies nowhere yet: its box begins where the workpiece did, and artwork stays where it was on it.
        return fromFile ? withShape(base, mainPiece(laid).outline) : laid
      })
    } catch (cause) {
      setTrouble(cause instanceof Error ? cause.message : 'This outline cannot be used.')
    }
  }
  const outlines = Object.entries(job.nodes).filter(([, node]) => isOutline(node))
  return (
    <>
      <TextField
        select
        fullWidth
        size="small"
        label="Shape"
        value={surface.kind === 'flat' ? outline.kind : 'round'}
        onChange={(event) => {
          const { value } = event.target
          if (value === 'round') setTrouble(turning())
          else if (surface.kind !== 'flat') edit('a flat workpiece', withFlat)
          else if (value === 'rect') becomes('a rectangular workpiece', { kind: 'rect', widthMm, heightMm })
          else if (value === 'circle') becomes('a round workpiece', { kind: 'circle', diameterMm: Math.min(widthMm, heightMm) })
          else if (value === 'file') file.current?.click()
          else if (value === 'drawn') {
            onDraw()
            runCommand('draw-edge')
          } else if (value !== 'rings') {
            const name = tellArtwork(job, value)
            void cut(`a workpiece as “${name}”`, outlineAsFace(job, value), false)
          }
        }}
        margin="dense"
        data-testid="workpiece-shape"
      >
        <MenuItem value="rect">Rectangle</MenuItem>
        <MenuItem value="circle">Circle</MenuItem>
        {canTurn && <MenuItem value="round">Round, turning in a rotary</MenuItem>}
        {outline.kind === 'rings' && <MenuItem value="rings">Its own outline</MenuItem>}
        {outlines.map(([id, { name }]) => (
          <MenuItem key={id} value={id}>
            As “{name}” lies on it
          </MenuItem>
        ))}
        {canRun('draw-edge') && <MenuItem value="drawn">Drawn on the stage, corner by corner …</MenuItem>}
        <MenuItem value="file">From a file (SVG, DXF) …</MenuItem>
      </TextField>
      {canTurn && (
        <SwitchRow
          label="Turns in a rotary"
          on={surface.kind !== 'flat'}
          onSwitch={(on) => (on ? setTrouble(turning()) : edit('a flat workpiece', withFlat))}
          testId="turns"
        />
      )}
      <input
        ref={file}
        type="file"
        accept=".svg,.dxf"
        hidden
        data-testid="workpiece-file"
        onChange={(event) => {
          const [chosen] = event.target.files ?? []
          event.target.value = ''
          if (!chosen) return
          if (chosen.size > LARGEST_FILE) setTrouble('This file is larger than an outline can be.')
          else void cut(`a workpiece as in ${chosen.name}`, fileOutline(chosen), true)
        }}
      />
      {trouble && <Wrong role="alert">{trouble}</Wrong>}
      {turns && surface.kind !== 'flat' && <RoundFields job={job} turns={turns} lengthMm={widthMm} onChange={round} />}
      {surface.kind === 'flat' && outline.kind === 'rect' && (
        <>
          <LengthField
            label="Width"
            value={outline.widthMm}
            range={RANGES.workpieceMm}
            onCommit={(v) => set('workpiece width', { ...outline, widthMm: v })}
          />
          <LengthField
            label="Height"
            value={outline.heightMm}
            range={RANGES.workpieceMm}
            onCommit={(v) => set('workpiece height', { ...outline, heightMm: v })}
          />
        </>
      )}
      {outline.kind === 'circle' && (
        <LengthField
          label="Diameter"
          value={outline.diameterMm}
          range={RANGES.workpieceMm}
          onCommit={(v) => set('workpiece diameter', { ...outline, diameterMm: v })}
        />
      )}
      {outline.kind === 'rings' && (
        <Box sx={{ display: 'flex', alignItems: 'center', fontSize: TYPE.plain, color: 'text.secondary' }}>
          <span>
            {Number(widthMm.toFixed(1))} × {Number(heightMm.toFixed(1))} mm over all
          </span>
          <Button
            size="small"
            sx={{ ml: 'auto' }}
            onClick={() => becomes('a rectangular workpiece', { kind: 'rect', widthMm, heightMm })}
          >
            Its box instead
          </Button>
        </Box>
      )}
      {surface.kind === 'flat' && <ArchFields job={job} />}
      {surface.kind === 'flat' && <UnevenFields job={job} surface={surface} />}
    </>
  )
}
