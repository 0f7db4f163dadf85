import { Box, Button } from '@mui/material'
import {
  type AroundCircle,
  firstAround,
  firstRepetition,
  groupedWith,
  type InRows,
  isAround,
  type JobDocument,
  notRepeated,
  RANGES,
  type Repetition,
  repeated,
  repetitionOf,
} from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Choice } from '../field/Choice.tsx'
import { CountField, DegreesField, LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'
import { Heading } from './Heading.tsx'

const WAYS = { rows: 'in rows', circle: 'around a circle' } as const

type Set<R extends Repetition> = (name: string, change: Partial<R>) => void

/** Artwork several times with all that is grouped with it: once for each entry of its list, or as often as is wanted. */
export function RowFields({ job, node }: { readonly job: JobDocument; readonly node: string }) {
  const edit = useEdit()
  const known = repetitionOf(job, node)
  const isGroup = groupedWith(job, node).length > 0
  const begin = (name: string, first: typeof firstRepetition | typeof firstAround) => (): void =>
    edit(name, (base) => repeated(base, node, first(base, node)))
  const [inRows, around] = [begin('lay it in rows', firstRepetition), begin('lay it around a circle', firstAround)]
  if (!known)
    return (
      <Box sx={{ mt: 1 }}>
        <Button size="small" onClick={inRows} data-testid="in-rows">
          {isGroup ? 'The group in rows, once for each…' : 'In rows, once for each…'}
        </Button>
        <Button size="small" onClick={around} data-testid="around-circle">
          Around a circle…
        </Button>
      </Box>
    )
  const { repetition } = known
  const set = (name: string, change: Partial<InRows & AroundCircle>): void =>
    edit(name, (base) => {
      const now = repetitionOf(base, node)
      return now ? repeated(base, node, { ...now.repetition, ...change } as Repetition) : base
    })
  return (
    <>
      <Heading>Several times</Heading>
      <Choice
        label="How it lies"
        testId="repeat-way"
        value={isAround(repetition) ? 'circle' : 'rows'}
        options={WAYS}
        onChoose={(way) => (way === 'rows' ? inRows() : around())}
      />
      <CountField
        label="How often"
        value={repetition.count}
        range={RANGES.repeats}
        onCommit={(count) => set('how often', { count })}
      />
      {isAround(repetition) ? <CircleFields at={repetition} set={set} /> : <PitchFields at={repetition} set={set} />}
      <Button size="small" onClick={() => edit('once again', (base) => notRepeated(base, node))} data-testid="not-in-rows">
        Once again
      </Button>
    </>
  )
}

const PitchFields = ({ at, set }: { readonly at: InRows; readonly set: Set<InRows> }) => (
  <>
    <CountField
      label="Beside each other"
      value={at.columns}
      range={RANGES.repeats}
      onCommit={(columns) => set('columns', { columns })}
    />
    <LengthField
      label="To the next one"
      value={at.pitchXMm}
      range={RANGES.pitchMm}
      hint="From middle to middle, across."
      onCommit={(pitchXMm) => set('distance across', { pitchXMm })}
    />
    <LengthField
      label="To the next row"
      value={at.pitchYMm}
      range={RANGES.pitchMm}
      onCommit={(pitchYMm) => set('distance down', { pitchYMm })}
    />
  </>
)

const CircleFields = ({ at, set }: { readonly at: AroundCircle; readonly set: Set<AroundCircle> }) => (
  <>
    <LengthField
      label="Circle of"
      value={at.diameterMm}
      range={RANGES.circleMm}
      digits={2}
      hint="Across, through their middles. Its own middle can be dragged on the stage."
      onCommit={(diameterMm) => set('circle', { diameterMm })}
    />
    <DegreesField
      label="The first stands at"
      value={at.atDeg}
      range={RANGES.degrees}
      hint="Seen from the middle: 0° to the right, −90° at the top. It stays where it lies, the circle goes."
      onCommit={(atDeg) => set('where the first stands', { atDeg })}
    />
    <DegreesField
      label="Over"
      value={at.overDeg}
      range={RANGES.overDeg}
      hint="360° is all of it; else from the first to the last."
      onCommit={(overDeg) => set('how far around', { overDeg })}
    />
    <SwitchRow
      label="Turned as they go around"
      on={at.turned}
      onSwitch={(turned) => set(turned ? 'turned as they go around' : 'all upright', { turned })}
    />
  </>
)
