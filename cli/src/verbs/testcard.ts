import {
  CARD_KINDS,
  cardAround,
  evenSteps,
  PROCESS_NAMES,
  packJob,
  stripAround,
  TRIAL_SETTINGS,
  type TrialAxes,
  type TrialAxis,
  type TrialSetting,
  trialCard,
} from '@neotaxis/core'
import { byId, readCatalogue } from '../catalogue.ts'
import { countOption, type Io, lengthOption, readOptions, tell, UsageError, WorkError, wordOption, writeOutput } from '../io.ts'
import { loadJob } from '../jobs.ts'
import { sizes } from '../sizes.ts'

/** What a setting is called on the command line. */
const WORDS: Readonly<Record<string, TrialSetting>> = {
  power: 'power',
  speed: 'speedMmS',
  interval: 'intervalMm',
  passes: 'passes',
  pulses: 'pulseHz',
  focus: 'offFocusMm',
}

/** An axis, written like power=10-100/10 (from, to, how many) or speed=50,100,200. */
function axisOf(name: string, text: string): TrialAxis {
  const [word, list = ''] = text.split('=')
  const setting = WORDS[word]
  const range = /^(-?[\d.]+)-(-?[\d.]+)\/(\d+)$/.exec(list)
  const values = range ? evenSteps(Number(range[1]), Number(range[2]), Number(range[3])) : list.split(',').map(Number)
  if (!setting || !TRIAL_SETTINGS.includes(setting) || list === '' || values.some((v) => !Number.isFinite(v)))
    throw new UsageError(
      `--${name} is written like power=10-100/10 or speed=50,100,200; what can be tried: ${Object.keys(WORDS).join(', ')}. Not ${text}.`,
    )
  return { setting, values: setting === 'power' ? values.map((v) => v / 100) : values }
}

/**
 * Process and one or two ranges → a card of trials, as a job; of a job and one of its operations a card of some kind around what that
 * has (`--job FILE --operation ID --kind wedge`), or a strip of its hardest patch (`--kind strip`); up to three settings against each
 * other where `--across`, `--down` and `--again` say so.
 */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values } = readOptions(
    args,
    {
      process: { type: 'string' },
      across: { type: 'string' },
      down: { type: 'string' },
      again: { type: 'string' },
      material: { type: 'string' },
      machine: { type: 'string' },
      workpiece: { type: 'string' },
      'cell-mm': { type: 'string' },
      'gap-mm': { type: 'string' },
      catalogue: { type: 'string' },
      job: { type: 'string' },
      operation: { type: 'string' },
      kind: { type: 'string' },
      steps: { type: 'string' },
    },
    { min: 0, max: 0, what: 'no file' },
  )
  if (values.job !== undefined) return around(values, io)
  const process = wordOption('process', values.process, PROCESS_NAMES)
  if (!process || !values.across) throw new UsageError('say what is tried: --process fills in how, --across in which steps.')
  if (!values.output && !values.json) throw new UsageError('say where the job goes with -o OUT.')
  const catalogue = readCatalogue(values.catalogue)
  const material = byId(catalogue.materials, values.material ?? catalogue.materials[0].id, 'material')
  const machine = byId(catalogue.machines, values.machine ?? catalogue.machines[0].id, 'machine')
  const [widthMm = 200, heightMm = 150] = values.workpiece ? sizes('workpiece', values.workpiece, 2) : []
  const across = axisOf('across', values.across)
  const down = values.down === undefined ? undefined : axisOf('down', values.down)
  const again = values.again === undefined ? undefined : axisOf('again', values.again)
  try {
    const { job, assets } = trialCard(
      {
        process,
        across,
        ...(down ? { down } : {}),
        ...(again ? { again } : {}),
        cellMm: lengthOption('cell-mm', values['cell-mm']),
        gapMm: lengthOption('gap-mm', values['gap-mm']),
      },
      { workpiece: { widthMm, heightMm, thicknessMm: material.thicknessMm }, material, machine },
    )
    if (values.output)
      writeOutput(
        values.output,
        packJob(job, (name) => assets.get(name)!),
      )
    const cells = Object.keys(job.trial!.cells).length
    tell(io, values.json, { cells, trial: job.trial }, [`${cells} cells`])
    return 0
  } catch (cause) {
    if (cause instanceof RangeError) throw new WorkError(cause.message)
    throw cause
  }
}

/** A card or a strip around an operation of a job. */
function around(
  values: {
    readonly job?: string | undefined
    readonly operation?: string | undefined
    readonly kind?: string | undefined
    readonly steps?: string | undefined
    readonly across?: string | undefined
    readonly down?: string | undefined
    readonly again?: string | undefined
    readonly material?: string | undefined
    readonly catalogue?: string | undefined
    readonly output?: string | undefined
    readonly json: boolean
  },
  io: Io,
): number {
  const { job, supply, assets } = loadJob(values.job!)
  const kind = wordOption('kind', values.kind, [...CARD_KINDS, 'strip'] as const) ?? 'power-speed'
  const [id] = values.operation === undefined ? Object.keys(job.operations) : [values.operation]
  if (!job.operations[id]) throw new WorkError(`The job has no operation “${id}”: ${Object.keys(job.operations).join(', ')}.`)
  if (!values.output && !values.json) throw new UsageError('say where the job goes with -o OUT.')
  const steps = countOption('steps', values.steps, 4, 50)
  // On scrap of something cheaper, where that is said.
  const material =
    values.material === undefined ? undefined : byId(readCatalogue(values.catalogue).materials, values.material, 'material')
  // What is tried against what, where that is said.
  const axes: TrialAxes | undefined =
    values.across === undefined
      ? undefined
      : {
          across: axisOf('across', values.across),
          ...(values.down === undefined ? {} : { down: axisOf('down', values.down) }),
          ...(values.again === undefined ? {} : { again: axisOf('again', values.again) }),
        }
  try {
    const made =
      kind === 'strip'
        ? stripAround(job, id, supply, axes, material)
        : (() => {
            const { spec, setting } = cardAround(job, id, kind, {
              ...(steps !== undefined && { steps }),
              ...(material && { material }),
              ...(axes && { axes }),
            })
            return trialCard(spec, setting)
          })()
    if (values.output)
      writeOutput(
        values.output,
        packJob(made.job, (name) => made.assets.get(name) ?? assets.get(name)!),
      )
    const cells = Object.keys(made.job.trial!.cells).length
    const patch = 'patch' in made ? { patch: made.patch } : {}
    tell(io, values.json, { cells, trial: made.job.trial, ...patch }, [`${cells} cells`])
    return 0
  } catch (cause) {
    if (cause instanceof RangeError) throw new WorkError(cause.message)
    throw cause
  }
}
