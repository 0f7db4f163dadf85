import { Button } from '@mui/material'
import {
  firstRepetition,
  groupedWith,
  type JobDocument,
  notRepeated,
  RANGES,
  type Repetition,
  repeated,
  repetitionOf,
} from '@neotaxis/core'
import { CountField, LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'
import { Heading } from './Heading.tsx'

/** Artwork in rows with all that is grouped with it: once for each entry of its list, or as often as is wanted. */
export function RowFields({ job, node }: { readonly job: JobDocument; readonly node: string }) {
  const edit = useEdit()
  const known = repetitionOf(job, node)
  const isGroup = groupedWith(job, node).length > 0
  if (!known)
    return (
      <Button
        size="small"
        sx={{ mt: 1 }}
        onClick={() => edit('lay it in rows', (base) => repeated(base, node, firstRepetition(base, node)))}
        data-testid="in-rows"
      >
        {isGroup ? 'The group in rows, once for each…' : 'In rows, once for each…'}
      </Button>
    )
  const { repetition } = known
  const set = (name: string, change: Partial<Repetition>): void =>
    edit(name, (base) => {
      const now = repetitionOf(base, node)
      return now ? repeated(base, node, { ...now.repetition, ...change }) : base
    })
  return (
    <>
      <Heading>In rows</Heading>
      <CountField
        label="How often"
        value={repetition.count}
        range={RANGES.repeats}
        onCommit={(count) => set('how often', { count })}
      />
      <CountField
        label="Beside each other"
        value={repetition.columns}
        range={RANGES.repeats}
        onCommit={(columns) => set('columns', { columns })}
      />
      <LengthField
        label="To the next one"
        value={repetition.pitchXMm}
        range={RANGES.pitchMm}
        hint="From middle to middle, across."
        onCommit={(pitchXMm) => set('distance across', { pitchXMm })}
      />
      <LengthField
        label="To the next row"
        value={repetition.pitchYMm}
        range={RANGES.pitchMm}
        onCommit={(pitchYMm) => set('distance down', { pitchYMm })}
      />
      <Button size="small" onClick={() => edit('once again', (base) => notRepeated(base, node))} data-testid="not-in-rows">
        Once again
      </Button>
    </>
  )
}
