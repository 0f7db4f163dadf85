import { Button } from '@mui/material'
import {
  JIG,
  type JigSettings,
  type JobDocument,
  jigOf,
  laidByGuide,
  type Material,
  mainPiece,
  ringsBounds,
  writeSvgRings,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { bringIn, jobOrders, stockOrders } from '../../api/orders.ts'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Wrong } from '../../parts/words.tsx'
import { proposals } from '../../workers/engine.ts'
import { drawnInto } from '../draw/drawn-into.ts'
import { LengthField } from '../field/quantities.tsx'
import { JUST_BEGUN } from '../job/just-begun.ts'
import { newId } from '../new-id.ts'
import { outlineData } from '../stock/PieceShape.tsx'
import { useEdit } from '../use-edit.ts'
import { useCatalogue } from './use-catalogue.ts'

const ORIGIN = { xMm: 0, yMm: 0, by: 'origin' } as const

/** Of the sheet beyond the jig, mm. */
const SPARE_MM = 10

/** What a jig is cut from: card, which costs next to nothing; else what the shop has first. */
const onWhat = (materials: readonly Material[]): Material | undefined => {
  const free = materials.filter(({ forbidden }) => forbidden === undefined)
  return free.find(({ finish }) => finish === 'card') ?? free[0]
}

/** A frame in which the workpiece lies always in the same place: its drawing begins a job of its own. */
export function JigFields({ job }: { readonly job: JobDocument }) {
  const navigate = useNavigate()
  const catalogue = useCatalogue()
  const [making, setMaking] = useState(false)
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
  const rings = jigOf(mainPiece(job), settings)
  const { x0, y0, x1, y1 } = ringsBounds(rings)
  const sheet = { widthMm: Math.ceil(x1 - x0 + SPARE_MM), heightMm: Math.ceil(y1 - y0 + SPARE_MM) }
  const { axes } = job.machine
  const isTooLarge = sheet.widthMm > axes.x.travelMm || sheet.heightMm > axes.y.travelMm
  const make = async (): Promise<void> => {
    setMaking(true)
    try {
      const material = onWhat(catalogue?.materials ?? [])
      if (!material) throw new Error('The shop has no material to cut a jig from yet.')
      const svg = writeSvgRings(rings, x1 - x0, y1 - y0, x0, y0)
      const name = `jig for ${job.name}`
      const facts = await bringIn(new Blob([svg], { type: 'image/svg+xml' }))
      // A sheet that takes it as large as it is: made smaller it would hold nothing.
      const workpiece = { ...sheet, thicknessMm: material.thicknessMm }
      const made = await proposals({ facts: { ...facts, name }, workpiece, material, machine: job.machine })
      const cut = made?.find(({ id }) => id === 'cut-lines')
      if (!cut) throw new Error(`A jig cannot be cut from ${material.name}.`)
      const { id } = await jobOrders.create({ ...cut.job, name })
      // A blank of the shop knows its jig from then on.
      const { stock } = mainPiece(job)
      if (stock)
        await stockOrders
          .change(stock.id, { jig: id })
          .catch(() => enqueueSnackbar('The blank does not know its jig: say it in stock.', { variant: 'warning' }))
      void navigate(`/jobs/${id}/compose`, { state: JUST_BEGUN })
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'The jig could not be made.', { variant: 'error' })
      setMaking(false)
    }
  }
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
        onClick={() => void make()}
        data-testid="make-jig"
      >
        Begin the jig
      </Button>
    </>
  )
}
