import { Button, ToggleButton, ToggleButtonGroup } from '@mui/material'
import { type JobDocument, RANGES, type TreatmentStep, withStep } from '@neotaxis/core'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Quiet } from '../../parts/words.tsx'
import type { BenchFacts } from '../../workers/shared.ts'
import { ValueSlider } from '../details/ValueSlider.tsx'
import { CountField, LengthField, PercentField } from '../field/quantities.tsx'
import { type Change, useChange, useEdit } from '../use-edit.ts'
import { CurveEditor } from './CurveEditor.tsx'
import { Histogram } from './Histogram.tsx'

interface Props {
  readonly node: string
  readonly id: string
  readonly step: TreatmentStep
  readonly facts: BenchFacts | undefined
  readonly sampling: 'ink' | 'paper' | null
  readonly onSampling: (kind: 'ink' | 'paper' | null) => void
}

const Label = ({ children }: { readonly children: React.ReactNode }) => <Quiet top="tight">{children}</Quiet>

/** The values of one treatment step. */
export function StepControls({ node, id, step, facts, sampling, onSampling }: Props) {
  const edit = useEdit()
  const { show, finish } = useChange()
  const set =
    (change: Partial<TreatmentStep>): Change =>
    (job: JobDocument) =>
      withStep(job, node, id, change)
  const slider = (
    label: string,
    value: number,
    range: { readonly min: number; readonly max: number },
    by: number,
    unit: string,
    change: (v: number) => Partial<TreatmentStep>,
  ) => (
    <>
      <Label>
        {label} <b>{`${Number(value.toFixed(2))}${unit}`}</b>
      </Label>
      <ValueSlider
        label={label}
        value={value}
        min={range.min}
        max={range.max}
        step={by}
        text={(v) => `${Number(v.toFixed(2))}${unit}`}
        change={(v) => set(change(v))}
        name={(v) => `${label.toLowerCase()} ${Number(v.toFixed(2))}${unit}`}
      />
    </>
  )
  switch (step.kind) {
    case 'levels': {
      const sampled = facts?.sampled
      return (
        <>
          <Histogram
            counts={facts?.histogram}
            black={sampled?.black ?? step.black}
            white={sampled?.white ?? step.white}
            fixed={step.ink.length > 0 && step.paper.length > 0}
            onChange={(black, white) => show(set({ black: Math.min(black, 254), white }))}
            onDone={() => finish('levels')}
          />
          <ToggleButtonGroup
            exclusive
            fullWidth
            size="small"
            value={sampling}
            onChange={(_, value) => onSampling(value)}
            aria-label="Sample on the picture"
            sx={{ my: 1 }}
          >
            <ToggleButton value="ink" data-testid="sample-ink">
              Sample ink
            </ToggleButton>
            <ToggleButton value="paper" data-testid="sample-paper">
              Sample paper
            </ToggleButton>
          </ToggleButtonGroup>
          {step.ink.length + step.paper.length > 0 && (
            <Button size="small" onClick={() => edit('forget the samples', set({ ink: [], paper: [] }))}>
              Forget {step.ink.length + step.paper.length} samples
            </Button>
          )}
          {slider('Middle tones, gamma', step.gamma, { min: 0.3, max: 3 }, 0.05, '', (gamma) => ({ gamma }))}
        </>
      )
    }
    case 'contrast':
      return (
        <>
          {slider('Brightness', step.brightness, RANGES.percent, 1, '', (brightness) => ({ brightness }))}
          {slider('Contrast', step.contrast, RANGES.percent, 1, '', (contrast) => ({ contrast }))}
        </>
      )
    case 'curve':
      return <CurveEditor step={step} onChange={(points) => show(set({ points }))} onDone={finish} />
    case 'posterise':
      return (
        <CountField
          label="Tones"
          value={step.levels}
          range={RANGES.posterise}
          onCommit={(levels) => edit(`${levels} tones`, set({ levels }))}
        />
      )
    case 'ink':
      return (
        <>
          <SwitchRow
            label="Ruled lines away"
            on={step.ruled}
            onSwitch={(ruled) => edit(ruled ? 'ruled lines away' : 'ruled lines kept', set({ ruled }))}
            testId="ink-ruled"
          />
          {slider('Ink from', step.from * 100, { min: 15, max: 85 }, 1, ' %', (v) => ({ from: v / 100 }))}
        </>
      )
    case 'flatten':
      return (
        <LengthField
          label="Shadows wider than"
          value={step.radiusMm}
          range={RANGES.flattenMm}
          digits={1}
          step={0.5}
          hint="Ink must be thinner than this, shadows wider."
          onCommit={(radiusMm) => edit('even the paper', set({ radiusMm }))}
        />
      )
    case 'sharpen':
      return (
        <>
          {slider('Radius', step.radius, { min: 0.3, max: 8 }, 0.1, ' dots', (radius) => ({ radius }))}
          {slider('Amount', step.amount, { min: 0, max: 300 }, 5, ' %', (amount) => ({ amount }))}
          {slider('Over', step.threshold, { min: 0, max: 40 }, 1, '', (threshold) => ({ threshold }))}
        </>
      )
    case 'clean':
      return (
        <>
          {slider('Marks under', step.below * 100, { min: 0, max: 30 }, 0.5, ' %', (v) => ({ below: v / 100 }))}
          <PercentField
            label="Marks under"
            value={step.below}
            range={RANGES.haze}
            hint="Weaker marks would hardly burn: they become none."
            onCommit={(below) => edit(`clean under ${Math.round(below * 100)} %`, set({ below }))}
          />
          {slider('Specks under', step.specksMm2, { min: 0, max: 5 }, 0.05, ' mm²', (specksMm2) => ({ specksMm2 }))}
        </>
      )
    case 'invert':
    case 'clear':
      return null
  }
}
