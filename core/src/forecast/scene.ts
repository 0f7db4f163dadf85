import type { Bounds } from '../geometry/bounds.ts'
import { type Ring, ringBounds } from '../geometry/ring.ts'
import type { Bench } from '../job/bench.ts'
import { keyOf } from '../job/bench.ts'
import { type CutOperation, givesLines, type JobDocument, type PictureOperation } from '../job/document.ts'
import { bandRings, grownRings, outlineKey } from '../job/evaluate.ts'
import { cutsThrough, jobPieces, kerfBand, kerfSide } from '../job/hold.ts'
import { ringBytes } from '../job/local.ts'
import { operationMarks } from '../job/pictured.ts'
import { spotMm } from '../machine/machine.ts'
import { dotReach } from '../material/answer.ts'
import type { Material } from '../material/material.ts'
import { bytesBy } from '../picture/bytes.ts'
import type { Marks } from '../picture/prepare.ts'
import { dotGrid } from '../plan/grid.ts'
import { levelDepths, levelTones } from '../plan/level-powers.ts'
import { coverOfDots, darknessOfDots } from './darkness.ts'
import { programLayer } from './program-layer.ts'
import { buildPyramid, type MarkPyramid } from './pyramid.ts'

/** Burned dots on the workpiece. */
export interface DotLayer {
  readonly kind: 'dots'
  /** The operation that burns it. */
  readonly operation: string
  /** Darkness of every dot, 0–255. */
  readonly dark: Uint8Array
  /** How much of every cell is dark, 0–255, with what reaches into it from beside. */
  readonly pyramid: MarkPyramid
  /** How far dots reach beyond their own way at either end, mm. */
  readonly reachMm: number
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

/** Pieces that fall when a cut is through. */
export interface GoneLayer {
  readonly kind: 'gone'
  /** The cut that frees them. */
  readonly operation: string
  readonly rings: readonly Ring[]
  readonly bounds: readonly Bounds[]
}

/** The workpiece after the burn, ready to be painted in any piece and scale. Plain data: it can be sent to a worker. */
export interface Scene {
  readonly widthMm: number
  readonly heightMm: number
  readonly look: Material['look']
  readonly layers: readonly (DotLayer | KerfLayer | GoneLayer)[]
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
      const made = cutLines(job, operation, bench)
      return made.kerf.length + made.rim.length > 0 ? [{ kind: 'kerf', operation: id, ...made }] : []
    }
    return [dotLayer(job, id, operation, bench)]
  })
  return {
    widthMm: job.workpiece.widthMm,
    heightMm: job.workpiece.heightMm,
    look: job.material.look,
    layers: [...layers, ...goneLayers(job, bench, only)],
  }
}

/** What is not there any more after the cuts: what falls out of parts and stencils, wanted or not. */
function goneLayers(job: JobDocument, bench: Bench, only: ReadonlySet<string> | undefined): GoneLayer[] {
  const layers = new Map<string, Ring[]>()
  for (const { fate, operation, outer, holes } of jobPieces(job, bench)) {
    if (!operation || (fate !== 'waste' && fate !== 'lost') || (only && !only.has(operation))) continue
    const list = layers.get(operation) ?? []
    layers.set(operation, list)
    list.push(outer, ...holes)
  }
  return [...layers].map(([operation, rings]) => ({ kind: 'gone', operation, rings, bounds: rings.map(ringBounds) }))
}

type CutLines = Omit<KerfLayer, 'kind' | 'operation'>

/** What a cut takes away, and its rim; kept as long as neither its outlines nor its settings change. */
function cutLines(job: JobDocument, operation: CutOperation, bench: Bench): CutLines {
  const lines = givesLines(job, operation.node)
  const isThrough = cutsThrough(job, operation)
  const { kerfMm } = operation
  const own = lines ? [isThrough, spotMm(job.machine)] : [kerfSide(operation)]
  return bench.cache.get(
    keyOf('cut lines', outlineKey(job, operation.node, bench), lines, kerfMm, own),
    () => {
      const { kerf, rim } = lines ? scored(job, operation, isThrough, bench) : cutOut(job, operation, bench)
      return { kerf, rim, kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
    },
    ({ kerf, rim }) => ringBytes(kerf) + ringBytes(rim),
  )
}

function cutOut(job: JobDocument, operation: CutOperation, bench: Bench): Pick<CutLines, 'kerf' | 'rim'> {
  const kerf = kerfBand(job, operation, bench)
  if (kerf.length === 0) return { kerf, rim: [] }
  const width = Math.max(0.02, operation.kerfMm)
  const [out, inwards] = kerfSide(operation) > 0 ? [width, 0] : [0, width]
  return { kerf, rim: bandRings(job, operation.node, -inwards - RIM_MM, out + RIM_MM, bench) }
}

/** Lines that are followed: cut through where their dose is a cut's, else a mark as wide as the beam. */
function scored(
  job: JobDocument,
  { node, kerfMm }: CutOperation,
  isThrough: boolean,
  bench: Bench,
): Pick<CutLines, 'kerf' | 'rim'> {
  const width = Math.max(spotMm(job.machine), 0.02)
  return {
    kerf: isThrough ? grownRings(job, node, Math.max(width, kerfMm), bench) : [],
    rim: grownRings(job, node, isThrough ? kerfMm + 2 * RIM_MM : width, bench),
  }
}

/** The dots that an operation burns, as dark as its settings turn them. */
function dotLayer(job: JobDocument, id: string, operation: PictureOperation, bench: Bench): DotLayer {
  const { machine, material } = job
  const { key, ...marks } = operationMarks(job, operation, bench)
  const tones = levelTones(material, machine, operation)
  const lag = (machine.riseTimeS * operation.speedMmS) / operation.intervalMm
  const reachMm = dotReach(material, machine.id)
  const burned = bench.cache.get(
    keyOf('burned dots', key, [...tones], lag, operation.bothWays, reachMm / operation.intervalMm),
    () => burnedDots(marks, darknessOfDots(marks, tones, lag, operation.bothWays), reachMm / operation.intervalMm),
    (made) => made.pyramid.levels.reduce((sum, level) => sum + level.levels.byteLength, made.dark.byteLength),
  )
  return { ...layerOf(job, id, operation, burned), ...reliefOf(job, operation, marks, key, bench) }
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
  const shares = bytesBy(depths.length, (i) => Math.round((255 * depths[i]) / deepMm))
  const pyramid = bench.cache.get(
    keyOf('relief', key, [...shares]),
    () => buildPyramid({ ...marks, levels: darknessOfDots(marks, shares, 0, operation.bothWays) }),
    (made) => made.levels.reduce((sum, level) => sum + level.levels.byteLength, 0),
  )
  return { relief: { pyramid, deepMm } }
}

type Burned = Pick<DotLayer, 'dark' | 'pyramid'>

/** Dots ready to be painted at any scale. @param dark darkness of each @param reach see `coverOfDots` */
export function burnedDots(
  { columns, rows }: { readonly columns: number; readonly rows: number },
  dark: Uint8Array,
  reach: number,
): Burned {
  return { dark, pyramid: buildPyramid({ columns, rows, levels: coverOfDots(columns, dark, reach) }) }
}

/** Burned dots in their place. */
export function layerOf(job: JobDocument, id: string, operation: PictureOperation, burned: Burned): DotLayer {
  const { x0, y0, pitch } = dotGrid(job, operation)
  const reachMm = dotReach(job.material, job.machine.id)
  return { kind: 'dots', operation: id, ...burned, reachMm, x0, y0, pitch, spot: spotMm(job.machine) }
}
