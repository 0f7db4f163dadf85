import { Box, Switch } from '@mui/material'
import { formatLength, type OffsetNode, RANGES, withNode } from '@neotaxis/core'
import { useSelector } from '../../store/hooks.ts'
import { Choice } from '../field/Choice.tsx'
import { CountField, LengthField } from '../field/quantities.tsx'
import { useEdit } from '../use-edit.ts'
import { Heading } from './Heading.tsx'
import { ValueSlider } from './ValueSlider.tsx'

const JOINS = { round: 'rounded', mitre: 'mitred', bevel: 'bevelled' } as const

/** An outline at a distance: how far, its corners, and which edges. */
export function OffsetDetails({ id, node }: { readonly id: string; readonly node: OffsetNode }) {
  const edit = useEdit()
  const unit = useSelector((state) => state.view.lengthUnit)
  // A name that only told the distance goes on telling it.
  const named = (distanceMm: number): Partial<OffsetNode> => ({
    distanceMm,
    name: node.name.replace(
      /[+−-] ?[\d.]+ (mm|in)$/,
      `${distanceMm < 0 ? '−' : '+'} ${Number(Math.abs(distanceMm).toFixed(2))} mm`,
    ),
  })
  return (
    <>
      <Heading>Distance of “{node.name}”</Heading>
      <LengthField
        label="Distance"
        value={node.distanceMm}
        range={RANGES.distanceMm}
        digits={2}
        step={0.5}
        hint="How far outside the outline; negative is inside."
        onCommit={(v) => edit(`distance ${formatLength(v, unit)}`, (base) => withNode(base, id, named(v)))}
      />
      <ValueSlider
        label="Distance"
        value={node.distanceMm}
        min={-5}
        max={20}
        step={0.1}
        text={(v) => formatLength(v, unit)}
        change={(v) => (base) => withNode(base, id, named(v))}
        name={(v) => `distance ${formatLength(v, unit)}`}
      />
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Box component="label" htmlFor={`outermost-${id}`} sx={{ flex: 1 }}>
          Outermost edge only
        </Box>
        <Switch
          size="small"
          id={`outermost-${id}`}
          checked={node.outermost}
          onChange={(_, on) => edit(on ? 'outermost edge only' : 'all edges', (base) => withNode(base, id, { outermost: on }))}
        />
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Box component="label" htmlFor={`both-${id}`} sx={{ flex: 1 }}>
          Inside as well
        </Box>
        <Switch
          size="small"
          id={`both-${id}`}
          checked={node.both === true}
          onChange={(_, on) => edit(on ? 'inside as well' : 'one side', (base) => withNode(base, id, { both: on || undefined }))}
        />
      </Box>
      <CountField
        label="How many"
        value={node.steps ?? 1}
        range={RANGES.offsetSteps}
        hint="Each as far again from the one before. More than one are lines to follow, not the edge of a part."
        onCommit={(v) => edit(`${v} outlines`, (base) => withNode(base, id, { steps: v > 1 ? v : undefined }))}
      />
      <Choice
        label="Corners"
        value={node.join}
        options={JOINS}
        onChoose={(join) => edit('corners of the offset', (base) => withNode(base, id, { join }))}
      />
    </>
  )
}
