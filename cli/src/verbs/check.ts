import { checkFindings } from '@neotaxis/core'
import { type Io, readOptions, tell } from '../io.ts'
import { loadJob } from '../jobs.ts'

/** Job → findings. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(args, { only: { type: 'string' } }, { min: 1, max: 1, what: 'one job' })
  const { job, supply } = loadJob(positionals[0])
  const kinds = values.only?.split(',')
  const findings = checkFindings(job, supply).filter(({ kind, meant }) => !meant && (!kinds || kinds.includes(kind)))
  const list = findings.map(({ kind, severity, x, y, message, fixes, operation }) => ({
    kind,
    severity,
    x,
    y,
    message,
    fix: fixes[0]?.label ?? null,
    operation,
  }))
  if (values.json) tell(io, true, { findings: list }, [])
  else
    io.out(
      list.length
        ? `${list.map(({ severity, message, fix }) => `${severity.padEnd(5)} ${message}${fix ? ` → ${fix}` : ''}`).join('\n')}\n`
        : 'nothing found\n',
    )
  return findings.some(({ severity }) => severity === 'stop') ? 3 : 0
}
