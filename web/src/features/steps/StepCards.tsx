import { KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { sortableKeyboardCoordinates, useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import DeleteIcon from '@mui/icons-material/DeleteOutlined'
import DragIcon from '@mui/icons-material/DragIndicator'
import { Box, ButtonBase, IconButton, Switch, Tooltip } from '@mui/material'
import { memo, type ReactNode } from 'react'
import { Quiet } from '../../parts/words.tsx'
import { EDGE, TYPE, WEIGHT } from '../../theme/tokens.ts'

const BY_POINTER = { activationConstraint: { distance: 5 } }
const BY_KEYS = { coordinateGetter: sortableKeyboardCoordinates }

/** Steps are moved by pointer, or by Space and arrows. */
export const useStepSensors = () => useSensors(useSensor(PointerSensor, BY_POINTER), useSensor(KeyboardSensor, BY_KEYS))

interface CardProps {
  readonly name: string
  readonly words: string
  readonly number: number
  readonly open: boolean
  readonly off?: boolean
  readonly onOpen: () => void
  readonly handle?: ReactNode
  readonly tail?: ReactNode
  readonly children: ReactNode
}

/** Something that can be opened to be changed. */
export function CardBox({ name, words, number, open, off = false, onOpen, handle, tail, children }: CardProps) {
  return (
    <Box
      sx={{
        mb: 0.9,
        border: open ? 2 : 1,
        borderColor: open ? 'primary.main' : 'divider',
        borderRadius: `${EDGE.card}px`,
        bgcolor: open ? 'shop.selected' : 'background.paper',
        p: open ? 0 : '1px',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', opacity: off ? 0.55 : 1 }}>
        <Box sx={{ width: 24, display: 'grid', placeItems: 'center', color: 'text.secondary' }}>{handle}</Box>
        <ButtonBase
          onClick={onOpen}
          aria-expanded={open}
          data-testid={`card-${name.toLowerCase().split(/[ ,]/)[0]}`}
          sx={{ flex: 1, minWidth: 0, display: 'block', textAlign: 'left', py: 0.7 }}
        >
          <Box sx={{ fontWeight: WEIGHT.strong, fontSize: TYPE.plain, display: 'flex' }}>
            <span>{name}</span>
            <Box component="span" sx={{ ml: 'auto', pr: 1, color: 'text.secondary', fontWeight: WEIGHT.plain }}>
              {number}
            </Box>
          </Box>
          <Quiet cut>{words}</Quiet>
        </ButtonBase>
        {tail}
      </Box>
      {open && <Box sx={{ px: 1.4, pb: 1.2 }}>{children}</Box>}
    </Box>
  )
}

interface StepCardProps {
  readonly id: string
  readonly number: number
  readonly step: { readonly on: boolean }
  readonly name: string
  readonly words: string
  readonly open: boolean
  readonly onOpen: () => void
  readonly onSwitch: (on: boolean) => void
  readonly onRemove: () => void
  readonly children: ReactNode
}

/** A closed card shows the same while its step is the same; what it does is asked of the job at that time. */
const sameWhenClosed = (a: StepCardProps, b: StepCardProps): boolean =>
  !a.open && !b.open && a.id === b.id && a.number === b.number && a.step === b.step && a.words === b.words

/** A step that can be moved, switched off and removed. */
export const StepCard = memo(function StepCard({
  id,
  number,
  step,
  name,
  words,
  open,
  onOpen,
  onSwitch,
  onRemove,
  children,
}: StepCardProps) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id })
  return (
    <Box ref={setNodeRef} style={{ transform: CSS.Translate.toString(transform), transition }}>
      <CardBox
        name={name}
        words={words}
        number={number}
        open={open}
        off={!step.on}
        onOpen={onOpen}
        handle={
          <Tooltip title="Drag to another place; or Space, arrows, Space">
            <Box
              {...attributes}
              {...listeners}
              aria-label={`Move ${name}`}
              sx={{ cursor: 'grab', display: 'grid', touchAction: 'none' }}
            >
              <DragIcon sx={{ fontSize: TYPE.name }} />
            </Box>
          </Tooltip>
        }
        tail={
          open ? (
            <Tooltip title="Remove this step">
              <IconButton size="small" onClick={onRemove} aria-label={`Remove ${name}`} data-testid="remove-step">
                <DeleteIcon fontSize="small" />
              </IconButton>
            </Tooltip>
          ) : (
            <Tooltip title={step.on ? 'Leave it out for now' : 'Do it again'}>
              <Switch
                size="small"
                checked={step.on}
                onChange={(_, on) => onSwitch(on)}
                slotProps={{ input: { 'aria-label': `${name} is done` } }}
              />
            </Tooltip>
          )
        }
      >
        {children}
      </CardBox>
    </Box>
  )
}, sameWhenClosed)
