import { styled } from '@mui/material'
import { EDGE, SPACE, type Space } from '../theme/tokens.ts'
import { isOfPage, type Laid, laid } from './laid.ts'

/** Why a card stands out: it is chosen, it asks something, it stops the work, or the beam is or may be on. */
type Mark = 'plain' | 'chosen' | 'ask' | 'stop' | 'hot' | 'done' | 'hint'

interface CardProps extends Laid {
  readonly mark?: Mark
  readonly pad?: Space
}

/** Something that stands for itself: with an edge round it. What it holds lies under each other. */
export const Card = styled('div', { shouldForwardProp: isOfPage('mark', 'pad') })<CardProps>(
  ({ theme: { palette }, ...props }) => {
    const edges: Record<Mark, string> = {
      plain: `1px solid ${palette.divider}`,
      chosen: `2px solid ${palette.primary.main}`,
      ask: `2px solid ${palette.shop.ask}`,
      stop: `3px solid ${palette.shop.stop}`,
      hot: `3px solid ${palette.shop.hot}`,
      done: `3px solid ${palette.primary.main}`,
      hint: `1px dashed ${palette.shop.ask}`,
    }
    return {
      display: 'grid',
      alignContent: 'start',
      gap: SPACE[props.gap ?? 'snug'],
      padding: SPACE[props.pad ?? 'room'],
      border: edges[props.mark ?? 'plain'],
      borderRadius: EDGE.card,
      backgroundColor: palette.background.paper,
      ...laid(props),
    }
  },
)

interface PickProps extends Laid {
  readonly chosen: boolean
  readonly pad?: Space
}

/** A card that is pressed to choose it. */
export const PickCard = styled('button', { shouldForwardProp: isOfPage('chosen', 'pad') })<PickProps>(
  ({ theme: { palette }, chosen, ...props }) => ({
    font: 'inherit',
    color: 'inherit',
    textAlign: 'left',
    width: '100%',
    height: '100%',
    cursor: 'pointer',
    display: 'grid',
    gridTemplateColumns: 'minmax(0, 1fr)',
    alignContent: 'start',
    gap: SPACE[props.gap ?? 'hair'],
    padding: props.pad !== undefined ? SPACE[props.pad] : `${SPACE.snug}px ${SPACE.wide}px`,
    overflow: 'hidden',
    border: `1px solid ${chosen ? palette.primary.main : palette.divider}`,
    borderRadius: EDGE.card,
    backgroundColor: chosen ? palette.shop.selected : palette.background.paper,
    '&:hover': { borderColor: palette.primary.main },
    '&:disabled': { cursor: 'default', opacity: 0.7 },
    '@media (pointer: coarse)': { minHeight: 44 },
    ...laid(props),
  }),
)

/** Where nothing is yet: what will stand there, and how it begins. */
export const EmptyPlace = styled('div')(({ theme: { palette } }) => ({
  display: 'grid',
  placeItems: 'center',
  placeContent: 'center',
  gap: SPACE.snug,
  height: '100%',
  minHeight: 220,
  padding: SPACE.open,
  textAlign: 'center',
  color: palette.text.secondary,
  border: `2px dashed ${palette.divider}`,
  borderRadius: EDGE.sheet,
  backgroundColor: palette.shop.panel,
}))
