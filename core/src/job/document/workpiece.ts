import type { Bounds } from '../../geometry/bounds.ts'
import { type Ring, ringsBounds } from '../../geometry/ring.ts'
import type { Pose, Size } from '../../space/pose.ts'

/** The edge of a workpiece on its face, mm; the box around it begins at the face's origin. */
export type PieceOutline =
  | { readonly kind: 'rect'; readonly widthMm: number; readonly heightMm: number }
  | { readonly kind: 'circle'; readonly diameterMm: number }
  /** Any outline, holes too, by even-odd: x, y pairs. */
  | { readonly kind: 'rings'; readonly rings: readonly (readonly number[])[] }

/** What kind of face it is. The face of a thing that turns is laid flat. */
export type Surface = Flat | Cylinder | Tapered | Profiled

/** A face that lies still under the head. */
export interface Flat {
  readonly kind: 'flat'
  readonly arch?: Arch
  /** It is uneven: how high it was found at places of a grid. */
  readonly heights?: Heights
  /** The lens follows it while it burns, where the machine moves its lens. */
  readonly follows?: true
  /** Where it does not: it is burned in strips that are sharp, and the machine waits for a hand that sets each focus. */
  readonly strips?: true
}

/** How much higher than it is thick a face lies, mm, at even places over all of its box: row by row from its rear left corner to its front right. */
export interface Heights {
  readonly columns: number
  readonly rows: number
  readonly mm: readonly number[]
}

/** A face that is curved one way under a head that does not turn: a hull plank, a pebble. Its crown goes through the middle of the face. */
export interface Arch {
  readonly radiusMm: number
  /** The way in which it falls away from its crown. */
  readonly across: 'x' | 'y'
}

/** Something round whose axis lies along x of its face; y goes once around. */
export interface Cylinder extends Ends {
  readonly kind: 'cylinder'
  readonly diameterMm: number
}

/** Something tapered, on its side: x goes along that, y once around its widest place; artwork follows the taper. */
export interface Tapered extends Ends {
  readonly kind: 'cone'
  /** Its diameters at the left and the right end of its face. */
  readonly leftMm: number
  readonly rightMm: number
}

/** A stepped or bellied thing: x goes along its axis, y once around its widest place. */
export interface Profiled extends Ends {
  readonly kind: 'profile'
  readonly places: RoundProfile
}

/** Diameters at places along an axis, in their order, mm; straight between them. */
export type RoundProfile = readonly { readonly alongMm: number; readonly diameterMm: number }[]

/** Which end of something that turns is held, and where its lip is, seen on its face; absent: nobody said. */
export interface Ends {
  readonly held?: FaceEnd
  readonly lip?: FaceEnd
}
export type FaceEnd = 'left' | 'right'

/** A part of the face on which nothing may be burned: a clamp, a hole, a handle. */
export interface KeepOut {
  readonly name: string
  readonly outline: PieceOutline
  /** Where the box around it lies on the face. */
  readonly pose: Pose
}

/** How a piece is turned over: its left becomes its right, or its rear its front. */
export type TurnedOver = 'left-right' | 'top-bottom'

/** A thing that lies in the machine, with one face up. */
export interface Workpiece {
  readonly name: string
  /** Id of its material among the job's. */
  readonly material: string
  readonly outline: PieceOutline
  readonly surface: Surface
  readonly thicknessMm: number
  readonly keepOuts: Readonly<Record<string, KeepOut>>
  /** Places on its face by which it can be found again, mm. */
  readonly marks: Readonly<Record<string, { readonly xMm: number; readonly yMm: number }>>
  /** Direction of its grain, degrees from x towards y. */
  readonly grainDeg?: number
  /** It is the second side of another workpiece, which comes up when that one is turned over. */
  readonly back?: { readonly of: string; readonly way: TurnedOver }
  /** The piece of stock that it is, and what that is worth, hundredths of the shop's currency; absent: from nowhere. */
  readonly stock?: { readonly id: string; readonly cents: number }
  /** How the box around its face lies on the bed: mm from the bed's rear left corner. */
  readonly pose: Pose
}

/** How far it is once around what turns, mm: so high is its face; undefined where it is flat. */
export const onceAround = ({ surface, outline }: Pick<Workpiece, 'surface' | 'outline'>): number | undefined =>
  surface.kind === 'flat' ? undefined : outlineSize(outline).heightMm

/** Chords of a round outline stay within this, mm. */
const ROUND_MM = 0.005

const CIRCLES = new Map<number, Ring>()

function circleRing(diameterMm: number): Ring {
  const known = CIRCLES.get(diameterMm)
  if (known) return known
  const r = diameterMm / 2
  const corners = Math.max(24, Math.ceil(Math.PI / Math.acos(1 - Math.min(0.5, ROUND_MM / r))))
  const ring = new Float64Array(2 * corners)
  for (let i = 0; i < corners; i++) {
    const a = (2 * Math.PI * i) / corners
    ring[2 * i] = r + r * Math.cos(a)
    ring[2 * i + 1] = r + r * Math.sin(a)
  }
  if (CIRCLES.size > 50) CIRCLES.clear()
  CIRCLES.set(diameterMm, ring)
  return ring
}

const RINGS = new WeakMap<object, readonly Ring[]>()

/** The edge of a face as polygons by even-odd, mm from the corner of the box around it. */
export function outlineOfFace(outline: PieceOutline): readonly Ring[] {
  if (outline.kind === 'rect') {
    const { widthMm: w, heightMm: h } = outline
    return [Float64Array.of(0, 0, w, 0, w, h, 0, h)]
  }
  if (outline.kind === 'circle') return [circleRing(outline.diameterMm)]
  let rings = RINGS.get(outline.rings)
  if (!rings) {
    rings = outline.rings.map((ring) => Float64Array.from(ring))
    RINGS.set(outline.rings, rings)
  }
  return rings
}

/** Width and height of the box around an outline. */
export function outlineSize(outline: PieceOutline): Size {
  if (outline.kind === 'rect') return outline
  if (outline.kind === 'circle') return { widthMm: outline.diameterMm, heightMm: outline.diameterMm }
  const { x1, y1 } = ringsBounds(outlineOfFace(outline) as Ring[])
  return { widthMm: x1, heightMm: y1 }
}

/** Width and height of the box around a workpiece's face. */
export const faceSize = ({ outline }: Pick<Workpiece, 'outline'>): Size => outlineSize(outline)

/** How a piece is curved across, and where its crown lies; undefined where it is flat, or turns. */
export function archOf(piece: Pick<Workpiece, 'surface' | 'outline'>): (Arch & { readonly crownMm: number }) | undefined {
  const { surface } = piece
  if (surface.kind !== 'flat' || !surface.arch) return undefined
  const { widthMm, heightMm } = faceSize(piece)
  return { ...surface.arch, crownMm: (surface.arch.across === 'x' ? widthMm : heightMm) / 2 }
}

/** That box. */
export function faceBox(workpiece: Pick<Workpiece, 'outline'>): Bounds {
  const { widthMm, heightMm } = faceSize(workpiece)
  return { x0: 0, y0: 0, x1: widthMm, y1: heightMm }
}

/** An outline of polygons as a face has it: moved so that its box begins at the origin, to a micrometre. */
export function faceOutline(rings: readonly Ring[]): PieceOutline {
  const { x0, y0 } = ringsBounds(rings as Ring[])
  const micro = (mm: number): number => Math.round(mm * 1000) / 1000
  return {
    kind: 'rings',
    rings: rings.map((ring) => Array.from(ring, (v, i) => micro(v - (i % 2 === 0 ? x0 : y0)))),
  }
}
