import ExpandLessIcon from '@mui/icons-material/ExpandLess'
import ExpandMoreIcon from '@mui/icons-material/ExpandMore'
import { ButtonBase, Link, styled, useTheme } from '@mui/material'
import { applyPatches, type Finding, type JobDocument, type Severity } from '@neotaxis/core'
import { useId, useState } from 'react'
import { Floating } from '../../parts/Floating.tsx'
import { isOfPage } from '../../parts/laid.ts'
import { EDGE, SPACE, TYPE, WEIGHT } from '../../theme/tokens.ts'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { useEdit } from '../use-edit.ts'
import { foldedFindings } from './folded.ts'

const SAYS: Record<Severity, string> = { stop: 'Cannot run', ask: 'Asks', note: 'Note' }

/** What would spoil the job, each with its fix; more than two of them fold into a strip. The numbers stand at the same places on stage and run line. */
export function FindingCards({ job }: { readonly job: JobDocument }) {
  const { palette } = useTheme()
  const edit = useEdit()
  const id = useId()
  const [unfolded, setUnfolded] = useState(false)
  const measure = useEvaluation((state) => state.measure)
  const findings = measure?.findings ?? []
  const open = findings.filter(({ meant }) => !meant)
  const meant = findings.filter((finding) => finding.meant)
  const mark = (finding: Finding, yes: boolean): void => {
    edit(yes ? 'mark as meant' : 'not meant after all', (base) => {
      const rest = Object.fromEntries(Object.entries(base.meant).filter(([each]) => each !== finding.id))
      return { ...base, meant: yes ? { ...rest, [finding.id]: finding.message } : rest }
    })
  }
  const { folds, shown, told } = foldedFindings(open, unfolded)
  if (findings.length === 0) return null
  return (
    <Findings as="section" aria-label="Findings">
      <Cards id={id} scrolls={folds && unfolded}>
        {shown.map((finding) => (
          <Floating key={finding.id} edge={palette.shop[finding.severity]} data-testid={`finding-${finding.kind}`}>
            <b>
              {open.indexOf(finding) + 1} · {SAYS[finding.severity]}:
            </b>{' '}
            {finding.message}{' '}
            {finding.fixes.map((fix) => (
              <Way
                key={fix.label}
                onClick={() =>
                  edit(fix.label.charAt(0).toLowerCase() + fix.label.slice(1), (base) => applyPatches(base, fix.patches))
                }
              >
                {fix.label}
              </Way>
            ))}
            {finding.severity !== 'stop' && (
              <Way quiet onClick={() => mark(finding, true)}>
                It is meant
              </Way>
            )}
          </Floating>
        ))}
        {meant.length > 0 && (!folds || unfolded) && (
          <Floating quiet>
            {meant.length} meant:{' '}
            {meant.map((finding) => (
              <Way key={finding.id} quiet title={finding.message} onClick={() => mark(finding, false)}>
                {finding.kind.replaceAll('-', ' ')}
              </Way>
            ))}
          </Floating>
        )}
      </Cards>
      {folds && (
        <Fold aria-expanded={unfolded} aria-controls={id} onClick={() => setUnfolded(!unfolded)} data-testid="findings-strip">
          {told.map(({ severity, count, words }) => (
            <span key={severity}>
              <Count style={{ backgroundColor: palette.shop[severity] }}>{count}</Count> {words}
            </span>
          ))}
          <span style={{ flex: 1 }} />
          {unfolded ? <ExpandMoreIcon fontSize="small" /> : <ExpandLessIcon fontSize="small" />}
          {unfolded ? 'Fold' : 'Show all'}
        </Fold>
      )}
      <span hidden data-testid="findings-of" data-job={job.name} />
    </Findings>
  )
}

const Findings = styled('div')({
  position: 'absolute',
  left: SPACE.room,
  right: SPACE.room,
  bottom: SPACE.snug,
  display: 'grid',
  gap: SPACE.snug,
  pointerEvents: 'none',
  '& > *': { pointerEvents: 'auto' },
})

const Cards = styled('div', { shouldForwardProp: isOfPage('scrolls') })<{ readonly scrolls: boolean }>(({ scrolls }) => ({
  display: 'flex',
  flexWrap: 'wrap',
  alignItems: 'flex-end',
  gap: SPACE.snug,
  maxHeight: scrolls ? '38vh' : undefined,
  overflow: scrolls ? 'auto' : undefined,
  pointerEvents: scrolls ? undefined : 'none',
  '& > *': { flex: '1 1 250px', maxWidth: 420, pointerEvents: 'auto' },
}))

const Fold = styled(ButtonBase)(({ theme: { palette, shadows } }) => ({
  justifyContent: 'flex-start',
  gap: SPACE.room,
  minHeight: 36,
  padding: `0 ${SPACE.room}px`,
  fontSize: TYPE.plain,
  backgroundColor: palette.background.paper,
  borderRadius: EDGE.small,
  boxShadow: shadows[2],
}))

/** How many there are of a kind: in the colour of its pins. */
const Count = styled('b')(({ theme: { palette } }) => ({
  display: 'inline-block',
  minWidth: 20,
  padding: `0 ${SPACE.tight}px`,
  textAlign: 'center',
  color: palette.shop.halo,
  borderRadius: EDGE.small,
}))

const Way = styled(
  ({
    quiet: _,
    ...props
  }: {
    readonly quiet?: boolean
    readonly onClick: () => void
    readonly title?: string
    readonly children: string
  }) => <Link component="button" {...props} />,
)(({ theme: { palette }, quiet }) => ({
  marginRight: SPACE.snug,
  fontSize: 'inherit',
  fontWeight: quiet ? WEIGHT.plain : WEIGHT.strong,
  verticalAlign: 'baseline',
  // As high as a finger needs, without making the card higher.
  '@media (pointer: coarse)': { minHeight: 44, paddingBlock: 13, marginBlock: -13 },
  color: quiet ? palette.text.secondary : undefined,
}))
