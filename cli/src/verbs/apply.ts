import {
  burnOrder,
  checkJob,
  formatDuration,
  given,
  measureJob,
  PROCESS_NAMES,
  type ProcessName,
  packJob,
  processesFor,
  refusedOn,
  tellArtwork,
  withOperation,
} from '@neotaxis/core'
import { type Io, readOptions, tell, UsageError, WorkError, wordOption, writeOutput } from '../io.ts'
import { loadJob } from '../jobs.ts'

/** What a setting is typed as: numbers, yes and no, words; `none` takes one away. */
function settingOf(text: string): unknown {
  if (text === 'none') return undefined
  if (text === 'true' || text === 'false') return text === 'true'
  return text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : text
}

function settingsOf(text: string | undefined): Record<string, unknown> {
  const settings: Record<string, unknown> = {}
  for (const part of text?.split(',').filter(Boolean) ?? []) {
    const at = part.indexOf('=')
    if (at < 1) throw new UsageError(`--set is written like power=0.4,passes=2, not ${part}.`)
    const name = part.slice(0, at).trim()
    if (['of', 'at', 'process', 'recipe'].includes(name)) throw new UsageError(`--set cannot change “${name}”.`)
    settings[name] = settingOf(part.slice(at + 1).trim())
  }
  return settings
}

/** Gives artwork a process: job → job. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { process: { type: 'string' }, to: { type: 'string' }, set: { type: 'string' } },
    { min: 1, max: 1, what: 'one job' },
  )
  const process: ProcessName | undefined = wordOption('process', values.process, PROCESS_NAMES)
  if (process === undefined) throw new UsageError(`name a --process: ${PROCESS_NAMES.join(', ')}.`)
  if (!values.output && !values.json) throw new UsageError('say where the job goes with -o OUT.')
  const settings = settingsOf(values.set)
  const { job, supply, assets } = loadJob(positionals[0])
  const nodes = values.to?.split(',') ?? Object.keys(job.nodes).filter((id) => processesFor(job, [id]).includes(process))
  for (const id of nodes)
    if (!job.nodes[id]) throw new UsageError(`the job has no artwork “${id}”. It has: ${Object.keys(job.nodes).join(', ')}.`)
  for (const id of values.to ? nodes : [])
    if (!processesFor(job, [id]).includes(process))
      throw new WorkError(
        refusedOn(job, id, process) ??
          `“${tellArtwork(job, id)}” cannot be burned as ${process}. It can be: ${processesFor(job, [id]).join(', ')}.`,
      )
  if (nodes.length === 0) throw new WorkError(`Nothing in this job can be burned as ${process}.`)
  const made = given(job, nodes, process)
  let changed = withOperation(made.job, made.operation, settings as never)
  try {
    changed = checkJob(JSON.parse(JSON.stringify(changed)))
  } catch (cause) {
    throw values.set && cause instanceof Error ? new UsageError(`--set: ${cause.message}`) : cause
  }
  if (values.output)
    writeOutput(
      values.output,
      packJob(changed, (asset) => assets.get(asset)!),
    )
  const report = measureJob(changed, supply, new Set([made.operation])).operations[0]
  const place = burnOrder(changed).indexOf(made.operation)
  tell(
    io,
    values.json,
    { operation: made.operation, process, place, of: changed.operations[made.operation].of, seconds: report.seconds },
    [`${made.operation}: ${process}, number ${place + 1} in the order, ${formatDuration(report.seconds)}`],
  )
  return 0
}
