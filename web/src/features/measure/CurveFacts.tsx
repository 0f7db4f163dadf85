import { type FittedCurve, INPUT_WORDS, QUANTITY_WORDS, type TrialQuantity } from '@neotaxis/core'
import { Figure } from '../../parts/Fact.tsx'
import { Row } from '../../parts/Row.tsx'

const told = (value: number): string => String(Number(value.toPrecision(3)))

/** More than this share of the most is not nothing. */
const SOMETHING = 0.05

/** Whether the weakest that was tried answers already: where it begins lies below. */
export const isAnswering = ({ at, from, to }: FittedCurve): boolean => at(from) > SOMETHING * at(to)

/** What a curve says, in figures: how far readings lie from it, where it is straight, where the material begins to answer. */
export function CurveFacts({ quantity, curve }: { readonly quantity: TrialQuantity; readonly curve: FittedCurve }) {
  const { unit, per } = QUANTITY_WORDS[quantity]
  const input = quantity === 'watts' ? '' : INPUT_WORDS[quantity].split(', ')[1]
  const { residual, straight, onset, from, to, at } = curve
  return (
    <Row gap="wide" wraps align="start" data-testid="curve-facts">
      <Figure name="Begins at" value={isAnswering(curve) ? `below ${told(from)} ${input}` : `${told(onset)} ${input}`} />
      <Figure name="Straight" value={`${told(straight[0])} to ${told(straight[1])}`} more={input} />
      <Figure name="Highest" value={`${told(at(to) * per)} ${unit}`} more={`at ${told(to)} ${input}`} />
      <Figure name="Readings off it" value={residual > 0 ? `± ${told(residual * per)} ${unit}` : 'one each'} />
    </Row>
  )
}
