import { type Path, pathFromLine, pathFromRing } from '../geometry/path.ts'
import { type Gap, leftOpen } from '../geometry/stretch.ts'
import { givesLines, type JobDocument, mainPiece, placeOf, placesOf, sourceOf } from '../job/document/document.ts'
import { faceBox, outlineOfFace } from '../job/document/workpiece.ts'
import { kerfRings, outlineLines, outlineRings } from '../lineage/evaluate.ts'
import { placeMap } from '../lineage/local.ts'
import type { Supply } from '../lineage/supply.ts'
import { spanAt } from '../outline/hold/bridges.ts'
import { mapped } from '../space/affine.ts'
import type { Shape, VectorDrawing } from '../vector/drawing.ts'

/** How wide a tool cuts where nothing is said, mm. */
const TOOL_MM = 3

/** Layers of the drawing that goes to another tool. */
export const ELSEWHERE_LAYERS = { path: 'tool path', outline: 'outline', piece: 'workpiece' } as const

/**
 * What another tool cuts, as a drawing on the workpiece's face in mm: the middle of the tool's path, the outlines themselves, and
 * the edge of the workpiece to lay it by. Bridges of the outlines stay standing.
 * @throws Error with a sentence where nothing was chosen for it, or nothing is left of it
 */
export function elsewhereDrawing(job: JobDocument, stepId: string, supply: Supply): VectorDrawing {
  const step = job.steps[stepId]
  if (step?.kind !== 'elsewhere') throw new Error(`The job has no step “${stepId}” for another tool.`)
  const { of = [], toolMm = TOOL_MM, keeps, text } = step
  if (of.length === 0) throw new Error(`“${text}”: choose the outlines that it cuts.`)
  const side = keeps === 'sheet' ? -1 : 1
  const places = of.flatMap((node) => placesOf(job, sourceOf(job, node)).map((place) => ({ node, place })))
  const paths = places.flatMap(({ node, place }) => {
    if (givesLines(job, node)) return outlineLines(job, node, supply, place).map(pathFromLine)
    const { rings, lines } = leftOpen(
      kerfRings(job, node, (side * toolMm) / 2, supply, place),
      tabsOf(job, node, place, toolMm, supply),
    )
    return [...rings.map(pathFromRing), ...lines.map(pathFromLine)]
  })
  if (paths.length === 0) throw new Error(`“${text}”: a tool of ${toolMm} mm does not get in anywhere. Choose a thinner one.`)
  const outlines = places.flatMap(({ node, place }) => (givesLines(job, node) ? [] : outlineRings(job, node, supply, place)))
  const piece = mainPiece(job)
  return {
    shapes: [
      shape(outlineOfFace(piece.outline).map(pathFromRing), ELSEWHERE_LAYERS.piece, '#999999'),
      ...(outlines.length > 0 ? [shape(outlines.map(pathFromRing), ELSEWHERE_LAYERS.outline, '#666666')] : []),
      shape(paths, ELSEWHERE_LAYERS.path, '#000000'),
    ],
    page: faceBox(piece),
    notices:
      outlines.length > 0 && paths.length < outlines.length ? ['Some of it is narrower than the tool, and is left out.'] : [],
  }
}

/** Where bridges hold an edge with nothing across it: the tool lifts there, by its own width more. */
function tabsOf(job: JobDocument, nodeId: string, place: string, toolMm: number, supply: Supply): Gap[] {
  const node = job.nodes[nodeId]
  if (node.kind !== 'bridged') return []
  const rings = outlineRings(job, node.from, supply, place)
  const map = placeMap(job, nodeId, place)
  const { widthMm, heightMm } = placeOf(job, nodeId, place)
  return Object.values(node.bridges).flatMap((bridge) => {
    const [x, y] = mapped(map, bridge.x * widthMm, bridge.y * heightMm)
    return spanAt(rings, x, y) ? [] : [{ x, y, wideMm: bridge.widthMm + toolMm }]
  })
}

const shape = (paths: readonly Path[], layer: string, stroke: string): Shape => ({
  paths,
  look: { stroke, strokeMm: 0.1, layer },
  rule: 'evenodd',
})
