import { type FittedCurve, INPUT_WORDS, QUANTITY_WORDS, type TrialQuantity } from '@neotaxis/core'
import { Figure } from '../../parts/Fact.tsx'
import { Row } from '../../parts/Row.tsx'

const told = (value: number): string => String(Number(value.toPrecision(3)))

/** What a curve says, in figures: how far readings lie from it, where it is straight, where the material begins to answer. */
export function CurveFacts({ quantity, curve }: { readonly quantity: TrialQuantity; readonly curve: FittedCurve }) {
  const { unit, per } = QUANTITY_WORDS[quantity]
  const input = quantity === 'watts' ? '' : INPUT_WORDS[quantity].split(', ')[1]
  const { residual, straight, onset, to, at } = curve
  return (
    <Row gap="wide" wraps align="start" data-testid="curve-facts">
      <Figure name="Begins at" value={`${told(onset)} ${input}`} />
      <Figure name="Straight" value={`${told(straight[0])} to ${told(straight[1])}`} more={input} />
      <Figure name="Highest" value={`${told(at(to) * per)} ${unit}`} more={`at ${told(to)} ${input}`} />
      <Figure name="Readings off it" value={`± ${told(residual * per)} ${unit}`} />
    </Row>
  )
}
