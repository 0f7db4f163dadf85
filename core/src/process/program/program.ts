import type { KerfLayer } from '../../forecast/layers.ts'
import { EMPTY_BOUNDS } from '../../geometry/bounds.ts'
import { type Ring, ringBounds } from '../../geometry/ring.ts'
import { programOfNode, programToFace } from '../../lineage/program.ts'
import { pathTopSpeed, spotMm, wattsAt } from '../../machine/machine.ts'
import { lineDose } from '../../material/material.ts'
import { mapped } from '../../space/affine.ts'
import { poseBounds } from '../../space/pose.ts'
import { band } from '../band.ts'
import { pathsSoFar } from '../paths-so-far.ts'
import type { Burning, Process } from '../process.ts'
import type { ProgramOperation } from './settings.ts'

export type { ProgramOperation } from './settings.ts'

/** What a program from elsewhere burns: cut open where its dose cuts this material, scorched where it only marks. */
function layer({ job, id, operation, piece, supply }: Burning<ProgramOperation>): KerfLayer {
  const read = programOfNode(job, piece.node, supply)
  const { count, x, y, s, speed } = read.moves
  const toFace = programToFace(job, piece.placement, read)
  const half = spotMm(job.machine) / 2
  const kerf: Ring[] = []
  const rim: Ring[] = []
  for (let i = 1; i < count; i++) {
    if (s[i] === 0 || speed[i] === 0) continue
    const power = Math.min(1, (s[i] * operation.power) / job.machine.fullPowerS)
    const dose = lineDose(wattsAt(job.machine, power), speed[i]) * operation.passes
    const cuts = dose >= piece.material.cutDose.from
    const ends = [...mapped(toFace, x[i - 1] / 1000, y[i - 1] / 1000), ...mapped(toFace, x[i] / 1000, y[i] / 1000)] as const
    rim.push(band(...ends, cuts ? half + 0.15 : half))
    if (cuts) kerf.push(band(...ends, half))
  }
  const bounds = { kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
  return { kind: 'kerf', operation: id, kerf, rim, ...bounds, ...(kerf.length === 0 ? { lineMm: 2 * half } : {}) }
}

/** Runs a program that was made elsewhere, as it is written. */
export const program: Process<ProgramOperation> = {
  name: 'program',
  inProgram: 'program',
  subject: 'The program',
  form: 'as written',
  turn: 3,
  nothingLeft: 'The program burns nothing.',
  schema: {},
  takes: (job, nodeId) => job.nodes[nodeId]?.kind === 'program',
  fromRecipe: (of, _material, machine) => ({
    process: 'program',
    of,
    power: 1,
    speedMmS: pathTopSpeed(machine),
    passes: 1,
    air: false,
  }),
  // It is run as it is written.
  onMaterial: (operation) => operation,
  departs: () => [],
  topSpeed: pathTopSpeed,
  strokes: ({ job, operation: { power, passes }, piece, supply }) => {
    const read = programOfNode(job, piece.node, supply)
    return [{ form: 'moves', moves: read.moves, toFace: programToFace(job, piece.placement, read), power, passes }]
  },
  dose: () => ({}),
  extent: ({ job, piece, supply }) =>
    programOfNode(job, piece.node, supply).box === null ? EMPTY_BOUNDS : poseBounds(piece.placement, piece.placement),
  border: () => 0,
  layers: (context) => [layer(context)],
  layersUntil: (contexts, stretch) => [pathsSoFar(contexts[0], spotMm(contexts[0].job.machine), stretch)],
  framed: () => [],
}
