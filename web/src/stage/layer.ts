import type { Affine } from '@neotaxis/core'
import type { ReactNode } from 'react'
import { type StageSize, sameMap, scaleOf, toScreen, type Upright, uprightOf } from './spaces.ts'
import type { StageView } from './stage-view.ts'

/** The stage as a layer or a tool sees it from its own space. */
export interface Showing {
  readonly size: StageSize
  /** Pixels of the screen on a CSS pixel. */
  readonly ratio: number
  /** From the own space to CSS px. */
  readonly map: Affine
  /** CSS px on one unit of the own space. */
  readonly scale: number
  /** How the own axes see the stage. */
  readonly upright: Upright
  /** Where the pointer is, CSS px; absent beside the stage. */
  readonly pointer?: { readonly px: number; readonly py: number }
}

/** One thing that the stage shows. The first of a list lies lowest. */
export interface Layer {
  readonly name: string
  /** The map from its space to the bed, mm. */
  readonly space: Affine
  /** Paints on the canvas, in CSS px of the stage. What it sets of the context is put back after it. */
  readonly paint?: (context: CanvasRenderingContext2D, at: Showing) => void
  /** What lies over the canvas: handles, numbers, pins. */
  readonly over?: (at: Showing) => ReactNode
  /** False while something that it shows is still being worked out. */
  readonly settled?: () => boolean
  /** It is painted again when the pointer moves. */
  readonly followsPointer?: boolean
}

/** How a space sees the stage. */
export function showing(
  space: Affine,
  stage: {
    readonly standing: Affine
    readonly view: StageView
    readonly size: StageSize
    readonly ratio: number
    readonly pointer?: Showing['pointer']
  },
): Showing {
  const { size, ratio, pointer, view, standing } = stage
  const map = toScreen(space, standing, view)
  const upright = sameMap(space, standing) ? { view, size } : uprightOf(map, size)
  return { size, ratio, map, scale: scaleOf(map), upright, ...(pointer && { pointer }) }
}
