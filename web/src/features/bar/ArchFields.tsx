import { Button } from '@mui/material'
import {
  type Arch,
  arcAt,
  archOf,
  faceSize,
  fittedLens,
  type JobDocument,
  mainPiece,
  RANGES,
  radiusByChord,
  radiusByThree,
  sagittaMm,
  sharpHalfWidth,
  withArch,
} from '@neotaxis/core'
import { useSnackbar } from 'notistack'
import { useState } from 'react'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet } from '../../parts/words.tsx'
import { Choice } from '../field/Choice.tsx'
import { LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'

const ACROSS = { x: 'from left to right', y: 'from rear to front' } as const
/** A plank of a hull, until somebody measures it: so much lower at its edges, share of its width. */
const FIRST_SHARE = 0.05

/** A face that is curved under the head: measured by its radius, or by how much higher its crown stands than its edges. */
export function ArchFields({ job }: { readonly job: JobDocument }) {
  const edit = useEdit()
  const piece = mainPiece(job)
  const arch = archOf(piece)
  const { widthMm, heightMm } = faceSize(piece)
  const chord = (across: Arch['across']): number => (across === 'x' ? widthMm : heightMm)
  const set = (name: string, next: Arch | undefined): void => edit(name, (base) => withArch(base, next))
  const byHeight = (across: Arch['across'], high: number): Arch => ({ across, radiusMm: radiusByChord(chord(across), high) })
  if (!arch)
    return (
      <SwitchRow
        label="Its face is curved"
        on={false}
        onSwitch={() => set('a curved face', byHeight('x', FIRST_SHARE * widthMm))}
        testId="is-curved"
      />
    )
  const { radiusMm, across } = arch
  const wide = chord(across)
  const { depthOfFocusMm, name } = fittedLens(job.machine)
  const sharp = Math.min(wide / 2, sharpHalfWidth(radiusMm, depthOfFocusMm))
  return (
    <>
      <SwitchRow label="Its face is curved" on onSwitch={() => set('a flat face', undefined)} testId="is-curved" />
      <Choice
        label="It falls away"
        value={across}
        options={ACROSS}
        onChoose={(way) => set('how the face is curved', byHeight(way, sagittaMm(radiusMm, wide / 2)))}
      />
      <LengthField
        label="Crown over its edges"
        value={sagittaMm(radiusMm, wide / 2)}
        range={{ min: 0.01, max: wide / 2 }}
        digits={2}
        hint={`With a ruler laid across: how much higher its middle is, over ${Number(wide.toFixed(1))} mm.`}
        onCommit={(high) => set('how the face is curved', byHeight(across, high))}
      />
      <LengthField
        label="Radius"
        value={radiusMm}
        range={{ min: Math.max(RANGES.archMm.min, wide / 2), max: RANGES.archMm.max }}
        onCommit={(mm) => set('radius of the face', { across, radiusMm: mm })}
      />
      <ThreeHeights
        wide={wide}
        crown={sagittaMm(radiusMm, wide / 2)}
        onRadius={(mm) => set('radius of the face', { across, radiusMm: mm })}
      />
      <Quiet>
        Sharp {Number(sharp.toFixed(1))} mm to each side of its crown with the {name} lens. At its edge the face is{' '}
        {((100 * arcAt(radiusMm, wide / 2)) / (wide / 2) - 100).toFixed(1)} % longer than it is seen from above.
      </Quiet>
    </>
  )
}

/** The radius by a depth gauge at three places: both edges and the middle, however the piece lies tilted. */
function ThreeHeights({
  wide,
  crown,
  onRadius,
}: {
  readonly wide: number
  readonly crown: number
  readonly onRadius: (mm: number) => void
}) {
  const [heights, setHeights] = useState<readonly [number, number, number]>()
  const { enqueueSnackbar } = useSnackbar()
  if (!heights)
    return (
      <Button size="small" onClick={() => setHeights([0, crown, 0])} data-testid="three-heights">
        By three heights…
      </Button>
    )
  const measured = (i: number, mm: number): void => {
    const next = heights.map((each, k) => (k === i ? mm : each)) as [number, number, number]
    setHeights(next)
    try {
      onRadius(Math.min(RANGES.archMm.max, Math.max(wide / 2, radiusByThree([0, next[0]], [wide / 2, next[1]], [wide, next[2]]))))
    } catch (cause) {
      enqueueSnackbar(cause instanceof Error ? cause.message : 'That is no curve.', { variant: 'error' })
    }
  }
  return (
    <>
      {(['Height at one edge', 'Height in the middle', 'Height at the other edge'] as const).map((label, i) => (
        <LengthField
          key={label}
          label={label}
          value={heights[i]}
          range={{ min: -wide, max: wide }}
          digits={2}
          onCommit={(mm) => measured(i, mm)}
        />
      ))}
    </>
  )
}
