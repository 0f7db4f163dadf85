import { archOf, chartOf, faceSize, type JobDocument, mainPiece, mapped, mappedRings, outlineOfFace } from '@neotaxis/core'
import { atPanel } from './panel-client.ts'

/** What lies in a machine: its material, and its edge where it lies, polygons by even-odd in the machine's own mm. */
export interface Laid {
  readonly material: string
  readonly thicknessMm: number
  readonly edge: readonly (readonly number[])[]
  /** It is round, and turns in a rotary. */
  readonly diameterMm?: number
  /** What is set at the controller for that, mm/s and mm/s². */
  readonly turns?: { readonly speed: number; readonly acceleration: number }
  /** Its face is curved under the head: where its crown lies in the machine. */
  readonly arch?: { readonly radius: number; readonly across: 'x' | 'y'; readonly crown: number }
  /** Its face is uneven, mm from its highest to its lowest place: the simulated machine knows how. */
  readonly uneven?: { readonly deep: number; readonly seed: number }
  /** Tilted so that its upper side is level. */
  readonly levelled?: boolean
  /** It tapers: its diameters at places along x of the machine, mm. */
  readonly profile?: readonly (readonly [x: number, diameter: number])[]
}

/** What is told to be uneven really is, in a simulated machine, mm. */
const UNEVEN = { deep: 3, seed: 4 }

/** What a job wants laid in, as it lies at first: its main workpiece, and those that are of the same stuff. */
export function laidFor(job: JobDocument): Laid {
  const { material, thicknessMm, surface, pose } = mainPiece(job)
  const { widthMm } = faceSize(mainPiece(job))
  const alike = Object.entries(job.workpieces).filter(
    ([, piece]) => piece.back === undefined && piece.material === material && piece.thicknessMm === thicknessMm,
  )
  const edge = alike
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .flatMap(([id, { outline }]) => mappedRings(chartOf(job, id).toAxes, outlineOfFace(outline)))
  const { turns } = job.machine
  const arch = archOf(mainPiece(job))
  return {
    material,
    thicknessMm,
    ...(surface.kind === 'profile' && {
      profile: surface.places.map(({ alongMm, diameterMm }) => [pose.xMm + alongMm, diameterMm] as const),
    }),
    ...(surface.kind === 'cone' && {
      levelled: true,
      profile: [
        [pose.xMm, surface.leftMm],
        [pose.xMm + widthMm, surface.rightMm],
      ] as const,
    }),
    ...(arch && !pose.deg && { arch: { radius: arch.radiusMm, across: arch.across, crown: crownIn(job) } }),
    ...(surface.kind === 'flat' && surface.heights && { uneven: UNEVEN }),
    ...(turns && {
      diameterMm: turns.diameterMm,
      turns: { speed: turns.device.speedMmS, acceleration: turns.device.accelerationMmS2 },
    }),
    edge: edge.map((ring) => Array.from(ring, (v) => Math.round(v * 1e4) / 1e4)),
  }
}

/** Where the crown of a curved face lies, mm of the machine, along the way that it falls away. */
function crownIn(job: JobDocument): number {
  const piece = mainPiece(job)
  const { widthMm, heightMm } = faceSize(piece)
  const [x, y] = mapped(chartOf(job).toAxes, widthMm / 2, heightMm / 2)
  return archOf(piece)?.across === 'y' ? y : x
}

/** Sheets are seldom as thick as it is written on them, share. */
const THICKER = 1.035

/** A piece as it really comes: a little thicker than it is said to be. */
export const asItComes = (laid: Laid): Laid => ({ ...laid, thicknessMm: Math.round(laid.thicknessMm * THICKER * 100) / 100 })

/** The hand that lays a fresh workpiece into a simulated machine. */
export async function layIn(
  panel: number,
  { material, thicknessMm, edge, diameterMm, turns, profile, levelled, arch, uneven }: Laid,
): Promise<void> {
  const xs = edge.flatMap((ring) => ring.filter((_, i) => i % 2 === 0))
  const ys = edge.flatMap((ring) => ring.filter((_, i) => i % 2 === 1))
  const least = (list: readonly number[]): number => list.reduce((a, b) => Math.min(a, b), Infinity)
  const most = (list: readonly number[]): number => list.reduce((a, b) => Math.max(a, b), -Infinity)
  const laid = {
    material: material.replace(/-\d+$/, ''),
    thickness: thicknessMm,
    x0: least(xs),
    y0: least(ys),
    x1: most(xs),
    y1: most(ys),
    edge,
    ...(arch && { arch }),
    ...(uneven && { uneven }),
    ...(diameterMm !== undefined && {
      turned: { diameter: diameterMm, ...turns, ...(profile && { profile, levelled: levelled ?? false }) },
    }),
  }
  // A material that the stand-in does not have stays outside: it burns air then.
  await atPanel(panel, { do: 'lay', laid }).catch(() => atPanel(panel, { do: 'lift' }))
}
