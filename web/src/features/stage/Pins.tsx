import { ButtonBase, Tooltip, useTheme } from '@mui/material'
import type { Finding, JobDocument } from '@neotaxis/core'
import { useDispatch } from '../../store/hooks.ts'
import { selected } from '../../store/view-slice.ts'
import type { StageView } from './stage-view.ts'

/** A number for every finding that is not meant, at its place on the workpiece. */
export function Pins({
  job,
  findings,
  view,
}: {
  readonly job: JobDocument
  readonly findings: readonly Finding[]
  readonly view: StageView
}) {
  const { palette } = useTheme()
  const dispatch = useDispatch()
  return findings
    .filter(({ meant }) => !meant)
    .map((finding, index) => (
      <Tooltip key={finding.id} title={finding.message}>
        <ButtonBase
          onPointerDown={(event) => event.stopPropagation()}
          onClick={() =>
            finding.operation &&
            job.operations[finding.operation] &&
            dispatch(selected({ kind: 'operation', id: finding.operation }))
          }
          aria-label={`Finding ${index + 1}: ${finding.message}`}
          style={{ left: (finding.x - view.x) * view.scale, top: (finding.y - view.y) * view.scale }}
          sx={{
            position: 'absolute',
            transform: 'translate(-50%, -50%) rotate(45deg)',
            width: 22,
            height: 22,
            borderRadius: '50% 50% 4px 50%',
            bgcolor: palette.shop[finding.severity],
            color: palette.shop.halo,
            fontWeight: 700,
            fontSize: 12.5,
            border: `2px solid ${palette.shop.halo}`,
            '& > span': { transform: 'rotate(-45deg)' },
          }}
        >
          <span>{index + 1}</span>
        </ButtonBase>
      </Tooltip>
    ))
}
