import type { GreyPicture } from '../picture/picture.ts'
import type { SeenMark } from './calibrate.ts'
import { type Found, SpotGrid, walked } from './dot-walk.ts'
import { unseeable } from './photo.ts'
import { type DarkSpot, darkSpots } from './spots.ts'

/** A board of equal dots in rows and columns. Nothing on it tells its way: it lies with its rows along the photo, or turned as is said. */
export interface PlainBoard {
  readonly columns: number
  readonly rows: number
  /** From dot to dot, mm. */
  readonly pitchMm: number
}

/** Rows and columns that are walked to each side of a dot. */
const FAR = 400
/** Neighbours are looked for among so many that are nearest. */
const NEAREST = 8
/** Side by side dots are seen about as large as each other: cells of a bed are not. */
const UNLIKE = 1.5
/** So many dots are begun at: the board is around one of them. */
const BEGINNINGS = 60
/** So much of a board must be seen: light hides dots, here and there. */
const LEAST_OF_IT = 0.9

/** The ways from a spot to its neighbours right of it and below it; undefined where it has none at about right angles. */
function waysAt(spots: readonly DarkSpot[], grid: SpotGrid, at: number): Pick<Found, 'right' | 'down'> | undefined {
  const { u, v, areaPx } = spots[at]
  const near = grid
    .near(u, v, 16 * Math.sqrt(areaPx))
    .filter((i) => i !== at && spots[i].areaPx < 2 * areaPx && areaPx < 2 * spots[i].areaPx)
    .map((i) => [spots[i].u - u, spots[i].v - v] as const)
    .sort((a, b) => Math.hypot(...a) - Math.hypot(...b))
    .slice(0, NEAREST)
  const right = near.find(([x, y]) => x > Math.abs(y))
  const down = near.find(([x, y]) => y >= Math.abs(x))
  if (!right || !down) return undefined
  const [r, d] = [Math.hypot(...right), Math.hypot(...down)]
  const cross = right[0] * down[1] - right[1] * down[0]
  return r < 1.6 * d && d < 1.6 * r && cross > 0.75 * r * d ? { right, down } : undefined
}

/** Quarter turns of a board against the photo, clockwise. */
export type QuarterTurn = 0 | 90 | 180 | 270

/**
 * The dots of a board of equal dots, each with its place on the board, mm from its first dot: the upper left one where the board lies
 * with its rows along the photo.
 * @param turned so far the bed's x is turned clockwise from the photo's rows
 * @throws RangeError with a sentence where the board is not seen whole
 */
export function plainBoardSpots(picture: GreyPicture, board: PlainBoard, turned: QuarterTurn = 0): SeenMark[] {
  const trouble = unseeable(picture)
  if (trouble) throw new RangeError(trouble)
  const spots = darkSpots(picture)
  const grid = new SpotGrid(spots)
  const lies = turned % 180 === 0
  const [columns, rows] = lies ? [board.columns, board.rows] : [board.rows, board.columns]
  const [mu, mv] = [picture.widthPx / 2, picture.heightPx / 2]
  const middle = spots.map((_, i) => i).sort((a, b) => off(spots[a], mu, mv) - off(spots[b], mu, mv))
  let most: readonly Found[] = []
  let seen: readonly [number, number] = [0, 0]
  const tried = new Set<number>()
  let begun = 0
  for (const spot of middle) {
    if (tried.has(spot) || begun > BEGINNINGS) continue
    const ways = waysAt(spots, grid, spot)
    if (!ways) continue
    begun++
    const all = walked(spots, grid, { spot, column: FAR, row: FAR, ...ways }, { columns: 2 * FAR, rows: 2 * FAR }, UNLIKE)
    const found = [...all.values()]
    for (const each of found) tried.add(each.spot)
    const extent = [span(found, 'column'), span(found, 'row')] as const
    const isIt = extent[0] === columns && extent[1] === rows && found.length >= LEAST_OF_IT * columns * rows
    // Where it is not seen whole, what comes nearest to it is spoken of.
    const off = (e: readonly [number, number]): number => Math.abs(e[0] - columns) + Math.abs(e[1] - rows)
    if (!isIt && most.length > 0 && off(extent) >= off(seen)) continue
    most = found
    seen = extent
    if (isIt) break
  }
  const words = `a board of ${board.columns} × ${board.rows} dots`
  if (most.length < 4) throw new RangeError('There is no board of dots in this photo.')
  if (seen[0] !== columns || seen[1] !== rows)
    throw new RangeError(
      `${seen[0]} × ${seen[1]} dots are seen in rows and columns, not ${words}: lay it whole under the camera, without glare on it.`,
    )
  if (most.length < LEAST_OF_IT * columns * rows)
    throw new RangeError(`Only ${most.length} of ${columns * rows} dots of the board are seen: take away what hides them.`)
  const [c0, r0] = [Math.min(...most.map(({ column }) => column)), Math.min(...most.map(({ row }) => row))]
  return most.map(({ spot, column, row }) => {
    const [c, r] = onBoard(column - c0, row - r0, columns, rows, turned)
    return { x: c * board.pitchMm, y: r * board.pitchMm, u: spots[spot].u, v: spots[spot].v }
  })
}

const off = ({ u, v }: DarkSpot, mu: number, mv: number): number => (u - mu) ** 2 + (v - mv) ** 2

const span = (found: readonly Found[], of: 'column' | 'row'): number => {
  const all = found.map((each) => each[of])
  return Math.max(...all) - Math.min(...all) + 1
}

/** Which dot of the board is at a column and row of the photo. */
function onBoard(c: number, r: number, columns: number, rows: number, turned: QuarterTurn): readonly [number, number] {
  if (turned === 0) return [c, r]
  if (turned === 90) return [r, columns - 1 - c]
  if (turned === 180) return [columns - 1 - c, rows - 1 - r]
  return [rows - 1 - r, c]
}
