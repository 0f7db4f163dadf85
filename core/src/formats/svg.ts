import { DOMParser } from '@xmldom/xmldom'
import { SVGPathData } from 'svg-pathdata'
import { LINE, type Path } from '../geometry/path.ts'
import type { Ring } from '../geometry/ring.ts'

/** An SVG that cannot be used; `message` is a sentence for the operator. */
export class SvgError extends Error {}

const number = (v: number): string => String(Number(v.toFixed(4)))

function pathData(path: Path): string {
  const { kinds, points } = path
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
  svgOf(paths.map(pathData).join(''), widthMm, heightMm, 0, 0)

/** Polygons as SVG in real mm, in a page from (x, y). @param rings mm */
export const writeSvgRings = (rings: readonly Ring[], widthMm: number, heightMm: number, x = 0, y = 0): string =>
  svgOf(rings.map(ringData).join(''), widthMm, heightMm, x, y)

/** Outlines of an SVG in mm, and the size of its page. */
export interface SvgOutlines {
  readonly paths: readonly Path[]
  readonly widthMm: number
  readonly heightMm: number
  /** The page's top-left corner, mm. */
  readonly xMm: number
  readonly yMm: number
}

const MM_PER: Record<string, number> = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6, px: 25.4 / 96, '': 25.4 / 96 }

function length(text: string | null): number | undefined {
  const found = text === null ? null : /^\s*([\d.]+(?:e[-+]?\d+)?)\s*(mm|cm|in|pt|pc|px|)\s*$/i.exec(text)
  return found ? Number(found[1]) * MM_PER[found[2].toLowerCase()] : undefined
}

/**
 * Reads the outlines of an SVG: `path`, `polygon`, `polyline`, `rect`, `circle`, `ellipse` and `line` elements below
 * `g`s, with nested transforms. Arcs become cubics. Text, images, `use` and styles are left out.
 * @throws SvgError
 */
export function readSvg(text: string): SvgOutlines {
  let root: ReturnType<DOMParser['parseFromString']>['documentElement']
  try {
    if (/<!ENTITY/i.test(text)) throw new Error('entities')
    root = new DOMParser({ onError: () => {} }).parseFromString(text, 'image/svg+xml').documentElement
  } catch (cause) {
    throw new SvgError('The SVG is damaged and cannot be read.', { cause })
  }
  if (root?.localName !== 'svg') throw new SvgError('This is not an SVG drawing.')
  const box = (root.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  const hasBox = box.length === 4 && box.every(Number.isFinite) && box[2] > 0 && box[3] > 0
  const widthMm = length(root.getAttribute('width')) ?? (hasBox ? box[2] * MM_PER.px : 0)
  const heightMm = length(root.getAttribute('height')) ?? (hasBox ? box[3] * MM_PER.px : 0)
  const scale = hasBox ? Math.min(widthMm / box[2], heightMm / box[3]) || MM_PER.px : MM_PER.px
  const paths: Path[] = []
  try {
    collect(root, `scale(${scale})`, paths, 0)
  } catch (cause) {
    if (cause instanceof SvgError) throw cause
    throw new SvgError('The SVG holds a path that cannot be read.', { cause })
  }
  return { paths, widthMm, heightMm, xMm: hasBox ? box[0] * scale : 0, yMm: hasBox ? box[1] * scale : 0 }
}

type Element = NonNullable<ReturnType<DOMParser['parseFromString']>['documentElement']>

const SKIPPED = new Set(['defs', 'clipPath', 'mask', 'symbol', 'marker', 'pattern', 'metadata', 'style', 'text', 'title', 'desc'])

function collect(element: Element, transform: string, paths: Path[], depth: number): void {
  if (depth > 60) throw new SvgError('The SVG nests its groups too deeply.')
  for (let child = element.firstChild; child; child = child.nextSibling) {
    if (child.nodeType !== 1) continue
    const node = child as unknown as Element
    if (SKIPPED.has(node.localName ?? '')) continue
    const own = node.getAttribute('transform')
    const inner = own ? `${transform} ${own}` : transform
    const data = elementData(node)
    if (data) append(data, inner, paths)
    collect(node, inner, paths, depth + 1)
  }
}

function elementData(node: Element): string | undefined {
  const n = (name: string): number => Number.parseFloat(node.getAttribute(name) ?? '0') || 0
  switch (node.localName) {
    case 'path':
      return node.getAttribute('d') ?? undefined
    case 'polygon':
    case 'polyline': {
      const points = (node.getAttribute('points') ?? '').trim()
      return points ? `M${points}${node.localName === 'polygon' ? 'Z' : ''}` : undefined
    }
    case 'line':
      return `M${n('x1')} ${n('y1')}L${n('x2')} ${n('y2')}`
    case 'rect':
      return n('width') > 0 && n('height') > 0 ? `M${n('x')} ${n('y')}h${n('width')}v${n('height')}h${-n('width')}Z` : undefined
    case 'circle':
    case 'ellipse': {
      const rx = node.localName === 'circle' ? n('r') : n('rx')
      const ry = node.localName === 'circle' ? n('r') : n('ry')
      return rx > 0 && ry > 0
        ? `M${n('cx') - rx} ${n('cy')}a${rx} ${ry} 0 1 1 ${2 * rx} 0a${rx} ${ry} 0 1 1 ${-2 * rx} 0Z`
        : undefined
    }
    default:
      return undefined
  }
}

function append(data: string, transform: string, paths: Path[]): void {
  let svg = new SVGPathData(data).toAbs().normalizeHVZ(false).normalizeST().qtToC().aToC()
  for (const step of [...transform.matchAll(/(\w+)\s*\(([^)]*)\)/g)].reverse()) {
    const v = step[2]
      .trim()
      .split(/[\s,]+/)
      .map(Number)
    const rad = ((v[0] ?? 0) * Math.PI) / 180
    if (step[1] === 'translate') svg = svg.translate(v[0], v[1] ?? 0)
    else if (step[1] === 'scale') svg = svg.scale(v[0], v[1] ?? v[0])
    else if (step[1] === 'rotate') svg = svg.rotate(rad, v[1] ?? 0, v[2] ?? 0)
    else if (step[1] === 'skewX') svg = svg.skewX(Math.tan(rad))
    else if (step[1] === 'skewY') svg = svg.skewY(Math.tan(rad))
    else if (step[1] === 'matrix') svg = svg.matrix(v[0], v[1], v[2], v[3], v[4], v[5])
  }
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
}
