import { LINE, type Path } from '../../geometry/path.ts'
import type { Ring } from '../../geometry/ring.ts'
import type { StrokeEnds } from '../../geometry/stroke-area.ts'
import { drawingBounds, type VectorDrawing } from '../../vector/drawing.ts'

const number = (v: number): string => String(Number(v.toFixed(4)))

/** A path as SVG path data. @param digits behind the point, default 4 */
export function pathData(path: Path, digits = 4): string {
  const { kinds, points } = path
  const unit = 10 ** digits
  const number = (v: number): string => String(Math.round(v * unit) / unit)
  let d = `M${number(points[0])} ${number(points[1])}`
  let at = 2
  for (const kind of kinds) {
    const n = kind === LINE ? 2 : 6
    d += kind === LINE ? 'L' : 'C'
    for (let i = 0; i < n; i++) d += `${i ? ' ' : ''}${number(points[at + i])}`
    at += n
  }
  return path.closed ? `${d}Z` : d
}

/** Several paths as SVG path data. */
export const outlineData = (paths: readonly Path[]): string => paths.map((path) => pathData(path)).join('')

const ringData = (ring: Ring): string => {
  let d = ''
  for (let i = 0; i < ring.length; i += 2) d += `${i ? 'L' : 'M'}${number(ring[i])} ${number(ring[i + 1])}`
  return `${d}Z`
}

function svgOf(data: string, widthMm: number, heightMm: number, x: number, y: number): string {
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${number(widthMm)}mm" height="${number(heightMm)}mm" viewBox="${number(x)} ${number(y)} ${number(widthMm)} ${number(heightMm)}"><path fill="none" stroke="#000" stroke-width="0.1" fill-rule="evenodd" d="${data}"/></svg>\n`
}

/** Outlines as SVG in real mm. @param paths mm */
export const writeSvgPaths = (paths: readonly Path[], widthMm: number, heightMm: number): string =>
  svgOf(paths.map((path) => pathData(path)).join(''), widthMm, heightMm, 0, 0)

/** Polygons as SVG in real mm, in a page from (x, y). @param rings mm */
export const writeSvgRings = (rings: readonly Ring[], widthMm: number, heightMm: number, x = 0, y = 0): string =>
  svgOf(rings.map(ringData).join(''), widthMm, heightMm, x, y)

const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

/** How a stroke ends, as attributes: round where nothing else is said. */
function endsText({ cap, join, mitreLimit }: StrokeEnds = {}): string {
  const cut = cap === 'butt' ? '' : ` stroke-linecap="${cap ?? 'round'}"`
  const corner =
    join === 'mitre' ? (mitreLimit === 4 ? '' : ` stroke-miterlimit="${mitreLimit}"`) : ` stroke-linejoin="${join ?? 'round'}"`
  return cut + corner
}

/** A drawing as SVG in real mm: a group a layer, every shape with its look. */
export function writeSvgDrawing(drawing: VectorDrawing): string {
  const { x0, y0, x1, y1 } = drawing.page ?? drawingBounds(drawing)
  const [width, height] = [Math.max(0.001, x1 - x0), Math.max(0.001, y1 - y0)]
  const layers = new Map<string, string[]>()
  for (const { paths, look, rule } of drawing.shapes) {
    const width = look.strokeMm === undefined ? 0.1 : look.strokeMm
    const stroke = look.stroke ? `stroke="${look.stroke}" stroke-width="${number(width)}"${endsText(look.ends)}` : 'stroke="none"'
    const shape = `<path fill="${look.fill ?? 'none'}" ${stroke} fill-rule="${rule}" d="${paths.map((path) => pathData(path)).join('')}"/>`
    const layer = look.layer ?? ''
    const list = layers.get(layer)
    if (list) list.push(shape)
    else layers.set(layer, [shape])
  }
  const groups = [...layers].map(([layer, list]) =>
    layer ? `<g id="${escaped(layer)}">\n${list.join('\n')}\n</g>` : list.join('\n'),
  )
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${number(width)}mm" height="${number(height)}mm" viewBox="${number(x0)} ${number(y0)} ${number(width)} ${number(height)}">\n${groups.join('\n')}\n</svg>\n`
}
