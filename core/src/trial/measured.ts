import type { JobDocument } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { type CellReadings, type Trial, type TrialQuantity, tellCell } from '../job/document/trial.ts'
import { fittedLens } from '../machine/machine.ts'
import { type FittedCurve, fitCurve, type MeasuredCurve } from '../material/curve.ts'
import { type Evidence, tried } from '../material/evidence.ts'
import { type Recipe, recipeProcess } from '../material/material.ts'
import { processOf } from '../process/table.ts'

/** What is measured, as it is told: its name, the unit that it is typed and shown in, and how many of them one of ours is. */
export const QUANTITY_WORDS: Readonly<
  Record<TrialQuantity, { readonly name: string; readonly unit: string; readonly per: number }>
> = {
  depth: { name: 'depth', unit: 'mm', per: 1 },
  tone: { name: 'tone', unit: '%', per: 100 },
  kerf: { name: 'slot', unit: 'mm', per: 1 },
  watts: { name: 'watts', unit: 'W', per: 1 },
}

/** What a quantity is measured against, as charts say it. */
export const INPUT_WORDS: Readonly<Record<TrialQuantity, string>> = {
  depth: 'dose, J/mm²',
  tone: 'dose, J/mm²',
  kerf: 'dose, J/mm',
  watts: 'share of full power',
}

/** The trial of a job. @throws where it is none */
export function trialOf({ trial }: JobDocument): Trial {
  if (!trial) throw new Error('This job is no card of trials.')
  return trial
}

/** Cells by their operations, row by row from the left, one grid after the other. */
export const cellsOf = ({ cells }: Trial): string[] =>
  Object.keys(cells).sort(
    (a, b) => (cells[a].again ?? 0) - (cells[b].again ?? 0) || cells[a].row - cells[b].row || cells[a].column - cells[b].column,
  )

/** What a cell got, in the unit in which a quantity is measured against it: J/mm², J/mm, or the share of full power. */
export function cellInput(job: JobDocument, cell: string, quantity: TrialQuantity): number | undefined {
  const operation = job.operations[cell]
  if (!operation) return undefined
  if (quantity === 'watts') return operation.power
  const { doseJPerMm, doseJPerMm2 } = processOf(operation).dose(operation, job.machine)
  return quantity === 'kerf' ? doseJPerMm : doseJPerMm2
}

/** Quantities that can be measured on a card: widths of what is cut, depths and tones of what is filled, and watts of any. */
export function quantitiesOf(job: JobDocument): TrialQuantity[] {
  const [first] = cellsOf(trialOf(job))
  return (['depth', 'tone', 'kerf', 'watts'] as const).filter((quantity) => cellInput(job, first, quantity) !== undefined)
}

/** A job with other readings of a cell; none: nobody measured it. */
export function withReadings(job: JobDocument, cell: string, change: CellReadings): JobDocument {
  const trial = trialOf(job)
  const whole = { ...trial.readings?.[cell], ...change }
  const kept = Object.fromEntries(Object.entries(whole).filter(([, values]) => values && values.length > 0))
  const { [cell]: _, ...others } = trial.readings ?? {}
  const readings = Object.keys(kept).length > 0 ? { ...others, [cell]: kept } : others
  return { ...job, trial: { ...trial, readings } }
}

/** A job with a cell left out of the curve, or counted again. */
export function withLeftOut(job: JobDocument, cell: string, out: boolean): JobDocument {
  const trial = trialOf(job)
  const others = (trial.leftOut ?? []).filter((each) => each !== cell)
  return { ...job, trial: { ...trial, leftOut: out ? [...others, cell] : others } }
}

/** A job in which a cell came out best; undefined: none did. */
export const withBest = (job: JobDocument, best: string | undefined): JobDocument => ({
  ...job,
  trial: { ...trialOf(job), best },
})

/** One cell with what it got and what was read on it. */
export interface CellPoint {
  readonly cell: string
  readonly input: number
  readonly readings: readonly number[]
}

/** What was read of a quantity, by rising input; without cells that are left out. */
export function cellPoints(job: JobDocument, quantity: TrialQuantity): CellPoint[] {
  const trial = trialOf(job)
  const out = new Set(trial.leftOut)
  return cellsOf(trial)
    .flatMap((cell): CellPoint[] => {
      const readings = trial.readings?.[cell]?.[quantity]
      const input = cellInput(job, cell, quantity)
      return readings && input !== undefined && !out.has(cell) ? [{ cell, input, readings }] : []
    })
    .sort((a, b) => a.input - b.input)
}

/** A value that all cells share; undefined where they differ. */
function shared(job: JobDocument, name: 'speedMmS' | 'intervalMm'): number | undefined {
  const values = new Set(cellsOf(trialOf(job)).map((cell) => (job.operations[cell] as { intervalMm?: number } & Operation)[name]))
  return values.size === 1 ? [...values][0] : undefined
}

/** With fewer points nothing is fitted: a line through two says nothing of what lies between. */
export const LEAST_CELLS = 4

/** What was measured as a curve of the material. @param id of the curve @param date ISO @throws RangeError with a sentence where there is too little */
export function curveOfTrial(job: JobDocument, quantity: TrialQuantity, id: string, date: string): MeasuredCurve {
  const points = cellPoints(job, quantity)
  const inputs = new Set(points.map(({ input }) => input))
  const { name } = QUANTITY_WORDS[quantity]
  if (inputs.size < LEAST_CELLS)
    throw new RangeError(
      `A curve needs the ${name} of at least ${LEAST_CELLS} cells with different settings; ${inputs.size === 1 ? 'one is' : `${inputs.size} are`} there.`,
    )
  // Nothing is fitted through what cannot be.
  const [wrong] = impossible(job, quantity)
  if (wrong) throw new RangeError(wrong.message)
  const { down, contrast } = trialOf(job)
  const speedMmS = shared(job, 'speedMmS')
  const intervalMm = shared(job, 'intervalMm')
  return {
    id,
    quantity,
    points: points.map(({ input, readings }) => ({ input, readings })),
    ...(down ? { scattered: true as const } : {}),
    conditions: {
      ...(quantity === 'watts' ? {} : { material: materialTried(job).id }),
      machine: job.machine.id,
      lens: fittedLens(job.machine).id,
      ...(speedMmS === undefined ? {} : { speedMmS }),
      ...(intervalMm === undefined ? {} : { intervalMm }),
      ...(quantity === 'tone' && contrast !== undefined && { contrast }),
      date,
    },
  }
}

/** The material that a card is burned on. */
export const materialTried = (job: JobDocument) => operationMaterial(job, job.operations[cellsOf(trialOf(job))[0]])

/** Something about readings that somebody should look at before they are trusted. */
export interface ReadingTrouble {
  readonly cell: string
  readonly message: string
  /** It counts for nothing like this: left out of the curve it is gone. */
  readonly isOff: boolean
}

/** Readings that lie further from the curve than this many of the usual distances are asked about. */
const FAR = 5
/** Distances under this share of the whole rise are never far. */
const NEAR = 0.04

/** So many neighbours on either side say what is to be expected of a cell. */
const BESIDE = 4

/**
 * What its neighbours expect of a cell: the line of the middle slope through them, which a few that are wrong do not bend (H. Theil,
 * 1950; P. K. Sen, J. Amer. Statist. Assoc. 63, 1968). @returns its own value where there are too few
 */
function byNeighbours(points: readonly CellPoint[], i: number): number {
  const first = Math.max(0, Math.min(i - BESIDE, points.length - 1 - 2 * BESIDE))
  const beside = points.slice(first, first + 2 * BESIDE + 1).filter((each) => each !== points[i])
  const slopes = beside.flatMap((a, k) =>
    beside
      .slice(k + 1)
      .flatMap((b) => (b.input > a.input ? [(middle(b.readings) - middle(a.readings)) / (b.input - a.input)] : [])),
  )
  if (beside.length < LEAST_CELLS || slopes.length === 0) return middle(points[i].readings)
  const slope = middle(slopes)
  return middle(beside.map(({ input, readings }) => middle(readings) - slope * input)) + slope * points[i].input
}

/** Whether a cell has more than both that got more, or less than both that got less: what bends is not wrong for that. */
function isOutOfOrder(points: readonly CellPoint[], i: number, least: number): boolean {
  const own = middle(points[i].readings)
  const values = (from: number, to: number): number[] =>
    points.slice(Math.max(0, from), to).map(({ readings }) => middle(readings))
  const [before, behind] = [values(i - 2, i), values(i + 1, i + 3)]
  return (before.length > 0 && own < Math.min(...before) - least) || (behind.length > 0 && own > Math.max(...behind) + least)
}

const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0

/** Readings that cannot be: deeper than the material is thick, darker than black, more than the machine can give. */
function impossible(job: JobDocument, quantity: TrialQuantity): ReadingTrouble[] {
  const trial = trialOf(job)
  const { name, unit, per } = QUANTITY_WORDS[quantity]
  const told = (value: number): string => `${Number((value * per).toPrecision(3))} ${unit}`
  const { thicknessMm } = materialTried(job)
  return cellPoints(job, quantity).flatMap(({ cell, readings }): ReadingTrouble[] => {
    const most = Math.max(...readings)
    const what = `${tellCell(trial, cell)}: a ${name} of ${told(most)}`
    if (quantity === 'depth' && most > thicknessMm * 1.05)
      return [
        { cell, isOff: true, message: `${what} is more than the material is thick, ${thicknessMm} mm. Was it typed in µm?` },
      ]
    if (quantity === 'tone' && most > 1)
      return [{ cell, isOff: true, message: `${what} cannot be: a tone is 0 untouched to 100 % dark.` }]
    if (quantity === 'kerf' && most > 10)
      return [{ cell, isOff: true, message: `${what} is no width of a cut. Was it typed in µm?` }]
    if (quantity === 'watts' && most > 3 * job.machine.watts)
      return [{ cell, isOff: true, message: `${what} is more than ${job.machine.name} can give, ${job.machine.watts} W.` }]
    return []
  })
}

/** What cannot be, and what is far from the others: nothing is fitted silently through it. */
export function readingTroubles(job: JobDocument, quantity: TrialQuantity): ReadingTrouble[] {
  const trial = trialOf(job)
  const { name, unit, per } = QUANTITY_WORDS[quantity]
  const told = (value: number): string => `${Number((value * per).toPrecision(3))} ${unit}`
  const points = cellPoints(job, quantity)
  const troubles = impossible(job, quantity)
  const known = new Set(troubles.map(({ cell }) => cell))
  const good = points.filter(({ cell }) => !known.has(cell))
  const off = good.map((one, i) => middle(one.readings) - byNeighbours(good, i))
  const rise = Math.max(...good.map(({ readings }) => middle(readings)), 0)
  const usual = middle(off.map(Math.abs))
  const outliers = good.flatMap(({ cell, readings }, i): ReadingTrouble[] =>
    Math.abs(off[i]) > Math.max(FAR * usual, NEAR * rise) && isOutOfOrder(good, i, NEAR * rise)
      ? [
          {
            cell,
            isOff: true,
            message: `${tellCell(trial, cell)}: ${told(middle(readings))} lies ${told(Math.abs(off[i]))} ${off[i] < 0 ? 'under' : 'over'} what its neighbours say. Measure it again, or leave it out.`,
          },
        ]
      : [],
  )
  // More light never does less: where many fall, something else is wrong.
  const falling = good.filter(({ readings }, i) => i > 0 && middle(readings) < middle(good[i - 1].readings) - NEAR * rise)
  const order =
    falling.length > 2 && falling.length > good.length / 4
      ? [
          {
            cell: falling[0].cell,
            isOff: false,
            message: `The ${name} falls ${falling.length} times while the dose rises: are the values in the order of the cells?`,
          },
        ]
      : []
  return [...troubles, ...outliers, ...order]
}

/** A recipe by what a cell was burned with, and what came out there as its evidence. @param date ISO */
export function recipeOfCell(job: JobDocument, cell: string, about: { id: string; name: string; date: string }): Recipe {
  const trial = trialOf(job)
  const operation = job.operations[cell]
  const { power, speedMmS, passes, air, pulseHz, pulseNs, prepared } = operation
  const { intervalMm, kerfMm } = operation as { readonly intervalMm?: number; readonly kerfMm?: number } & Operation
  const { depth, tone, kerf } = trial.readings?.[cell] ?? {}
  const evidence: Evidence = {
    kind: 'trial',
    date: about.date,
    set: tried({ power, speedMmS, passes, air, ...(intervalMm === undefined ? {} : { intervalMm }) }),
    answer: 'yes',
    ...(depth ? { depthMm: middle(depth) } : {}),
    ...(tone ? { tone: middle(tone) } : {}),
    note: `the best of ${Object.keys(trial.cells).length} on a card`,
  }
  return {
    id: about.id,
    process: recipeProcess(trial.isFor ?? trial.process),
    name: about.name,
    machine: job.machine.id,
    lens: fittedLens(job.machine).id,
    power,
    speedMmS,
    passes,
    ...(intervalMm === undefined ? {} : { intervalMm }),
    ...(kerf ? { kerfMm: middle(kerf) } : kerfMm === undefined ? {} : { kerfMm }),
    air,
    ...(pulseHz === undefined ? {} : { pulseHz }),
    ...(pulseNs === undefined ? {} : { pulseNs }),
    ...(prepared === undefined ? {} : { prepared }),
    evidence: [evidence],
  }
}

/** The curve of what was measured so far; undefined while there is too little. */
export function fittedTrial(job: JobDocument, quantity: TrialQuantity): FittedCurve | undefined {
  const points = cellPoints(job, quantity)
  if (new Set(points.map(({ input }) => input)).size < LEAST_CELLS) return undefined
  return fitCurve({ points, ...(trialOf(job).down ? { scattered: true } : {}) })
}
