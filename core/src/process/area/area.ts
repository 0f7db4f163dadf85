import Joi from 'joi'
import { type Bounds, EMPTY_BOUNDS, isEmptyBounds } from '../../geometry/bounds.ts'
import { combine, filledBy, offset, together } from '../../geometry/clip.ts'
import { type Ring, ringsBounds } from '../../geometry/ring.ts'
import { givesLines } from '../../job/document/document.ts'
import { isOutline } from '../../job/document/nodes.ts'
import { burnedPieces, pieceChart } from '../../job/document/pieces.ts'
import { RANGES } from '../../job/document/ranges.ts'
import { sparedSchema, within } from '../../job/document/schema-parts.ts'
import { outlineKey, outlineRings } from '../../lineage/evaluate.ts'
import { ringBytes } from '../../lineage/local.ts'
import { sparedKey, sparedRings } from '../../lineage/spared.ts'
import { standsOut } from '../../lineage/stands-out.ts'
import { keyOf } from '../../lineage/supply.ts'
import { type Machine, spotMm } from '../../machine/machine.ts'
import { passesDose } from '../../material/level-powers.ts'
import { type Material, recipeFor } from '../../material/material.ts'
import { followedBy, followSchema } from '../follow-settings.ts'
import { type Burning, PlanError, type Process } from '../process.ts'
import { commonOf, departures, followed, guessed } from '../recipe.ts'
import type { Sweeps, Threads } from '../strokes.ts'
import { type AreaCells, areaLayer, areaSoFar, burnOfArea, cellsOfArea, grownBox, inPlace } from './burned-area.ts'
import { type Fill, filled } from './fill.ts'
import type { AreaOperation } from './settings.ts'

export type { AreaOperation } from './settings.ts'

/** More line than this is refused: it would take days to burn, mm. */
const MOST_MM = 50_000_000

type Filling = Burning<AreaOperation>

/** A recipe for areas, else the one for pictures: full marks at the same dose. */
const recipeOf = (material: Material, machine: Machine) =>
  recipeFor(material, 'area', machine) ?? recipeFor(material, 'picture', machine)

function fromRecipe(of: readonly string[], material: Material, machine: Machine): AreaOperation {
  const recipe = recipeOf(material, machine) ?? guessed('area', machine)
  return {
    process: 'area',
    of,
    ...commonOf(recipe),
    intervalMm: recipe.intervalMm ?? 0.127,
    strategy: 'sweep',
    deg: 0,
    bothWays: true,
    begins: 'far',
    shareMm: SHARE_MM,
    insetMm: 0,
  }
}

/** Pieces share a sweep where crossing from one to the other takes less than turning round between them, about, mm. */
const SHARE_MM = 20

/** The area of a piece: simple rings on the face, whatever crosses itself. */
function areaOf(context: Filling): Ring[] {
  const { job, operation, piece, supply } = context
  const { node, place, workpieceId } = piece
  return supply.cache.get(
    keyOf('area', areaKey(context)),
    () => {
      const whole = filledBy('evenodd', outlineRings(job, node, supply, place))
      const spared = sparedRings(job, operation, workpieceId, supply)
      return spared.length > 0 ? combine('subtract', whole, spared) : whole
    },
    ringBytes,
  )
}

/** What the area of a piece depends on. */
const areaKey = ({ job, operation, piece: { node, place, workpieceId }, supply }: Filling): string =>
  keyOf(outlineKey(job, node, supply, place), sparedKey(job, operation, workpieceId, supply))

/** What of it is burned: kept inside its edge by as much as is wanted. */
function insideOf(context: Filling): readonly Ring[] {
  const { operation, supply } = context
  const { insetMm } = operation
  if (insetMm === 0) return areaOf(context)
  return supply.cache.get(
    keyOf('inside', areaKey(context), insetMm),
    () => offset(areaOf(context), -insetMm, { simple: true }),
    ringBytes,
  )
}

/** The box around what of it is burned. */
const boxOf = (context: Filling): Bounds =>
  context.supply.cache.get(
    keyOf('area box', areaKey(context), context.operation.insetMm),
    () => ringsBounds(insideOf(context)),
    () => 64,
  )

/** Pieces of the operation on the same workpiece that come before this one and lie over it: their ground is burned once. */
function earlierOver(context: Filling): Filling[] {
  const { job, id, operation, piece, supply } = context
  const all = burnedPieces(job, operation, id).filter(({ workpieceId }) => workpieceId === piece.workpieceId)
  const at = all.findIndex(({ node, place }) => node === piece.node && place === piece.place)
  if (at <= 0) return []
  const box = boxOf(context)
  return all
    .slice(0, at)
    .map((each): Filling => ({ job, id, operation, piece: each, supply }))
    .filter((each) => {
      const other = boxOf(each)
      return other.x0 < box.x1 && box.x0 < other.x1 && other.y0 < box.y1 && box.y0 < other.y1
    })
}

/** What of the burned ground is this piece's own. */
function groundOf(context: Filling): readonly Ring[] {
  const before = earlierOver(context)
  if (before.length === 0) return insideOf(context)
  const { operation, supply } = context
  return supply.cache.get(
    keyOf('own ground', areaKey(context), operation.insetMm, ...before.map(areaKey)),
    () => combine('subtract', insideOf(context), together(before.flatMap(insideOf))),
    ringBytes,
  )
}

function fillOf(contexts: readonly Filling[]): Fill {
  const [{ job, operation, piece, supply }] = contexts
  const { strategy, intervalMm, deg, crossDeg, begins, shareMm, insetMm } = operation
  const settings = { strategy, intervalMm, deg, crossDeg, begins, shareMm, insetMm }
  const { toSweep } = pieceChart(job, piece)
  const keys = contexts.map(areaKey)
  return supply.cache.get(
    keyOf('area fill', ...keys, JSON.stringify(settings), toSweep),
    () => {
      const areas = contexts.map(areaOf)
      const all = areas.length === 1 ? areas[0] : together(areas.flat())
      const mm2 = all.reduce((sum, ring) => sum + boxArea(ring), 0)
      if (mm2 / intervalMm > 4 * MOST_MM)
        throw new PlanError('This area has more lines than can be planned. Choose a larger interval.')
      return filled(all, settings, toSweep, supply.progress)
    },
    bytesOf,
  )
}

function boxArea(ring: Ring): number {
  const { x0, y0, x1, y1 } = ringsBounds([ring])
  return (x1 - x0) * (y1 - y0)
}

const bytesOf = (fill: Fill): number =>
  fill.form === 'threads'
    ? ringBytes(fill.threads)
    : fill.sets.reduce((sum, { lines }) => sum + lines.u.byteLength + lines.v.byteLength + lines.first.byteLength, 0)

function strokesTogether(contexts: readonly Filling[]): (Sweeps | Threads)[] {
  const { operation } = contexts[0]
  const { bothWays, runUpMm } = operation
  const fill = fillOf(contexts)
  return [{ ...followedBy(operation), ...(fill.form === 'threads' ? fill : { ...fill, bothWays, runUpMm }) }]
}

function cells(context: Filling): AreaCells {
  const { job, operation, piece, supply } = context
  const { toSweep } = pieceChart(job, piece)
  return supply.cache.get(
    keyOf('area cells', groundKey(context), operation.intervalMm, operation.deg, operation.insetMm, toSweep),
    () => cellsOfArea(groundOf(context), operation, toSweep, () => supply.progress?.(0)),
    ({ levels }) => levels.byteLength,
  )
}

/** What the own ground of a piece depends on. */
const groundKey = (context: Filling): string => keyOf(areaKey(context), ...earlierOver(context).map(areaKey))

function extent(context: Filling): Bounds {
  const box = boxOf(context)
  if (isEmptyBounds(box)) return EMPTY_BOUNDS
  return grownBox(box, spotMm(context.job.machine) / 2)
}

/** Fills what outlines enclose with lines. */
export const area: Process<AreaOperation> = {
  name: 'area',
  inProgram: 'area',
  subject: 'The area',
  form: 'edges',
  turn: 2,
  follows: 'edges',
  nothingLeft: 'There is no area left to fill: change the threshold, the distance or how far it keeps inside its edge.',
  schema: {
    spares: sparedSchema,
    ...followSchema,
    intervalMm: within(RANGES.intervalMm),
    strategy: Joi.valid('sweep', 'patches', 'rings').required(),
    deg: within(RANGES.degrees),
    crossDeg: within(RANGES.degrees).optional(),
    bothWays: Joi.boolean().required(),
    begins: Joi.valid('far', 'near').required(),
    shareMm: within(RANGES.shareMm).optional(),
    insetMm: within(RANGES.insetMm),
    runUpMm: within(RANGES.runUpMm).optional(),
  },
  takes: (job, nodeId) => isOutline(job.nodes[nodeId]) && !givesLines(job, nodeId),
  fromRecipe,
  onMaterial: (operation, material, machine) =>
    recipeOf(material, machine)
      ? followed(operation, fromRecipe(operation.of, material, machine), ['intervalMm'])
      : { ...operation, recipe: undefined },
  departs: (operation, recipe) => departures(operation, recipe, ['power', 'speedMmS', 'passes', 'intervalMm', 'air']),
  topSpeed: ({ axes }) => Math.max(axes.x.speedMmS, axes.y.speedMmS),
  strokes: (context) => strokesTogether([context]),
  strokesTogether,
  dose: (operation, machine) => ({ doseJPerMm2: passesDose(machine, burnOfArea(operation), operation.power) }),
  extent,
  border: ({ job, piece }) => (standsOut(job, piece.node) + spotMm(job.machine)) / 2,
  layers: (context) => {
    if (groundOf(context).length === 0) return []
    const { job, piece, operation, supply } = context
    const made = cells(context)
    const { power, speedMmS, passes, passPowers, crossDeg, strategy, bothWays } = operation
    const burned = supply.cache.get(
      keyOf(
        'burned area',
        groundKey(context),
        made.toField,
        made.pitch,
        operation.insetMm,
        power,
        speedMmS,
        passes,
        JSON.stringify(passPowers ?? []),
        crossDeg,
        strategy,
        bothWays,
        piece.material.id,
        piece.material.version,
        job.machine.id,
        job.machine.version,
      ),
      () => areaLayer(context, made),
      ({ dark, pyramid }) => pyramid.levels.reduce((sum, level) => sum + level.levels.byteLength, dark.byteLength),
    )
    return [inPlace(context, made, burned)]
  },
  layersUntil: (contexts, stretch) =>
    contexts.filter((context) => groundOf(context).length > 0).map((context) => areaSoFar(context, cells(context), stretch)),
  framed: areaOf,
}
