import { basename } from 'node:path'
import { assetsSupply, burnOrder, cameIn, formatDuration, measureJob, packJob, proposalsFor } from '@neotaxis/core'
import { resolvedDrawing, takeIn } from '@neotaxis/intake'
import { byId, readCatalogue } from '../catalogue.ts'
import { countOption, type Io, readInput, readOptions, tell, UsageError, WorkError, writeOutput } from '../io.ts'
import { sizes } from '../sizes.ts'

/** Picture → job by a proposal, or the list of proposals. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      workpiece: { type: 'string' },
      page: { type: 'string' },
      material: { type: 'string' },
      machine: { type: 'string' },
      proposal: { type: 'string' },
      size: { type: 'string' },
      list: { type: 'boolean', default: false },
      catalogue: { type: 'string' },
    },
    { min: 1, max: 1, what: 'one picture file' },
  )
  if (!values.list && !values.proposal) throw new UsageError('name a --proposal, or ask for the --list.')
  if (!values.list && !values.output && !values.json) throw new UsageError('say where the job goes with -o OUT.')
  const catalogue = readCatalogue(values.catalogue)
  const material = byId(catalogue.materials, values.material ?? catalogue.materials[0].id, 'material')
  const machine = byId(catalogue.machines, values.machine ?? catalogue.machines[0].id, 'machine')
  const [wide = 300, high = 200, thick = material.thicknessMm] = values.workpiece ? sizes('workpiece', values.workpiece, 3) : []
  const [widthMm, heightMm] = values.size ? sizes('size', values.size, 2) : []
  const { bytes, ...seen } = await takeIn(readInput(positionals[0]), countOption('page', values.page, 1, 100_000) ?? 1)
  const facts = { ...seen, name: basename(positionals[0]) }
  const supply = assetsSupply(() => resolvedDrawing(bytes))
  const size = widthMm || heightMm ? { widthMm, heightMm } : undefined
  const proposals = proposalsFor(
    facts,
    { workpiece: { widthMm: wide, heightMm: high, thicknessMm: thick }, material, machine, size },
    supply,
    catalogue.importRules,
  )
  if (values.list) {
    const list = proposals.map(({ id, title, detail, job }) => ({
      id,
      title,
      detail,
      seconds: measureJob(job, supply).seconds,
      operations: burnOrder(job).map((op) => job.operations[op].process),
    }))
    if (values.json) tell(io, true, { cameIn: cameIn(facts), proposals: list }, [])
    else
      io.out(
        `${list.map(({ id, title, seconds }) => `${id.padEnd(24)} ${formatDuration(seconds).padStart(8)}  ${title}`).join('\n')}\n`,
      )
    return 0
  }
  const chosen = proposals.find(({ id }) => id === values.proposal)
  if (!chosen)
    throw new WorkError(
      `There is no proposal “${values.proposal}” for this file. There are: ${proposals.map(({ id }) => id).join(', ')}.`,
    )
  if (values.output)
    writeOutput(
      values.output,
      packJob(chosen.job, () => bytes),
    )
  const { seconds } = measureJob(chosen.job, supply)
  const told = cameIn(facts)
  tell(io, values.json, { proposal: chosen.id, title: chosen.title, seconds, operations: burnOrder(chosen.job), cameIn: told }, [
    ...told,
    `${chosen.title}: ${formatDuration(seconds)}`,
  ])
  return 0
}
