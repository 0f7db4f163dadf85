import { type KerfLayer, RIM_MM } from '../forecast/layers.ts'
import { type Ring, ringBounds } from '../geometry/ring.ts'
import { pieceChart } from '../job/document/pieces.ts'
import { startOf } from '../motion/track.ts'
import { axesToPoint } from '../space/chart.ts'
import { band } from './band.ts'
import type { Burning, Stretch } from './process.ts'

/**
 * What followed paths have left by a moment: cut open where every pass has been, scorched where the first has.
 * @param widthMm of the cut, or of the line @param opens whether it is a cut: else it only marks
 */
export function pathsSoFar(
  { job, id, operation, piece }: Burning,
  widthMm: number,
  { track, first, move }: Stretch,
  opens = true,
): KerfLayer {
  const chart = pieceChart(job, piece)
  const passes = new Map<string, number>()
  const kerf: Ring[] = []
  const rim: Ring[] = []
  const half = Math.max(0.02, widthMm) / 2
  for (let i = first; i < move; i++) {
    if (track.s[i] === 0) continue
    const from = startOf(track, i)
    const key = `${from.x},${from.y},${track.x[i]},${track.y[i]}`
    const count = (passes.get(key) ?? 0) + 1
    passes.set(key, count)
    const ends = [...axesToPoint(chart, from.x, from.y), ...axesToPoint(chart, track.x[i], track.y[i])] as const
    if (count === 1) rim.push(band(...ends, opens ? half + RIM_MM : half))
    if (opens && count === operation.passes) kerf.push(band(...ends, half))
  }
  const bounds = { kerfBounds: kerf.map(ringBounds), rimBounds: rim.map(ringBounds) }
  return { kind: 'kerf', operation: id, kerf, rim, ...bounds, ...(opens ? {} : { lineMm: 2 * half }) }
}
