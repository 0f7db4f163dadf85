// For tests: a simulated camera at the head, of which nobody here knows how it hangs, and what it sees.
import { type Calibration, closeCamera, type HeadSight, loneMark, NUDGE_MM, type Photo, stopsFor } from '@neotaxis/core'
import { DAYLIGHT, laidOut, type Optics, photographed, type Thing } from '@neotaxis/stand-ins'

export const BED = { x: 600, y: 400 }
export const SIZE = { widthPx: 1296, heightPx: 972 }
export type Point = readonly [number, number]
export type Burn = NonNullable<Parameters<typeof photographed>[5]>

/** A round dot as a polygon of 48 corners. */
export const disc = (x: number, y: number, mm: number): number[] =>
  Array.from({ length: 96 }, (_, i) => {
    const a = (2 * Math.PI * (i >> 1)) / 48
    return i % 2 ? y + (mm / 2) * Math.sin(a) : x + (mm / 2) * Math.cos(a)
  })

/** What the camera sees with the head at a place. @param burn what was burned there */
export function seenFrom(optics: Optics, [x, y]: Point, things: readonly Thing[], seed: number, burn?: Burn): Photo {
  const at: Point = [x + optics.over[0], y + optics.over[1]]
  const part = { x0: at[0] - 32, y0: at[1] - 32, x1: at[0] + 32, y1: at[1] + 32 }
  return { ...SIZE, rgba: photographed({ ...optics, over: at }, SIZE, laidOut(things, 0.02, part), DAYLIGHT, seed, burn) }
}

/** Where the mark lies by which a camera is known, and the card that it is on. */
const MARK: Point = [260, 180]
export const CARD: Thing = {
  rings: [[200, 120, 420, 120, 420, 260, 200, 260]],
  thicknessMm: 0,
  look: 'card',
  ink: [disc(...MARK, 1.2)],
}

/** The camera, as it becomes known from one mark that it sees from many places. */
export function known(optics: Optics): Calibration {
  const sight = (head: Point): HeadSight => ({ head, ...loneMark(seenFrom(optics, head, [CARD], 7)) })
  const about: Point = [MARK[0] - 36, MARK[1] + 5]
  const first = [sight(about), sight([about[0] + NUDGE_MM, about[1]]), sight([about[0], about[1] + NUDGE_MM])] as const
  return closeCamera(SIZE, [...first, ...stopsFor(SIZE, first).map(sight)], MARK)
}
