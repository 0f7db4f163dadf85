import { styled } from '@mui/material'
import { SPACE } from '../theme/tokens.ts'
import { NARROW_PX } from './Frame.tsx'
import { isOfPage } from './laid.ts'

/** A page of the shop. */
export const Page = styled('div')(({ theme: { palette } }) => ({
  minHeight: '100vh',
  outline: 'none',
  backgroundColor: palette.shop.surround,
}))

/** What stands on it, in the middle. */
export const PageMain = styled('main', { shouldForwardProp: isOfPage('columns', 'width') })<{
  /** Columns, as CSS says them. */
  readonly columns?: string
  /** At most, px. */
  readonly width: number
}>(({ columns, width }) => ({
  display: 'grid',
  alignContent: 'start',
  gap: SPACE.open - SPACE.tight,
  gridTemplateColumns: columns ?? 'minmax(0, 1fr)',
  [`@media (max-width: ${NARROW_PX - 1}px)`]: { gridTemplateColumns: 'minmax(0, 1fr)' },
  maxWidth: width,
  margin: '0 auto',
  padding: SPACE.open,
}))
