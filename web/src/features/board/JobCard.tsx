import ContentCopyIcon from '@mui/icons-material/ContentCopyOutlined'
import Inventory2Icon from '@mui/icons-material/Inventory2Outlined'
import { CardActionArea, IconButton, Skeleton, styled, Tooltip } from '@mui/material'
import type { CardFacts, JobBrief } from '@neotaxis/contract'
import { formatDuration } from '@neotaxis/core/units/duration'
import { formatLengthNumber } from '@neotaxis/core/units/length'
import { Link } from 'react-router'
import { useCardQuery } from '../../api/shop.ts'
import { Place } from '../../parts/Floating.tsx'
import { Row } from '../../parts/Row.tsx'
import { BurntGround, StateDot, Tile, UnderPicture } from '../../parts/Tile.tsx'
import { Name, Words } from '../../parts/words.tsx'
import { useSelector } from '../../store/hooks.ts'
import { SPACE } from '../../theme/tokens.ts'
import { tellDay } from '../field/told.ts'

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
  const { data: card = job.card } = useCardQuery({ id: job.id, revision: job.revision }, { skip: job.card !== undefined })
  const { widthMm, heightMm, thicknessMm } = job.workpiece
  const size = (mm: number): string => String(Number(formatLengthNumber(mm, unit)))
  const state = card && stateOf(card)
  return (
    <Tile data-testid={`card-${job.id}`}>
      <CardActionArea component={Link} to={`/jobs/${job.id}/compose`} style={{ height: '100%' }}>
        <BurntGround high={180}>
          {card ? (
            <img src={`/api/jobs/${job.id}/card.png?content=${card.content.slice(0, 16)}`} alt="after the burn" loading="lazy" />
          ) : (
            <Skeleton variant="rectangular" width={226} height={150} animation={false} />
          )}
        </BurntGround>
        <UnderPicture style={{ paddingBottom: 48 }}>
          <Row align="baseline">
            <Name cut>{job.name}</Name>
            <Name apart>{card ? formatDuration(card.seconds) : '…'}</Name>
          </Row>
          <Words tone="quiet" top="hair">
            {job.material} {size(thicknessMm)} · {size(widthMm)} × {size(heightMm)} {unit}
          </Words>
          <StateLine tone={state?.ready === false ? 'ask' : 'done'} weight="firm">
            {state && <StateDot full={state.ready} />}
            {state?.ready && job.ranAt && job.updatedAt <= job.ranAt ? `run ${tellDay(job.ranAt)}` : (state?.text ?? '')}
            {job.branchOf && (
              <Words as="span" weight="plain" tone="quiet">
                {' '}
                · branch
              </Words>
            )}
          </StateLine>
        </UnderPicture>
      </CardActionArea>
      <Place at={{ right: 8, bottom: 8 }} style={{ gap: 0 }}>
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
      </Place>
    </Tile>
  )
}

/** Its state lies at the foot of the card, however many lines stand over it; room is left for the buttons beside it. */
const StateLine = styled(Words)({
  position: 'absolute',
  left: SPACE.room,
  right: 90,
  bottom: SPACE.room,
  display: 'flex',
  alignItems: 'center',
  gap: SPACE.snug,
  minHeight: 22,
})
