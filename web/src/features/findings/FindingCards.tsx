import { Box, Link, useTheme } from '@mui/material'
import { applyPatches, type Finding, type JobDocument, type Severity } from '@neotaxis/core'
import { useEvaluation } from '../../workers/use-evaluation.ts'
import { useEdit } from '../use-edit.ts'

const SAYS: Record<Severity, string> = { stop: 'Cannot run', ask: 'Asks', note: 'Note' }

/** What would spoil the job, each with its fix. The numbers stand at the same places on stage and run line. */
export function FindingCards({ job }: { readonly job: JobDocument }) {
  const { palette } = useTheme()
  const edit = useEdit()
  const measure = useEvaluation((state) => state.measure)
  const findings = measure?.findings ?? []
  const open = findings.filter(({ meant }) => !meant)
  const meant = findings.filter((finding) => finding.meant)
  const mark = (finding: Finding, yes: boolean): void => {
    edit(yes ? 'mark as meant' : 'not meant after all', (base) => {
      const rest = Object.fromEntries(Object.entries(base.meant).filter(([id]) => id !== finding.id))
      return { ...base, meant: yes ? { ...rest, [finding.id]: finding.message } : rest }
    })
  }
  if (findings.length === 0) return null
  return (
    <Box
      component="section"
      aria-label="Findings"
      sx={{
        position: 'absolute',
        left: 12,
        right: 12,
        bottom: 10,
        display: 'flex',
        flexWrap: 'wrap',
        gap: 1.2,
        alignItems: 'flex-end',
        pointerEvents: 'none',
        '& > *': { pointerEvents: 'auto' },
      }}
    >
      {open.map((finding, index) => (
        <Box
          key={finding.id}
          data-testid={`finding-${finding.kind}`}
          sx={{
            flex: '1 1 250px',
            maxWidth: 420,
            bgcolor: 'background.paper',
            borderRadius: 1.5,
            borderLeft: `4px solid ${palette.shop[finding.severity]}`,
            px: 1.5,
            py: 1,
            boxShadow: 2,
            fontSize: 13.5,
            lineHeight: 1.35,
          }}
        >
          <b>
            {index + 1} · {SAYS[finding.severity]}:
          </b>{' '}
          {finding.message}{' '}
          {finding.fixes.map((fix) => (
            <Link
              key={fix.label}
              component="button"
              onClick={() =>
                edit(fix.label.charAt(0).toLowerCase() + fix.label.slice(1), (base) => applyPatches(base, fix.patches))
              }
              sx={{ fontWeight: 700, mr: 1.2, verticalAlign: 'baseline', fontSize: 'inherit' }}
            >
              {fix.label}
            </Link>
          ))}
          {finding.severity !== 'stop' && (
            <Link
              component="button"
              onClick={() => mark(finding, true)}
              sx={{ color: 'text.secondary', verticalAlign: 'baseline', fontSize: 'inherit' }}
            >
              It is meant
            </Link>
          )}
        </Box>
      ))}
      {meant.length > 0 && (
        <Box sx={{ bgcolor: 'background.paper', borderRadius: 1.5, px: 1.5, py: 0.6, fontSize: 12.5, color: 'text.secondary' }}>
          {meant.length} meant:{' '}
          {meant.map((finding) => (
            <Link
              key={finding.id}
              component="button"
              title={finding.message}
              onClick={() => mark(finding, false)}
              sx={{ color: 'text.secondary', mr: 1, verticalAlign: 'baseline', fontSize: 'inherit' }}
            >
              {finding.kind.replaceAll('-', ' ')}
            </Link>
          ))}
        </Box>
      )}
      <span hidden data-testid="findings-of" data-job={job.name} />
    </Box>
  )
}
