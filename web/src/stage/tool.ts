import type { Affine, Bounds } from '@neotaxis/core'
import type { ReactNode } from 'react'
import type { Showing } from './layer.ts'

/** Where the hand is, in the space of the tool that is told. */
export interface Spot {
  readonly x: number
  readonly y: number
  /** On the stage, CSS px. */
  readonly px: number
  readonly py: number
  /** CSS px on one unit of the space. */
  readonly scale: number
  readonly shift: boolean
  readonly alt: boolean
  readonly ctrl: boolean
  /** A finger: it covers more than a point. */
  readonly touch: boolean
}

/** How far the hand went since it pressed, in units of the space. */
export interface Way {
  readonly dx: number
  readonly dy: number
}

/** What a press took hold of, until it is let go. */
export interface Hold {
  /** The hand may tremble so far before it counts as moved, CSS px; default 4. */
  readonly slack?: number
  readonly move?: (spot: Spot, way: Way) => void
  /** The view goes along with the hand. */
  readonly pans?: boolean
  readonly end?: (spot: Spot, moved: boolean) => void
  /** Given up: a second finger came, Escape was pressed. What was shown is taken back. */
  readonly cancel?: () => void
}

/** A place or an area that can be taken hold of, by the pointer and by the keyboard. */
export interface Grip {
  readonly id: string
  /** A point of the space, or a box; points go first. */
  readonly at: readonly [number, number] | Bounds
  readonly look: 'round' | 'square' | 'ring' | 'area' | 'unseen'
  /** Filled in the accent: it is the chosen one. */
  readonly chosen?: boolean
  /** Half its size, CSS px. */
  readonly radius?: number
  readonly cursor: string
  /** What it is called; one without a name is not reached by the keyboard. */
  readonly label?: string
  readonly testId?: string
  readonly hold: (spot: Spot) => Hold
  /** Arrows: one step of a direction in the space; far with Shift. */
  readonly nudge?: (dx: -1 | 0 | 1, dy: -1 | 0 | 1, far: boolean) => void
  /** Delete. */
  readonly remove?: () => void
}

/**
 * What the hand does on the stage. Tools lie over each other: the first that takes a press has it; what none takes moves the view.
 */
export interface Tool {
  readonly name: string
  /** The map from its space to the bed, mm. */
  readonly space: Affine
  readonly cursor?: string
  readonly grips?: readonly Grip[]
  /** What a press takes hold of; undefined leaves it to the next tool. */
  readonly press?: (spot: Spot, at: Showing) => Hold | undefined
  /** The hand moves without pressing; undefined: it left. */
  readonly hover?: (spot: Spot | undefined) => void
  /** @returns whether it was for this tool */
  readonly twice?: (spot: Spot) => boolean
  /** The right button, or a finger that rests. @param stage where the stage begins in the window, CSS px */
  readonly menu?: (spot: Spot, stage: { readonly left: number; readonly top: number }) => boolean
  /** @returns whether the wheel was for this tool; else it zooms */
  readonly wheel?: (spot: Spot, steps: number) => boolean
  /** @returns whether the key was for this tool */
  readonly key?: (event: StageKey) => boolean
  /** What it shows over the stage. */
  readonly over?: (at: Showing) => ReactNode
}

/** A key that is pressed while the stage has the focus. */
export interface StageKey {
  readonly key: string
  readonly shift: boolean
  readonly alt: boolean
  readonly ctrl: boolean
}
