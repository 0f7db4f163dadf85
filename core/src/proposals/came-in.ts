import { counted } from '../units/counted.ts'

/** What a report of a file is made from. */
export interface CameInFacts {
  readonly widthPx: number
  readonly heightPx: number
  readonly pixelsPerMm?: number | undefined
  readonly mesh?: object | undefined
  readonly notices?: readonly string[] | undefined
  readonly drawing?:
    | {
        readonly widthMm: number
        readonly heightMm: number
        readonly shapes?: number | readonly unknown[]
        readonly notices?: readonly string[]
      }
    | undefined
}

const mm = (value: number): string => String(Number(value.toFixed(value < 10 ? 2 : 1)))

/**
 * What came in, a sentence each: how large it is and why, what was converted, what was left out. Short; the size first.
 */
export function cameIn({ widthPx, heightPx, pixelsPerMm, mesh, drawing, notices = [] }: CameInFacts): string[] {
  if (drawing) {
    const { widthMm, heightMm, shapes, notices: told = [] } = drawing
    const many = typeof shapes === 'number' ? shapes : shapes?.length
    const count = many === undefined ? '' : `, ${counted(many, 'shape')}`
    return [`${mm(widthMm)} × ${mm(heightMm)} mm by the units of the file${count}.`, ...told, ...notices]
  }
  if (mesh) return [...notices]
  const px = `${widthPx} × ${heightPx} px`
  const size = pixelsPerMm
    ? `${px} at ${Math.round(pixelsPerMm * 25.4)} DPI, as the file says: ${mm(widthPx / pixelsPerMm)} × ${mm(heightPx / pixelsPerMm)} mm.`
    : `${px}; the file says no resolution, so its size is chosen here.`
  return [size, ...notices]
}
