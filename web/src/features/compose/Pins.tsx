import { ButtonBase, Tooltip, useTheme } from '@mui/material'
import { type Finding, type JobDocument, mainPieceId, mapped } from '@neotaxis/core'
import type { Showing } from '../../stage/layer.ts'
import { useDispatch } from '../../store/hooks.ts'
import { selected } from '../../store/view-slice.ts'
import { TYPE, WEIGHT } from '../../theme/tokens.ts'

/** A number for every finding that is not meant, at its place on the workpiece. */
export function Pins({
  job,
  findings,
  at,
}: {
  readonly job: JobDocument
  readonly findings: readonly Finding[]
  readonly at: Showing
}) {
  const { palette } = useTheme()
  const dispatch = useDispatch()
  return findings
    .filter(({ meant }) => !meant)
    .map((finding, index) => {
      // On another workpiece it has its place there.
      if (finding.workpiece !== undefined && finding.workpiece !== mainPieceId(job)) return null
      const [left, top] = mapped(at.map, finding.x, finding.y)
      return (
        <Tooltip key={finding.id} title={finding.message}>
          <ButtonBase
            onClick={() =>
              finding.operation &&
              job.operations[finding.operation] &&
              dispatch(selected({ kind: 'operation', id: finding.operation }))
            }
            aria-label={`Finding ${index + 1}: ${finding.message}`}
            style={{ left, top }}
            sx={{
              position: 'absolute',
              transform: 'translate(-50%, -50%) rotate(45deg)',
              width: 22,
              '@media (pointer: coarse)': { minWidth: 34, minHeight: 34 },
              height: 22,
              borderRadius: '50% 50% 4px 50%',
              bgcolor: palette.shop[finding.severity],
              color: palette.shop.halo,
              fontWeight: WEIGHT.strong,
              fontSize: TYPE.small,
              border: `2px solid ${palette.shop.halo}`,
              '& > span': { transform: 'rotate(-45deg)' },
            }}
          >
            <span>{index + 1}</span>
          </ButtonBase>
        </Tooltip>
      )
    })
}
