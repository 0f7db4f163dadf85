import { ToggleButton, ToggleButtonGroup } from '@mui/material'
import {
  fitCurve,
  type Machine,
  type Material,
  type MeasuredCurve,
  QUANTITY_WORDS,
  TRIAL_QUANTITIES,
  type TrialQuantity,
} from '@neotaxis/core'
import { useMemo, useState } from 'react'
import { Column } from '../../parts/Column.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { dayText } from '../details/standing-words.ts'
import { CurveChart } from '../measure/CurveChart.tsx'
import { CurveFacts } from '../measure/CurveFacts.tsx'

const isShown = (curve: MeasuredCurve): curve is MeasuredCurve & { readonly quantity: TrialQuantity } =>
  (TRIAL_QUANTITIES as readonly string[]).includes(curve.quantity)

/** What was measured on the layers of a material, as curves, with the conditions under which. */
export function CurvesMeasured({ material, machines }: { readonly material: Material; readonly machines: readonly Machine[] }) {
  const curves = material.layers.flatMap((layer) =>
    (layer.curves ?? []).filter(isShown).map((curve) => ({ layer: layer.name, curve })),
  )
  const [chosen, setChosen] = useState<string>()
  const at = curves.find(({ curve }) => curve.id === chosen) ?? curves[0]
  const fitted = useMemo(() => at && fitCurve(at.curve), [at])
  if (!at || !fitted)
    return <Words tone="quiet">Nothing was measured on it yet: what is read on a card of trials becomes a curve here.</Words>
  const { quantity, conditions, points } = at.curve
  const machine = machines.find(({ id }) => id === conditions.machine)
  return (
    <Column gap="room">
      {curves.length > 1 && (
        <ToggleButtonGroup
          exclusive
          size="small"
          value={at.curve.id}
          onChange={(_, id: string | null) => id && setChosen(id)}
          aria-label="Which curve"
        >
          {curves.map(({ curve, layer }) => (
            <ToggleButton key={curve.id} value={curve.id}>
              {QUANTITY_WORDS[curve.quantity].name}
              {material.layers.length > 1 ? `, ${layer}` : ''}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      )}
      <Title variant="h3">
        {QUANTITY_WORDS[quantity].name[0].toUpperCase()}
        {QUANTITY_WORDS[quantity].name.slice(1)} of the {at.layer}
      </Title>
      <CurveChart
        quantity={quantity}
        high={230}
        curve={fitted}
        points={points.flatMap(({ input, readings }) =>
          readings.map((y, i) => ({ key: `${input} ${i}`, x: input, y, label: String(Number(input.toPrecision(3))) })),
        )}
      />
      <CurveFacts quantity={quantity} curve={fitted} />
      <Quiet>
        Measured on {dayText(conditions.date)} with {machine?.name ?? conditions.machine}
        {conditions.lens ? `, ${machine?.lenses.find(({ id }) => id === conditions.lens)?.name ?? conditions.lens} lens` : ''}
        {conditions.speedMmS === undefined ? '' : `, at ${conditions.speedMmS} mm/s`}
        {conditions.intervalMm === undefined ? '' : `, lines ${conditions.intervalMm} mm apart`}.
        {machine?.powerRead !== undefined && machine.powerRead > conditions.date
          ? ` The power of ${machine.name} was read again on ${dayText(machine.powerRead)}: measure it anew.`
          : ''}
      </Quiet>
    </Column>
  )
}
