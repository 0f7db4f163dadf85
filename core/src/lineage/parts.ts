import type { Drawn } from '../drawn/drawn.ts'
import type { PlacedDrawing } from '../formats/read-drawing.ts'
import type { Bounds } from '../geometry/bounds.ts'
import { coverage } from '../geometry/coverage.ts'
import type { Path } from '../geometry/path.ts'
import { mapRing, type Ring } from '../geometry/ring.ts'
import { type JobDocument, placeOf } from '../job/document/document.ts'
import type { PartNode } from '../job/document/nodes.ts'
import { bytesBy } from '../picture/bytes.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { lookKey, mapDrawing, type Shape } from '../vector/drawing.ts'
import { figureOf } from '../vector/figure.ts'
import { seenArea } from '../vector/seen-area.ts'
import { FLATTEN_MM, type Keyed, pathBytes, ringBytes, ringsOf } from './local.ts'
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
  const own = boxOf(drawing, root.widthMm)
  // An upright line has no width, whatever its place says.
  const [wide, high] = [own.x1 - own.x0, own.y1 - own.y0]
  const [sx, sy] = [wide > NO_SIZE_MM ? widthMm / wide : 1, high > NO_SIZE_MM ? heightMm / high : 1]
  const looks = new Set(node.looks)
  const key = keyOf('shapes', root.asset, [...looks].sort(), sx, sy, own.x0, own.y0)
  const make = (): readonly Shape[] =>
    mapDrawing(
      { ...drawing, shapes: drawing.shapes.filter(({ look }) => looks.has(lookKey(look))) },
      sx,
      sy,
      -own.x0 * sx,
      -own.y0 * sy,
    ).shapes.map((shape) =>
      shape.look.strokeMm === undefined
        ? shape
        : { ...shape, look: { ...shape.look, strokeMm: shape.look.strokeMm * Math.sqrt(sx * sy) } },
    )
  return { key, made: supply.cache.get(key, make, (shapes) => shapes.reduce((sum, { paths }) => sum + pathBytes(paths), 0)) }
}

/** What of a drawing its place is as large as: all that it shows; of one that was kept when bold strokes did not count, its lines. */
function boxOf({ widthMm, heightMm, lines }: PlacedDrawing, keptMm: number): Bounds {
  const isOlder = Math.abs(widthMm - keptMm) > KEPT_MM && Math.abs(lines.x1 - lines.x0 - keptMm) < KEPT_MM
  return isOlder ? lines : { x0: 0, y0: 0, x1: widthMm, y1: heightMm }
}

/** Sizes are kept to this, mm. */
const KEPT_MM = 0.01

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
  const make = (): Ring[] => (seen ? seenArea(made) : [...figureOf(made, FLATTEN_MM), ...openRings(made)])
  return { key, made: supply.cache.get(key, make, ringBytes) }
}

/** Lines that do not close are there and back: they enclose nothing. */
const openRings = (shapes: readonly Shape[]): Ring[] =>
  ringsOf(shapes.flatMap(({ paths, look }) => (look.fill ? [] : paths.filter(({ closed }) => !closed))))

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
