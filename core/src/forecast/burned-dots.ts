import { coverOfDots } from './darkness.ts'
import type { DotLayer } from './layers.ts'
import { buildPyramid } from './pyramid.ts'

/** Dots ready to be painted at any scale. @param dark darkness of each @param reach see `coverOfDots` */
export function burnedDots(
  { columns, rows }: { readonly columns: number; readonly rows: number },
  dark: Uint8Array,
  reach: number,
): Pick<DotLayer, 'dark' | 'pyramid'> {
  return { dark, pyramid: buildPyramid({ columns, rows, levels: coverOfDots(columns, dark, reach) }) }
}
