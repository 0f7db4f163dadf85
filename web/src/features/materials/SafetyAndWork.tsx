import CloseIcon from '@mui/icons-material/Close'
import { Button, IconButton } from '@mui/material'
import { HAND_WORK, type HandWork, type Material, RANGES } from '@neotaxis/core'
import { Column } from '../../parts/Column.tsx'
import { Row } from '../../parts/Row.tsx'
import { SwitchRow } from '../../parts/SwitchRow.tsx'
import { Title } from '../../parts/Title.tsx'
import { Quiet, Words } from '../../parts/words.tsx'
import { Choice } from '../field/Choice.tsx'
import { numberOf, WORDS } from '../field/measures.ts'
import { TypedField } from '../field/TypedField.tsx'

interface Props {
  readonly material: Material
  readonly onChange: (change: Partial<Material>) => void
}

/** A text that may be left empty. */
const said = (text: string): string | undefined => (text.trim() === '' ? undefined : text.trim().slice(0, 300))

const WORK_WORDS = { ...Object.fromEntries(HAND_WORK.map((each) => [each, each])), other: 'something else' } as Record<
  (typeof HAND_WORK)[number] | 'other',
  string
>

function Steps({
  title,
  steps,
  onSteps,
}: {
  readonly title: string
  readonly steps: readonly HandWork[]
  readonly onSteps: (steps: HandWork[]) => void
}) {
  const put = (i: number, change: Partial<HandWork>): void =>
    onSteps(steps.map((step, k) => (k === i ? ({ ...step, ...change } as HandWork) : step)))
  return (
    <section aria-label={title}>
      <Title variant="h3">{title}</Title>
      {steps.map((step, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: steps are known by their order
        <Row key={i} align="start" top="snug">
          <div style={{ width: 96 }}>
            <Choice
              label="Work"
              value={step.work ?? 'other'}
              options={WORK_WORDS}
              onChoose={(work) => put(i, { work: work === 'other' ? undefined : work } as Partial<HandWork>)}
            />
          </div>
          <div style={{ flex: 1, marginTop: 8 }}>
            <TypedField
              as={WORDS}
              label="What is done"
              value={step.text}
              onTake={(text) => text && put(i, { text: text.slice(0, 200) })}
              wide
            />
          </div>
          <div style={{ width: 92, marginTop: 8 }}>
            <TypedField
              as={numberOf('min', 1)}
              label="Takes"
              value={step.minutes}
              onTake={(minutes) => put(i, { minutes: Math.min(RANGES.minutes.max, Math.max(0, minutes)) })}
            />
          </div>
          <IconButton size="small" aria-label={`Without “${step.text}”`} onClick={() => onSteps(steps.filter((_, k) => k !== i))}>
            <CloseIcon fontSize="small" />
          </IconButton>
        </Row>
      ))}
      <Button
        size="small"
        disabled={steps.length >= 10}
        onClick={() => onSteps([...steps, { work: 'clean', text: 'Clean it', minutes: 2 }])}
      >
        One more
      </Button>
    </section>
  )
}

/** What is to be known before it burns, what it must not be taken for, and what is done to it by hand. */
export function SafetyAndWork({ material, onChange }: Props) {
  const { forbidden, fumes = '', fire = '', warnings = [], lookAlikes = [], steps } = material
  const { before = [], after = [] } = steps ?? {}
  return (
    <Column gap="room">
      <SwitchRow
        label="It must never be lasered"
        on={forbidden !== undefined}
        onSwitch={(on) => onChange({ forbidden: on ? 'its smoke is poison' : undefined } as Partial<Material>)}
        testId="forbidden"
      />
      {forbidden !== undefined && (
        <TypedField
          as={WORDS}
          label="Because"
          value={forbidden}
          onTake={(text) => onChange({ forbidden: said(text) ?? forbidden })}
        />
      )}
      <TypedField
        as={WORDS}
        label="Its smoke"
        value={fumes}
        onTake={(text) => onChange({ fumes: said(text) } as Partial<Material>)}
      />
      <TypedField
        as={WORDS}
        label="How it burns"
        value={fire}
        onTake={(text) => onChange({ fire: said(text) } as Partial<Material>)}
      />
      <TypedField
        as={WORDS}
        label="It is known for"
        value={warnings.join('; ')}
        hint="Several, with semicolons between them: all stand in the list before every start"
        onTake={(text) =>
          onChange({
            warnings: text
              .split(';')
              .map((each) => each.trim().slice(0, 200))
              .filter(Boolean)
              .slice(0, 20),
          })
        }
      />
      {lookAlikes.map((other, i) => (
        <Row key={other.name} align="start">
          <Column grow gap="hair">
            <Words weight="strong">
              Taken for {other.name.toLowerCase()}
              {other.forbidden ? ', which must never be lasered' : ''}
            </Words>
            <Quiet>{other.toldBy}</Quiet>
          </Column>
          <IconButton
            size="small"
            aria-label={`Not taken for ${other.name}`}
            onClick={() => onChange({ lookAlikes: lookAlikes.filter((_, k) => k !== i) })}
          >
            <CloseIcon fontSize="small" />
          </IconButton>
        </Row>
      ))}
      <Steps title="Before it burns" steps={before} onSteps={(next) => onChange({ steps: { before: next, after } })} />
      <Steps title="After it burned" steps={after} onSteps={(next) => onChange({ steps: { before, after: next } })} />
      <Quiet>They become steps of a job at one press, with their time.</Quiet>
    </Column>
  )
}
