import { styled } from '@mui/material'
import { SPACE } from '../theme/tokens.ts'
import { isOfPage, type Laid, laid } from './laid.ts'

interface StripProps extends Laid {
  /** Along which edge of the page it lies. */
  readonly along: 'top' | 'bottom'
  readonly tone?: 'paper' | 'bar' | 'panel'
  /** px, where the page does not say it */
  readonly high?: number
}

/** What lies along an edge of the page, over its whole width. */
export const Strip = styled('div', { shouldForwardProp: isOfPage('along', 'tone', 'high') })<StripProps>(
  ({ theme: { palette }, along, tone = 'paper', ...props }) => ({
    display: 'flex',
    alignItems: along === 'top' ? 'center' : 'stretch',
    gap: SPACE[props.gap ?? 'wide'],
    height: props.high ?? '100%',
    padding: along === 'top' ? `0 ${SPACE.wide}px` : `${SPACE.snug}px ${SPACE.wide}px`,
    backgroundColor: { paper: palette.background.paper, bar: palette.shop.bar, panel: palette.shop.panel }[tone],
    [along === 'top' ? 'borderBottom' : 'borderTop']: `1px solid ${palette.divider}`,
    ...laid(props),
  }),
)
