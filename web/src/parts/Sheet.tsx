import { styled } from '@mui/material'
import { SPACE } from '../theme/tokens.ts'
import { isOfPage } from './laid.ts'

/** What a popover holds: things under each other. */
export const Sheet = styled('div', { shouldForwardProp: isOfPage('width') })<{ readonly width: number }>(({ width }) => ({
  display: 'grid',
  alignContent: 'start',
  gap: SPACE.tight,
  width,
  padding: SPACE.wide,
}))
