import { styled } from '@mui/material'
import { SPACE } from '../theme/tokens.ts'
import { isOfPage, type Laid, laid } from './laid.ts'

interface ColumnProps extends Laid {
  /** px */
  readonly width?: number
  readonly middle?: boolean
}

const shouldForwardProp = isOfPage('middle', 'width')
const column = (props: ColumnProps) => ({
  display: 'grid',
  // What it holds may be narrower than its longest word: it never widens what it stands in.
  gridTemplateColumns: 'minmax(0, 1fr)',
  alignContent: 'start',
  gap: SPACE[props.gap ?? 'snug'],
  width: props.width,
  ...(props.middle && { alignContent: 'center', justifyItems: 'center', textAlign: 'center' as const }),
  ...laid(props),
})

/** Things under each other. */
export const Column = styled('div', { shouldForwardProp })<ColumnProps>(column)

/** A list without marks: things under each other. */
export const BareList = styled('ul', { shouldForwardProp })<ColumnProps>((props) => ({
  listStyle: 'none',
  margin: 0,
  padding: 0,
  ...column(props),
}))
