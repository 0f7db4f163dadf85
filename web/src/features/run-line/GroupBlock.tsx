import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { Tooltip, useTheme } from '@mui/material'
import { formatDuration } from '@neotaxis/core'
import { BlockBox, BlockFoot, BlockHead } from '../../parts/Block.tsx'

interface Props {
  readonly id: string
  readonly name: string
  /** Colours of its operations, in their order. */
  readonly fills: readonly string[]
  readonly steps: number
  readonly seconds: number | undefined
  readonly width: number
  readonly selected: boolean
  readonly stale: boolean
  readonly onPick: () => void
  readonly onUnfold: () => void
  readonly onMenu: (left: number, top: number) => void
}

/** A group of the line that is folded: moved and grasped as one block, with the colours of what it holds. */
export function GroupBlock({ id, name, fills, steps, seconds, width, selected, stale, onPick, onUnfold, onMenu }: Props) {
  const { palette } = useTheme()
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  const time = seconds === undefined ? '…' : formatDuration(seconds)
  const bands = fills.map((fill, i) => `${fill} ${(100 * i) / fills.length}% ${(100 * (i + 1)) / fills.length}%`)
  return (
    <Tooltip title={`${name}: ${steps} steps, ${time}. Double-click or Enter unfolds it.`}>
      <BlockBox
        fill={palette.background.default}
        ink={palette.text.primary}
        texture={`linear-gradient(to right, ${bands.join(', ')})`}
        textureSize="100% 8px"
        chosen={selected}
        held={isDragging}
        stale={stale}
        ref={setNodeRef}
        {...attributes}
        {...listeners}
        role="listitem"
        aria-label={`${name}, ${steps} steps, ${time}`}
        aria-current={selected}
        data-testid={`group-${name}`}
        onClick={onPick}
        onDoubleClick={onUnfold}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !event.altKey) onUnfold()
          else listeners?.onKeyDown?.(event)
        }}
        onContextMenu={(event) => {
          event.preventDefault()
          onMenu(event.clientX, event.clientY)
        }}
        style={{
          transform: CSS.Translate.toString(transform),
          transition,
          width,
          cursor: isDragging ? 'grabbing' : 'grab',
          backgroundRepeat: 'no-repeat',
          backgroundPosition: 'bottom',
          border: `1px solid ${palette.divider}`,
        }}
      >
        <BlockHead>
          <span>{name}</span>
          <span>{time}</span>
        </BlockHead>
        <BlockFoot>{steps} steps</BlockFoot>
      </BlockBox>
    </Tooltip>
  )
}
