import { type Bounds, isEmptyBounds, unite } from '../geometry/bounds.ts'
import { coverage } from '../geometry/coverage.ts'
import { mapRing } from '../geometry/ring.ts'
import { type JobDocument, mainPiece } from '../job/document/document.ts'
import { faceSize, outlineOfFace, type Workpiece } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import { familyBounds } from '../process/extent.ts'
import { poseBounds, type Size } from '../space/pose.ts'

/** Between two pieces of artwork, and to the edge of the workpiece, mm. */
const GAP_MM = 4
/** Cells along the longer side of the face, in which room is looked for. */
const CELLS = 240

/**
 * Where a box has room on a face, as near to its middle as can be: not over its edge, a keep-out, or what is taken. It is looked
 * for in cells of 1/240 of the face's longer side.
 * @param taken boxes on the face, mm @returns its upper left corner, mm; undefined where there is no room
 */
export function roomFor(
  piece: Pick<Workpiece, 'outline' | 'keepOuts'>,
  taken: readonly Bounds[],
  { widthMm, heightMm }: Size,
  gapMm = GAP_MM,
): { readonly xMm: number; readonly yMm: number } | undefined {
  const face = faceSize(piece)
  const cell = Math.max(face.widthMm, face.heightMm) / CELLS
  const columns = Math.max(1, Math.floor(face.widthMm / cell + 1e-9))
  const rows = Math.max(1, Math.floor(face.heightMm / cell + 1e-9))
  const inside = coverage(
    outlineOfFace(piece.outline).map((ring) => mapRing(ring, 1 / cell, 1 / cell, 0, 0)),
    columns,
    rows,
  )
  const keepOuts = Object.values(piece.keepOuts).map(({ outline, pose }) => poseBounds(pose, faceSize({ outline })))
  const boxes = [...taken, ...keepOuts].map((box) => ({
    x0: Math.floor((box.x0 - gapMm) / cell),
    y0: Math.floor((box.y0 - gapMm) / cell),
    x1: Math.ceil((box.x1 + gapMm) / cell),
    y1: Math.ceil((box.y1 + gapMm) / cell),
  }))
  // How many cells up to here cannot be had (summed-area table, Crow 1984): a box is free where none of its cells is among them.
  const stride = columns + 1
  const sums = new Int32Array(stride * (rows + 1))
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) {
      const gone = inside[y * columns + x] < 0.999 || boxes.some((b) => x >= b.x0 && x < b.x1 && y >= b.y0 && y < b.y1)
      const at = (y + 1) * stride + x + 1
      sums[at] = (gone ? 1 : 0) + sums[at - 1] + sums[at - stride] - sums[at - stride - 1]
    }
  const w = Math.ceil((widthMm + 2 * gapMm) / cell - 1e-9)
  const h = Math.ceil((heightMm + 2 * gapMm) / cell - 1e-9)
  /** How many cells of a box cannot be had. */
  const goneIn = (x0: number, y0: number, x1: number, y1: number): number =>
    sums[y1 * stride + x1] - sums[y0 * stride + x1] - sums[y1 * stride + x0] + sums[y0 * stride + x0]
  const [midX, midY] = [(face.widthMm - widthMm) / 2, (face.heightMm - heightMm) / 2]
  const round = (mm: number): number => Math.round(1000 * mm) / 1000
  if (midX >= gapMm && midY >= gapMm) {
    const cells = [midX - gapMm, midY - gapMm].map((mm) => Math.floor(mm / cell + 1e-9))
    const ends = [midX + widthMm + gapMm, midY + heightMm + gapMm].map((mm) => Math.ceil(mm / cell - 1e-9))
    if (goneIn(cells[0], cells[1], Math.min(columns, ends[0]), Math.min(rows, ends[1])) === 0)
      return { xMm: round(midX), yMm: round(midY) }
  }
  let best: { readonly x: number; readonly y: number; readonly far: number } | undefined
  for (let y = 0; y + h <= rows; y++)
    for (let x = 0; x + w <= columns; x++) {
      const far = Math.hypot(x + w / 2 - columns / 2, y + h / 2 - rows / 2)
      if ((!best || far < best.far) && goneIn(x, y, x + w, y + h) === 0) best = { x, y, far }
    }
  if (!best) return undefined
  // In the middle of the cells that it was found in, to a micrometre.
  const corner = (at: number, count: number, mm: number): number =>
    Math.round(1000 * (at * cell + (count * cell - mm) / 2)) / 1000
  return { xMm: corner(best.x, w, widthMm), yMm: corner(best.y, h, heightMm) }
}

/** The box around a family of artwork and all that it burns, mm on the face. */
function familyBox(job: JobDocument, root: string, supply: Supply): Bounds {
  const places = Object.values(job.placements).filter(({ of }) => of === root)
  const burned = familyBounds(job, root, supply)
  const boxes = [...places.map((place) => poseBounds(place, place)), ...(isEmptyBounds(burned) ? [] : [burned])]
  return boxes.reduce(unite)
}

/** Shares of its size at which artwork is tried that may be smaller. */
const SMALLER = [1, 0.8, 0.64, 0.5, 0.4, 0.32]

interface Room {
  /** The corner of the box around it, and what it is moved by, mm. */
  readonly dxMm: number
  readonly dyMm: number
  /** Of its size: under 1 only where it may be smaller. */
  readonly scale: number
}

/**
 * Where a job's one piece of artwork has room among that of another job.
 * @param mayShrink where its size was not said by anybody @returns undefined where there is none
 */
export function roomAmong(job: JobDocument, made: JobDocument, supply: Supply, mayShrink: boolean): Room | undefined {
  const roots = [...new Set(Object.values(job.placements).map(({ of }) => of))]
  const taken = roots.map((root) => familyBox(job, root, supply))
  const own = familyBox(made, 'source', supply)
  const size = { widthMm: own.x1 - own.x0, heightMm: own.y1 - own.y0 }
  for (const scale of mayShrink ? SMALLER : [1]) {
    const at = roomFor(mainPiece(job), taken, { widthMm: scale * size.widthMm, heightMm: scale * size.heightMm })
    if (at) return { dxMm: at.xMm - own.x0, dyMm: at.yMm - own.y0, scale }
  }
  return undefined
}
