import { type TrueShape, trueOnArch, trueOnCone } from '../curved/true-shape.ts'
import type { Bounds } from '../geometry/bounds.ts'
import { flattenPath, type Path, pathFromLine, pathFromRing } from '../geometry/path.ts'
import type { Ring } from '../geometry/ring.ts'
import type { JobDocument, Placement } from '../job/document/document.ts'
import { archOf, faceSize, type Workpiece } from '../job/document/workpiece.ts'
import { mapped } from '../space/affine.ts'
import { poseBounds, poseMap } from '../space/pose.ts'

/** Chords of what is laid true on a face are no longer, mm, and so near to it. */
const CHORD_MM = 0.5
const NEAR_MM = 0.002

/** Whether a face has a true shape of its own: a taper, or a curve under the head. A belly or a step cannot be laid flat. */
export const canLieTrue = ({ surface }: Pick<Workpiece, 'surface'>): boolean =>
  surface.kind === 'cone' || (surface.kind === 'flat' && surface.arch !== undefined)

/** How a placement that is true to its face is laid on it; undefined where it follows the face as it is counted. */
export function trueShapeOf(job: Pick<JobDocument, 'workpieces'>, placement: Placement): TrueShape | undefined {
  if (!placement.trueToFace) return undefined
  const piece = job.workpieces[placement.on]
  const { surface } = piece
  const middle = [placement.xMm + placement.widthMm / 2, placement.yMm + placement.heightMm / 2] as const
  if (surface.kind === 'cone') {
    const { leftMm, rightMm } = surface
    return trueOnCone({ leftMm, rightMm, sideMm: faceSize(piece).widthMm }, middle)
  }
  const arch = archOf(piece)
  return arch && trueOnArch(arch, middle)
}

/** What a true shape depends on, beside its placement: for keys of results. */
export const trueKey = (job: Pick<JobDocument, 'workpieces'>, placement: Placement): unknown => {
  if (!placement.trueToFace) return undefined
  const { surface, outline } = job.workpieces[placement.on]
  return [surface, outline, placement.xMm, placement.yMm, placement.widthMm, placement.heightMm]
}

/** A polyline laid true: parted where it bends. @param closed whether its end meets its beginning */
export function laidTrue({ onto }: TrueShape, line: Ring, closed: boolean): Ring {
  const out: number[] = []
  const n = line.length / 2
  const add = (at: readonly [number, number]): void => void out.push(at[0], at[1])
  if (n > 0) add(onto(line[0], line[1]))
  for (let i = 1; i < n + (closed ? 1 : 0); i++) {
    const [ax, ay] = [line[2 * i - 2], line[2 * i - 1]]
    const [bx, by] = [line[2 * (i % n)], line[2 * (i % n) + 1]]
    const from = onto(ax, ay)
    const to = onto(bx, by)
    const half = onto((ax + bx) / 2, (ay + by) / 2)
    const off = Math.hypot(half[0] - (from[0] + to[0]) / 2, half[1] - (from[1] + to[1]) / 2)
    // A chord's distance falls with the square of its length.
    const parts = Math.max(
      1,
      Math.ceil(Math.sqrt(off / NEAR_MM)),
      off > 0 ? Math.ceil(Math.hypot(bx - ax, by - ay) / (20 * CHORD_MM)) : 1,
    )
    for (let k = 1; k < parts; k++) add(onto(ax + ((bx - ax) * k) / parts, ay + ((by - ay) * k) / parts))
    if (i < n) add(to)
  }
  return Float64Array.from(out)
}

/** Polygons laid true. */
export const ringsLaidTrue = (shape: TrueShape, rings: readonly Ring[]): Ring[] =>
  rings.map((ring) => laidTrue(shape, ring, true))

/** A path laid true: curves become lines, as near as outlines are flattened. */
export function pathLaidTrue(shape: TrueShape, path: Path, flattenMm: number): Path {
  const line = laidTrue(shape, flattenPath(path, flattenMm), path.closed)
  return path.closed ? pathFromRing(line) : pathFromLine(line)
}

/** Places along each edge of a box at which its reach is looked for. */
const EDGE_PLACES = 64

/** The box around a placement where it really lies on its face. */
export function placedBounds(job: Pick<JobDocument, 'workpieces'>, placement: Placement): Bounds {
  const shape = trueShapeOf(job, placement)
  if (!shape) return poseBounds(placement, placement)
  const map = poseMap(placement, placement)
  const { widthMm: w, heightMm: h } = placement
  const box = {
    x0: Number.POSITIVE_INFINITY,
    y0: Number.POSITIVE_INFINITY,
    x1: Number.NEGATIVE_INFINITY,
    y1: Number.NEGATIVE_INFINITY,
  }
  for (let i = 0; i <= EDGE_PLACES; i++) {
    const [u, v] = [(w * i) / EDGE_PLACES, (h * i) / EDGE_PLACES]
    for (const at of [mapped(map, u, 0), mapped(map, u, h), mapped(map, 0, v), mapped(map, w, v)]) {
      const [x, y] = shape.onto(at[0], at[1])
      box.x0 = Math.min(box.x0, x)
      box.x1 = Math.max(box.x1, x)
      box.y0 = Math.min(box.y0, y)
      box.y1 = Math.max(box.y1, y)
    }
  }
  return box
}
