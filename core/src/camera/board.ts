import type { GreyPicture } from '../picture/picture.ts'
import type { SeenMark } from './calibrate.ts'
import { type Found, SpotGrid, type Way, walked } from './dot-walk.ts'
import { unseeable } from './photo.ts'
import { type DarkSpot, darkSpots } from './spots.ts'

/**
 * A board of dots in rows and columns. Three of them are large, and tell its way: the one in `corner`, the one two columns right of it,
 * and the one a row below it.
 */
export interface DotBoard {
  readonly columns: number
  readonly rows: number
  /** From dot to dot, mm. */
  readonly pitchMm: number
  /** Diameters, mm. */
  readonly dotMm: number
  readonly largeMm: number
  readonly corner: readonly [number, number]
}

/** A board that covers a bed of 600 × 400 mm but for its edge. */
export const BED_BOARD: DotBoard = { columns: 19, rows: 13, pitchMm: 30, dotMm: 8, largeMm: 13, corner: [8, 6] }

/** Whether a dot is one of the three large ones. */
const isLargeDot = ({ corner: [c, r] }: DotBoard, column: number, row: number): boolean =>
  (row === r && (column === c || column === c + 2)) || (row === r + 1 && column === c)

/** A dot of a board: its middle from the first one, and its diameter, mm. */
export interface BoardDot {
  readonly x: number
  readonly y: number
  readonly mm: number
}

/** All dots of a board, row by row. */
export const boardDots = (board: DotBoard): BoardDot[] =>
  Array.from({ length: board.columns * board.rows }, (_, i) => {
    const [column, row] = [i % board.columns, Math.floor(i / board.columns)]
    const mm = isLargeDot(board, column, row) ? board.largeMm : board.dotMm
    return { x: column * board.pitchMm, y: row * board.pitchMm, mm }
  })

interface BedSize {
  readonly widthMm: number
  readonly heightMm: number
}

/** The board of a bed: the usual one, on a small bed as small as that. */
export function boardFor({ widthMm, heightMm }: BedSize): DotBoard {
  const { columns, rows, corner, pitchMm: usual, dotMm, largeMm } = BED_BOARD
  const pitchMm = Math.min(usual, widthMm / (columns + 1), heightMm / (rows + 1))
  return { columns, rows, corner, pitchMm, dotMm: (pitchMm * dotMm) / usual, largeMm: (pitchMm * largeMm) / usual }
}

/** Where the first dot of a board lies that is laid into the middle of a bed, mm. */
export const firstDot = ({ widthMm, heightMm }: BedSize, { columns, rows, pitchMm }: DotBoard): readonly [number, number] => [
  (widthMm - (columns - 1) * pitchMm) / 2,
  (heightMm - (rows - 1) * pitchMm) / 2,
]

/** The board as an SVG drawing, to be printed or burned: a pitch of room around its dots. */
export function boardSvg(board: DotBoard): string {
  const { columns, rows, pitchMm } = board
  const [w, h] = [(columns + 1) * pitchMm, (rows + 1) * pitchMm]
  const dots = boardDots(board).map(({ x, y, mm }) => `<circle cx="${x + pitchMm}" cy="${y + pitchMm}" r="${mm / 2}"/>`)
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}"><g fill="#000">${dots.join('')}</g></svg>`
}

/** A large dot is larger than those around it by this share. */
const LARGER = 1.5
/** Fewer dots in a row of neighbours are no board. */
const LEAST_DOTS = 12
/** So much of it is surely the board. */
const MOST_OF_IT = 0.6
/** Spots are looked for among so many that are nearest. */
const AROUND = 9

/**
 * The dots of a board that a photo shows, each with its place on the board, mm from its first dot.
 * @throws RangeError with a sentence where there is no board, or its three large dots are not to be seen
 */
export function boardSpots(picture: GreyPicture, board: DotBoard): SeenMark[] {
  const trouble = unseeable(picture)
  if (trouble) throw new RangeError(trouble)
  const spots = darkSpots(picture)
  if (spots.length < LEAST_DOTS) throw new RangeError('There is no board of dots in this photo.')
  const grid = new SpotGrid(spots)
  const large = largeOnes(spots, grid)
  // The widest first: the cells of a honeycomb are in rows, too, but nearer to each other.
  const wide = ({ right, down }: Found): number => Math.hypot(...right) * Math.hypot(...down)
  let best: Map<number, Found> | undefined
  let most = 0
  for (const begin of [...beginnings(spots, large, board)].sort((a, b) => wide(b) - wide(a))) {
    const found = walked(spots, grid, begin, board)
    if (found.size < LEAST_DOTS || !isDrawnSo(found, spots, board)) continue
    if (found.size * wide(begin) > most) {
      most = found.size * wide(begin)
      best = found
    }
    if (found.size > MOST_OF_IT * board.columns * board.rows) break
  }
  if (!best || best.size < LEAST_DOTS)
    throw new RangeError(
      'The three large dots of the board are not to be seen: lay it whole under the camera, without glare on them.',
    )
  return [...best.values()].map(({ spot, column, row }) => ({
    x: column * board.pitchMm,
    y: row * board.pitchMm,
    u: spots[spot].u,
    v: spots[spot].v,
  }))
}

/** Spots that are larger than most of those around them. */
function largeOnes(spots: readonly DarkSpot[], grid: SpotGrid): number[] {
  return spots.flatMap(({ u, v, areaPx }, i) => {
    const far = 9 * Math.sqrt(areaPx)
    const areas = grid
      .near(u, v, far)
      .filter((j) => j !== i)
      .sort((a, b) => Math.hypot(spots[a].u - u, spots[a].v - v) - Math.hypot(spots[b].u - u, spots[b].v - v))
      .slice(0, AROUND)
      .map((j) => spots[j].areaPx)
      .sort((a, b) => a - b)
    return areas.length >= 4 && areaPx > LARGER * areas[Math.floor(areas.length / 2)] ? [i] : []
  })
}

/** Of a large dot the others are nearer than so many times its width. */
const NEAR_LARGE = 9

/** A large dot is as large against the plain ones around it as it is drawn, within these shares: light eats at edges. */
const AS_LARGE = { less: 0.6, more: 1.6 }
/** Plain dots are looked at so many columns and rows around. */
const BESIDE = 3

/** Whether the large dots are as large as the board has them, against those around them: farther away all are seen smaller. */
function isDrawnSo(found: ReadonlyMap<number, Found>, spots: readonly DarkSpot[], board: DotBoard): boolean {
  const all = [...found.values()]
  const larger = (board.largeMm / board.dotMm) ** 2
  const isPlain = ({ column, row }: Found): boolean => !isLargeDot(board, column, row)
  const large = all.filter((each) => !isPlain(each))
  if (large.length < 3) return false
  return large.every(({ column, row, spot }) => {
    const beside = all
      .filter((each) => isPlain(each) && Math.abs(each.column - column) <= BESIDE && Math.abs(each.row - row) <= BESIDE)
      .map((each) => spots[each.spot].areaPx)
      .sort((a, b) => a - b)
    const share = spots[spot].areaPx / (beside[beside.length >> 1] * larger)
    return share > AS_LARGE.less && share < AS_LARGE.more
  })
}

/** The corner with its ways, for all threes of large spots that may be those of the board. */
function* beginnings(
  spots: readonly DarkSpot[],
  large: readonly number[],
  { corner: [column, row], largeMm, pitchMm }: DotBoard,
): Generator<Found> {
  const share = (Math.PI * (largeMm / 2) ** 2) / pitchMm ** 2
  const grid = new SpotGrid(large.map((i) => spots[i]))
  for (const o of large) {
    const { u, v, areaPx } = spots[o]
    const others = grid
      .near(u, v, NEAR_LARGE * Math.sqrt(areaPx))
      .map((k) => large[k])
      // Seen side by side they are about as large as each other.
      .filter((k) => k !== o && spots[k].areaPx < 1.6 * areaPx && areaPx < 1.6 * spots[k].areaPx)
    for (const a of others)
      for (const b of others) {
        if (a === b) continue
        const right: Way = [(spots[a].u - u) / 2, (spots[a].v - v) / 2]
        const down: Way = [spots[b].u - u, spots[b].v - v]
        const [r, d] = [Math.hypot(...right), Math.hypot(...down)]
        // As long as each other, about square, and not mirrored.
        const cross = right[0] * down[1] - right[1] * down[0]
        if (r / d > 1.5 || d / r > 1.5 || cross < 0.75 * r * d) continue
        // As much of the room between dots as the board has them: cells of a honeycomb are large against it.
        if (areaPx > 2 * share * cross || areaPx < 0.4 * share * cross) continue
        yield { spot: o, column, row, right, down }
      }
  }
}
