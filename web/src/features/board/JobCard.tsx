import ContentCopyIcon from '@mui/icons-material/ContentCopyOutlined'
import Inventory2Icon from '@mui/icons-material/Inventory2Outlined'
import { Box, CardActionArea, IconButton, Skeleton, Tooltip } from '@mui/material'
import type { CardFacts, JobBrief } from '@neotaxis/contract'
import { formatDuration } from '@neotaxis/core/units/duration'
import { formatLengthNumber } from '@neotaxis/core/units/length'
import { Link } from 'react-router'
import { useCardQuery } from '../../api/shop.ts'
import { useSelector } from '../../store/hooks.ts'

interface Props {
  readonly job: JobBrief
  readonly onCopy: () => void
  readonly onRemove: () => void
}

const stateOf = ({ stop, ask }: CardFacts): { text: string; ready: boolean } =>
  stop > 0
    ? { text: 'draft: cannot run yet', ready: false }
    : ask > 0
      ? { text: `draft: ${ask} open ${ask === 1 ? 'question' : 'questions'}`, ready: false }
      : { text: 'ready', ready: true }

/** One job on the board: its forecast, workpiece, time and state. */
export function JobCard({ job, onCopy, onRemove }: Props) {
  const unit = useSelector((state) => state.view.lengthUnit)
  const { data: card } = useCardQuery({ id: job.id, revision: job.revision })
  const { widthMm, heightMm, thicknessMm } = job.workpiece
  const size = (mm: number): string => String(Number(formatLengthNumber(mm, unit)))
  const state = card && stateOf(card)
  return (
    <Box
      sx={{
        position: 'relative',
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 3,
        overflow: 'hidden',
      }}
      data-testid={`card-${job.id}`}
    >
      <CardActionArea component={Link} to={`/jobs/${job.id}/compose`}>
        <Box sx={{ height: 180, display: 'grid', placeItems: 'center', bgcolor: 'shop.surround', p: 1.6 }}>
          {card ? (
            <Box
              component="img"
              src={`/api/jobs/${job.id}/card.png?content=${card.content.slice(0, 16)}`}
              alt="after the burn"
              sx={{ maxWidth: '100%', maxHeight: 152, boxShadow: 3, borderRadius: 0.5, bgcolor: 'shop.bed' }}
            />
          ) : (
            <Skeleton variant="rectangular" width={226} height={150} animation={false} />
          )}
        </Box>
        <Box sx={{ p: 1.8, pb: 1.6 }}>
          <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
            <Box sx={{ fontWeight: 700, fontSize: 16, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
              {job.name}
            </Box>
            <Box sx={{ ml: 'auto', fontWeight: 700, fontSize: 16 }}>{card ? formatDuration(card.seconds) : '…'}</Box>
          </Box>
          <Box sx={{ color: 'text.secondary', mt: 0.3 }}>
            {job.material} {size(thicknessMm)} · {size(widthMm)} × {size(heightMm)} {unit}
          </Box>
          <Box
            sx={{
              display: 'flex',
              alignItems: 'center',
              gap: 0.8,
              mt: 0.8,
              pr: 9,
              minHeight: 22,
              fontWeight: 650,
              color: state?.ready === false ? 'shop.ask' : 'primary.main',
            }}
          >
            <Box
              sx={{
                width: 10,
                height: 10,
                borderRadius: '50%',
                bgcolor: state?.ready ? 'primary.main' : 'transparent',
                border: 2,
                borderColor: 'currentColor',
                visibility: state ? 'visible' : 'hidden',
              }}
            />
            {state?.text ?? ''}
            {job.branchOf && (
              <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
                {' '}
                · branch
              </Box>
            )}
          </Box>
        </Box>
      </CardActionArea>
      <Box sx={{ position: 'absolute', right: 8, bottom: 8, display: 'flex' }}>
        <Tooltip title="New job from this one">
          <IconButton onClick={onCopy} aria-label={`New job from ${job.name}`}>
            <ContentCopyIcon fontSize="small" />
          </IconButton>
        </Tooltip>
        <Tooltip title="Put it away">
          <IconButton onClick={onRemove} aria-label={`Put ${job.name} away`}>
            <Inventory2Icon fontSize="small" />
          </IconButton>
        </Tooltip>
      </Box>
    </Box>
  )
}
