import { type Ring, ringBounds } from '../geometry/ring.ts'
import type { Bench } from '../job/bench.ts'
import type { CutOperation, JobDocument, PictureOperation, ProgramOperation } from '../job/document.ts'
import { operationMarks } from '../job/pictured.ts'
import { spotMm } from '../machine/machine.ts'
import { dotReach } from '../material/answer.ts'
import { moveAt, partOf, startOf, type Track } from '../motion/track.ts'
import { jobFrame } from '../plan/frame.ts'
import { dotGrid } from '../plan/grid.ts'
import { levelTones } from '../plan/level-powers.ts'
import { band } from './band.ts'
import { darknessOfDots } from './darkness.ts'
import { burnedDots, type DotLayer, forecastScene, type KerfLayer, layerOf, RIM_MM, type Scene } from './scene.ts'

/** The workpiece as it is at a moment of the run: what is burned by then, and nothing else. */
export function sceneAt(job: JobDocument, bench: Bench, track: Track, seconds: number): Scene {
  const move = moveAt(track, seconds)
  const part = partOf(track, Math.min(move, track.count - 1))
  const done = track.parts.slice(0, move >= track.count ? undefined : part).map(({ id }) => id)
  const scene = forecastScene(job, bench, new Set(done))
  const id = track.parts[part]?.id
  const operation = id === undefined ? undefined : job.operations[id]
  if (move >= track.count || !operation) return scene
  const first = track.parts[part].firstMove
  const end = track.parts[part + 1]?.firstMove ?? track.count
  const stretch = { first, move, end }
  const layers =
    operation.kind === 'picture'
      ? dotsSoFar(job, id, operation, bench, track, stretch)
      : [kerfSoFar(job, id, operation, track, stretch)]
  return { ...scene, layers: [...scene.layers, ...layers] }
}

interface Stretch {
  readonly first: number
  /** The move that is under way: it does not count yet. */
  readonly move: number
  readonly end: number
}

function dotsSoFar(
  job: JobDocument,
  id: string,
  operation: PictureOperation,
  bench: Bench,
  track: Track,
  { first, move, end }: Stretch,
): DotLayer[] {
  const grid = dotGrid(job, operation)
  const { levels, columns, rows } = operationMarks(job, operation, bench)
  const { x, y } = jobFrame(job)
  const aPass = Math.max(1, (end - first) / operation.passes)
  const passes = Math.floor((move - first) / aPass)
  const burned = new Uint8Array(levels.length)
  for (let i = first + Math.floor(passes * aPass); i < move; i++) {
    if (track.s[i] === 0) continue
    const row = Math.round((y(track.y[i]) - grid.y0) / grid.pitch - 0.5)
    const a = (x(startOf(track, i).x) - grid.x0) / grid.pitch
    const b = (x(track.x[i]) - grid.x0) / grid.pitch
    const from = row * columns + Math.round(Math.min(a, b))
    const to = row * columns + Math.round(Math.max(a, b))
    if (row >= 0 && row < rows) burned.set(levels.subarray(from, to), from)
  }
  const after = (count: number): Uint8Array => levelTones(job.material, job.machine, operation, count)
  const layer = (marks: Uint8Array, tones: Uint8Array): DotLayer => {
    const dark = darknessOfDots({ columns, rows, levels: marks }, tones, 0, operation.bothWays)
    return layerOf(job, id, operation, burnedDots(grid, dark, dotReach(job.material, job.machine.id) / grid.pitch))
  }
  const before = after(passes)
  const now = layer(
    burned,
    after(passes + 1).map((tone, level) => tone - before[level]),
  )
  return passes > 0 ? [layer(levels, before), now] : [now]
}

/** Cut open where every pass has been, scorched where the first has. */
function kerfSoFar(
  job: JobDocument,
  id: string,
  operation: CutOperation | ProgramOperation,
  track: Track,
  { first, move }: Stretch,
): KerfLayer {
  const { x, y } = jobFrame(job)
  const passes = new Map<string, number>()
  const kerf: Ring[] = []
  const rim: Ring[] = []
  const half = Math.max(0.02, operation.kind === 'cut' ? operation.kerfMm : spotMm(job.machine)) / 2
  for (let i = first; i < move; i++) {
    if (track.s[i] === 0) continue
    const from = startOf(track, i)
    const key = `${from.x},${from.y},${track.x[i]},${track.y[i]}`
    const count = (passes.get(key) ?? 0) + 1
    passes.set(key, count)
    const ends = [x(from.x), y(from.y), x(track.x[i]), y(track.y[i])] as const
    if (count === 1) rim.push(band(...ends, half + RIM_MM))
    if (count === operation.passes) kerf.push(band(...ends, half))
  }
  return { kind: 'kerf', operation: id, kerf, rim, kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
}
