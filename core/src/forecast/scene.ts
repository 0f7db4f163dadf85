import type { Bounds } from '../geometry/bounds.ts'
import { combine } from '../geometry/clip.ts'
import { type Ring, ringBounds } from '../geometry/ring.ts'
import { type JobDocument, sourceOf } from '../job/document.ts'
import type { Bench } from '../job/evaluate.ts'
import { grownRings, operationMarks } from '../job/evaluate.ts'
import { spotMm, wattsAt } from '../machine/machine.ts'
import { areaDose, type Material } from '../material/material.ts'
import { dotGrid } from '../plan/grid.ts'
import { programLayer } from './program-layer.ts'
import { buildPyramid, type MarkPyramid } from './pyramid.ts'

/** Burned dots on the workpiece. */
export interface DotLayer {
  readonly kind: 'dots'
  /** The operation that burns it. */
  readonly operation: string
  readonly pyramid: MarkPyramid
  /** Corner of the first dot and the pitch, job mm. */
  readonly x0: number
  readonly y0: number
  readonly pitch: number
  readonly spot: number
  /** How dark full mark turns out, 0–1. */
  readonly darkness: number
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

/** How dark a dose turns the surface, 0 untouched to 1. The window says where it starts and where it is full. */
export function darknessOf(material: Material, doseJPerMm2: number): number {
  const { from, to } = material.markDose
  const share = (doseJPerMm2 - from) / (to - from)
  return share <= 0 ? 0 : share >= 1 ? 1 : share ** 0.7
}

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
    const grid = dotGrid(job.placements[sourceOf(job, operation.node)], operation)
    const { key, ...marks } = operationMarks(job, operation, bench)
    const pyramid = bench.cache.get(
      `pyramid ${key}`,
      () => buildPyramid(marks),
      (made) => made.levels.slice(1).reduce((sum, level) => sum + level.levels.byteLength, 0),
    )
    const dose = areaDose(wattsAt(job.machine, operation.power), operation.speedMmS, operation.intervalMm) * operation.passes
    return [
      {
        kind: 'dots',
        operation: id,
        pyramid,
        x0: grid.x0,
        y0: grid.y0,
        pitch: grid.pitch,
        spot: spotMm(job.machine),
        darkness: darknessOf(job.material, dose),
      },
    ]
  })
  return { widthMm: job.workpiece.widthMm, heightMm: job.workpiece.heightMm, look: job.material.look, layers }
}
