import { ButtonBase, styled } from '@mui/material'
import { EDGE, SPACE, TYPE } from '../theme/tokens.ts'
import { isOfPage } from './laid.ts'

/** One thing that is told and can be pressed to change it. */
export const Chip = styled(ButtonBase, { shouldForwardProp: isOfPage('mark') })<{
  readonly mark?: 'plain' | 'ask' | 'hot'
}>(({ theme: { palette }, mark = 'plain' }) => ({
  display: 'inline-flex',
  gap: SPACE.snug - SPACE.hair,
  minHeight: 34,
  padding: `0 ${SPACE.room}px`,
  fontSize: TYPE.body,
  flexShrink: 0,
  whiteSpace: 'nowrap',
  border: `1px solid ${mark === 'plain' ? palette.divider : palette.shop[mark]}`,
  borderRadius: EDGE.pill,
  backgroundColor: palette.background.paper,
  color: mark === 'hot' ? palette.shop.hot : undefined,
}))
