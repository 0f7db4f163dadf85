import {
  type Bounds,
  closedLine,
  drawingBounds,
  figureOf,
  flattenPath,
  type Ring,
  readVectorFile,
  ringLength,
  ringsBounds,
  writeSvgRings,
} from '@neotaxis/core'
import { resolvedDrawing } from '@neotaxis/intake'
import { type Io, readInput, tell, WorkError, writeOutput } from './io.ts'

/** Chords lie so close to their curves, mm. */
const CHORD_MM = 0.005

/** Closed outlines of an SVG or DXF file as polygons, mm, and the page they lie on. */
export interface Drawing {
  readonly rings: readonly Ring[]
  /** All its lines, those that close ending where they begin. */
  readonly lines: readonly Ring[]
  readonly page: Bounds
}

/** @param open whether lines that do not close are enough @throws WorkError where it holds no closed outline */
export function readDrawing(path: string, io: Io, { open = false } = {}): Drawing {
  const drawing = readVectorFile(resolvedDrawing(readInput(path)))
  for (const notice of drawing.notices) io.err(`${path}: ${notice}\n`)
  const rings = figureOf(drawing.shapes, CHORD_MM)
  if (rings.length === 0 && !open) throw new WorkError('The drawing holds no closed outline.')
  return {
    rings,
    lines: drawing.shapes.flatMap(({ paths }) =>
      paths.map((each) => {
        const line = flattenPath(each, CHORD_MM)
        return each.closed ? closedLine(line) : line
      }),
    ),
    page: drawing.page ?? drawingBounds(drawing),
  }
}

/** Writes outlines on a page that holds them and the pages they come from, and tells what they are, or what is told of them. */
export function writeDrawing(
  rings: readonly Ring[],
  pages: readonly Bounds[],
  io: Io,
  { output, json }: { readonly output?: string; readonly json: boolean },
  told?: object,
  lines: readonly string[] = [],
): void {
  const boxes = rings.length > 0 ? [...pages, ringsBounds(rings)] : pages
  const x = Math.min(...boxes.map(({ x0 }) => x0))
  const y = Math.min(...boxes.map(({ y0 }) => y0))
  const width = Math.max(...boxes.map(({ x1 }) => x1)) - x
  const height = Math.max(...boxes.map(({ y1 }) => y1)) - y
  const text = writeSvgRings(rings, width, height, x, y)
  if (output) writeOutput(output, text)
  else if (!json) io.out(text)
  if (told) {
    tell(io, json, told, lines)
    return
  }
  const lengthMm = rings.reduce((sum, ring) => sum + ringLength(ring), 0)
  tell(io, json, { paths: rings.length, nodes: rings.reduce((sum, ring) => sum + ring.length / 2, 0), lengthMm }, [
    `${rings.length} paths, ${lengthMm.toFixed(1)} mm`,
  ])
}
