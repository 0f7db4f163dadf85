import { formatLength, type OffsetNode, RANGES, withNode } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
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
      <SwitchRow
        label="Outermost edge only"
        on={node.outermost}
        onSwitch={(on) => edit(on ? 'outermost edge only' : 'all edges', (base) => withNode(base, id, { outermost: on }))}
      />
      <SwitchRow
        label="Inside as well"
        on={node.both === true}
        onSwitch={(on) => edit(on ? 'inside as well' : 'one side', (base) => withNode(base, id, { both: on || undefined }))}
      />
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
