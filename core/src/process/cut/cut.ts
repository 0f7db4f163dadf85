import Joi from 'joi'
import { type KerfLayer, RIM_MM } from '../../forecast/layers.ts'
import { combine } from '../../geometry/clip.ts'
import { type Ring, ringBounds, ringsBounds } from '../../geometry/ring.ts'
import { burnOrder, givesLines } from '../../job/document/document.ts'
import { isOutline } from '../../job/document/nodes.ts'
import { burnedPieces } from '../../job/document/pieces.ts'
import { RANGES } from '../../job/document/ranges.ts'
import { within } from '../../job/document/schema-parts.ts'
import { bandRings, grownRings, kerfRings, outlineKey, outlineLines, outlineRings } from '../../lineage/evaluate.ts'
import { ringBytes } from '../../lineage/local.ts'
import { standsOut } from '../../lineage/stands-out.ts'
import { keyOf } from '../../lineage/supply.ts'
import { type Machine, pathTopSpeed, spotMm, wattsAt } from '../../machine/machine.ts'
import { lineDose, type Material, recipeFor } from '../../material/material.ts'
import { band } from '../band.ts'
import { followedBy, followedDose, followSchema } from '../follow-settings.ts'
import { pathsSoFar } from '../paths-so-far.ts'
import type { Burning, Cutting, Process } from '../process.ts'
import { commonOf, departures, followedIfKnown, guessed } from '../recipe.ts'
import { type CutRings, type Lead, leadsFor } from './leads.ts'
import type { CutOperation } from './settings.ts'

export type { CutOperation } from './settings.ts'

/** Which side of its outlines a cut keeps its kerf on: outside of parts, inside of what a stencil opens. */
const kerfSide = ({ keeps }: CutOperation): 1 | -1 => (keeps === 'sheet' ? -1 : 1)

/** Whether an operation's dose goes through the material. */
const cutsThrough = ({ job: { machine }, operation, piece }: Burning<CutOperation>): boolean =>
  followedDose(operation, machine) >= piece.material.cutDose.from

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

/** The cut of an operation as rings, for leads that keep clear of it. */
const cutRings = ({ job, operation, piece: { node, place }, supply }: Burning<CutOperation>): CutRings => ({
  rings: kerfRings(job, node, (kerfSide(operation) * operation.kerfMm) / 2, supply, place),
  keepsInside: operation.keeps !== 'sheet',
})

/** How the rings of a piece begin and end: none where no lead is wanted. */
function leadsOf(context: Burning<CutOperation>): readonly (Lead | undefined)[] {
  const { job, id, operation, piece, supply } = context
  const { leadInMm: intoMm = 0, leadOutMm: outMm = 0, kerfMm } = operation
  if (intoMm === 0 && outMm === 0) return []
  const others = burnOrder(job).flatMap((other) => {
    const cuts = job.operations[other]
    if (cuts.process !== 'cut') return []
    return burnedPieces(job, cuts, other)
      .filter(
        ({ workpieceId, node, place }) =>
          workpieceId === piece.workpieceId && (other !== id || node !== piece.node || place !== piece.place),
      )
      .map((each) => ({ job, id: other, operation: cuts, piece: each, supply }))
  })
  const keyed = (each: Burning<CutOperation>): string =>
    keyOf(outlineKey(job, each.piece.node, supply, each.piece.place), each.operation.kerfMm, each.operation.keeps)
  return supply.cache.get(
    keyOf('leads', keyed(context), intoMm, outMm, ...others.map(keyed)),
    () => leadsFor(cutRings(context), others.map(cutRings), { intoMm, outMm, kerfMm: Math.max(kerfMm, 0.1) }),
    (leads) => 64 * leads.length,
  )
}

/** The leads of a piece as they are cut. */
function leadBands(context: Burning<CutOperation>): Ring[] {
  const { rings } = cutRings(context)
  const half = Math.max(0.02, context.operation.kerfMm) / 2
  return leadsOf(context).flatMap((lead, i) => {
    if (!lead) return []
    const [x, y] = [rings[i][2 * lead.start], rings[i][2 * lead.start + 1]]
    return [lead.into, lead.out].flatMap((end) => (end ? [band(end[0], end[1], x, y, half)] : []))
  })
}

/** What a cut takes away, and its rim; kept as long as neither its outlines nor its settings change. */
function cutLayer(context: Burning<CutOperation>): Omit<KerfLayer, 'kind' | 'operation'> {
  const { job, operation, piece, supply } = context
  const { node, place } = piece
  const lines = givesLines(job, node)
  const through = cutsThrough(context)
  const led = leadBands(context)
  const own = lines ? [through, spotMm(job.machine)] : [kerfSide(operation)]
  return supply.cache.get(
    keyOf('cut lines', outlineKey(job, node, supply, place), lines, operation.kerfMm, own, ...led.map((ring) => ring.join(' '))),
    () => {
      const made = lines ? followed(context, through) : cutOut(context)
      const kerf = led.length > 0 ? combine('union', made.kerf, led) : made.kerf
      const { rim } = made
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
  const recipe = recipeFor(material, 'cut', machine) ?? guessed('cut', machine)
  return {
    process: 'cut',
    of,
    ...commonOf(recipe),
    kerfMm: recipe.kerfMm ?? 0.15,
  }
}

/** A cut is no cut that takes more passes than this, or creeps. */
const LIMIT = { passes: 10, speedMmS: 1 }

function refused({ name, cutDose }: Material, machine: Machine): string | undefined {
  const most = lineDose(wattsAt(machine, 1), LIMIT.speedMmS) * LIMIT.passes
  if (most >= cutDose.from) return undefined
  return `${name} is not cut by ${machine.name}: full power at ${LIMIT.speedMmS} mm/s in ${LIMIT.passes} passes leaves ${Math.round(most)} J/mm, and ${cutDose.from} begin to cut.`
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
  schema: {
    ...followSchema,
    kerfMm: within(RANGES.kerfMm),
    keeps: Joi.valid('sheet').optional(),
    overcutMm: within(RANGES.overcutMm).optional(),
    leadInMm: within(RANGES.leadMm).optional(),
    leadOutMm: within(RANGES.leadMm).optional(),
  },
  takes: (job, nodeId) => isOutline(job.nodes[nodeId]),
  fromRecipe,
  refused,
  onMaterial: (operation, material, machine) => followedIfKnown(operation, 'cut', material, machine, fromRecipe, ['kerfMm']),
  departs: (operation, recipe) => departures(operation, recipe, ['power', 'speedMmS', 'passes', 'kerfMm', 'air']),
  topSpeed: pathTopSpeed,
  strokes: (context) => {
    const { job, operation, piece, supply } = context
    const { node, place } = piece
    const how = followedBy(operation)
    // What stays in its place first: lines; then what may free a part.
    return [
      { form: 'paths', closed: false, paths: outlineLines(job, node, supply, place), ...how },
      {
        form: 'paths',
        closed: true,
        paths: kerfRings(job, node, (kerfSide(operation) * operation.kerfMm) / 2, supply, place),
        leads: leadsOf(context),
        ...how,
        ...(operation.overcutMm ? { overcutMm: operation.overcutMm } : {}),
      },
    ]
  },
  dose: (operation, machine) => ({ doseJPerMm: followedDose(operation, machine) }),
  extent: (context) => {
    const { job, operation, piece, supply } = context
    const edges = grownRings(job, piece.node, operation.kerfMm / 2, supply, piece.place)
    return ringsBounds([...edges, ...leadBands(context)])
  },
  border: ({ job, operation, piece }) =>
    (standsOut(job, piece.node) + operation.kerfMm) / 2 + Math.max(operation.leadInMm ?? 0, operation.leadOutMm ?? 0),
  layers: (context) => {
    const made = cutLayer(context)
    return made.kerf.length + made.rim.length > 0 ? [{ kind: 'kerf', operation: context.id, ...made }] : []
  },
  layersUntil: (contexts, stretch) => [pathsSoFar(contexts[0], contexts[0].operation.kerfMm, stretch)],
  framed: (context) => {
    const { job, operation, piece, supply } = context
    return [...grownRings(job, piece.node, operation.kerfMm / 2, supply, piece.place), ...leadBands(context)]
  },
  cutting,
}
