import type { Matrix } from '@neotaxis/core/formats/svg/path-data'
import type { Ink, Operators } from './pdf-inks.ts'

/** What a PDF's painting stands at (ISO 32000-1, 8.4). */
export interface State {
  matrix: Matrix
  fill: Ink
  stroke: Ink
  fillOpacity: number
  strokeOpacity: number
  width: number
  cap: number
  join: number
  mitre: number
  dashes: readonly number[]
  dashOffset: number
  /** Id of the clip path in force. */
  clip: string | undefined
  /** Id of the soft mask in force. */
  mask: string | undefined
  font: FontFace | undefined
  fontSize: number
  textMatrix: Matrix
  x: number
  y: number
  lineX: number
  lineY: number
  charSpacing: number
  wordSpacing: number
  hScale: number
  leading: number
  rise: number
  mode: number
}

export interface FontFace {
  readonly loadedName: string
  readonly fontMatrix?: readonly number[]
  readonly vertical?: boolean
  /** Its letters are drawings. */
  readonly isType3Font?: boolean
  readonly charProcOperatorList?: Readonly<Record<string, Operators>>
}

export interface Glyph {
  readonly fontChar: string
  readonly width: number
  readonly isSpace: boolean
  readonly isInFont?: boolean
  readonly operatorListId?: string
}

export const SAME: Matrix = [1, 0, 0, 1, 0, 0]
/** How painting begins. */
export const FRESH: State = {
  matrix: SAME,
  fill: '#000000',
  stroke: '#000000',
  fillOpacity: 1,
  strokeOpacity: 1,
  width: 1,
  cap: 0,
  join: 0,
  mitre: 10,
  dashes: [],
  dashOffset: 0,
  clip: undefined,
  mask: undefined,
  font: undefined,
  fontSize: 0,
  textMatrix: [1, 0, 0, 1, 0, 0],
  x: 0,
  y: 0,
  lineX: 0,
  lineY: 0,
  charSpacing: 0,
  wordSpacing: 0,
  hScale: 1,
  leading: 0,
  rise: 0,
  mode: 0,
}
