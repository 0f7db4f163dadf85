import {
  curveOfTrial,
  type FittedCurve,
  fitCurve,
  type MeasuredCurve,
  packJob,
  QUANTITY_WORDS,
  readCurveTable,
  readingTroubles,
  readReadings,
  TRIAL_QUANTITIES,
  type TrialQuantity,
} from '@neotaxis/core'
import { type Io, numberOption, readInput, readOptions, tell, UsageError, WorkError, wordOption, writeOutput } from '../io.ts'
import { loadJob } from '../jobs.ts'

const three = (v: number): number => Number(v.toPrecision(3))

/** What a curve says, in figures. */
const factsOf = ({ from, to, at, residual, straight, onset }: FittedCurve) => ({
  from: three(from),
  to: three(to),
  lowest: three(at(from)),
  highest: three(at(to)),
  residual: three(residual),
  straight: straight.map(three),
  onset: three(onset),
})

/**
 * Readings → a curve with its figures: of a card of trials (a job file) with a table of what was measured on it, or of a table of doses
 * and readings alone. `--solve` asks the curve for a value, `-o` keeps it as JSON; `--job` keeps the card with its readings.
 */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    {
      readings: { type: 'string' },
      quantity: { type: 'string' },
      solve: { type: 'string' },
      job: { type: 'string' },
      date: { type: 'string' },
      machine: { type: 'string' },
    },
    { min: 1, max: 1, what: 'a card of trials, or a table' },
  )
  const [file] = positionals
  const asked = wordOption('quantity', values.quantity, TRIAL_QUANTITIES)
  const date = values.date ?? '1970-01-01'
  if (!/^\d{4}-\d{2}-\d{2}$/.test(date)) throw new UsageError(`--date is written like 2026-11-29, not ${date}.`)
  const solve = numberOption('solve', values.solve, 0, 1e6)
  try {
    const { curve, troubles } = file.endsWith('.neotaxis')
      ? ofCard(file, values, asked, date)
      : ofTable(file, asked, values.machine ?? 'bench-60', date)
    const fitted = fitCurve(curve)
    const { quantity } = curve
    const { unit, per, name } = QUANTITY_WORDS[quantity as TrialQuantity]
    const value = solve === undefined ? undefined : solve / per
    if (value !== undefined && !(value >= fitted.at(fitted.from) && value <= fitted.at(fitted.to)))
      throw new WorkError(
        `A ${name} of ${solve} ${unit} is not known: it was measured from ${three(fitted.at(fitted.from) * per)} to ${three(fitted.at(fitted.to) * per)} ${unit}.`,
      )
    const input = value === undefined ? undefined : three(fitted.inputFor(value))
    if (values.output) writeOutput(values.output, new TextEncoder().encode(`${JSON.stringify(curve, null, 1)}\n`))
    const facts = factsOf(fitted)
    tell(
      io,
      values.json,
      { quantity, points: curve.points.length, ...facts, troubles, ...(input === undefined ? {} : { input }) },
      [
        `${name}: ${curve.points.length} points from ${facts.from} to ${facts.to}, up to ${three(fitted.at(fitted.to) * per)} ${unit}`,
        `begins at ${facts.onset}, straight from ${facts.straight[0]} to ${facts.straight[1]}, readings ± ${three(fitted.residual * per)} ${unit}`,
        ...(input === undefined ? [] : [`${solve} ${unit} at ${input}`]),
        ...troubles,
      ],
    )
    return troubles.length > 0 ? 1 : 0
  } catch (cause) {
    if (cause instanceof RangeError) throw new WorkError(cause.message)
    throw cause
  }
}

interface Measured {
  readonly curve: MeasuredCurve
  readonly troubles: readonly string[]
}

function ofCard(
  file: string,
  { readings, job: keep }: { readonly readings?: string | undefined; readonly job?: string | undefined },
  asked: TrialQuantity | undefined,
  date: string,
): Measured {
  const { job, assets } = loadJob(file)
  if (!job.trial) throw new WorkError(`${file} is no card of trials.`)
  const read = readings === undefined ? undefined : readReadings(new TextDecoder().decode(readInput(readings)), job)
  const measured = read?.job ?? job
  if (keep)
    writeOutput(
      keep,
      packJob(measured, (name) => assets.get(name)!),
    )
  const quantity =
    asked ??
    read?.quantities[0] ??
    TRIAL_QUANTITIES.find((each) => Object.values(measured.trial!.readings ?? {}).some((cell) => cell[each])) ??
    'depth'
  const rows = read?.troubles.map(({ message }) => message) ?? []
  const off = readingTroubles(measured, quantity).map(({ message }) => message)
  return { curve: curveOfTrial(measured, quantity, 'measured', date), troubles: [...rows, ...off] }
}

function ofTable(file: string, asked: TrialQuantity | undefined, machine: string, date: string): Measured {
  const { quantity, points, troubles } = readCurveTable(new TextDecoder().decode(readInput(file)), asked)
  return {
    curve: { id: 'measured', quantity, points, conditions: { machine, date } },
    troubles: troubles.map(({ message }) => message),
  }
}
