import { Button } from '@mui/material'
import { JIG, type JigSettings, type JobDocument, laidByGuide, mainPiece } from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Wrong } from '../../parts/words.tsx'
import { drawnInto } from '../draw/drawn-into.ts'
import { LengthField } from '../field/quantities.tsx'
import { newId } from '../new-id.ts'
import { outlineData } from '../stock/PieceShape.tsx'
import { useEdit } from '../use-edit.ts'
import { jigSheet, useJig } from './use-jig.ts'

const ORIGIN = { xMm: 0, yMm: 0, by: 'origin' } as const

/** A frame in which the workpiece lies always in the same place: its drawing begins a job of its own. */
export function JigFields({ job, id }: { readonly job: JobDocument; readonly id: string }) {
  const { make, making } = useJig(job, id)
  const [settings, setSettings] = useState<JigSettings>(JIG)
  const [isOpen, setOpen] = useState(false)
  const edit = useEdit()
  const { enqueueSnackbar } = useSnackbar()
  /** Its own edge, on what lies under it. */
  const layByGuide = async (): Promise<void> => {
    try {
      const data = outlineData(mainPiece(job).outline)
      const change = await drawnInto(job, { kind: 'path', data }, ORIGIN, newId().slice(0, 8), 'score-lines')
      edit('burn the outline of the workpiece first', (base) => {
        const known = new Set(Object.keys(base.operations))
        const made = change(base).job
        const operation = Object.keys(made.operations).find((id) => !known.has(id))
        return operation === undefined ? made : laidByGuide(made, operation)
      })
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'It could not be drawn.', { variant: 'error' })
    }
  }
  const set = (change: Partial<JigSettings>): void => setSettings({ ...settings, ...change })
  if (!isOpen)
    return (
      <>
        <Button fullWidth size="small" onClick={() => setOpen(true)} data-testid="jig">
          Make a jig for it…
        </Button>
        <Button fullWidth size="small" onClick={() => void layByGuide()} data-testid="lay-by-guide">
          Burn its outline first, to lay it on
        </Button>
      </>
    )
  const { sheet, isTooLarge } = jigSheet(job, settings)
  return (
    <>
      <Title variant="h3" top="wide">
        A jig for it
      </Title>
      <LengthField
        label="Room around it"
        value={settings.clearanceMm}
        range={{ min: 0, max: 10 }}
        digits={2}
        step={0.05}
        hint="Between the piece and the jig, the kerf not counted."
        onCommit={(clearanceMm) => set({ clearanceMm })}
      />
      <LengthField
        label="Frame"
        value={settings.borderMm}
        range={{ min: 2, max: 200 }}
        onCommit={(borderMm) => set({ borderMm })}
      />
      <SwitchRow label="Places for fingers" on={settings.fingers} onSwitch={(fingers) => set({ fingers })} />
      <SwitchRow label="Holes against the air jet" on={settings.vents} onSwitch={(vents) => set({ vents })} />
      {isTooLarge && (
        <Wrong role="alert">
          The jig would be {sheet.widthMm} × {sheet.heightMm} mm, larger than the bed of this machine: make its frame narrower.
        </Wrong>
      )}
      <Quiet top="tight">It is a job of its own, to be cut in card where the shop has some. This job stays.</Quiet>
      <Button
        fullWidth
        variant="outlined"
        color="secondary"
        disabled={isTooLarge || making}
        onClick={() => void make(settings, 'compose')}
        data-testid="make-jig"
      >
        Begin the jig
      </Button>
    </>
  )
}
