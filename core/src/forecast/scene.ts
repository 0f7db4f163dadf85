import type { Bounds } from '../geometry/bounds.ts'
import { combine } from '../geometry/clip.ts'
import { type Ring, ringBounds } from '../geometry/ring.ts'
import type { Bench } from '../job/bench.ts'
import { keyOf } from '../job/bench.ts'
import type { JobDocument, PictureOperation } from '../job/document.ts'
import { grownRings } from '../job/evaluate.ts'
import { operationMarks } from '../job/pictured.ts'
import { spotMm } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import type { Marks } from '../picture/prepare.ts'
import { dotGrid } from '../plan/grid.ts'
import { levelDepths, levelTones } from '../plan/level-powers.ts'
import { darknessOfDots } from './darkness.ts'
import { programLayer } from './program-layer.ts'
import { buildPyramid, type MarkPyramid } from './pyramid.ts'

/** Burned dots on the workpiece. */
export interface DotLayer {
  readonly kind: 'dots'
  /** The operation that burns it. */
  readonly operation: string
  /** Darkness of every dot, 0–255. */
  readonly pyramid: MarkPyramid
  /** Where it is carved: share of the depth of every dot, 0–255, and the whole depth. */
  readonly relief?: { readonly pyramid: MarkPyramid; readonly deepMm: number }
  /** Corner of the first dot and the pitch, job mm. */
  readonly x0: number
  readonly y0: number
  readonly pitch: number
  readonly spot: number
}

/** Material that is cut away, and the scorched rim beside it. */
export interface KerfLayer {
  readonly kind: 'kerf'
  readonly operation: string
  readonly kerf: readonly Ring[]
  readonly rim: readonly Ring[]
  readonly kerfBounds: readonly Bounds[]
  readonly rimBounds: readonly Bounds[]
}

/** The workpiece after the burn, ready to be painted in any piece and scale. Plain data: it can be sent to a worker. */
export interface Scene {
  readonly widthMm: number
  readonly heightMm: number
  readonly look: Material['look']
  readonly layers: readonly (DotLayer | KerfLayer)[]
}

/** Width of the scorched rim beside a cut, mm. */
export const RIM_MM = 0.22

/** The forecast of a job. @param only ids of operations to show, default all */
export function forecastScene(job: JobDocument, bench: Bench, only?: ReadonlySet<string>): Scene {
  const layers = job.runOrder.flatMap((id): (DotLayer | KerfLayer)[] => {
    if (only && !only.has(id)) return []
    const operation = job.operations[id]
    if (operation.kind === 'program') return [programLayer(job, id, operation, bench)]
    if (operation.kind === 'cut') {
      const part = grownRings(job, operation.node, 0, bench)
      if (part.length === 0) return []
      const width = Math.max(0.02, operation.kerfMm)
      const kerf = combine('subtract', grownRings(job, operation.node, width, bench), part)
      const rim = combine(
        'subtract',
        grownRings(job, operation.node, width + RIM_MM, bench),
        grownRings(job, operation.node, -RIM_MM, bench),
      )
      return [{ kind: 'kerf', operation: id, kerf, rim, kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }]
    }
    return [dotLayer(job, id, operation, bench)]
  })
  return { widthMm: job.workpiece.widthMm, heightMm: job.workpiece.heightMm, look: job.material.look, layers }
}

/** The dots that an operation burns, as dark as its settings turn them. */
function dotLayer(job: JobDocument, id: string, operation: PictureOperation, bench: Bench): DotLayer {
  const { machine, material } = job
  const { key, ...marks } = operationMarks(job, operation, bench)
  const tones = levelTones(material, machine, operation)
  const lag = (machine.riseTimeS * operation.speedMmS) / operation.intervalMm
  const pyramid = bench.cache.get(
    keyOf('pyramid', key, [...tones], lag, operation.bothWays),
    () => buildPyramid({ ...marks, levels: darknessOfDots(marks, tones, lag, operation.bothWays) }),
    (made) => made.levels.reduce((sum, level) => sum + level.levels.byteLength, 0),
  )
  return { ...layerOf(job, id, operation, pyramid), ...reliefOf(job, operation, marks, key, bench) }
}

/** How deep each dot goes, where grey is burned as power on a material whose depth was measured. */
function reliefOf(
  job: JobDocument,
  operation: PictureOperation,
  marks: Marks,
  key: string,
  bench: Bench,
): Pick<DotLayer, 'relief'> {
  const node = job.nodes[operation.node]
  if (node.kind !== 'picture' || node.dots.kernel !== 'none') return {}
  const depths = levelDepths(job.material, job.machine, operation)
  const deepMm = depths?.[255] ?? 0
  if (!depths || !(deepMm > 0)) return {}
  const shares = Uint8Array.from(depths, (depth) => Math.round((255 * depth) / deepMm))
  const pyramid = bench.cache.get(
    keyOf('relief', key, [...shares]),
    () => buildPyramid({ ...marks, levels: darknessOfDots(marks, shares, 0, operation.bothWays) }),
    (made) => made.levels.reduce((sum, level) => sum + level.levels.byteLength, 0),
  )
  return { relief: { pyramid, deepMm } }
}

/** Darkness of dots in its place. */
export function layerOf(job: JobDocument, id: string, operation: PictureOperation, pyramid: DotLayer['pyramid']): DotLayer {
  const { x0, y0, pitch } = dotGrid(job, operation)
  return { kind: 'dots', operation: id, pyramid, x0, y0, pitch, spot: spotMm(job.machine) }
}
