import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import BackHandOutlinedIcon from '@mui/icons-material/BackHandOutlined'
import CarpenterOutlinedIcon from '@mui/icons-material/CarpenterOutlined'
import FlipOutlinedIcon from '@mui/icons-material/FlipOutlined'
import PauseIcon from '@mui/icons-material/Pause'
import { styled, Tooltip } from '@mui/material'
import { askedBy } from '@neotaxis/core'
import { isOfPage } from '../../parts/laid.ts'
import { EDGE, TYPE } from '../../theme/tokens.ts'
import { ALONE, type Keys } from './keys.ts'
import { STOP_WORDS, type Stop, type StopKind, shortly } from './step-words.ts'
import { useTabbed } from './use-tabbed.ts'

const ICONS: Readonly<Record<StopKind, typeof PauseIcon>> = {
  pause: PauseIcon,
  'by-hand': BackHandOutlinedIcon,
  elsewhere: CarpenterOutlinedIcon,
  'set-up': FlipOutlinedIcon,
}

interface Props {
  readonly id: string
  readonly step: Stop
  readonly width: number
  readonly selected: boolean
  readonly onPick: (keys: Keys) => void
  readonly onMenu: (left: number, top: number) => void
}

/** What the machine waits for, between two blocks: as wide as its sign, because it takes no time of the machine. */
export function StopBlock({ id, step, width, selected, onPick, onMenu }: Props) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  const Icon = ICONS[step.kind]
  const { name } = STOP_WORDS[step.kind]
  return (
    <Tooltip title={`${name}: ${askedBy(step)}. Drag, or Alt ← →, to another place.`}>
      <StopBox
        ref={setNodeRef}
        {...attributes}
        {...listeners}
        role="listitem"
        chosen={selected}
        aria-label={`${name}: ${askedBy(step)}`}
        aria-current={selected}
        data-testid={`stop-${id}`}
        onClick={onPick}
        {...useTabbed(() => onPick(ALONE))}
        onContextMenu={(event) => {
          event.preventDefault()
          onMenu(event.clientX, event.clientY)
        }}
        style={{ transform: CSS.Translate.toString(transform), transition, width, cursor: isDragging ? 'grabbing' : 'grab' }}
      >
        <Icon fontSize="small" />
        <span>{shortly(step)}</span>
      </StopBox>
    </Tooltip>
  )
}

const StopBox = styled('div', { shouldForwardProp: isOfPage('chosen') })<{ readonly chosen: boolean }>(
  ({ theme: { palette }, chosen }) => ({
    flex: 'none',
    display: 'grid',
    placeContent: 'center',
    justifyItems: 'center',
    gap: 2,
    overflow: 'hidden',
    whiteSpace: 'nowrap',
    fontSize: TYPE.tiny,
    color: palette.text.secondary,
    borderRadius: EDGE.card,
    border: `1px solid ${palette.divider}`,
    backgroundColor: palette.background.paper,
    outline: chosen ? `3px solid ${palette.primary.main}` : undefined,
    outlineOffset: chosen ? 1 : undefined,
    touchAction: 'none',
  }),
)
