import type { Bounds } from '../geometry/bounds.ts'
import type { Ring } from '../geometry/ring.ts'
import type { Material } from '../material/material.ts'
import type { Affine } from '../space/affine.ts'
import type { MarkPyramid } from './pyramid.ts'

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
  /** Corner of the first dot and the pitch, mm of the sweep: straight rows along the machine's own x. */
  readonly x0: number
  readonly y0: number
  readonly pitch: number
  /** From the sweep to the face; absent where they are the same. */
  readonly toFace?: Affine
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
  /** Of lines that only mark: how wide they are, mm. They are seen at any scale. */
  readonly lineMm?: number
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
  /** The box around the face. */
  readonly widthMm: number
  readonly heightMm: number
  /** The edge of the face; absent where it is the box. */
  readonly outline?: readonly Ring[]
  readonly look: Material['look']
  readonly layers: readonly Layer[]
}

/** What an operation leaves on the material. */
export type Layer = DotLayer | KerfLayer | GoneLayer

/** Width of the scorched rim beside a cut, mm. */
export const RIM_MM = 0.22
