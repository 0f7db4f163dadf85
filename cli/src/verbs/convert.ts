import {
  drawingBounds,
  drawingKind,
  encodePng,
  heightMap,
  isStl,
  MeshError,
  meshExtent,
  readStl,
  readVectorFile,
  type ViewAxis,
  writeDxf,
  writeSvgDrawing,
} from '@neotaxis/core'
import { resolvedDrawing } from '@neotaxis/intake'
import {
  type Io,
  numberOption,
  numbersOption,
  readInput,
  readOptions,
  tell,
  UsageError,
  WorkError,
  wordOption,
  writeOutput,
} from '../io.ts'

const AXES: readonly ViewAxis[] = ['+x', '-x', '+y', '-y', '+z', '-z']
const MAX_PX = 100_000_000

/** `z` is `+z`: seen from the end of the axis. */
function axisOption(text: string | undefined): ViewAxis {
  const signed = text !== undefined && /^[xyz]$/.test(text) ? `+${text}` : text
  return wordOption('axis', signed, AXES) ?? '+z'
}

/** Vector drawing → SVG or DXF; STL → height map: 16-bit PNG, near is white, with its pitch in the file. */
export async function run(args: readonly string[], io: Io): Promise<number> {
  const { values, positionals } = readOptions(
    args,
    { axis: { type: 'string' }, dpi: { type: 'string' }, depth: { type: 'string' } },
    { min: 1, max: 1, what: 'one SVG, DXF or STL file' },
  )
  const axis = axisOption(values.axis)
  const dpi = numberOption('dpi', values.dpi, 1, 10_000) ?? 254
  const [near, far] = numbersOption('depth', values.depth, 2) ?? [0, 1]
  if (!(near >= 0 && far <= 1 && far > near))
    throw new UsageError('--depth wants two shares of the depth, 0 to 1, the nearer one first.')
  const bytes = readInput(positionals[0])
  if (drawingKind(bytes)) return convertDrawing(bytes, io, values)
  if (!values.output && !values.json) throw new UsageError('say where the height map goes with -o OUT.png.')
  if (!isStl(bytes)) throw new WorkError('This is no SVG, no text DXF and no STL mesh, or it is cut short.')
  const pxPerMm = dpi / 25.4
  try {
    const mesh = readStl(bytes)
    const { width, height, depth } = meshExtent(mesh, axis)
    const widthPx = Math.max(1, Math.round(width * pxPerMm))
    const heightPx = Math.max(1, Math.round(height * pxPerMm))
    if (widthPx * heightPx > MAX_PX)
      throw new WorkError(
        `${widthPx} × ${heightPx} px are more than can be made. Choose fewer dpi: the mesh is ${width.toFixed(1)} × ${height.toFixed(1)} mm.`,
      )
    const map = heightMap(mesh, axis, { widthPx, heightPx, near, far })
    // What is not there is as deep as it can be.
    const samples = map.samples as Uint16Array
    if (map.alpha) for (let i = 0; i < samples.length; i++) if (map.alpha[i] === 0) samples[i] = 0
    if (values.output)
      writeOutput(values.output, encodePng({ widthPx, heightPx, channels: 1, samples, full: 65_535 }, { pixelsPerMm: pxPerMm }))
    const told = {
      widthPx,
      heightPx,
      widthMm: width,
      heightMm: height,
      depthMm: depth * (far - near),
      triangles: mesh.count,
      dropped: mesh.dropped,
    }
    tell(io, values.json, told, [
      `${widthPx} × ${heightPx} px, ${width.toFixed(1)} × ${height.toFixed(1)} × ${(depth * (far - near)).toFixed(2)} mm, ${mesh.count} triangles${mesh.dropped ? `, ${mesh.dropped} left out: they were no numbers` : ''}`,
    ])
    return 0
  } catch (cause) {
    if (cause instanceof MeshError || cause instanceof RangeError) throw new WorkError(cause.message)
    throw cause
  }
}

/** SVG ↔ DXF, by the ending of what is written. Shapes, layers, colours and sizes stay; what is left out is told. */
function convertDrawing(
  bytes: Uint8Array,
  io: Io,
  { output, json }: { readonly output?: string; readonly json: boolean },
): number {
  const kind = output?.toLowerCase().split('.').pop()
  if (output ? kind !== 'svg' && kind !== 'dxf' : !json)
    throw new UsageError('say where the drawing goes with -o OUT.svg or -o OUT.dxf.')
  const drawing = readVectorFile(resolvedDrawing(bytes))
  for (const notice of drawing.notices) io.err(`${notice}\n`)
  if (output) writeOutput(output, kind === 'svg' ? writeSvgDrawing(drawing) : writeDxf(drawing))
  const { x0, y0, x1, y1 } = drawingBounds(drawing)
  const paths = drawing.shapes.reduce((sum, shape) => sum + shape.paths.length, 0)
  const layers = [...new Set(drawing.shapes.flatMap(({ look }) => (look.layer ? [look.layer] : [])))]
  const told = { shapes: drawing.shapes.length, paths, widthMm: x1 - x0, heightMm: y1 - y0, layers, notices: drawing.notices }
  tell(io, json, told, [`${told.shapes} shapes, ${paths} paths, ${told.widthMm.toFixed(1)} × ${told.heightMm.toFixed(1)} mm`])
  return 0
}
