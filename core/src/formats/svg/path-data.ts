import { SVGPathData } from 'svg-pathdata'
import { LINE, type Path } from '../../geometry/path.ts'

/** x′ = a·x + c·y + e, y′ = b·x + d·y + f. */
export type Matrix = readonly [number, number, number, number, number, number]

export const scaled = (sx: number, sy = sx): Matrix => [sx, 0, 0, sy, 0, 0]
export const movedBy = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y]

/** The inner one first, then the outer one. */
export const after = ([a, b, c, d, e, f]: Matrix, [p, q, r, s, t, u]: Matrix): Matrix => [
  a * p + c * q,
  b * p + d * q,
  a * r + c * s,
  b * r + d * s,
  a * t + c * u + e,
  b * t + d * u + f,
]

/** A `transform` attribute (SVG 1.1, 7.6). */
export function matrixOf(text: string): Matrix {
  let whole: Matrix = [1, 0, 0, 1, 0, 0]
  for (const [, name, list] of text.matchAll(/(\w+)\s*\(([^)]*)\)/g)) {
    const v = list
      .trim()
      .split(/[\s,]+/)
      .map(Number)
    const turn = ((v[0] ?? 0) * Math.PI) / 180
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)]
    if (name === 'translate') whole = after(whole, movedBy(v[0], v[1] ?? 0))
    else if (name === 'scale') whole = after(whole, scaled(v[0], v[1] ?? v[0]))
    else if (name === 'rotate') {
      const [x = 0, y = 0] = v.slice(1)
      whole = after(after(after(whole, movedBy(x, y)), [cos, sin, -sin, cos, 0, 0]), movedBy(-x, -y))
    } else if (name === 'skewX') whole = after(whole, [1, 0, Math.tan(turn), 1, 0, 0])
    else if (name === 'skewY') whole = after(whole, [1, Math.tan(turn), 0, 1, 0, 0])
    else if (name === 'matrix') whole = after(whole, [v[0], v[1], v[2], v[3], v[4], v[5]])
  }
  return whole
}

/**
 * The paths of SVG path data (SVG 1.1, 8.3), all curves as cubic Béziers, arcs within 1e-3 of their radius.
 * @throws Error where a number is none
 */
export function pathsOf(data: string, transform: Matrix = [1, 0, 0, 1, 0, 0]): Path[] {
  const paths: Path[] = []
  const plain = new SVGPathData(data).toAbs().normalizeHVZ(false).normalizeST().qtToC()
  const svg = new SVGPathData(withoutEmptyArcs(plain.commands)).aToC().matrix(...transform)
  if (svg.commands.some((c) => Object.values(c).some((v) => typeof v === 'number' && !Number.isFinite(v))))
    throw new Error('a number that is none')
  let kinds: number[] = []
  let points: number[] = []
  const end = (closed: boolean): void => {
    if (kinds.length > 0) paths.push({ closed, kinds: Uint8Array.from(kinds), points: Float64Array.from(points) })
    kinds = []
  }
  for (const c of svg.commands) {
    if (c.type === SVGPathData.MOVE_TO) {
      end(false)
      points = [c.x, c.y]
    } else if (c.type === SVGPathData.LINE_TO) {
      kinds.push(LINE)
      points.push(c.x, c.y)
    } else if (c.type === SVGPathData.CURVE_TO) {
      kinds.push(1)
      points.push(c.x1, c.y1, c.x2, c.y2, c.x, c.y)
    } else if (c.type === SVGPathData.CLOSE_PATH) {
      const [x, y] = points
      if (Math.hypot(points[points.length - 2] - x, points[points.length - 1] - y) > 1e-9) {
        kinds.push(LINE)
        points.push(x, y)
      }
      end(true)
      points = [x, y]
    }
  }
  end(false)
  return paths
}

type Commands = SVGPathData['commands']

/** Arcs to where one is are nothing, those without a radius are straight (SVG 1.1, F.6.2). @param commands absolute */
function withoutEmptyArcs(commands: Commands): Commands {
  let [x, y, sx, sy] = [0, 0, 0, 0]
  return commands.flatMap((c): Commands => {
    const [px, py] = [x, y]
    if (c.type === SVGPathData.CLOSE_PATH) [x, y] = [sx, sy]
    else if ('x' in c && 'y' in c) [x, y] = [c.x, c.y]
    if (c.type === SVGPathData.MOVE_TO) [sx, sy] = [x, y]
    if (c.type !== SVGPathData.ARC) return [c]
    if (c.x === px && c.y === py) return []
    return c.rX === 0 || c.rY === 0 ? [{ type: SVGPathData.LINE_TO, relative: false, x: c.x, y: c.y }] : [c]
  })
}
