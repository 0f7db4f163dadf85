import { RIM_MM } from '../../forecast/layers.ts'
import { ringBounds, ringsBounds } from '../../geometry/ring.ts'
import { isOutline } from '../../job/document/nodes.ts'
import { followedBands, followedLines, outlineKey } from '../../lineage/evaluate.ts'
import { ringBytes } from '../../lineage/local.ts'
import { standsOut } from '../../lineage/stands-out.ts'
import { keyOf } from '../../lineage/supply.ts'
import { type Machine, pathTopSpeed, powerFor, spotMm, wattsAt } from '../../machine/machine.ts'
import { type Material, recipeFor } from '../../material/material.ts'
import { followedBy, followedDose, followSchema } from '../follow-settings.ts'
import { pathsSoFar } from '../paths-so-far.ts'
import type { Burning, Process } from '../process.ts'
import { commonOf, departures, followed } from '../recipe.ts'
import type { ScoreOperation } from './settings.ts'

export type { ScoreOperation } from './settings.ts'

const SCORE_SPEED_MM_S = 60
/** A lone line is seen when it is darker than a full area: what lies beside it is bright. */
const OVER_FULL = 2.5

/**
 * Lines that are scored: by the recipe where there is one, else with well more than the dose that marks an area fully, over the
 * spot's width; well below what cuts, and what marks the layer below. The speed is lowered where full power is not enough for it.
 */
function fromRecipe(of: readonly string[], material: Material, machine: Machine): ScoreOperation {
  const recipe = recipeFor(material, 'score', machine)
  if (recipe) return { process: 'score', of, ...commonOf(recipe) }
  const [top, below] = material.layers
  const width = spotMm(machine)
  const marks = OVER_FULL * top.markDose.to * width
  const harms = below ? 0.5 * below.markDose.from * width : Number.POSITIVE_INFINITY
  const dose = Math.min(Math.max(Math.min(marks, harms), top.markDose.to * width), 0.5 * material.cutDose.from)
  const speedMmS = Math.max(1, Math.min(SCORE_SPEED_MM_S, machine.axes.x.speedMmS, wattsAt(machine, 1) / dose))
  return {
    process: 'score',
    of,
    power: Math.round(1000 * powerFor(machine, dose * speedMmS)) / 1000,
    speedMmS: Math.round(10 * speedMmS) / 10,
    passes: 1,
    air: false,
  }
}

const cutsThrough = ({ job: { machine }, operation, piece }: Burning<ScoreOperation>): boolean =>
  followedDose(operation, machine) >= piece.material.cutDose.from

/** A mark as wide as the beam; where the dose is a cut's all the same, it is shown open. */
function layer(context: Burning<ScoreOperation>) {
  const { job, piece, supply } = context
  const { node, place } = piece
  const through = cutsThrough(context)
  const width = Math.max(spotMm(job.machine), 0.02)
  return supply.cache.get(
    keyOf('scored', outlineKey(job, node, supply, place), width, through),
    () => {
      const kerf = through ? followedBands(job, node, width, supply, place) : []
      const rim = followedBands(job, node, through ? width + 2 * RIM_MM : width, supply, place)
      const bounds = { kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
      return { kerf, rim, ...bounds, ...(through ? {} : { lineMm: width }) }
    },
    ({ kerf, rim }) => ringBytes(kerf) + ringBytes(rim),
  )
}

/** Follows lines and edges as they are, and only marks. */
export const score: Process<ScoreOperation> = {
  name: 'score',
  // Programs of the first versions called it so: the same job gives the same bytes.
  inProgram: 'cut',
  subject: 'The line',
  form: 'lines',
  turn: 4,
  follows: 'lines',
  nothingLeft: 'There is no line left to score: change the threshold or the distance.',
  schema: followSchema,
  takes: (job, nodeId) => isOutline(job.nodes[nodeId]),
  fromRecipe,
  // Worked out for each material, so that what only marks never becomes a cut.
  onMaterial: (operation, material, machine) => followed(operation, fromRecipe(operation.of, material, machine)),
  departs: (operation, recipe) => departures(operation, recipe, ['power', 'speedMmS', 'passes', 'air']),
  topSpeed: pathTopSpeed,
  strokes: ({ job, operation, piece: { node, place }, supply }) => [
    { form: 'paths', closed: false, paths: followedLines(job, node, supply, place), ...followedBy(operation) },
  ],
  dose: (operation, machine) => ({ doseJPerMm: followedDose(operation, machine) }),
  extent: ({ job, piece: { node, place }, supply }) =>
    ringsBounds(followedBands(job, node, spotMm(job.machine) / 2, supply, place)),
  border: ({ job, piece }) => (standsOut(job, piece.node) + spotMm(job.machine)) / 2,
  layers: (context) => {
    const made = layer(context)
    return made.rim.length > 0 ? [{ kind: 'kerf', operation: context.id, ...made }] : []
  },
  layersUntil: (contexts, stretch) => [
    pathsSoFar(contexts[0], spotMm(contexts[0].job.machine), stretch, cutsThrough(contexts[0])),
  ],
  framed: ({ job, piece: { node, place }, supply }) => followedBands(job, node, spotMm(job.machine) / 2, supply, place),
}
