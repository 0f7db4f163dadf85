import type { Path } from '../geometry/path.ts'

/** One letter, or several that are drawn as one. Its capitals are 1 high, the baseline at 0, y down. */
export interface Letter {
  readonly paths: readonly Path[]
  /** From its own origin to that of the next letter, kerning included. */
  readonly advance: number
}

/** What of a variable font can be set: how bold, how wide. */
export interface FontAxis {
  readonly tag: string
  readonly name: string
  readonly least: number
  readonly usual: number
  readonly most: number
}

/** A font, whatever it is made of. */
export interface Typeface {
  readonly name: string
  /** Of a variable font. */
  readonly axes?: readonly FontAxis[]
  /** Letters are lines to be followed, not outlines. */
  readonly strokes: boolean
  /** The letters of one line. */
  readonly set: (line: string) => readonly Letter[]
  /** Characters that it has no letter for. */
  readonly lacks: (text: string) => readonly string[]
}
