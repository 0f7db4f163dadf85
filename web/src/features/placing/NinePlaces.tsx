import { ButtonBase, styled } from '@mui/material'
import { EDGE } from '../../theme/tokens.ts'

/** A workpiece in small, px. */
const WIDE = 132
const HIGHEST = 108
const LOWEST = 66

/** The corners, the edges and the middle of a piece: its ninths, as shares of its width and height. */
export const NINE = [
  { id: 'top-left', u: 0, v: 0, at: 'rear left corner' },
  { id: 'top', u: 0.5, v: 0, at: 'middle of the rear edge' },
  { id: 'top-right', u: 1, v: 0, at: 'rear right corner' },
  { id: 'left', u: 0, v: 0.5, at: 'middle of the left edge' },
  { id: 'centre', u: 0.5, v: 0.5, at: 'middle' },
  { id: 'right', u: 1, v: 0.5, at: 'middle of the right edge' },
  { id: 'bottom-left', u: 0, v: 1, at: 'front left corner' },
  { id: 'bottom', u: 0.5, v: 1, at: 'middle of the front edge' },
  { id: 'bottom-right', u: 1, v: 1, at: 'front right corner' },
] as const
export type NinthId = (typeof NINE)[number]['id']

interface Props {
  /** Height against width of what is shown in small. */
  readonly ratio: number
  readonly label: string
  /** What pressing a place does, in words. */
  readonly tell: (id: NinthId) => string
  readonly prefix: string
  readonly disabled?: boolean
  readonly onPress: (id: NinthId) => void
}

/** A piece in small, whose corners, edges and middle are pressed. */
export function NinePlaces({ ratio, label, tell, prefix, disabled = false, onPress }: Props) {
  return (
    <Small
      style={{ width: WIDE, height: Math.min(HIGHEST, Math.max(LOWEST, WIDE * ratio)) }}
      role="group"
      aria-label={label}
      data-off={disabled}
    >
      {NINE.map(({ id }) => (
        <Spot
          key={id}
          disabled={disabled}
          onClick={() => onPress(id)}
          aria-label={tell(id)}
          title={tell(id)}
          data-testid={`${prefix}-${id}`}
        >
          <span />
        </Spot>
      ))}
    </Small>
  )
}

const Small = styled('div')(({ theme }) => ({
  display: 'grid',
  gridTemplateColumns: 'repeat(3, 1fr)',
  gridTemplateRows: 'repeat(3, 1fr)',
  flexShrink: 0,
  background: theme.palette.background.paper,
  border: `1px solid ${theme.palette.divider}`,
  borderRadius: EDGE.small,
  '&[data-off=true]': { opacity: 0.5 },
}))

const Spot = styled(ButtonBase)(({ theme }) => ({
  minHeight: 22,
  '& span': { width: 9, height: 9, borderRadius: EDGE.pill, background: theme.palette.text.secondary, opacity: 0.55 },
  '&:hover span, &:focus-visible span': { background: theme.palette.primary.main, opacity: 1, transform: 'scale(1.4)' },
}))
