import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import VisibilityOff from '@mui/icons-material/VisibilityOff'
import { Box, Tooltip, useTheme } from '@mui/material'
import { burnOrder, type Finding, formatDuration, formatSpeed, type JobDocument, tellBurned } from '@neotaxis/core'
import { BlockBox, BlockFoot, BlockHead } from '../../parts/Block.tsx'
import { pageOf } from '../../processes/table.ts'
import { useSelector } from '../../store/hooks.ts'
import { runColour } from '../../theme/run-ramp.ts'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'
import { ALONE, type Keys } from './keys.ts'
import { useTabbed } from './use-tabbed.ts'

interface Props {
  /** Id of its step. */
  readonly id: string
  readonly operation: string
  /** It keeps its place and does not run. */
  readonly off: boolean
  /** The stage does not show it. */
  readonly hidden: boolean
  readonly job: JobDocument
  readonly width: number
  readonly seconds: number | undefined
  readonly stale: boolean
  readonly selected: boolean
  readonly findings: readonly Finding[]
  /** All open findings, for their numbers. */
  readonly all: readonly Finding[]
  readonly onPick: (keys: Keys) => void
  readonly onMenu: (left: number, top: number) => void
}

/** One operation as a block of time. */
export function Block(props: Props) {
  const { id, operation: burned, off, hidden, job, width, seconds, stale, selected, findings, all, onPick, onMenu } = props
  const { palette } = useTheme()
  const speedUnit = useSelector((state) => state.view.speedUnit)
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  const operation = job.operations[burned]
  const index = burnOrder(job).indexOf(burned)
  const how = pageOf(operation).how?.(operation)
  const { fill, ink } = runColour(Math.max(0, index), burnOrder(job).length)
  const time = off ? 'off' : seconds === undefined ? '…' : formatDuration(seconds)
  const settings = `${formatSpeed(operation.speedMmS, speedUnit)} · ${Number((operation.power * 100).toFixed(1))} %${operation.passes > 1 ? ` · ${operation.passes} passes` : ''}`
  return (
    <Tooltip
      title={`${pageOf(operation).name} of “${tellBurned(job, operation)}”: ${settings}, ${time}. Drag, or Alt ← →, to run it at another time.`}
    >
      <BlockBox
        fill={fill}
        ink={ink}
        texture={pageOf(operation).texture}
        textureSize={pageOf(operation).textureSize}
        runs={!off}
        chosen={selected}
        held={isDragging}
        stale={stale}
        ref={setNodeRef}
        {...attributes}
        {...listeners}
        role="listitem"
        aria-label={`${off ? 'off' : index + 1}, ${pageOf(operation).name} of ${tellBurned(job, operation)}, ${settings}, ${time}`}
        aria-current={selected}
        data-testid={`block-${burned}`}
        data-seconds={seconds}
        onClick={onPick}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && !event.altKey) onPick(ALONE)
          else listeners?.onKeyDown?.(event)
        }}
        onContextMenu={(event) => {
          event.preventDefault()
          onMenu(event.clientX, event.clientY)
        }}
        {...useTabbed(() => onPick(ALONE))}
        style={{ transform: CSS.Translate.toString(transform), transition, width, cursor: isDragging ? 'grabbing' : 'grab' }}
      >
        <BlockHead>
          <span>
            {hidden && <VisibilityOff fontSize="inherit" aria-label="hidden on the stage" style={{ verticalAlign: -2 }} />}{' '}
            {off ? '' : index + 1} {pageOf(operation).name}
            {how && ` · ${how}`}
          </span>
          <span>{time}</span>
        </BlockHead>
        <BlockFoot>{settings}</BlockFoot>
        <Box sx={{ position: 'absolute', right: 7, bottom: 9, display: 'flex', gap: 0.4 }}>
          {findings.map((finding) => (
            <Box
              key={finding.id}
              sx={{
                minWidth: 18,
                height: 18,
                borderRadius: '50% 50% 3px 50%',
                transform: 'rotate(45deg)',
                bgcolor: palette.shop[finding.severity],
                color: palette.shop.halo,
                fontSize: TYPE.tiny,
                fontWeight: WEIGHT.strong,
                display: 'grid',
                placeItems: 'center',
                outline: `1.5px solid ${palette.shop.halo}`,
              }}
            >
              <span style={{ transform: 'rotate(-45deg)' }}>{all.indexOf(finding) + 1}</span>
            </Box>
          ))}
        </Box>
      </BlockBox>
    </Tooltip>
  )
}
