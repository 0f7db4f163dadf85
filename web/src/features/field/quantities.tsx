import type { Range } from '@neotaxis/core'
import { useSelector } from '../../store/hooks.ts'
import { DEGREES, intervalIn, lengthIn, numberOf, PERCENT, speedIn } from './measures.ts'
import { QuantityField } from './QuantityField.tsx'

interface Props {
  readonly label: string
  readonly value: number
  readonly range: Range
  readonly hint?: string
  readonly refuses?: (value: number) => string | undefined
  readonly onCommit: (value: number) => void
}

/** A length in the operator's unit; `digits` more than usual where it is small. */
export function LengthField({ digits, step, ...rest }: Props & { readonly digits?: number; readonly step?: number }) {
  const unit = useSelector((state) => state.view.lengthUnit)
  return <QuantityField {...rest} as={lengthIn(unit, digits, step)} />
}

/** The distance of lines: as a length in the operator's unit, or as a resolution, “254 dpi”. */
export function IntervalField(props: Props) {
  const unit = useSelector((state) => state.view.lengthUnit)
  return <QuantityField {...props} as={intervalIn(unit)} />
}

export function SpeedField(props: Props) {
  const unit = useSelector((state) => state.view.speedUnit)
  return <QuantityField {...props} as={speedIn(unit)} />
}

export const PercentField = (props: Props) => <QuantityField {...props} as={PERCENT} />

/** A number: whole, unless it is said how many digits stand behind the point. */
export const CountField = ({ unit, digits, ...rest }: Props & { readonly unit?: string; readonly digits?: number }) => (
  <QuantityField {...rest} as={numberOf(unit, digits)} />
)

/** An angle in degrees, clockwise. */
export const DegreesField = (props: Props) => <QuantityField {...props} as={DEGREES} />
