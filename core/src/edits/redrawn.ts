import { type Drawn, drawnName } from '../drawn/drawn.ts'
import { type JobDocument, type Placement, placesOf } from '../job/document/document.ts'
import type { DrawingNode, LineageNode } from '../job/document/nodes.ts'
import { RANGES } from '../job/document/ranges.ts'
import { entriesOf, type Repetition, relaid, repeatedRoots } from '../job/document/repeats.ts'
import { micro } from '../numeric/micro.ts'
import { mapped } from '../space/affine.ts'
import { poseMap } from '../space/pose.ts'

/** What a drawn thing became: its drawing as an asset, and its size. */
export interface RedrawnAs {
  readonly drawn: Drawn
  readonly asset: string
  readonly widthMm: number
  readonly heightMm: number
  /** The looks of the new drawing. */
  readonly looks: readonly string[]
  /** Of a text: where its origin lies in the box of the old drawing and in that of the new one, own mm: it stays where it is. */
  readonly origin?: { readonly before: readonly [number, number]; readonly after: readonly [number, number] }
}

/**
 * A drawing that was drawn or written here, by other numbers: all that comes from it follows. It keeps the scale that it was
 * given, its middle where it is; a text keeps where it begins, or the edge that its lines are aligned to, and its top.
 */
export function redrawn(job: JobDocument, nodeId: string, as: RedrawnAs): JobDocument {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'drawing') throw new Error(`“${nodeId}” is no drawing.`)
  const { drawn, asset, widthMm, heightMm, looks } = as
  const name = node.drawn && node.name === drawnName(node.drawn) ? drawnName(drawn) : node.name
  const changed: DrawingNode = {
    ...node,
    name,
    drawn,
    asset,
    widthMm: Math.max(0.001, widthMm),
    heightMm: Math.max(0.001, heightMm),
  }
  const places = placesOf(job, nodeId).map((id): [string, Placement] => [id, moved(job.placements[id], node, changed, as.origin)])
  const nodes = Object.fromEntries(
    Object.entries(job.nodes).map(([id, each]): [string, LineageNode] =>
      each.kind === 'part' && each.from === nodeId && each.looks.some((look) => !looks.includes(look))
        ? [id, { ...each, looks }]
        : [id, each],
    ),
  )
  const redone = {
    ...job,
    nodes: { ...nodes, [nodeId]: changed },
    placements: { ...job.placements, ...Object.fromEntries(places) },
  }
  return withAsManyRows(redone, nodeId, entriesOf(job, nodeId), entriesOf(redone, nodeId))
}

/** Rows that were there once for each entry of a list are so of a longer or a shorter one, too. */
function withAsManyRows(job: JobDocument, nodeId: string, before: number | undefined, after: number | undefined): JobDocument {
  const repeats = Object.entries(job.repeats ?? {}).map(([root, each]): [string, Repetition] => {
    const isOne = job.nodes[root] !== undefined && repeatedRoots(job, root).includes(nodeId) && each.count === before
    return [root, isOne && after ? { ...each, count: after } : each]
  })
  return repeats.length > 0 ? relaid({ ...job, repeats: Object.fromEntries(repeats) }) : job
}

function moved(place: Placement, before: DrawingNode, after: DrawingNode, origin: RedrawnAs['origin']): Placement {
  // The room of one entry is not the list's: it stays, whatever is written in it.
  if (place.entry !== undefined) return place
  // What is as thin as a line has a place of the least size, not of its own: it is scaled as its other side is.
  const wide = before.widthMm >= RANGES.sizeMm.min ? place.widthMm / before.widthMm : undefined
  const high = before.heightMm >= RANGES.sizeMm.min ? place.heightMm / before.heightMm : undefined
  const [sx, sy] = [wide ?? high ?? 1, high ?? wide ?? 1]
  const [widthMm, heightMm] = [Math.max(RANGES.sizeMm.min, after.widthMm * sx), Math.max(RANGES.sizeMm.min, after.heightMm * sy)]
  if (origin) {
    const next = { ...place, xMm: 0, yMm: 0, widthMm, heightMm }
    const [ox, oy] = mapped(poseMap(place, place), origin.before[0] * sx, origin.before[1] * sy)
    const [nx, ny] = mapped(poseMap(next, next), origin.after[0] * sx, origin.after[1] * sy)
    return { ...next, xMm: micro(ox - nx), yMm: micro(oy - ny) }
  }
  const drawn = after.drawn
  const line = drawn?.kind === 'text' && !drawn.along
  const stays = !line || drawn.align === 'middle' ? 0.5 : drawn.align === 'left' ? 0 : 1
  return {
    ...place,
    xMm: place.xMm + (place.widthMm - widthMm) * stays,
    yMm: place.yMm + (place.heightMm - heightMm) * (line ? 0 : 0.5),
    widthMm,
    heightMm,
  }
}
