import Joi from 'joi'
import { type KerfLayer, RIM_MM } from '../../forecast/layers.ts'
import { type Ring, ringBounds, ringsBounds } from '../../geometry/ring.ts'
import { givesLines } from '../../job/document/document.ts'
import { isOutline } from '../../job/document/nodes.ts'
import { RANGES } from '../../job/document/ranges.ts'
import { within } from '../../job/document/schema-parts.ts'
import { bandRings, grownRings, kerfRings, outlineKey, outlineLines, outlineRings } from '../../lineage/evaluate.ts'
import { ringBytes } from '../../lineage/local.ts'
import { standsOut } from '../../lineage/stands-out.ts'
import { keyOf } from '../../lineage/supply.ts'
import { type Machine, pathTopSpeed, spotMm, wattsAt } from '../../machine/machine.ts'
import { lineDose, type Material, recipeFor } from '../../material/material.ts'
import { pathsSoFar } from '../paths-so-far.ts'
import type { Burning, Cutting, Process } from '../process.ts'
import { commonOf, departures, followedIfKnown, guessed } from '../recipe.ts'
import type { CutOperation } from './settings.ts'

export type { CutOperation } from './settings.ts'

/** Which side of its outlines a cut keeps its kerf on: outside of parts, inside of what a stencil opens. */
const kerfSide = ({ keeps }: CutOperation): 1 | -1 => (keeps === 'sheet' ? -1 : 1)

/** Whether an operation's dose goes through the material. */
const cutsThrough = ({ job: { machine }, operation, piece }: Burning<CutOperation>): boolean =>
  lineDose(wattsAt(machine, operation.power), operation.speedMmS) * operation.passes >= piece.material.cutDose.from

/** What a cut takes away: its kerf beside its outlines, and along its lines. @returns rings by even-odd, mm */
function kerfBand({ job, operation, piece: { node, place }, supply }: Burning<CutOperation>): Ring[] {
  const width = Math.max(0.02, operation.kerfMm)
  if (givesLines(job, node)) return grownRings(job, node, width, supply, place)
  const [from, to] = kerfSide(operation) > 0 ? [0, width] : [-width, 0]
  return bandRings(job, node, from, to, supply, place)
}

function cutting(context: Burning<CutOperation>): Cutting {
  const { job, operation, piece, supply } = context
  const { node, place } = piece
  const { kerfMm, keeps } = operation
  return {
    through: cutsThrough(context),
    keepsSheet: keeps === 'sheet',
    kerfMm,
    encloses: !givesLines(job, node),
    key: keyOf(outlineKey(job, node, supply, place), kerfMm, keeps),
    outlines: () => outlineRings(job, node, supply, place),
    path: () => kerfRings(job, node, (kerfSide(operation) * kerfMm) / 2, supply, place),
    band: () => kerfBand(context),
    around: () => grownRings(job, node, kerfMm, supply, place),
  }
}

/** What a cut takes away, and its rim; kept as long as neither its outlines nor its settings change. */
function cutLayer(context: Burning<CutOperation>): Omit<KerfLayer, 'kind' | 'operation'> {
  const { job, operation, piece, supply } = context
  const { node, place } = piece
  const lines = givesLines(job, node)
  const through = cutsThrough(context)
  const own = lines ? [through, spotMm(job.machine)] : [kerfSide(operation)]
  return supply.cache.get(
    keyOf('cut lines', outlineKey(job, node, supply, place), lines, operation.kerfMm, own),
    () => {
      const { kerf, rim } = lines ? followed(context, through) : cutOut(context)
      const bounds = { kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
      return { kerf, rim, ...bounds, ...(lines && !through ? { lineMm: spotMm(job.machine) } : {}) }
    },
    ({ kerf, rim }) => ringBytes(kerf) + ringBytes(rim),
  )
}

function cutOut(context: Burning<CutOperation>): Pick<KerfLayer, 'kerf' | 'rim'> {
  const { job, operation, piece, supply } = context
  const kerf = kerfBand(context)
  if (kerf.length === 0) return { kerf, rim: [] }
  const width = Math.max(0.02, operation.kerfMm)
  const [out, inwards] = kerfSide(operation) > 0 ? [width, 0] : [0, width]
  return { kerf, rim: bandRings(job, piece.node, -inwards - RIM_MM, out + RIM_MM, supply, piece.place) }
}

/** Lines that are followed: cut through where their dose is a cut's, else a mark as wide as the beam. */
function followed({ job, operation: { kerfMm }, piece: { node, place }, supply }: Burning<CutOperation>, through: boolean) {
  const width = Math.max(spotMm(job.machine), 0.02)
  return {
    kerf: through ? grownRings(job, node, Math.max(width, kerfMm), supply, place) : [],
    rim: grownRings(job, node, through ? kerfMm + 2 * RIM_MM : width, supply, place),
  }
}

function fromRecipe(of: readonly string[], material: Material, machine: Machine): CutOperation {
  const recipe = recipeFor(material, 'cut', machine.id) ?? guessed('cut', machine)
  return {
    process: 'cut',
    of,
    ...commonOf(recipe),
    kerfMm: recipe.kerfMm ?? 0.15,
  }
}

/** Cuts along outlines, its kerf beside them in the waste. */
export const cut: Process<CutOperation> = {
  name: 'cut',
  inProgram: 'cut',
  subject: 'The cut',
  form: 'edges',
  turn: 5,
  follows: 'edges',
  nothingLeft: 'There is no outline left to cut: change the threshold or the distance.',
  schema: { kerfMm: within(RANGES.kerfMm), keeps: Joi.valid('sheet').optional(), overcutMm: within(RANGES.overcutMm).optional() },
  takes: (job, nodeId) => isOutline(job.nodes[nodeId]),
  fromRecipe,
  onMaterial: (operation, material, machine) => followedIfKnown(operation, 'cut', material, machine, fromRecipe, ['kerfMm']),
  departs: (operation, recipe) => departures(operation, recipe, ['power', 'speedMmS', 'passes', 'kerfMm', 'air']),
  topSpeed: pathTopSpeed,
  strokes: ({ job, operation, piece: { node, place }, supply }) => {
    const { power, speedMmS, passes } = operation
    // What stays in its place first: lines; then what may free a part.
    return [
      { form: 'paths', closed: false, paths: outlineLines(job, node, supply, place), power, speedMmS, passes },
      {
        form: 'paths',
        closed: true,
        paths: kerfRings(job, node, (kerfSide(operation) * operation.kerfMm) / 2, supply, place),
        power,
        speedMmS,
        passes,
        ...(operation.overcutMm ? { overcutMm: operation.overcutMm } : {}),
      },
    ]
  },
  dose: ({ power, speedMmS, passes }, machine) => ({ doseJPerMm: lineDose(wattsAt(machine, power), speedMmS) * passes }),
  extent: ({ job, operation, piece: { node, place }, supply }) =>
    ringsBounds(grownRings(job, node, operation.kerfMm / 2, supply, place)),
  border: ({ job, operation, piece }) => (standsOut(job, piece.node) + operation.kerfMm) / 2,
  layers: (context) => {
    const made = cutLayer(context)
    return made.kerf.length + made.rim.length > 0 ? [{ kind: 'kerf', operation: context.id, ...made }] : []
  },
  layersUntil: (contexts, stretch) => [pathsSoFar(contexts[0], contexts[0].operation.kerfMm, stretch)],
  framed: ({ job, operation, piece: { node, place }, supply }) => grownRings(job, node, operation.kerfMm / 2, supply, place),
  cutting,
}
