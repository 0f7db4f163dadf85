import { type JobDocument, type Placement, placeIdOf, placeOf, placesOf, sourceOf } from '../job/document/document.ts'
import { parentsOf } from '../job/document/nodes.ts'
import { micro } from '../numeric/micro.ts'
import { composed, inverseOf, mapped, scaling } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'
import type { OnLine, TextSpec } from '../text/text-spec.ts'

/** From artwork in shares of its sides to mm of the face. */
export const sharesOf = (place: Placement) => composed(scaling(place.widthMm, place.heightMm), poseMap(place, place))

export const middleOfPlace = (place: Placement): readonly [number, number] => mapped(sharesOf(place), 0.5, 0.5)

/** A place on the line of some artwork, so that it is found again when the line is another. @param x,y mm of the face */
export function placedOn(job: JobDocument, node: string, x: number, y: number): OnLine {
  const place = placeOf(job, node)
  const [sx, sy] = mapped(inverseOf(sharesOf(place)), x, y)
  const [midXMm, midYMm] = middleOfPlace(place)
  const share = (v: number): number => Math.round(1e6 * v) / 1e6
  return { node, x: share(sx), y: share(sy), midXMm: micro(midXMm), midYMm: micro(midYMm) }
}

/** Whether a line of a job is the one that a text was written on: artwork of that name that lies where it lay then. */
export function isOn(job: JobDocument, on: OnLine): boolean {
  if (!job.nodes[on.node] || placesOf(job, sourceOf(job, on.node)).length === 0) return false
  const [x, y] = middleOfPlace(placeOf(job, on.node))
  return Math.hypot(x - on.midXMm, y - on.midYMm) < 0.01
}

/** A text that stands on a line which is not where it was, or not what it was. */
export interface Follower {
  /** Id of the text. */
  readonly root: string
  readonly spec: TextSpec & { readonly along: { readonly kind: 'path'; readonly data: string; readonly on: OnLine } }
  /** How far its line went, mm, as long as the text did not go along by itself. */
  readonly dxMm: number
  readonly dyMm: number
  /** The line has another shape or size: the text is set anew. */
  readonly anew: boolean
}

/** The texts that have to follow their lines after an edit. Texts that were changed themselves are as somebody wants them. */
export function followers(before: JobDocument, after: JobDocument): Follower[] {
  return Object.entries(after.nodes).flatMap(([root, node]): Follower[] => {
    if (node.kind !== 'drawing' || node.drawn?.kind !== 'text' || before.nodes[root] !== node) return []
    const { along } = node.drawn
    if (along?.kind !== 'path' || !along.on || !placesOf(after, root).length) return []
    const { node: line } = along.on
    if (!after.nodes[line] || !before.nodes[line]) return []
    const [was, is] = [placeOf(before, line), placeOf(after, line)]
    const mine = placeIdOf(after, root)
    const wentAlone = before.placements[mine] === after.placements[mine]
    const [[x0, y0], [x1, y1]] = [middleOfPlace(was), middleOfPlace(is)]
    const [dxMm, dyMm] = wentAlone ? [x1 - x0, y1 - y0] : [0, 0]
    const sized = was.widthMm !== is.widthMm || was.heightMm !== is.heightMm || was.deg !== is.deg
    const anew = sized || madeFrom(after, line).some((id) => before.nodes[id] !== after.nodes[id])
    if (!anew && Math.hypot(dxMm, dyMm) < 1e-6) return []
    return [{ root, spec: { ...node.drawn, along: { ...along, on: along.on } }, dxMm, dyMm, anew }]
  })
}

/** A node and all that it is made from. */
function madeFrom(job: JobDocument, node: string): string[] {
  const all = [node, sourceOf(job, node)]
  for (let i = 0; i < all.length; i++)
    for (const parent of parentsOf(job.nodes[all[i]])) if (!all.includes(parent)) all.push(parent)
  return all
}

/** A text moved as far as its line went. */
function gone(job: JobDocument, { root, dxMm, dyMm }: Follower): JobDocument {
  if (!job.nodes[root]) return job
  const places = placesOf(job, root).map((id): [string, Placement] => {
    const place = job.placements[id]
    return [id, { ...place, xMm: micro(place.xMm + dxMm), yMm: micro(place.yMm + dyMm) }]
  })
  return { ...job, placements: { ...job.placements, ...Object.fromEntries(places) } }
}

/** A change with the texts gone along whose lines it moved. */
export const withFollowers = (before: JobDocument, after: JobDocument): JobDocument =>
  followers(before, after)
    .filter(({ dxMm, dyMm }) => Math.hypot(dxMm, dyMm) >= 1e-6)
    .reduce(gone, after)
