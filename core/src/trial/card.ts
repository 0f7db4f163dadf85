import { type Drawn, drawnSvg } from '../drawn/drawn.ts'
import { withArtwork } from '../edits/add-artwork.ts'
import { withProcess } from '../edits/give-process.ts'
import { readVectorFile } from '../formats/read-drawing.ts'
import type { JobDocument, Placement } from '../job/document/document.ts'
import type { Operation, ProcessName } from '../job/document/operation.ts'
import { RANGES } from '../job/document/ranges.ts'
import {
  axesOf,
  TRIAL_UNITS,
  TRIAL_WORDS,
  type Trial,
  type TrialAxes,
  type TrialAxis,
  type TrialPlace,
  trialValue,
} from '../job/document/trial.ts'
import { assetsSupply } from '../lineage/assets-supply.ts'
import { type Machine, powerFor, wattsAt } from '../machine/machine.ts'
import { type Material, topLayer } from '../material/material.ts'
import { micro } from '../numeric/micro.ts'
import { PROCESSES, processOf } from '../process/table.ts'
import type { Setting } from '../proposals/new-job.ts'
import type { ProposalId } from '../proposals/proposals.ts'
import { proposalsFor } from '../proposals/proposals-for.ts'
import { assetName } from '../reading/job-file.ts'
import type { TextSpec } from '../text/text-spec.ts'
import { drawingBounds } from '../vector/drawing.ts'

/** What a card of trials is made of. */
export interface CardSpec extends TrialAxes {
  readonly process: ProcessName
  /** What all cells have in common where it is not the recipe's. */
  readonly settings?: Partial<Operation>
  /** What its settings are for, where that is another process. */
  readonly isFor?: ProcessName
  /** What each cell burns; absent: a square. */
  readonly artwork?: CellArtwork
  /** Side of a cell, and the room between two, mm. */
  readonly cellMm?: number
  readonly gapMm?: number
}

/** Artwork that is burned in every cell of a card. */
export interface CellArtwork {
  readonly widthMm: number
  readonly heightMm: number
  readonly assets: ReadonlyMap<string, Uint8Array>
  /** A job with one operation that burns it, lying at a place of the workpiece. */
  begun(setting: Setting, xMm: number, yMm: number): JobDocument
}

/** A card of trials: an ordinary job, and the files of what is drawn on it, by their names. */
export interface TrialCard {
  readonly job: JobDocument
  readonly assets: ReadonlyMap<string, Uint8Array>
}

const CELL_MM = 8
const GAP_MM = 3
const CAP_MM = 2.4
const MARGIN_MM = 4
/** Room for what stands beside and over the cells, mm. */
const BESIDE_MM = 14
const OVER_MM = 13.5
/** Room over each grid where there are several, for the value that it tries. */
const GRID_MM = 6
/** Its baseline over the grid, mm. */
const GRID_VALUE_MM = 5.7
/** The square that is as dark as it turns: in the corner between the values. */
const FULL = { id: 'full', xMm: 3.5, yMm: 7.6, sideMm: 5 } as const
/** So much more dose than what turns it fully dark. */
const SURELY = 1.5
const MOST_CELLS = 225

/** A range of a setting in so many equal steps, both ends among them. */
export const evenSteps = (from: number, to: number, count: number): number[] =>
  count < 2 ? [from] : Array.from({ length: count }, (_, i) => micro(from + ((to - from) * i) / (count - 1)))

/** Where the cells of a card lie, and how much room all of it takes, mm. */
export function cardLayout({ across, down, again, artwork, cellMm = CELL_MM, gapMm = GAP_MM }: CardSpec) {
  const [columns, rows, grids] = [across.values.length, down?.values.length ?? 1, again?.values.length ?? 1]
  const [pitchX, pitchY] = [(artwork?.widthMm ?? cellMm) + gapMm, (artwork?.heightMm ?? cellMm) + gapMm]
  const over = again ? GRID_MM : 0
  const pitchGrid = rows * pitchY + over
  const [left, top] = [BESIDE_MM, OVER_MM + over]
  const widthMm = left + columns * pitchX - gapMm + MARGIN_MM
  const heightMm = top + grids * pitchGrid - over - gapMm + MARGIN_MM
  return { columns, rows, grids, pitchX, pitchY, pitchGrid, left, top, widthMm, heightMm }
}

/** @throws RangeError with a sentence where an axis cannot be tried */
function checked(axis: TrialAxis, at: string): void {
  const { setting, values } = axis
  if (values.length === 0) throw new RangeError(`There is nothing to try ${at}.`)
  if (new Set(values).size < values.length) throw new RangeError(`A value is tried twice ${at}.`)
  const range = {
    power: { min: 0.001, max: 1 },
    speedMmS: RANGES.speedMmS,
    intervalMm: RANGES.intervalMm,
    passes: RANGES.passes,
    pulseHz: RANGES.pulseHz,
    offFocusMm: RANGES.offFocusMm,
  }[setting]
  const off = values.find((v) => !(v >= range.min && v <= range.max) || (setting === 'passes' && !Number.isInteger(v)))
  if (off !== undefined)
    throw new RangeError(
      `A ${TRIAL_WORDS[setting]} of ${trialValue(setting, off)} ${TRIAL_UNITS[setting]} cannot be tried: between ${trialValue(setting, range.min)} and ${trialValue(setting, range.max)}.`,
    )
}

/** Settings that turn a filled square as dark as the material turns, and harm nothing below; undefined where it is not filled. */
function fullSetting(base: Operation, material: Material, machine: Machine): Partial<Operation> | undefined {
  const most = machine.safePower ?? 1
  const { doseJPerMm2 } = processOf(base).dose({ ...base, power: most, speedMmS: 1, passes: 1 }, machine)
  if (doseJPerMm2 === undefined) return undefined
  const { markDose, harmsBelow = Infinity } = topLayer(material)
  const dose = Math.min(SURELY * markDose.to, 0.95 * harmsBelow)
  const top = Math.min(processOf(base).topSpeed(machine), RANGES.speedMmS.max)
  const speedMmS = Math.min(top, doseJPerMm2 / dose)
  const power = Math.min(most, powerFor(machine, (wattsAt(machine, most) * dose * speedMmS) / doseJPerMm2))
  return {
    power: Number(power.toFixed(3)),
    speedMmS: Number(speedMmS.toPrecision(3)),
    passes: 1,
    ...('passPowers' in base && { passPowers: [] }),
  } as Partial<Operation>
}

/**
 * A card of trials as an ordinary job: a square for every pair of values, each an operation of its own with one setting or two
 * changed; its values scored beside and over them. Cells are burned from the weakest to the strongest, so that soot of one spoils none
 * that is weaker. @throws RangeError with a sentence where it cannot be
 */
export function trialCard(spec: CardSpec, { workpiece, material, machine }: Setting): TrialCard {
  const { process, across, down, again, settings = {}, artwork, cellMm = CELL_MM } = spec
  const [cellWide, cellHigh] = [artwork?.widthMm ?? cellMm, artwork?.heightMm ?? cellMm]
  checked(across, 'across')
  if (down) checked(down, 'down')
  if (again) checked(again, 'again')
  if (again && !down) throw new RangeError('A third setting is tried where there is one across and one down.')
  const axes = axesOf(spec)
  if (new Set(axes.map(({ setting }) => setting)).size < axes.length)
    throw new RangeError('Across and down are two settings, not the same one.')
  const { columns, rows, grids, pitchX, pitchY, pitchGrid, left, top, widthMm: wide, heightMm: high } = cardLayout(spec)
  const count = columns * rows * grids
  if (count > MOST_CELLS) throw new RangeError(`A card has at most ${MOST_CELLS} cells, not ${count}.`)
  if (wide > workpiece.widthMm || high > workpiece.heightMm)
    throw new RangeError(
      `The card is ${wide.toFixed(0)} × ${high.toFixed(0)} mm and does not fit on ${workpiece.widthMm} × ${workpiece.heightMm} mm: fewer cells, or smaller ones.`,
    )
  const assets = new Map<string, Uint8Array>(artwork?.assets)
  /** A job with one drawn thing, by one of its proposals; its origin lies at a place of the workpiece. */
  const drawnJob = (drawn: Drawn, proposal: ProposalId, x: number, y: number): JobDocument => {
    const bytes = new TextEncoder().encode(drawnSvg(drawn).svg)
    const asset = assetName(bytes)
    assets.set(asset, bytes)
    const { x0, y0, x1, y1 } = drawingBounds(readVectorFile(bytes))
    const facts = {
      name: drawn.kind,
      asset,
      widthPx: 1,
      heightPx: 1,
      hasAlpha: false,
      drawn,
      drawing: { widthMm: x1 - x0, heightMm: y1 - y0 },
    }
    const found = proposalsFor(
      facts,
      { workpiece, material, machine },
      assetsSupply(() => bytes),
    ).find(({ id }) => id === proposal)
    if (!found) throw new RangeError('This material takes no such mark.')
    const source = { ...found.job.placements.source, xMm: micro(x + x0), yMm: micro(y + y0) }
    return { ...found.job, placements: { source } }
  }
  const cell: Drawn = { kind: 'rectangle', widthMm: cellMm, heightMm: cellMm, radiusMm: 0 }
  // A rectangle's own place is its middle.
  const one = artwork
    ? artwork.begun({ workpiece, material, machine }, left, top)
    : drawnJob(cell, 'cut-lines', left + cellMm / 2, top + cellMm / 2)
  const [first] = Object.keys(one.operations)
  const made = processOf(one.operations[first]).name === process ? one : withProcess(one, first, process)
  const base = { ...made.operations[first], ...settings } as Operation
  const placements: Record<string, Placement> = {}
  const operations: Record<string, Operation> = {}
  const cells: Record<string, TrialPlace> = {}
  const { source } = made.placements
  for (let i = 0; i < count; i++) {
    const column = i % columns
    const row = Math.floor(i / columns) % rows
    const grid = Math.floor(i / columns / rows)
    const id = `cell-${row + 1}-${column + 1}${grid > 0 ? `-${grid + 1}` : ''}`
    placements[id] = {
      ...source,
      xMm: micro(source.xMm + column * pitchX),
      yMm: micro(source.yMm + grid * pitchGrid + row * pitchY),
    }
    operations[id] = {
      ...base,
      recipe: undefined,
      at: [id],
      [across.setting]: across.values[column],
      ...(down ? { [down.setting]: down.values[row] } : {}),
      ...(again ? { [again.setting]: again.values[grid] } : {}),
    } as Operation
    cells[id] = { column, row, ...(grid > 0 && { again: grid }) }
  }
  const full = artwork ? undefined : fullSetting(base, material, machine)
  if (full) {
    placements[FULL.id] = { ...made.placements.source, xMm: FULL.xMm, yMm: FULL.yMm, widthMm: FULL.sideMm, heightMm: FULL.sideMm }
    operations[FULL.id] = { ...base, recipe: undefined, at: [FULL.id], ...full } as Operation
  }
  const strength = (id: string): number => {
    const { power, speedMmS, passes } = operations[id]
    const interval = (operations[id] as { intervalMm?: number }).intervalMm ?? 1
    return (wattsAt(machine, power) * passes) / (speedMmS * interval)
  }
  const order = Object.keys(operations).sort((a, b) => strength(a) - strength(b))
  const trial: Trial = {
    process,
    ...(spec.isFor && spec.isFor !== process && { isFor: spec.isFor }),
    across,
    ...(down ? { down } : {}),
    ...(again ? { again } : {}),
    cells,
    ...(full && { full: FULL.id }),
  }
  const squares: JobDocument = {
    ...made,
    name: `Trial: ${PROCESSES[spec.isFor ?? process].name} on ${material.name}`,
    placements,
    operations,
    steps: Object.fromEntries(order.map((id) => [id, { kind: 'burn', operation: id }])),
    order,
    trial,
  }
  const plain = (text: string, align: TextSpec['align']): TextSpec => ({
    kind: 'text',
    text,
    font: { kind: 'strokes' },
    capMm: CAP_MM,
    letterMm: 0,
    lineShare: 1.6,
    align,
  })
  const list = (axis: TrialAxis, align: TextSpec['align'], columns: number): TextSpec => ({
    ...plain('{}', align),
    series: { entries: axis.values.map((v) => trialValue(axis.setting, v)), columns, pitchXMm: pitchX, pitchYMm: pitchY },
  })
  /** What each grid tries, over it. */
  const grid = ({ setting, values }: TrialAxis): TextSpec => ({
    ...plain('{}', 'left'),
    series: {
      entries: values.map((v) => `${TRIAL_WORDS[setting]} ${trialValue(setting, v)} ${TRIAL_UNITS[setting]}`),
      columns: 1,
      pitchXMm: pitchX,
      pitchYMm: pitchGrid,
    },
  })
  const words = (drawn: Drawn, x: number, y: number): JobDocument => drawnJob(drawn, 'score-lines', x, y)
  const told = ({ setting }: TrialAxis, way: string): string => `${TRIAL_WORDS[setting]} ${TRIAL_UNITS[setting]} ${way}`
  const title = [told(across, 'across'), ...(down ? [told(down, 'down')] : [])].join(', ')
  const labels = [
    words(plain(title, 'left'), MARGIN_MM, MARGIN_MM + CAP_MM),
    words(list(across, 'middle', columns), left + cellWide / 2, top - 1.5),
    ...(down
      ? Array.from({ length: grids }, (_, grid) =>
          words(list(down, 'right', 1), left - 1.5, top + grid * pitchGrid + cellHigh / 2 + CAP_MM / 2),
        )
      : []),
    // The value of each grid over it, beside the corner; over the first that stands above its columns.
    ...(again ? [words(grid(again), left, top - GRID_VALUE_MM)] : []),
  ]
  const job = labels.reduce((whole, label, i) => withArtwork(whole, label, `label${i + 1}`), squares)
  // What is written comes first: soot would lie over it.
  const own = new Set(order)
  return { job: { ...job, order: [...job.order.filter((id) => !own.has(id)), ...order] }, assets }
}
