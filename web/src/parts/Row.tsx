import { styled } from '@mui/material'
import { SPACE } from '../theme/tokens.ts'
import { isOfPage, type Laid, laid } from './laid.ts'

interface RowProps extends Laid {
  readonly align?: 'center' | 'baseline' | 'start' | 'end' | 'stretch'
  readonly pack?: 'start' | 'center' | 'end' | 'space-between'
  readonly wraps?: boolean
  /** As high as a line of a form. */
  readonly line?: boolean
}

/** Things beside each other. */
export const Row = styled('div', { shouldForwardProp: isOfPage('align', 'pack', 'wraps', 'line') })<RowProps>((props) => ({
  display: 'flex',
  alignItems: props.align ?? 'center',
  justifyContent: props.pack,
  gap: SPACE[props.gap ?? 'snug'],
  flexWrap: props.wraps ? 'wrap' : undefined,
  minHeight: props.line ? 36 : undefined,
  ...laid(props),
}))

/** Takes the room that is left. */
export const Spread = styled('div')({ flex: 1, minWidth: 0 })
