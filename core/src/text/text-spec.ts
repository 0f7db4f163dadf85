/** The font of a text: the single strokes that ship, or a font file that is an asset of the job. */
export type FontChoice =
  | { readonly kind: 'strokes' }
  | {
      readonly kind: 'file'
      readonly asset: string
      readonly name: string
      /** Of a variable font: how bold, how wide, by the tags of its axes; absent: as it is by itself. */
      readonly axes?: Readonly<Record<string, number>>
    }

/** The artwork whose line a text stands on, and where on it: it follows when that changes. */
export interface OnLine {
  readonly node: string
  /** A place on the line, in shares of that artwork's sides. */
  readonly x: number
  readonly y: number
  /** The middle of that artwork when the line was taken, mm of the face. */
  readonly midXMm: number
  readonly midYMm: number
}

/** What letters stand on, or in, instead of one straight line. */
export type Along =
  /** A box, from the origin: words are broken into lines that it is wide enough for, letters made smaller where they need to be. */
  | { readonly kind: 'box'; readonly widthMm: number; readonly heightMm: number }
  /** A circle: over its top, or along its bottom with the letters' heads inwards. */
  | { readonly kind: 'circle'; readonly diameterMm: number; readonly at: 'top' | 'bottom' }
  /** A line, as SVG path data in mm; its longest path counts. */
  | { readonly kind: 'path'; readonly data: string; readonly on?: OnLine }

/** A text that is written once, or once for each entry of a series. Lengths in mm. */
export interface TextSpec {
  readonly kind: 'text'
  /** Lines are parted by line breaks; with a series, `{}` stands for its entry. */
  readonly text: string
  readonly font: FontChoice
  /** Height of capital letters. */
  readonly capMm: number
  /** What is added between two letters. */
  readonly letterMm: number
  /** From line to line, as a share of the height of capitals. */
  readonly lineShare: number
  readonly align: 'left' | 'middle' | 'right'
  readonly along?: Along
  readonly series?: Series
}

/** One text for each entry, in rows and columns. */
export interface Series {
  readonly entries: readonly string[]
  readonly columns: number
  readonly pitchXMm: number
  readonly pitchYMm: number
}

/** A text itself is no longer than this. */
export const LONGEST_TEXT = 4000
/** More letters than this are not set, all entries of a list together. */
export const MOST_LETTERS = 8000

/** The text of one entry: where `{}` stands, else instead of the text. */
export const entryText = (text: string, entry: string): string => (text.includes('{}') ? text.replaceAll('{}', entry) : entry)
