import type { Heights } from '../job/document/workpiece.ts'
import type { Size } from '../space/pose.ts'

/** Places of a grid at which heights are found: rows of them, there and back so that the head goes the shortest way. @returns face mm, with the index of each */
export function placesToProbe(columns: number, rows: number, { widthMm, heightMm }: Size, insetMm: number) {
  const at = (i: number, count: number, long: number): number => insetMm + ((long - 2 * insetMm) * i) / (count - 1)
  return Array.from({ length: columns * rows }, (_, k) => {
    const row = Math.floor(k / columns)
    const column = row % 2 === 0 ? k % columns : columns - 1 - (k % columns)
    return { index: row * columns + column, xMm: at(column, columns, widthMm), yMm: at(row, rows, heightMm) }
  })
}

/** How high a face lies over its thickness at a place, mm, between four places that were found; beyond them as at the nearest. */
export function heightAt({ columns, rows, mm }: Heights, { widthMm, heightMm }: Size, xMm: number, yMm: number): number {
  const u = Math.max(0, Math.min(1, xMm / widthMm)) * (columns - 1)
  const v = Math.max(0, Math.min(1, yMm / heightMm)) * (rows - 1)
  const [c, r] = [Math.min(columns - 2, Math.floor(u)), Math.min(rows - 2, Math.floor(v))]
  const [s, t] = [u - c, v - r]
  const at = r * columns + c
  return (1 - t) * ((1 - s) * mm[at] + s * mm[at + 1]) + t * ((1 - s) * mm[at + columns] + s * mm[at + columns + 1])
}

/** As high as places were touched, where they were: how thick the piece is at its highest, and its heights under that. */
export interface TouchedFace {
  readonly thicknessMm: number
  readonly heights: Heights
}

/**
 * What was touched at the places of a grid as heights of a face. Places where there was no piece are as high as the nearest where there was.
 * @param touchedMm over the bed, mm, row by row; undefined beside the piece @throws RangeError with a sentence where nothing was touched
 */
export function heightsOf(columns: number, rows: number, touchedMm: readonly (number | undefined)[]): TouchedFace {
  const known = touchedMm.flatMap((mm, i) => (mm === undefined ? [] : [{ mm, c: i % columns, r: Math.floor(i / columns) }]))
  if (known.length === 0) throw new RangeError('The probe found no piece: lay it where the job has it, and try again.')
  const top = known.reduce((most, { mm }) => Math.max(most, mm), -Infinity)
  const thicknessMm = Math.round(top * 100) / 100
  const mm = touchedMm.map((touched, i) => {
    const far = (each: { readonly c: number; readonly r: number }): number =>
      Math.hypot(each.c - (i % columns), each.r - Math.floor(i / columns))
    const at = touched ?? known.reduce((best, each) => (far(each) < far(best) ? each : best)).mm
    return Math.round((at - thicknessMm) * 1000) / 1000
  })
  return { thicknessMm, heights: { columns, rows, mm } }
}
