import { styled } from '@mui/material'
import { SPACE, type Space } from '../theme/tokens.ts'
import { isOfPage } from './laid.ts'

interface PanelProps {
  /** On which side of the page it stands. */
  readonly side: 'left' | 'right'
  readonly pad?: Space
  readonly width?: number
}

/** What stands at a side of the page, from top to bottom, and scrolls by itself. */
export const Panel = styled('div', { shouldForwardProp: isOfPage('side', 'pad', 'width') })<PanelProps>(
  ({ theme: { palette }, side, pad = 'room', width }) => ({
    height: '100%',
    width,
    overflow: 'auto',
    padding: SPACE[pad],
    backgroundColor: palette.shop.panel,
    [side === 'left' ? 'borderRight' : 'borderLeft']: `1px solid ${palette.divider}`,
  }),
)
