import ChevronLeftIcon from '@mui/icons-material/ChevronLeft'
import ChevronRightIcon from '@mui/icons-material/ChevronRight'
import { Box, ButtonBase, Tooltip, useMediaQuery } from '@mui/material'
import { type ReactNode, useEffect } from 'react'
import { NARROW_PX } from '../../parts/Frame.tsx'
import { useDispatch, useSelector } from '../../store/hooks.ts'
import { folded, peeked } from '../../store/view-slice.ts'
import { TYPE } from '../../theme/tokens.ts'
import { onCommand } from './commands.ts'

export type PanelName = 'artwork' | 'details' | 'steps'

/** How wide a panel is when it is folded, CSS px. */
const EDGE = 28

/** Whether a panel is folded: as it was left, or all but one where there is no room beside the stage. */
function useFolded(name: PanelName): { readonly isFolded: boolean; readonly isNarrow: boolean } {
  const isNarrow = useMediaQuery(`(max-width: ${NARROW_PX - 1}px)`)
  const isFolded = useSelector(({ view }) => (isNarrow ? view.peeked !== name : view.folded.includes(name)))
  return { isFolded, isNarrow }
}

/** The width of a panel as a column of a grid. @param open its width where it is not folded */
export function usePanelWidth(name: PanelName, open: string): string {
  return useFolded(name).isFolded ? `${EDGE}px` : open
}

/** A panel that can be folded to its edge, to give the stage its room, and back. */
export function Foldable({
  name,
  side,
  area,
  children,
}: {
  readonly name: PanelName
  readonly side: 'left' | 'right'
  readonly area: string
  readonly children: ReactNode
}) {
  const dispatch = useDispatch()
  const { isFolded, isNarrow } = useFolded(name)
  const fold = (): void => void dispatch(isNarrow ? peeked(isFolded ? name : null) : folded({ name, isFolded: !isFolded }))
  useEffect(() => onCommand({ [`fold-${name}`]: fold }))
  const words = `${isFolded ? 'Unfold' : 'Fold'} the ${name}`
  const Chevron = (side === 'left') === isFolded ? ChevronRightIcon : ChevronLeftIcon
  return (
    <Box sx={{ gridArea: area, minHeight: 0, position: 'relative', ...(isFolded && { bgcolor: 'shop.panel' }) }}>
      {!isFolded && children}
      <Tooltip title={words} placement={side === 'left' ? 'right' : 'left'}>
        <ButtonBase
          onClick={fold}
          aria-label={words}
          aria-expanded={!isFolded}
          data-testid={`fold-${name}`}
          sx={{
            position: 'absolute',
            zIndex: 1,
            color: 'text.secondary',
            ...(isFolded
              ? {
                  inset: 0,
                  alignItems: 'flex-start',
                  pt: 1.4,
                  [side === 'left' ? 'borderRight' : 'borderLeft']: 1,
                  borderColor: 'divider',
                }
              : {
                  top: '50%',
                  mt: '-28px',
                  // Beside it, over the stage's edge: nothing of the panel lies under it.
                  [side === 'left' ? 'right' : 'left']: -24,
                  width: 24,
                  '@media (pointer: coarse)': { [side === 'left' ? 'right' : 'left']: -44 },
                  height: 56,
                  bgcolor: 'shop.panel',
                  border: 1,
                  borderColor: 'divider',
                  borderRadius: side === 'left' ? '0 8px 8px 0' : '8px 0 0 8px',
                }),
          }}
        >
          <Chevron sx={{ fontSize: TYPE.name }} />
        </ButtonBase>
      </Tooltip>
    </Box>
  )
}
