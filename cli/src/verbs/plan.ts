import {
  burnOrder,
  checkFindings,
  elsewhereDrawing,
  expectedTime,
  FILLS,
  type FillName,
  filledAs,
  fillFacts,
  fillNow,
  formatDuration,
  headAt,
  inGoodOrder,
  jobForRun,
  learnTimes,
  placesInOrder,
  recordJob,
  relationsOf,
  type TimedRun,
  trackSeconds,
  writeDxf,
  writeProgram,
  writeSvgDrawing,
} from '@neotaxis/core'
import { goingOn, programOf } from '@neotaxis/link'
import {
  type Io,
  numberOption,
  numbersOption,
  readInput,
  readOptions,
  tell,
  UsageError,
  WorkError,
  wordOption,
  writeOutput,
} from '../io.ts'
import { loadJob } from '../jobs.ts'

/** Runs as the journal has them: what each took, and what its operations were told to take. */
function readRuns(file: string): TimedRun[] {
  let list: unknown
  try {
    list = JSON.parse(Buffer.from(readInput(file)).toString('utf8'))
  } catch {
    list = undefined
  }
  const isRun = (run: Partial<TimedRun>): boolean =>
    Number(run?.seconds) > 0 &&
    Array.isArray(run.operations) &&
    run.operations.every(({ process, seconds }) => typeof process === 'string' && Number.isFinite(seconds))
  if (!Array.isArray(list) || !list.every(isRun))
    throw new UsageError(
      '--times wants a JSON list of runs: [{"seconds": 62, "operations": [{"process": "cut", "seconds": 60}]}, …].',
    )
  return list
}

const FILL_NAMES = Object.keys(FILLS) as FillName[]

/** Job → G-code, with its times. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      only: { type: 'string' },
      from: { type: 'string' },
      zone: { type: 'string' },
      times: { type: 'string' },
      order: { type: 'boolean', default: false },
      elsewhere: { type: 'boolean', default: false },
      strategy: { type: 'string' },
      compare: { type: 'boolean', default: false },
    },
    { min: 1, max: 1, what: 'one job' },
  )
  const { job: loaded, supply } = loadJob(positionals[0])
  const strategy = wordOption('strategy', values.strategy, FILL_NAMES)
  const filled = burnOrder(loaded).filter((id) => fillNow(loaded, id) !== undefined)
  const refilled = strategy === undefined ? loaded : filled.reduce((sum, id) => filledAs(sum, id, strategy), loaded)
  const job = values.order ? inGoodOrder(refilled, supply) : refilled
  const only = values.only === undefined ? undefined : new Set(values.only.split(','))
  for (const id of only ?? [])
    if (!job.operations[id]) throw new UsageError(`the job has no operation “${id}”. It has: ${burnOrder(job).join(', ')}.`)
  const areas = burnOrder(job).filter((id) => (!only || only.has(id)) && fillNow(job, id) !== undefined)
  if (strategy !== undefined && areas.length === 0) throw new WorkError('This job fills no area: a strategy changes nothing.')
  const zone = numbersOption('zone', values.zone, 4)
  if (zone && !(zone[2] > zone[0] && zone[3] > zone[1]))
    throw new UsageError('--zone wants a box of the workpiece in mm: left,top,right,bottom.')
  if (values.elsewhere) return drawnElsewhere()
  if (values.compare) return compared(areas[0])
  const limited = zone ? jobForRun(job, { zone: { x0: zone[0], y0: zone[1], x1: zone[2], y1: zone[3] } }) : job
  const pieces: Uint8Array[] = []
  const from = numberOption('from', values.from, 0, 1e7)
  const { returnSeconds: _back, ...report } = writeProgram(limited, supply, (bytes) => pieces.push(bytes.slice()), only)
  if (from !== undefined) pieces.splice(0, pieces.length, restFrom(from))
  if (values.output) writeOutput(values.output, pieces)
  else if (!values.json) for (const piece of pieces) io.out(new TextDecoder().decode(piece))
  /** What another tool cuts, as a drawing. */
  function drawnElsewhere(): number {
    const step = job.order.find((id) => job.steps[id].kind === 'elsewhere')
    if (step === undefined) throw new WorkError('No step of this job is cut by another tool.')
    const kind = values.output?.toLowerCase().split('.').pop()
    if (kind !== 'svg' && kind !== 'dxf') throw new UsageError('say where the drawing goes with -o OUT.svg or -o OUT.dxf.')
    const drawing = elsewhereDrawing(job, step, supply)
    for (const notice of drawing.notices) io.err(`${notice}\n`)
    writeOutput(values.output!, kind === 'svg' ? writeSvgDrawing(drawing) : writeDxf(drawing))
    const paths = drawing.shapes.at(-1)!.paths.length
    tell(io, values.json, { step, paths, notices: drawing.notices }, [`${step}: ${paths} paths`])
    return 0
  }
  /** All ways to fill an operation's area, side by side. */
  function compared(id: string | undefined): number {
    if (id === undefined) throw new WorkError('This job fills no area: there is nothing to compare.')
    const strategies = FILL_NAMES.map((name) => fillFacts(job, id, name, supply))
    tell(io, values.json, { operation: id, now: fillNow(job, id), strategies }, [
      `${id}:`,
      ...strategies.map(
        ({ name, seconds, travelMm, hot }) =>
          `  ${name.padEnd(10)} ${formatDuration(seconds).padStart(8)}  travel ${(travelMm / 1000).toFixed(1)} m, hot ${Math.round(100 * hot)} %`,
      ),
    ])
    return 0
  }
  /** The program from a moment on: dark to the place, then all that is left. */
  function restFrom(seconds: number): Uint8Array {
    const text = Buffer.concat(pieces).toString('latin1')
    const track = recordJob(jobForRun(limited, only ? { only: [...only] } : {}), supply).track
    if (seconds >= trackSeconds(track))
      throw new UsageError(`--from lies after the end: the job takes ${trackSeconds(track).toFixed(1)} s.`)
    const { x, y, move } = headAt(track, seconds)
    const part = track.parts.filter(({ firstMove }) => firstMove <= move).at(-1)!
    const { preamble, lines } = goingOn(programOf(text), { driven: part.linesBefore + move - part.firstMove, x, y, z: undefined })
    return new TextEncoder().encode(`${[...preamble, ...lines].join('\n')}\n`)
  }
  const learned = values.times === undefined ? undefined : learnTimes(readRuns(values.times))
  if (values.times !== undefined && !learned) io.err('These runs are too few to learn from: three are the least.\n')
  const really =
    learned &&
    expectedTime(
      learned,
      report.operations.map(({ kind, seconds }) => ({ process: kind, seconds })),
    )
  const places = values.order ? placesInOrder(job, relationsOf(job, supply)) : {}
  const stops = checkFindings(job, supply).filter(({ severity }) => severity === 'stop')
  tell(io, values.json, { ...report, ...(really && { really }), ...(values.order && { places }) }, [
    `${formatDuration(report.seconds)} in all`,
    ...(really ? [`really ${formatDuration(really.from)} to ${formatDuration(really.to)}, by ${learned.runs} runs`] : []),
    ...report.operations.map(
      (op) =>
        `  ${op.id}: ${op.kind}, ${formatDuration(op.seconds)}${places[op.id] ? `, ${places[op.id].reasons.join('; ')}` : ''}`,
    ),
    ...stops.map(({ message }) => `stop: ${message}`),
  ])
  return stops.length > 0 ? 3 : 0
}
