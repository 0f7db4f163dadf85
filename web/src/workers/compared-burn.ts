import {
  type BurnedMaps,
  burningsOf,
  burnOrder,
  chartOf,
  compareBurn,
  coverage,
  dotsKept,
  forecastMaps,
  forecastScene,
  type JobDocument,
  mainPieceId,
  mappedPoints,
  materialOf,
  processOf,
  type Supply,
  sweptScene,
} from '@neotaxis/core'
import type { BurnComparison } from './shared.ts'

/** Pictures of forecast, burn and difference are at most so wide. */
const SHOWN_PX = 560

type Maps = Pick<BurnedMaps, 'tone' | 'through'>

/** Leaves of maps only what lies in the zone that a run was limited to. */
function zoneOn(job: JobDocument, { columns, rows, cellMm, x0, y0 }: BurnedMaps): (maps: Maps) => Maps {
  const { zone } = job.limits ?? {}
  if (!zone) return (maps) => maps
  const { toSweep } = chartOf(job)
  const corners = Float64Array.of(zone.x0, zone.y0, zone.x1, zone.y0, zone.x1, zone.y1, zone.x0, zone.y1)
  const ring = mappedPoints(toSweep, corners).map((v, i) => (v - (i % 2 === 0 ? x0 : y0)) / cellMm)
  const inside = coverage([ring], columns, rows)
  const left = (map: Uint8Array): Uint8Array => map.map((v, i) => (inside[i] >= 0.5 ? v : 0))
  return ({ tone, through }) => ({ tone: left(tone), through: left(through) })
}

/** What all workpieces are forecast to look like, as the machine's own rows lie: so was the burn seen, from where the first one lies. */
function allForecast(job: JobDocument, supply: Supply, { columns, rows, cellMm, x0, y0 }: BurnedMaps): Maps {
  const main = mainPieceId(job)
  const from = job.workpieces[main].pose
  const mapsOf = (id: string): Maps => {
    const { pose } = job.workpieces[id]
    const scene = sweptScene(forecastScene(job, supply, undefined, id), chartOf(job, id))
    return forecastMaps(scene, columns, rows, cellMm, x0 - (pose.xMm - from.xMm), y0 - (pose.yMm - from.yMm))
  }
  const own = mapsOf(main)
  for (const id of Object.keys(job.workpieces)) {
    if (id === main) continue
    const { tone, through } = mapsOf(id)
    for (let i = 0; i < tone.length; i++) {
      own.tone[i] = Math.max(own.tone[i], tone[i])
      own.through[i] = Math.max(own.through[i], through[i])
    }
  }
  return own
}

/** How dark each place of the bed is forecast to be, 0–255: what is cut through is dark. @param view a part of the bed */
export function darkOnBed(
  job: JobDocument,
  supply: Supply,
  view: { readonly x: number; readonly y: number; readonly columns: number; readonly rows: number; readonly cellMm: number },
): Uint8Array {
  const { columns, rows, cellMm } = view
  const { xMm, yMm } = job.workpieces[mainPieceId(job)].pose
  const none = new Uint8Array(0)
  const at = { columns, rows, cellMm, x0: view.x - xMm, y0: view.y - yMm, tone: none, through: none }
  const { tone, through } = zoneOn(job, at)(allForecast(job, supply, at))
  return tone.map((v, i) => Math.max(v, through[i]))
}

/** Forecast against burn: numbers, and three pictures to look at. */
export function comparedBurn(job: JobDocument, supply: Supply, seenAll: BurnedMaps): BurnComparison {
  const { columns, rows } = seenAll
  const within = zoneOn(job, seenAll)
  const burned = { ...seenAll, ...within(seenAll) }
  const main = mainPieceId(job)
  const maps = within(allForecast(job, supply, seenAll))
  const dots = burnOrder(job)
    .flatMap((id) => burningsOf(job, id, supply, main))
    .flatMap((context) => {
      const made = processOf(context.operation).dots?.(context)
      return made ? [dotsKept(made.marks, made.field, burned, maps)] : []
    })
  const step = Math.max(1, Math.ceil(columns / SHOWN_PX))
  const widthPx = Math.floor(columns / step)
  const heightPx = Math.floor(rows / step)
  const mean = (map: Uint8Array, px: number, py: number): number => {
    let sum = 0
    for (let r = py * step; r < (py + 1) * step; r++)
      for (let c = px * step; c < (px + 1) * step; c++) sum += map[r * columns + c]
    return sum / (step * step)
  }
  const difference = new Uint8ClampedArray(4 * widthPx * heightPx)
  const seen = new Uint8ClampedArray(4 * widthPx * heightPx)
  const { surface, burn } = materialOf(job).look
  for (let py = 0; py < heightPx; py++) {
    for (let px = 0; px < widthPx; px++) {
      const o = 4 * (py * widthPx + px)
      const tone = mean(burned.tone, px, py)
      const cut = mean(burned.through, px, py)
      const off = (tone - mean(maps.tone, px, py) + 2 * (cut - mean(maps.through, px, py))) / 255
      // Too much goes to red-violet, too little to blue-green; what is as expected stays grey.
      difference[o] = 225 - (off < 0 ? 210 * -off : 40 * off)
      difference[o + 1] = 222 - (off < 0 ? 70 * -off : 200 * off)
      difference[o + 2] = 214 - (off < 0 ? 60 * -off : 90 * off)
      difference[o + 3] = 255
      for (let k = 0; k < 3; k++) seen[o + k] = surface[k] + ((burn[k] - surface[k]) * tone) / 255
      seen[o + 3] = 255 - cut
    }
  }
  const counted = dots.filter((share) => share !== undefined)
  return {
    ...compareBurn(maps, burned),
    dots: counted.length > 0 ? Math.min(...counted) : null,
    tooFineMm: counted.length < dots.length ? seenAll.cellMm : null,
    widthPx,
    heightPx,
    difference,
    seen,
  }
}
