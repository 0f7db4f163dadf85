import type { Path } from '../../geometry/path.ts'
import { counted } from '../../units/counted.ts'
import type { Look, Shape, VectorDrawing } from '../../vector/drawing.ts'
import { after, type Matrix } from '../svg/path-data.ts'
import { indexColour } from './dxf-colours.ts'
import { entityPaths } from './dxf-curves.ts'
import { type Block, type DxfDocument, dxfDocument, type Entity, number, text } from './dxf-document.ts'
import { DxfError, dxfPairs, dxfText, isDxf } from './dxf-pairs.ts'
import { type Letters, textPaths } from './dxf-text.ts'

/** How far curves may lie off what the file says, mm. */
const TOLERANCE_MM = 0.0005
const MOST_DEPTH = 40
const MOST_SHAPES = 200_000

interface Reading {
  readonly document: DxfDocument
  readonly shapes: Shape[]
  readonly left: Map<string, number>
  damaged: number
  readonly tolerance: number
  /** What text is written with; absent: it is left out. */
  readonly face: Letters | undefined
  /** How many texts were written. */
  written: number
}

/** What handed down things a block's parts take from its insert. */
interface Around {
  readonly matrix: Matrix
  readonly layer: string
  readonly color: string
  readonly within: readonly string[]
}

/**
 * Reads a text DXF: lines, polylines with bulges, arcs, circles, ellipses, splines, solids and inserts, nested and in rows, on
 * layers that are shown; text where there is a font for it. What it cannot use is told. @returns mm, y down @throws DxfError
 */
export function readDxf(bytes: Uint8Array, face?: Letters): VectorDrawing {
  const source = dxfText(bytes)
  if (!isDxf(source)) throw new DxfError('This is not a DXF drawing.')
  const document = dxfDocument(dxfPairs(source))
  const unit = document.unitMm ?? 1
  const reading: Reading = { document, shapes: [], left: new Map(), damaged: 0, tolerance: TOLERANCE_MM / unit, face, written: 0 }
  // Up becomes down.
  collect(document.entities, { matrix: [unit, 0, 0, -unit, 0, 0], layer: '0', color: indexColour(7), within: [] }, reading)
  const notices = [
    ...(document.unitMm === undefined ? ['The drawing does not say its unit: millimetres are taken.'] : []),
    ...(reading.written > 0
      ? [
          `${reading.written} text${reading.written === 1 ? ' was' : 's were'} set in ${face?.name}, not in the fonts of the drawing: check how they run.`,
        ]
      : []),
    ...[...reading.left].map(([what, n]) => `${counted(n, what)} left out.`),
    ...(reading.damaged > 0 ? [`${reading.damaged} damaged ${reading.damaged === 1 ? 'entity' : 'entities'} left out.`] : []),
  ]
  if (reading.shapes.length === 0)
    throw new DxfError(notices.length > 0 ? `The DXF holds nothing to cut. ${notices.at(-1)}` : 'The DXF holds nothing to cut.')
  return { shapes: reading.shapes, notices }
}

const TOLD: Readonly<Record<string, string>> = {
  TEXT: 'text',
  MTEXT: 'text',
  ATTRIB: 'text',
  DIMENSION: 'dimension',
  LEADER: 'leader',
  HATCH: 'hatch',
  IMAGE: 'picture',
  '3DFACE': 'face in space',
  '3DSOLID': 'solid body',
  POLYLINE: 'mesh',
}
const SILENT = new Set(['VIEWPORT', 'POINT', 'ATTDEF', 'XLINE', 'RAY', 'OLE2FRAME'])

function collect(entities: readonly Entity[], around: Around, reading: Reading): void {
  for (const entity of entities) {
    const own = text(entity, 8) ?? '0'
    // In a block, layer 0 is that of the insert.
    const layer = own === '0' ? around.layer : own
    const known = reading.document.layers.get(layer)
    if (known?.hidden || number(entity, 60) === 1) continue
    const color = colourOf(entity, known?.color, around)
    try {
      if (entity.type === 'INSERT') insert(entity, { ...around, layer, color }, reading)
      else shape(entity, { ...around, layer, color }, reading)
    } catch (cause) {
      if (cause instanceof DxfError) throw cause
      reading.damaged++
    }
  }
}

/** True colour, then its index; 0 is that of the insert, 256 that of the layer. */
function colourOf(entity: Entity, ofLayer: number | undefined, { color }: Around): string {
  const rgb = text(entity, 420)
  if (rgb !== undefined && Number.isInteger(Number(rgb))) return `#${(Number(rgb) & 0xffffff).toString(16).padStart(6, '0')}`
  const index = number(entity, 62, 256)
  if (index === 0) return color
  return indexColour(index === 256 ? (ofLayer ?? 7) : index)
}

function shape(entity: Entity, { matrix, layer, color }: Around, reading: Reading): void {
  const written = reading.face && textPaths(entity, reading.face)
  if (written) reading.written++
  const paths = written ?? entityPaths(entity, { tolerance: reading.tolerance })
  if (!paths) {
    const told = TOLD[entity.type]
    const what = told ?? (SILENT.has(entity.type) ? undefined : `unknown entity (${entity.type.slice(0, 24)})`)
    if (what) reading.left.set(what, (reading.left.get(what) ?? 0) + 1)
    return
  }
  if (paths.length === 0) return
  if (reading.shapes.length >= MOST_SHAPES) throw new DxfError(`The DXF holds more than ${MOST_SHAPES} shapes.`)
  // Drawn from behind, x runs the other way (arbitrary axis of an extrusion along −z).
  const seen: Matrix = number(entity, 230, 1) < 0 ? after(matrix, [-1, 0, 0, 1, 0, 0]) : matrix
  const weight = number(entity, 370, -3)
  const filled = entity.type === 'SOLID' || entity.type === 'TRACE' || written !== undefined
  const look: Look = {
    ...(filled ? { fill: color } : { stroke: color }),
    ...(!filled && weight > 0 ? { strokeMm: weight / 100 } : {}),
    ...(layer === '0' ? {} : { layer }),
  }
  placed(paths, seen, look, reading, written ? 'nonzero' : 'evenodd')
}

function placed(
  paths: readonly Path[],
  [a, b, c, d, e, f]: Matrix,
  look: Look,
  { shapes }: Reading,
  rule: Shape['rule'] = 'evenodd',
): void {
  const moved = paths.map((path): Path => {
    const points = new Float64Array(path.points.length)
    for (let i = 0; i < points.length; i += 2) {
      const [x, y] = [path.points[i], path.points[i + 1]]
      points[i] = a * x + c * y + e
      points[i + 1] = b * x + d * y + f
    }
    return { ...path, points }
  })
  if (moved.some(({ points }) => points.some((v) => !Number.isFinite(v)))) throw new RangeError('a number that is none')
  shapes.push({ paths: moved, look, rule })
}

/** A block in its place, as often as its rows and columns say. */
function insert(entity: Entity, around: Around, reading: Reading): void {
  const name = text(entity, 2) ?? ''
  const block: Block | undefined = reading.document.blocks.get(name)
  const trouble = !block
    ? 'block that is missing'
    : around.within.includes(name)
      ? 'block that holds itself'
      : around.within.length >= MOST_DEPTH
        ? 'block that is nested too deeply'
        : undefined
  if (!block || trouble) {
    reading.left.set(trouble!, (reading.left.get(trouble!) ?? 0) + 1)
    return
  }
  const n = (code: number, missing?: number): number => number(entity, code, missing)
  const angle = (n(50) * Math.PI) / 180
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  const [columns, rows] = [Math.max(1, n(70, 1)), Math.max(1, n(71, 1))]
  if (columns * rows > 100_000) throw new DxfError('The DXF repeats a block more often than can be read.')
  const mirrored: Matrix = n(230, 1) < 0 ? [-1, 0, 0, 1, 0, 0] : [1, 0, 0, 1, 0, 0]
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      // Rows and columns turn with the insert, and are not scaled.
      const [dx, dy] = [column * n(44), row * n(45)]
      const place: Matrix = [cos, sin, -sin, cos, n(10) + cos * dx - sin * dy, n(20) + sin * dx + cos * dy]
      const scaled: Matrix = [n(41, 1), 0, 0, n(42, 1), 0, 0]
      const inner = after(after(after(mirrored, place), scaled), [1, 0, 0, 1, -block.x, -block.y])
      collect(block.entities, { ...around, matrix: after(around.matrix, inner), within: [...around.within, name] }, reading)
    }
}
