import { styled } from '@mui/material'
import { runColour } from '../theme/run-ramp.ts'
import { TYPE, WEIGHT } from '../theme/tokens.ts'

interface Props {
  /** Place in the order of operations, from 0. */
  readonly at: number
  /** How many there are. */
  readonly of: number
}

const Disc = styled('span')(({ theme: { palette } }) => ({
  display: 'grid',
  placeItems: 'center',
  width: 17,
  height: 17,
  borderRadius: '50%',
  fontSize: TYPE.tiny,
  fontWeight: WEIGHT.strong,
  outline: `1px solid ${palette.shop.line}`,
}))

/** The number of an operation in the colour of its place in time. */
export function OrderDisc({ at, of }: Props) {
  const { fill, ink } = runColour(at, of)
  return (
    <Disc role="img" aria-label={`operation ${at + 1}`} style={{ backgroundColor: fill, color: ink }}>
      {at + 1}
    </Disc>
  )
}
