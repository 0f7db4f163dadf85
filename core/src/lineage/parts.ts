import type { Drawn } from '../drawn/drawn.ts'
import type { PlacedDrawing } from '../formats/read-drawing.ts'
import { coverage } from '../geometry/coverage.ts'
import type { Path } from '../geometry/path.ts'
import { mapRing, type Ring } from '../geometry/ring.ts'
import { type JobDocument, placeOf } from '../job/document/document.ts'
import type { PartNode } from '../job/document/nodes.ts'
import { bytesBy } from '../picture/bytes.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { lookKey, mapDrawing, type Shape } from '../vector/drawing.ts'
import { seenArea } from '../vector/seen-area.ts'
import { type Keyed, pathBytes, ringBytes, ringsOf } from './local.ts'
import { keyOf, type Supply } from './supply.ts'

/** A drawing that is thinner than this has no width that could be scaled, mm. */
const NO_SIZE_MM = 1e-6

/** The shapes of a part of a drawing, in the size that it has in the job. */
function localShapes(job: JobDocument, nodeId: string, supply: Supply, place?: string): Keyed<readonly Shape[]> {
  const node = job.nodes[nodeId]
  const root = node?.kind === 'part' ? job.nodes[node.from] : undefined
  if (node?.kind !== 'part' || root?.kind !== 'drawing') throw new Error(`“${nodeId}” is no part of a drawing.`)
  if (!supply.drawing) throw new Error('Drawings cannot be read here.')
  const { widthMm, heightMm, entry } = placeOf(job, nodeId, place)
  const { drawn } = root
  if (entry !== undefined && drawn?.kind === 'text' && drawn.series && supply.entry)
    return oneEntry(node, supply.entry({ ...drawn, kind: 'text' }, entry), { drawn, entry, widthMm, heightMm }, supply)
  const drawing = supply.drawing(root.asset)
  // An upright line has no width, whatever its place says.
  const [sx, sy] = [
    drawing.widthMm > NO_SIZE_MM ? widthMm / drawing.widthMm : 1,
    drawing.heightMm > NO_SIZE_MM ? heightMm / drawing.heightMm : 1,
  ]
  const looks = new Set(node.looks)
  const key = keyOf('shapes', root.asset, [...looks].sort(), sx, sy)
  const make = (): readonly Shape[] =>
    mapDrawing({ ...drawing, shapes: drawing.shapes.filter(({ look }) => looks.has(lookKey(look))) }, sx, sy, 0, 0).shapes.map(
      (shape) =>
        shape.look.strokeMm === undefined
          ? shape
          : { ...shape, look: { ...shape.look, strokeMm: shape.look.strokeMm * Math.sqrt(sx * sy) } },
    )
  return { key, made: supply.cache.get(key, make, (shapes) => shapes.reduce((sum, { paths }) => sum + pathBytes(paths), 0)) }
}

/** One entry of a list in the room that it has: as large as it is written, smaller only where it would not go in, in the middle. */
function oneEntry(
  { looks }: PartNode,
  drawing: PlacedDrawing,
  { drawn, entry, widthMm, heightMm }: { drawn: Drawn & { kind: 'text' }; entry: number; widthMm: number; heightMm: number },
  supply: Supply,
): Keyed<readonly Shape[]> {
  const [w, h] = [drawing.widthMm, drawing.heightMm]
  const share = Math.min(1, w > NO_SIZE_MM ? widthMm / w : 1, h > NO_SIZE_MM ? heightMm / h : 1)
  const [dx, dy] = [(widthMm - w * share) / 2, (heightMm - h * share) / 2]
  const key = keyOf('entry shapes', drawn, entry, looks, share, dx, dy)
  const make = (): readonly Shape[] => {
    const chosen = drawing.shapes.filter(({ look }) => looks.includes(lookKey(look)))
    return mapDrawing({ ...drawing, shapes: chosen }, share, share, dx, dy).shapes
  }
  return { key, made: supply.cache.get(key, make, (shapes) => shapes.reduce((sum, { paths }) => sum + pathBytes(paths), 0)) }
}

/** The paths of a part, as the drawing has them. */
export function partPaths(job: JobDocument, nodeId: string, supply: Supply, place?: string): Keyed<readonly Path[]> {
  const { made, key: from } = localShapes(job, nodeId, supply, place)
  const key = keyOf('part', from)
  return { key, made: supply.cache.get(key, () => made.flatMap(({ paths }) => [...paths]), pathBytes) }
}

/** The polygons of a part: of its paths, or of the area that is seen. */
export function partRings(job: JobDocument, nodeId: string, supply: Supply, place?: string): Keyed<readonly Ring[]> {
  const node = job.nodes[nodeId]
  const seen = node?.kind === 'part' && node.as === 'seen'
  const { made, key: from } = localShapes(job, nodeId, supply, place)
  const key = keyOf(seen ? 'seen' : 'part rings', from)
  const make = (): Ring[] => (seen ? seenArea(made) : ringsOf(made.flatMap(({ paths }) => [...paths])))
  return { key, made: supply.cache.get(key, make, ringBytes) }
}

/** A part of a drawing as a picture: black where its area is, in as many pixels as asked for. */
export function drawnPicture(
  job: JobDocument,
  nodeId: string,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
  supply: Supply,
  place?: string,
): Keyed<GreyPicture> {
  const { made: rings, key: from } = partRings(job, nodeId, supply, place)
  const { widthMm, heightMm } = placeOf(job, nodeId, place)
  const key = keyOf('drawn', from, widthPx, heightPx)
  const make = (): GreyPicture => {
    const inPx = rings.map((ring) => mapRing(ring, widthPx / widthMm, heightPx / heightMm, 0, 0))
    const covered = coverage(inPx, widthPx, heightPx)
    const samples = bytesBy(covered.length, (i) => Math.round(255 * (1 - covered[i])))
    return { widthPx, heightPx, samples, full: 255 }
  }
  return { key, made: supply.cache.get(key, make, ({ samples }) => samples.byteLength) }
}
