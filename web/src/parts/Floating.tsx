import { styled } from '@mui/material'
import { EDGE, SPACE, TYPE } from '../theme/tokens.ts'
import { isOfPage } from './laid.ts'

interface FloatingProps {
  /** The colour of what it is about, along its left edge. */
  readonly edge?: string
  readonly quiet?: boolean
}

/** What floats over the stage: it never hides more than it must. */
export const Floating = styled('div', { shouldForwardProp: isOfPage('edge', 'quiet') })<FloatingProps>(
  ({ theme: { palette, shadows }, edge, quiet }) => ({
    padding: `${SPACE.snug - SPACE.hair}px ${SPACE.room}px`,
    fontSize: TYPE.plain,
    lineHeight: 1.35,
    color: quiet ? palette.text.secondary : undefined,
    backgroundColor: palette.background.paper,
    borderRadius: EDGE.small,
    borderLeft: edge ? `4px solid ${edge}` : undefined,
    boxShadow: shadows[2],
  }),
)

/** Where it floats: a corner of the stage, px from its edges. */
export const Place = styled('div', { shouldForwardProp: isOfPage('at') })<{
  readonly at: { readonly left?: number; readonly right?: number; readonly top?: number; readonly bottom?: number }
}>(({ at }) => ({ position: 'absolute', ...at, display: 'flex', alignItems: 'center', gap: SPACE.snug }))
