import { checkFindings, formatDuration, writeProgram } from '@neotaxis/core'
import { type Io, readOptions, tell, UsageError, writeOutput } from '../io.ts'
import { loadJob } from '../jobs.ts'

/** Job → G-code, with its times. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(args, { only: { type: 'string' } }, { min: 1, max: 1, what: 'one job' })
  const { job, bench } = loadJob(positionals[0])
  const only = values.only === undefined ? undefined : new Set(values.only.split(','))
  for (const id of only ?? [])
    if (!job.operations[id]) throw new UsageError(`the job has no operation “${id}”. It has: ${job.runOrder.join(', ')}.`)
  const pieces: Uint8Array[] = []
  const { returnSeconds: _back, ...report } = writeProgram(job, bench, (bytes) => pieces.push(bytes.slice()), only)
  if (values.output) writeOutput(values.output, pieces)
  else if (!values.json) for (const piece of pieces) io.out(new TextDecoder().decode(piece))
  const stops = checkFindings(job, bench).filter(({ severity }) => severity === 'stop')
  tell(io, values.json, report, [
    `${formatDuration(report.seconds)} in all`,
    ...report.operations.map((op) => `  ${op.id}: ${op.kind}, ${formatDuration(op.seconds)}`),
    ...stops.map(({ message }) => `stop: ${message}`),
  ])
  return stops.length > 0 ? 3 : 0
}
