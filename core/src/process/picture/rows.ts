import Joi from 'joi'
import { burnedDots } from '../../forecast/burned-dots.ts'
import { darknessOfDots } from '../../forecast/darkness.ts'
import type { DotLayer } from '../../forecast/layers.ts'
import { buildPyramid } from '../../forecast/pyramid.ts'
import { type Bounds, EMPTY_BOUNDS, isEmptyBounds } from '../../geometry/bounds.ts'
import type { Ring } from '../../geometry/ring.ts'
import type { JobDocument } from '../../job/document/document.ts'
import type { Operation } from '../../job/document/operation.ts'
import { pieceChart } from '../../job/document/pieces.ts'
import { RANGES } from '../../job/document/ranges.ts'
import { sparedSchema, within } from '../../job/document/schema-parts.ts'
import { type DotField, dotField } from '../../lineage/field.ts'
import { pieceMarks } from '../../lineage/piece-marks.ts'
import { sparedKey, sparedRings, withoutSpared } from '../../lineage/spared.ts'
import { keyOf } from '../../lineage/supply.ts'
import { type Machine, spotMm, wattsAt } from '../../machine/machine.ts'
import { dotReach } from '../../material/answer.ts'
import { levelDepths, levelPowers, levelTones, passShare } from '../../material/level-powers.ts'
import { areaDose, type Recipe } from '../../material/material.ts'
import { startOf } from '../../motion/track.ts'
import { bytesBy } from '../../picture/bytes.ts'
import type { Marks } from '../../picture/prepare.ts'
import { mapped, SAME } from '../../space/affine.ts'
import { type Burning, type MarkedDots, PlanError, type Stretch } from '../process.ts'
import { departures } from '../recipe.ts'
import type { RowSettings } from './settings.ts'

/** More dots than this are refused: they would take days to burn. */
export const MAX_DOTS = 400_000_000

export const rowSchema: Joi.SchemaMap = {
  spares: sparedSchema,
  runUpMm: within(RANGES.runUpMm).optional(),
  intervalMm: within(RANGES.intervalMm),
  bothWays: Joi.boolean().required(),
  minPower: within(RANGES.power).max(Joi.ref('power')),
  evenIn: Joi.valid('power', 'depth', 'tone').required(),
  passPowers: Joi.array().items(Joi.number().min(0).max(1)).max(50).required(),
}

/** Whether an operation burns rows of dots. */
export const burnsRows = (operation: Operation | undefined): operation is Operation & RowSettings =>
  operation !== undefined && 'minPower' in operation

type Rowed = Burning<RowSettings>

function dots(context: Rowed): MarkedDots {
  const { job, operation, piece } = context
  const field = dotField(job, operation, piece)
  return { field, marks: burnedMarks(context, field) }
}

/** The marks of a piece without those on ground that is spared; the others are as they were prepared. */
function burnedMarks({ job, operation, piece, supply }: Rowed, field: DotField): MarkedDots['marks'] {
  const marks = pieceMarks(job, operation, piece, supply)
  const spared = sparedKey(job, operation, piece.workpieceId, supply)
  if (spared === undefined) return marks
  const key = keyOf('spared marks', marks.key, spared, field.x0, field.y0, field.toFace)
  const levels = supply.cache.get(
    key,
    () => withoutSpared(marks.levels, field, sparedRings(job, operation, piece.workpieceId, supply)),
    (made) => made.byteLength,
  )
  return { ...marks, levels, key }
}

/** The dots that an operation burns, as dark as its settings turn them. */
function dotLayer(context: Rowed): DotLayer {
  const { job, operation, piece, supply } = context
  const { machine } = job
  const { material } = piece
  const { marks: keyed, field } = dots(context)
  const { key, ...marks } = keyed
  const tones = levelTones(material, machine, operation)
  const lag = (machine.riseTimeS * operation.speedMmS) / operation.intervalMm
  const reachMm = dotReach(material, machine.id)
  const burned = supply.cache.get(
    keyOf('burned dots', key, [...tones], lag, operation.bothWays, reachMm / operation.intervalMm),
    () => burnedDots(marks, darknessOfDots(marks, tones, lag, operation.bothWays), reachMm / operation.intervalMm),
    (made) => made.pyramid.levels.reduce((sum, level) => sum + level.levels.byteLength, made.dark.byteLength),
  )
  return { ...layerOf(context, field, burned), ...reliefOf(context, marks, key) }
}

/** How deep each dot goes, where grey is burned as power on a material whose depth was measured. */
function reliefOf({ job, operation, piece, supply }: Rowed, marks: Marks, key: string): Pick<DotLayer, 'relief'> {
  const node = job.nodes[piece.node]
  if (node.kind !== 'picture' || node.dots.kernel !== 'none') return {}
  const depths = levelDepths(piece.material, job.machine, operation)
  const deepMm = depths?.[255] ?? 0
  if (!depths || !(deepMm > 0)) return {}
  const shares = bytesBy(depths.length, (i) => Math.round((255 * depths[i]) / deepMm))
  const pyramid = supply.cache.get(
    keyOf('relief', key, [...shares]),
    () => buildPyramid({ ...marks, levels: darknessOfDots(marks, shares, 0, operation.bothWays) }),
    (made) => made.levels.reduce((sum, level) => sum + level.levels.byteLength, 0),
  )
  return { relief: { pyramid, deepMm } }
}

/** Burned dots in their place. */
function layerOf(
  { job, id, piece }: Rowed,
  { x0, y0, pitch, toFace }: DotField,
  burned: Pick<DotLayer, 'dark' | 'pyramid'>,
): DotLayer {
  const reachMm = dotReach(piece.material, job.machine.id)
  const spot = spotMm(job.machine)
  return { kind: 'dots', operation: id, ...burned, reachMm, x0, y0, pitch, spot, ...(toFace === SAME ? {} : { toFace }) }
}

/** The dots that are burned by a moment, pass by pass. */
function dotsSoFar(context: Rowed, { track, first, move, end }: Stretch, alone: boolean): DotLayer[] {
  const { job, operation, piece } = context
  const { material } = piece
  const { field, marks } = dots(context)
  const { levels, columns, rows } = marks
  const { fromX, fromY } = pieceChart(job, piece)
  const aPass = alone ? Math.max(1, (end - first) / operation.passes) : Math.max(1, end - first)
  const passes = Math.floor((move - first) / aPass)
  const burned = new Uint8Array(levels.length)
  for (let i = first + Math.floor(passes * aPass); i < move; i++) {
    if (track.s[i] === 0) continue
    const row = Math.round((fromY(track.y[i]) - field.y0) / field.pitch - 0.5)
    const a = Math.round((fromX(startOf(track, i).x) - field.x0) / field.pitch)
    const b = Math.round((fromX(track.x[i]) - field.x0) / field.pitch)
    if (row < 0 || row >= rows) continue
    // MarkedDots of another piece in the same rows lie beside these.
    const from = row * columns + Math.max(0, Math.min(a, b))
    const to = row * columns + Math.min(columns, Math.max(a, b))
    if (from < to) burned.set(levels.subarray(from, to), from)
  }
  const after = (count: number): Uint8Array => levelTones(material, job.machine, operation, count)
  const layer = (some: Uint8Array, tones: Uint8Array): DotLayer => {
    const dark = darknessOfDots({ columns, rows, levels: some }, tones, 0, operation.bothWays)
    return layerOf(context, field, burnedDots(field, dark, dotReach(material, job.machine.id) / field.pitch))
  }
  if (!alone) return [layer(burned, after(operation.passes))]
  const before = after(passes)
  const now = layer(
    burned,
    after(passes + 1).map((tone, level) => tone - before[level]),
  )
  return passes > 0 ? [layer(levels, before), now] : [now]
}

function markedCells(levels: Uint8Array, columns: number, rows: number): Bounds {
  let x0 = columns
  let x1 = -1
  let y0 = -1
  let y1 = -1
  for (let r = 0; r < rows; r++) {
    const base = r * columns
    let first = 0
    while (first < columns && levels[base + first] === 0) first++
    if (first === columns) continue
    let last = columns - 1
    while (levels[base + last] === 0) last--
    if (y0 < 0) y0 = r
    y1 = r
    if (first < x0) x0 = first
    if (last > x1) x1 = last
  }
  return y0 < 0 ? EMPTY_BOUNDS : { x0, y0, x1: x1 + 1, y1: y1 + 1 }
}

function extent(context: Rowed): Bounds {
  const { field, marks } = dots(context)
  const box = context.supply.cache.get(
    `bounds ${marks.key}`,
    () => markedCells(marks.levels, marks.columns, marks.rows),
    () => 64,
  )
  if (isEmptyBounds(box)) return EMPTY_BOUNDS
  const { x0, y0, pitch, toFace } = field
  const swept = { x0: x0 + box.x0 * pitch, y0: y0 + box.y0 * pitch, x1: x0 + box.x1 * pitch, y1: y0 + box.y1 * pitch }
  if (toFace === SAME) return swept
  const corners = [
    mapped(toFace, swept.x0, swept.y0),
    mapped(toFace, swept.x1, swept.y0),
    mapped(toFace, swept.x1, swept.y1),
    mapped(toFace, swept.x0, swept.y1),
  ]
  const xs = corners.map(([x]) => x)
  const ys = corners.map(([, y]) => y)
  return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) }
}

/** What processes have in common that burn rows of dots. */
export const rowProcess = {
  subject: 'The picture',
  nothingLeft: 'The picture leaves no mark with these tones.',
  schema: rowSchema,
  takes: (job: JobDocument, nodeId: string): boolean => job.nodes[nodeId]?.kind === 'picture',
  departs: (operation: RowSettings, recipe: Recipe) =>
    departures(operation, recipe, ['power', 'speedMmS', 'passes', 'intervalMm', 'air']),
  topSpeed: ({ axes }: Machine): number => axes.x.speedMmS,
  strokes: (context: Rowed) => {
    const { job, operation, piece } = context
    const field = dotField(job, operation, piece)
    const { columns, rows } = field
    if (columns * rows > MAX_DOTS)
      throw new PlanError(
        `${columns} × ${rows} dots are more than can be planned. Choose a larger interval or a smaller picture.`,
      )
    const { speedMmS, bothWays, passes, runUpMm } = operation
    return [
      {
        form: 'rows' as const,
        field,
        marks: burnedMarks(context, field),
        powers: levelPowers(piece.material, job.machine, operation),
        passShares: Array.from({ length: passes }, (_, pass) => passShare(operation, pass)),
        speedMmS,
        bothWays,
        runUpMm,
      },
    ]
  },
  dose: ({ power, speedMmS, intervalMm, passes }: RowSettings, machine: Machine) => ({
    doseJPerMm2: areaDose(wattsAt(machine, power), speedMmS, intervalMm) * passes,
  }),
  extent,
  // MarkedDots are whole: at another size they may stand out by one more.
  border: ({ operation }: Rowed) => operation.intervalMm,
  layers: (context: Rowed) => [dotLayer(context)],
  layersUntil: (contexts: readonly Rowed[], stretch: Stretch) =>
    contexts.flatMap((context) => dotsSoFar(context, stretch, contexts.length === 1)),
  framed: (): Ring[] => [],
  dots,
}
