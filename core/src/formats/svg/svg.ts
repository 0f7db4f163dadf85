import { DOMParser } from '@xmldom/xmldom'
import type { Bounds } from '../../geometry/bounds.ts'
import { combine, filledBy } from '../../geometry/clip.ts'
import { flattenPath, type Path } from '../../geometry/path.ts'
import type { Ring } from '../../geometry/ring.ts'
import { drawingBounds, type Look, type Shape, type VectorDrawing } from '../../vector/drawing.ts'
import { after, type Matrix, movedBy, pathsOf, scaled } from './path-data.ts'
import { clippedPaths } from './svg-clip.ts'
import { FIRST_STYLE, type SheetRule, type Style, sheetRules, styleOf } from './svg-style.ts'

/** An SVG that cannot be used; `message` is a sentence for the operator. */
export class SvgError extends Error {}

/** An SVG, mm. Its shapes, and all their paths in one list. */
export interface SvgDrawing extends VectorDrawing {
  readonly page: Bounds
  readonly paths: readonly Path[]
}

const MM_PER: Record<string, number> = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, pc: 25.4 / 6, px: 25.4 / 96, '': 25.4 / 96 }

function length(text: string | null): number | undefined {
  const found = text === null ? null : /^\s*([\d.]+(?:e[-+]?\d+)?)\s*(mm|cm|in|pt|pc|px|)\s*$/i.exec(text)
  return found ? Number(found[1]) * MM_PER[found[2].toLowerCase()] : undefined
}

/**
 * Reads an SVG: `path`, `polygon`, `polyline`, `rect`, `circle`, `ellipse` and `line` elements with nested transforms, nested
 * pages, what `use` repeats, clip paths, and how they look by attributes, styles and style sheets. Arcs become cubics. Hidden
 * elements, text, images and references to other files are left out and told; a path that cannot be read does not stop the rest.
 * @throws SvgError
 */
export function readSvg(text: string): SvgDrawing {
  let root: Element | null
  try {
    if (/<!ENTITY/i.test(text)) throw new Error('entities')
    // A prefix that everybody knows, often used without being declared.
    const known = /\bxlink:/.test(text) && !/xmlns:xlink/.test(text) ? text.replace(/<svg\b/, `<svg ${XLINK}`) : text
    root = new DOMParser({ onError: () => {} }).parseFromString(known, 'image/svg+xml').documentElement
  } catch (cause) {
    throw new SvgError('The SVG is damaged and cannot be read.', { cause })
  }
  if (root?.localName !== 'svg') throw new SvgError('This is not an SVG drawing.')
  const box = viewBox(root)
  const widthMm = length(root.getAttribute('width')) ?? (box ? box[2] * MM_PER.px : 0)
  const heightMm = length(root.getAttribute('height')) ?? (box ? box[3] * MM_PER.px : 0)
  const scale = box ? Math.min(widthMm / box[2], heightMm / box[3]) || MM_PER.px : MM_PER.px
  const sheets: string[] = []
  const reading: Reading = { shapes: [], byId: new Map(), sheet: [], left: new Map(), elements: 0, unread: 0 }
  look(root, reading.byId, sheets, 0)
  reading.sheet.push(...sheetRules(sheets.join('\n')))
  collect(root, { transform: scaled(scale), style: styleOf(root, FIRST_STYLE, reading.sheet), depth: 0 }, reading)
  const paths = reading.shapes.flatMap((shape) => shape.paths)
  if (reading.unread > 0 && paths.length === 0) throw new SvgError('The SVG holds no path that can be read.')
  const x0 = box ? box[0] * scale : 0
  const y0 = box ? box[1] * scale : 0
  return {
    shapes: reading.shapes,
    paths,
    page: { x0, y0, x1: x0 + widthMm, y1: y0 + heightMm },
    notices: noticesOf(reading),
  }
}

const XLINK = 'xmlns:xlink="http://www.w3.org/1999/xlink"'

/** A `transform` attribute (SVG 1.1, 7.6). */
function matrixOf(text: string): Matrix {
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

export type Element = NonNullable<ReturnType<DOMParser['parseFromString']>['documentElement']>

/** A drawing while it is read. */
interface Reading {
  readonly shapes: Shape[]
  readonly byId: Map<string, Element>
  readonly sheet: SheetRule[]
  /** What was left out, and how often. */
  readonly left: Map<string, number>
  elements: number
  unread: number
}

/** What an element stands in. */
interface Around {
  readonly transform: Matrix
  readonly style: Style
  readonly layer?: string
  /** What is seen at all, mm, by even-odd; absent: everything. */
  readonly region?: readonly Ring[]
  readonly depth: number
}

const MOST_DEPTH = 60
/** What `use` repeats counts every time: files that would fill memory with copies of copies end here. */
const MOST_ELEMENTS = 100_000
const SKIPPED = new Set([
  'defs',
  'clipPath',
  'mask',
  'symbol',
  'marker',
  'pattern',
  'metadata',
  'style',
  'title',
  'desc',
  'script',
])
const TOLD: Readonly<Record<string, string>> = { text: 'text', image: 'picture', foreignObject: 'foreign object' }

function noticesOf({ left, unread }: Reading): string[] {
  const counted = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`
  const notices = [...left].map(([what, n]) =>
    what === 'text'
      ? `${counted(n, 'text')} left out: convert text to paths where the drawing was made.`
      : `${counted(n, what)} left out.`,
  )
  if (unread > 0) notices.push(`${counted(unread, 'path')} left out: damaged.`)
  return notices
}

/** Elements by id, and the style sheets. */
function look(element: Element, byId: Map<string, Element>, sheets: string[], depth: number): void {
  if (depth > MOST_DEPTH) throw new SvgError('The SVG nests its groups too deeply.')
  for (let child = element.firstChild; child; child = child.nextSibling) {
    if (child.nodeType !== 1) continue
    const node = child as unknown as Element
    const id = node.getAttribute('id')
    if (id && !byId.has(id)) byId.set(id, node)
    if (node.localName === 'style') sheets.push(node.textContent ?? '')
    look(node, byId, sheets, depth + 1)
  }
}

/** The four numbers of a view box; undefined where it has none that can be used. */
function viewBox(node: Element): readonly number[] | undefined {
  const box = (node.getAttribute('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number)
  return box.length === 4 && box.every(Number.isFinite) && box[2] > 0 && box[3] > 0 ? box : undefined
}

const userUnits = (node: Element, name: string): number | undefined => {
  const mm = length(node.getAttribute(name))
  return mm === undefined ? undefined : mm / MM_PER.px
}

/** How the inside of a nested page, or of a symbol, lies in what is around it (SVG 1.1, 7.8: the middle, as large as fits). */
function pageTransform(page: Element, holder: Element): Matrix {
  const box = viewBox(page)
  const width = userUnits(holder, 'width') ?? userUnits(page, 'width')
  const height = userUnits(holder, 'height') ?? userUnits(page, 'height')
  const moved = page === holder ? movedBy(userUnits(page, 'x') ?? 0, userUnits(page, 'y') ?? 0) : movedBy(0, 0)
  if (!box || !width || !height) return moved
  const scale = Math.min(width / box[2], height / box[3])
  const dx = (width - box[2] * scale) / 2 - box[0] * scale
  const dy = (height - box[3] * scale) / 2 - box[1] * scale
  return after(moved, after(movedBy(dx, dy), scaled(scale)))
}

function collect(parent: Element, around: Around, reading: Reading): void {
  for (let child = parent.firstChild; child; child = child.nextSibling) {
    if (child.nodeType !== 1) continue
    const node = child as unknown as Element
    if (!SKIPPED.has(node.localName ?? '')) collectOne(node, around, reading)
  }
}

function collectOne(node: Element, around: Around, reading: Reading): void {
  const { depth } = around
  if (depth > MOST_DEPTH) throw new SvgError('The SVG nests or repeats its groups too deeply.')
  if (++reading.elements > MOST_ELEMENTS) throw new SvgError(`The SVG has more than ${MOST_ELEMENTS} elements.`)
  const style = styleOf(node, around.style, reading.sheet)
  if (!style.displayed) return
  const name = node.localName ?? ''
  const told = TOLD[name]
  if (told) {
    if (style.visible) reading.left.set(told, (reading.left.get(told) ?? 0) + 1)
    return
  }
  const own = node.getAttribute('transform')
  const transform = own ? after(around.transform, matrixOf(own)) : around.transform
  const region = style.clip ? clipRegion(node, style.clip, { ...around, transform, style }, reading) : around.region
  const id = name === 'g' ? node.getAttribute('id') : null
  const here: Around = {
    transform,
    style,
    ...(around.layer ? { layer: around.layer } : id ? { layer: id.slice(0, 100) } : {}),
    ...(region ? { region } : {}),
    depth: depth + 1,
  }
  if (name === 'use') {
    collectUse(node, here, reading)
    return
  }
  const data = elementData(node)
  if (data && style.visible) {
    try {
      add(data, here, reading.shapes)
    } catch {
      reading.unread++
    }
  }
  collect(node, name === 'svg' ? { ...here, transform: after(transform, pageTransform(node, node)) } : here, reading)
}

/** The shape of a clip path in mm, within what clips already; undefined where there is no such path: then nothing is clipped. */
function clipRegion(node: Element, id: string, around: Around, reading: Reading): readonly Ring[] | undefined {
  const clip = reading.byId.get(id)
  if (clip?.localName !== 'clipPath') return around.region
  let base = around.transform
  if (clip.getAttribute('clipPathUnits') === 'objectBoundingBox') {
    const { x0, y0, x1, y1 } = objectBox(node, around.depth, reading)
    // What has no width or no height has no box that could be shared.
    if (!(x1 > x0 && y1 > y0)) return around.region
    base = after(base, [x1 - x0, 0, 0, y1 - y0, x0, y0])
  }
  const own = clip.getAttribute('transform')
  const inside: Reading = { ...reading, shapes: [] }
  const transform = own ? after(base, matrixOf(own)) : base
  collect(clip, { transform, style: { ...FIRST_STYLE, clip: undefined }, depth: around.depth + 1 }, inside)
  const rings = inside.shapes.flatMap(({ paths, rule }) =>
    filledBy(
      rule,
      paths.map((path) => flattenPath(path, 0.004)),
    ),
  )
  const all = combine('union', rings)
  return around.region ? combine('intersect', all, around.region) : all
}

/** The box around the geometry of an element, in its own units, strokes without their width (SVG 1.1, 7.11). */
function objectBox(node: Element, depth: number, reading: Reading): Bounds {
  const inside: Reading = { ...reading, shapes: [] }
  const here: Around = { transform: movedBy(0, 0), style: { ...FIRST_STYLE, clip: undefined }, depth: depth + 1 }
  const data = elementData(node)
  if (data) add(data, here, inside.shapes)
  else if (node.localName === 'use') collectUse(node, here, inside)
  else collect(node, here, inside)
  return drawingBounds(inside)
}

function collectUse(node: Element, around: Around, reading: Reading): void {
  const link = (node.getAttribute('href') ?? node.getAttribute('xlink:href') ?? '').trim()
  const target = link.startsWith('#') ? reading.byId.get(link.slice(1)) : undefined
  if (!target) {
    const what = link.startsWith('#') ? 'reference to nothing' : 'reference to another file'
    reading.left.set(what, (reading.left.get(what) ?? 0) + 1)
    return
  }
  const moved = after(around.transform, movedBy(userUnits(node, 'x') ?? 0, userUnits(node, 'y') ?? 0))
  if (target.localName === 'symbol' || target.localName === 'svg')
    collect(
      target,
      { ...around, style: styleOf(target, around.style, reading.sheet), transform: after(moved, pageTransform(target, node)) },
      reading,
    )
  else collectOne(target, { ...around, transform: moved }, reading)
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
      return rectData(n('x'), n('y'), n('width'), n('height'), node.getAttribute('rx'), node.getAttribute('ry'))
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

/** A rectangle with its corners (SVG 1.1, 9.2): a missing radius is the other one, none is larger than half a side. */
function rectData(x: number, y: number, w: number, h: number, rxText: string | null, ryText: string | null): string | undefined {
  if (!(w > 0 && h > 0)) return undefined
  const radius = (text: string | null): number => Math.max(0, Number.parseFloat(text ?? '') || 0)
  const rx = Math.min(w / 2, rxText === null ? radius(ryText) : radius(rxText))
  const ry = Math.min(h / 2, ryText === null ? radius(rxText) : radius(ryText))
  if (rx === 0 || ry === 0) return `M${x} ${y}h${w}v${h}h${-w}Z`
  const corner = (dx: number, dy: number): string => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`
  return `M${x + rx} ${y}h${w - 2 * rx}${corner(rx, ry)}v${h - 2 * ry}${corner(-rx, ry)}h${2 * rx - w}${corner(-rx, -ry)}v${2 * ry - h}${corner(rx, -ry)}Z`
}

/** One shape, as it is seen. */
function add(data: string, { transform, style, layer, region }: Around, shapes: Shape[]): void {
  const drawn = pathsOf(data, transform)
  const paths = region ? clippedPaths(drawn, region, style.fill !== undefined) : drawn
  if (paths.length === 0) return
  const [a, b, c, d] = transform
  const strokeMm = style.strokeWidth * Math.sqrt(Math.abs(a * d - b * c))
  const look: Look = {
    ...(style.stroke ? { stroke: style.stroke, strokeMm: Math.round(strokeMm * 1e4) / 1e4 } : {}),
    ...(style.fill ? { fill: style.fill } : {}),
    ...(layer ? { layer } : {}),
  }
  shapes.push({ paths, look, rule: style.rule })
}
