import type { Path } from '../../geometry/path.ts'
import { isCubic, type Piece, piecesOf } from '../../geometry/pieces.ts'
import { drawingBounds, type Look, type VectorDrawing } from '../../vector/drawing.ts'

const value = (v: number): string => {
  const text = v.toFixed(6).replace(/\.?0+$/, '')
  return text === '-0' ? '0' : text
}

/** Names of layers hold letters, digits and a few marks. */
const layerName = (name: string): string => name.replace(/[^A-Za-z0-9À-ɏ _$-]+/g, '_').slice(0, 200) || '0'

/**
 * A drawing as a text DXF in mm: polygons as LWPOLYLINE, cubics as SPLINE (exact), layers and colours kept. A path of both is
 * written piece by piece where a curve needs it.
 */
export function writeDxf(drawing: VectorDrawing): string {
  const box = drawing.page ?? drawingBounds(drawing)
  // Down becomes up.
  const y = (v: number): number => box.y1 - v
  const out: string[] = []
  const put = (...groups: (string | number)[]): void => {
    for (let i = 0; i < groups.length; i += 2) out.push(String(groups[i]), String(groups[i + 1]))
  }
  const layers = [...new Set(drawing.shapes.map(({ look }) => (look.layer ? layerName(look.layer) : '0')))]
  let handle = 0x20
  const next = (): string => (handle++).toString(16).toUpperCase()
  put(0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1015', 9, '$INSUNITS', 70, 4, 9, '$MEASUREMENT', 70, 1, 0, 'ENDSEC')
  put(0, 'SECTION', 2, 'TABLES', 0, 'TABLE', 2, 'LAYER', 5, '2', 100, 'AcDbSymbolTable', 70, layers.length)
  for (const layer of layers)
    put(0, 'LAYER', 5, next(), 100, 'AcDbSymbolTableRecord', 100, 'AcDbLayerTableRecord', 2, layer, 70, 0, 62, 7, 6, 'CONTINUOUS')
  put(0, 'ENDTAB', 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES')
  const begin = (type: string, kind: string, look: Look): void => {
    put(0, type, 5, next(), 100, 'AcDbEntity', 8, look.layer ? layerName(look.layer) : '0')
    const colour = look.stroke ?? look.fill
    if (colour) put(62, 7, 420, Number.parseInt(colour.slice(1), 16))
    if (look.strokeMm !== undefined) put(370, Math.max(0, Math.round(100 * look.strokeMm)))
    put(100, kind)
  }
  const polyline = (points: readonly (readonly [number, number])[], closed: boolean, look: Look): void => {
    begin('LWPOLYLINE', 'AcDbPolyline', look)
    put(90, points.length, 70, closed ? 1 : 0)
    for (const [px, py] of points) put(10, value(px), 20, value(y(py)))
  }
  const spline = (pieces: readonly Piece[], closed: boolean, look: Look): void => {
    begin('SPLINE', 'AcDbSpline', look)
    const n = pieces.length
    put(70, closed ? 9 : 8, 71, 3, 72, 3 * n + 5, 73, 3 * n + 1, 74, 0)
    for (let i = 0; i <= n; i++) for (let k = 0; k < (i === 0 || i === n ? 4 : 3); k++) put(40, i)
    put(10, value(pieces[0][0]), 20, value(y(pieces[0][1])), 30, 0)
    for (const piece of pieces) {
      const c = cubicOf(piece)
      for (let i = 2; i < 8; i += 2) put(10, value(c[i]), 20, value(y(c[i + 1])), 30, 0)
    }
  }
  const write = (path: Path, look: Look): void => {
    const pieces = piecesOf(path)
    if (pieces.length === 0) return
    if (pieces.some(isCubic)) {
      spline(pieces, path.closed, look)
      return
    }
    const points = pieces.map((piece): readonly [number, number] => [piece[0], piece[1]])
    const last = pieces[pieces.length - 1]
    if (!path.closed) points.push([last[2], last[3]])
    polyline(points, path.closed, look)
  }
  for (const { paths, look } of drawing.shapes) for (const path of paths) write(path, look)
  put(0, 'ENDSEC', 0, 'EOF')
  return `${out.join('\n')}\n`
}

/** A straight piece as a cubic, with handles at its thirds. */
const cubicOf = (piece: Piece): Piece =>
  isCubic(piece)
    ? piece
    : [0, 1, 2, 3].flatMap((k) => [piece[0] + ((piece[2] - piece[0]) * k) / 3, piece[1] + ((piece[3] - piece[1]) * k) / 3])
