import { styled } from '@mui/material'
import { EDGE, SPACE } from '../theme/tokens.ts'
import { isOfPage } from './laid.ts'

/** Artwork as it is, on a light ground. */
export const PictureGround = styled('div', { shouldForwardProp: isOfPage('high') })<{ readonly high?: number }>(
  ({ theme: { palette }, high }) => ({
    display: 'grid',
    placeItems: 'center',
    height: high,
    padding: SPACE.room,
    backgroundColor: palette.shop.sheet,
    '& img': { maxWidth: '100%', maxHeight: (high ?? 204) - 2 * SPACE.room, objectFit: 'contain' },
  }),
)

/** A forecast, as the piece would lie there. */
export const BurntGround = styled('div', { shouldForwardProp: isOfPage('high') })<{ readonly high: number }>(
  ({ theme: { palette, shadows }, high }) => ({
    display: 'grid',
    placeItems: 'center',
    height: high,
    padding: SPACE.room,
    backgroundColor: palette.shop.surround,
    '& img, & canvas': {
      maxWidth: '100%',
      maxHeight: high - 2 * SPACE.room,
      backgroundColor: palette.shop.bed,
      boxShadow: shadows[3],
    },
  }),
)

/** Words under a picture. */
export const UnderPicture = styled('div')({ padding: SPACE.room, minWidth: 0 })

/** A card that shows how something looks, with its words under it. */
export const Tile = styled('div')(({ theme: { palette } }) => ({
  position: 'relative',
  height: '100%',
  overflow: 'hidden',
  backgroundColor: palette.background.paper,
  border: `1px solid ${palette.divider}`,
  borderRadius: EDGE.sheet,
}))

/** Whether a thing is ready: a dot that is full, or open. */
export const StateDot = styled('span', { shouldForwardProp: isOfPage('full') })<{ readonly full: boolean }>(
  ({ theme: { palette }, full }) => ({
    flex: 'none',
    width: 10,
    height: 10,
    borderRadius: '50%',
    border: '2px solid currentColor',
    backgroundColor: full ? palette.primary.main : 'transparent',
  }),
)
