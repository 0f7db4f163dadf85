import { burnedKernel } from '../forecast/burned-kernel.ts'
import { type JobDocument, picturedRoot, placeOf } from '../job/document/document.ts'
import { operationMaterial } from '../job/document/pieces.ts'
import { fittedLens, type Lens, type Machine } from '../machine/machine.ts'
import { levelDepths } from '../material/level-powers.ts'
import { framedSize } from '../picture/framing.ts'
import type { Marks } from '../picture/prepare.ts'
import type { RowSettings } from '../process/picture/settings.ts'
import { dpiFromInterval, effectiveDpi } from '../units/resolution.ts'

/** Whether a picture, its dots and the spot suit each other, in lines that can be read at a glance. */
export interface ResolutionAdvice {
  /** Pixels an inch as it lies, and dots an inch that are burned. */
  readonly thereDpi: number
  readonly wantedDpi: number
  readonly verdict: 'missing' | 'suits' | 'wasted'
  /** One line about pixels. */
  readonly line: string
  /** One line about interval and spot. */
  readonly spotLine: string
  /** Another lens that suits better, and why. */
  readonly lens?: { readonly lens: Lens; readonly why: string }
  /** How far the beam's rise time draws an edge out at this speed, mm, and a line where that matters. */
  readonly blurMm: number
  readonly blurLine?: string
}

/** Lines closer than this share of the spot burn twice; wider than the spot they leave gaps. */
const CLOSE = 0.7
const MISSING = 0.75
const WASTED = 1.6

export function resolutionAdvice(job: JobDocument, operation: RowSettings): ResolutionAdvice {
  const { machine } = job
  const root = picturedRoot(job, operation.of[0])
  const { widthPx } = framedSize(root, root.framing)
  const thereDpi = effectiveDpi(widthPx, placeOf(job, root.id).widthMm)
  const wantedDpi = dpiFromInterval(operation.intervalMm)
  const share = thereDpi / wantedDpi
  const verdict = root.kind === 'drawing' ? 'suits' : share < MISSING ? 'missing' : share > WASTED ? 'wasted' : 'suits'
  const there = Math.round(thereDpi)
  const wanted = Math.round(wantedDpi)
  const line =
    root.kind === 'drawing'
      ? `A drawing: as fine as its ${wanted} dpi ask for.`
      : verdict === 'missing'
        ? `Pixels are missing: ${there} dpi there, ${wanted} dpi burned.`
        : verdict === 'wasted'
          ? `Pixels are wasted: ${there} dpi there, ${wanted} dpi burned. A finer lens could use them.`
          : `${there} dpi there, ${wanted} dpi burned: they suit.`
  const { spotMm } = fittedLens(machine)
  const { intervalMm } = operation
  const spotLine =
    intervalMm > spotMm * 1.001
      ? `Lines ${intervalMm} mm apart, spot ${spotMm} mm: gaps of ${(intervalMm - spotMm).toFixed(3)} mm stay.`
      : intervalMm < CLOSE * spotMm
        ? `Lines ${intervalMm} mm apart, spot ${spotMm} mm: every line burns its neighbour again.`
        : `Lines ${intervalMm} mm apart, spot ${spotMm} mm: they join.`
  const blurMm = machine.riseTimeS * operation.speedMmS
  const depths = levelDepths(operationMaterial(job, operation), machine, operation)
  const lens = betterLens(machine, intervalMm, operation, depths ? depths[255] : 0, thereDpi)
  return {
    thereDpi,
    wantedDpi,
    verdict,
    line,
    spotLine,
    blurMm,
    ...(blurMm > intervalMm / 2
      ? {
          blurLine: `The beam needs ${blurMm.toFixed(2)} mm to follow at ${operation.speedMmS} mm/s: dots of ${intervalMm} mm blur.`,
        }
      : {}),
    ...(lens ? { lens } : {}),
  }
}

/** The lens whose spot joins lines at this interval, or whose focus reaches as deep as is carved. */
function betterLens(
  machine: Machine,
  intervalMm: number,
  { evenIn, minPower }: RowSettings,
  depthMm: number,
  thereDpi: number,
): ResolutionAdvice['lens'] {
  const fitted = fittedLens(machine)
  const carved = minPower > 0 || evenIn === 'depth'
  if (carved && depthMm > fitted.depthOfFocusMm) {
    const deeper = machine.lenses.filter(({ depthOfFocusMm }) => depthOfFocusMm >= depthMm).sort((a, b) => a.spotMm - b.spotMm)[0]
    if (deeper)
      return {
        lens: deeper,
        why: `${depthMm.toFixed(1)} mm deep leaves the focus of ${fitted.name}: ${deeper.name} stays sharp over ${deeper.depthOfFocusMm} mm.`,
      }
  }
  const fits = ({ spotMm }: Lens): boolean => intervalMm >= CLOSE * spotMm && intervalMm <= spotMm * 1.001
  if (!fits(fitted)) {
    const other = machine.lenses.find((lens) => lens.id !== fitted.id && fits(lens))
    if (other) return { lens: other, why: `Its spot of ${other.spotMm} mm joins lines ${intervalMm} mm apart.` }
  }
  const detail = 25.4 / thereDpi
  const finer = machine.lenses.filter(({ spotMm }) => spotMm < fitted.spotMm).sort((a, b) => b.spotMm - a.spotMm)[0]
  if (finer && detail < 0.6 * fitted.spotMm && detail >= 0.5 * finer.spotMm)
    return {
      lens: finer,
      why: `The picture has detail of ${detail.toFixed(2)} mm; ${fitted.name} cannot show less than ${fitted.spotMm} mm.`,
    }
  return undefined
}

/** Bytes of a line of the program, by what the writer writes most. */
const BYTES_A_LINE = 12.5

/** How many lines and bytes a picture's program has, from its dots: a line for each change of power, four for each row. */
export function programSize({ columns, rows, levels }: Marks, passes: number): { lines: number; bytes: number } {
  const { run, room } = burnedKernel()
  const from = run.freeFrom()
  const memory = room(from + columns + 32)
  let lines = 0
  for (let r = 0; r < rows; r++) {
    let first = r * columns
    const end = first + columns
    while (first < end && levels[first] === 0) first++
    if (first === end) continue
    let last = end - 1
    while (levels[last] === 0) last--
    memory.set(levels.subarray(first, last + 1), from)
    lines += 5 + run.changes(from, last + 1 - first)
  }
  return { lines: lines * passes, bytes: Math.round(lines * passes * BYTES_A_LINE) }
}
