import CloseIcon from '@mui/icons-material/Close'
import { Button, IconButton, Tooltip } from '@mui/material'
import {
  type DoseWindow,
  FINISH_STARTS,
  FINISHES,
  type Finish,
  inThickness,
  type Material,
  type MaterialLayer,
  RANGES,
} from '@neotaxis/core'
import { Column } from '../../parts/Column.tsx'
import { Fields } from '../../parts/Fields.tsx'
import { Row } from '../../parts/Row.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet } from '../../parts/words.tsx'
import { Choice } from '../field/Choice.tsx'
import { numberOf, WORDS } from '../field/measures.ts'
import { CountField, LengthField } from '../field/quantities.tsx'
import { TypedField } from '../field/TypedField.tsx'
import { DoseLadder } from './DoseLadder.tsx'

interface Props {
  readonly material: Material
  readonly onChange: (change: Partial<Material>) => void
}

const DOSE = { min: 0.001, max: 100_000 }

/** From and to of a dose window, J/mm² or J/mm. */
function WindowFields({
  label,
  window,
  unit = 'J/mm²',
  onChange,
}: {
  readonly label: string
  readonly window: DoseWindow
  readonly unit?: string
  readonly onChange: (window: DoseWindow) => void
}) {
  const { from, to } = window
  return (
    <>
      <CountField
        label={`${label} from`}
        value={from}
        range={DOSE}
        unit={unit}
        digits={3}
        refuses={(v) => (v >= to ? `It begins below ${to} ${unit}.` : undefined)}
        onCommit={(v) => onChange({ from: v, to })}
      />
      <CountField
        label={`${label} to`}
        value={to}
        range={DOSE}
        unit={unit}
        digits={3}
        refuses={(v) => (v <= from ? `It ends above ${from} ${unit}.` : undefined)}
        onCommit={(v) => onChange({ from, to: v })}
      />
    </>
  )
}

/** A material of another thickness as a whole: its layers grow with it. */
function thicker(material: Material, thicknessMm: number): Partial<Material> {
  // What nobody has tried is worked out again; what was tried stays as it was found.
  if (material.untried) {
    const { layers, cutDose, warpDose } = inThickness(material, thicknessMm, material.id)
    return { thicknessMm, layers, cutDose, ...(warpDose === undefined ? {} : { warpDose }) }
  }
  const share = thicknessMm / material.thicknessMm
  return {
    thicknessMm,
    layers: material.layers.map((layer) => ({ ...layer, thicknessMm: Number((layer.thicknessMm * share).toFixed(4)) })),
  }
}

/** Layers whose thickness changed: the material is as thick as they are together. */
function relaid(layers: readonly MaterialLayer[]): Partial<Material> {
  return { layers, thicknessMm: Number(layers.reduce((sum, { thicknessMm }) => sum + thicknessMm, 0).toFixed(4)) }
}

/** What a material is: its layers from the beam inwards, and what light does to each. */
export function MaterialFacts({ material, onChange }: Props) {
  const { layers, cutDose, warpDose, finish } = material
  const put = (i: number, change: Partial<MaterialLayer>): void =>
    onChange(relaid(layers.map((layer, k) => (k === i ? { ...layer, ...change } : layer))))
  return (
    <Column gap="room">
      <TypedField
        as={WORDS}
        label="Name"
        value={material.name}
        onTake={(name) => name && onChange({ name })}
        testId="material-name"
      />
      <Choice
        label="Its surface"
        value={finish ?? 'other'}
        options={
          { other: 'none of these', ...Object.fromEntries(FINISHES.map((each) => [each, FINISH_STARTS[each].name])) } as Record<
            Finish | 'other',
            string
          >
        }
        onChoose={(next) => onChange({ finish: next === 'other' ? undefined : next } as Partial<Material>)}
      />
      <LengthField
        label="Thickness"
        value={material.thicknessMm}
        range={RANGES.thicknessMm}
        digits={2}
        step={0.1}
        onCommit={(mm) => onChange(thicker(material, mm))}
      />
      <DoseLadder material={material} />
      {layers.map((layer, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: layers are known by their order
        <section key={`${i} of ${layers.length}`} aria-label={`Layer ${layer.name}`}>
          <Row>
            <Title variant="h3">
              {i === 0 ? 'Where the beam comes in' : `Layer ${i + 1}`}: {layer.name}
            </Title>
            {layers.length > 1 && (
              <Tooltip title={`Without the ${layer.name}`}>
                <IconButton
                  size="small"
                  aria-label={`Without the ${layer.name}`}
                  onClick={() => onChange(relaid(layers.filter((_, k) => k !== i)))}
                >
                  <CloseIcon fontSize="small" />
                </IconButton>
              </Tooltip>
            )}
          </Row>
          <Fields>
            <TypedField as={WORDS} label="Layer" value={layer.name} onTake={(name) => name && put(i, { name })} />
            <TypedField
              as={numberOf('mm', 3)}
              label="Thick"
              value={layer.thicknessMm}
              onTake={(thicknessMm) => thicknessMm > 0 && put(i, { thicknessMm })}
            />
          </Fields>
          <WindowFields label="Marks" window={layer.markDose} onChange={(markDose) => put(i, { markDose })} />
          {i === 0 && layers.length > 1 && (
            <>
              <SwitchRow
                label="It is a coating that lifts"
                on={layer.liftDose !== undefined}
                onSwitch={(on) =>
                  put(i, {
                    liftDose: on ? { from: layer.markDose.to, to: 2 * layer.markDose.to } : undefined,
                  } as Partial<MaterialLayer>)
                }
              />
              {layer.liftDose && (
                <WindowFields label="Lifts" window={layer.liftDose} onChange={(liftDose) => put(i, { liftDose })} />
              )}
              <SwitchRow
                label={`Too much harms the ${layers[1].name}`}
                on={layer.harmsBelow !== undefined}
                onSwitch={(on) =>
                  put(i, { harmsBelow: on ? 1.3 * (layer.liftDose ?? layer.markDose).to : undefined } as Partial<MaterialLayer>)
                }
              />
              {layer.harmsBelow !== undefined && (
                <CountField
                  label="Harms from"
                  value={layer.harmsBelow}
                  range={DOSE}
                  unit="J/mm²"
                  digits={3}
                  onCommit={(harmsBelow) => put(i, { harmsBelow })}
                />
              )}
            </>
          )}
        </section>
      ))}
      <Row>
        <Button
          size="small"
          onClick={() =>
            onChange(
              relaid([
                { name: 'coating', thicknessMm: 0.05, markDose: { from: 0.4, to: 1.2 } },
                ...layers.map((layer) => ({ ...layer, liftDose: undefined, harmsBelow: undefined }) as MaterialLayer),
              ]),
            )
          }
        >
          A coating on it
        </Button>
        <Quiet>From the beam inwards; together as thick as the material.</Quiet>
      </Row>
      <Title variant="h3">Through it</Title>
      <WindowFields label="Cuts" window={cutDose} unit="J/mm" onChange={(next) => onChange({ cutDose: next })} />
      <SwitchRow
        label="Much of it warps"
        on={warpDose !== undefined}
        onSwitch={(on) => onChange({ warpDose: on ? 4 * layers[0].markDose.to : undefined } as Partial<Material>)}
      />
      {warpDose !== undefined && (
        <CountField
          label="Warps from"
          value={warpDose}
          range={DOSE}
          unit="J/mm²"
          digits={3}
          onCommit={(next) => onChange({ warpDose: next })}
        />
      )}
    </Column>
  )
}
