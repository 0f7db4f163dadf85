import { DOMParser } from '@xmldom/xmldom'
import { type Bounds, EMPTY_BOUNDS, unite } from '../../geometry/bounds.ts'
import { combine } from '../../geometry/clip.ts'
import { dashesOf } from '../../geometry/dashes.ts'
import { type Path, pathFromLine, pathFromRing } from '../../geometry/path.ts'
import { closedLine, type Ring } from '../../geometry/ring.ts'
import { strokeArea } from '../../geometry/stroke-area.ts'
import { counted } from '../../units/counted.ts'
import { drawingBounds, type Look, type Shape, type VectorDrawing } from '../../vector/drawing.ts'
import { after, type Matrix, matrixOf, movedBy, pathsOf } from './path-data.ts'
import { type Element, elementData } from './svg-elements.ts'
import { endsOf, FIRST_PAINT, luminanceOf, type Paint, paintOf, rgbOf, seenOnWhite, UNSEEN } from './svg-paint.ts'
import { areaOf, areaWithin, flatOf, isWithin, linesIn } from './svg-region.ts'

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
 * Reads a plain SVG: groups and `path`, `polygon`, `polyline`, `rect`, `circle`, `ellipse` and `line` elements with nested transforms, clip
 * paths and masks, and how they look by attributes. Styles, what `use` repeats, markers and text are resolved before (`resolvedDrawing` of the
 * intake does it). Arcs become cubics, dashes strokes, what is seen through a tone. Pictures are left out and told; a path that cannot
 * be read does not stop the rest.
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
  const reading: Reading = {
    shapes: [],
    byId: new Map(),
    layers: listed(root.getAttribute('data-layers')) as Readonly<Record<string, string>>,
    left: new Map(),
    told: new Set(Object.values(listed(root.getAttribute('data-told'))).map(String)),
    elements: 0,
    unread: 0,
  }
  look(root, reading.byId, 0)
  const [sx, , , sy, dx, dy] = pageTransform(root, box, widthMm, heightMm)
  // The page begins where its view box does.
  const [x0, y0] = box ? [box[0] * sx, box[1] * sy] : [0, 0]
  const transform: Matrix = [sx, 0, 0, sy, dx + x0, dy + y0]
  collect(root, { transform, paint: paintOf(root, FIRST_PAINT), opacity: 1, depth: 0 }, reading)
  const paths = reading.shapes.flatMap((shape) => shape.paths)
  if (reading.unread > 0 && paths.length === 0) throw new SvgError('The SVG holds no path that can be read.')
  return {
    shapes: reading.shapes,
    paths,
    page: { x0, y0, x1: x0 + widthMm, y1: y0 + heightMm },
    notices: noticesOf(reading),
  }
}

const XLINK = 'xmlns:xlink="http://www.w3.org/1999/xlink"'

/** A drawing while it is read. */
interface Reading {
  readonly shapes: Shape[]
  readonly byId: Map<string, Element>
  /** What the layers of ids are called. */
  readonly layers: Readonly<Record<string, string>>
  /** What was left out, and how often; what is told beside. */
  readonly left: Map<string, number>
  readonly told: Set<string>
  elements: number
  unread: number
}

/** What an element stands in. */
interface Around {
  readonly transform: Matrix
  readonly paint: Paint
  /** How much of it is seen, 0–1. */
  readonly opacity: number
  readonly layer?: string
  /** What is seen at all, mm, by even-odd; absent: everything. */
  readonly region?: readonly Ring[]
  readonly depth: number
}

const MOST_DEPTH = 100
const MOST_ELEMENTS = 300_000
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
const TOLD: Readonly<Record<string, string>> = {
  text: 'text',
  image: 'picture',
  foreignObject: 'foreign object',
}

/** What resolving left with the drawing. */
function listed(text: string | null): object {
  try {
    const value: unknown = JSON.parse(text ?? '{}')
    return typeof value === 'object' && value !== null ? value : {}
  } catch {
    return {}
  }
}

function noticesOf({ left, told, unread }: Reading): string[] {
  const notices = [...[...left].map(([what, n]) => `${counted(n, what)} left out.`), ...told]
  if (unread > 0) notices.push(`${counted(unread, 'path')} left out: damaged.`)
  return notices
}

/** Elements by id. */
function look(element: Element, byId: Map<string, Element>, depth: number): void {
  if (depth > MOST_DEPTH) throw new SvgError('The SVG nests its groups too deeply.')
  for (let child = element.firstChild; child; child = child.nextSibling) {
    if (child.nodeType !== 1) continue
    const node = child as unknown as Element
    const id = node.getAttribute('id')
    if (id && !byId.has(id)) byId.set(id, node)
    look(node, byId, depth + 1)
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

/**
 * How a view box lies in its page (SVG 1.1, 7.8). @param width,height of the page, mm
 * @returns from user units to mm, scales and shifts only
 */
function pageTransform(root: Element, box: readonly number[] | undefined, width: number, height: number): Matrix {
  if (!box || !(width > 0 && height > 0)) return [MM_PER.px, 0, 0, MM_PER.px, 0, 0]
  const [sx, sy] = [width / box[2], height / box[3]]
  const [, align = 'xMidYMid', how = 'meet'] =
    /^\s*(?:defer\s+)?(none|x(?:Min|Mid|Max)Y(?:Min|Mid|Max))(?:\s+(meet|slice))?/.exec(
      root.getAttribute('preserveAspectRatio') ?? '',
    ) ?? []
  if (align === 'none') return [sx, 0, 0, sy, -box[0] * sx, -box[1] * sy]
  const scale = how === 'slice' ? Math.max(sx, sy) : Math.min(sx, sy)
  const share = (word: string): number => (word === 'Min' ? 0 : word === 'Max' ? 1 : 0.5)
  const [fx, fy] = [share(align.slice(1, 4)), share(align.slice(5, 8))]
  return [scale, 0, 0, scale, (width - box[2] * scale) * fx - box[0] * scale, (height - box[3] * scale) * fy - box[1] * scale]
}

function collect(parent: Element, around: Around, reading: Reading): void {
  for (let child = parent.firstChild; child; child = child.nextSibling) {
    if (child.nodeType !== 1) continue
    const node = child as unknown as Element
    if (!SKIPPED.has(node.localName ?? '')) collectOne(node, around, reading)
  }
}

const linked = (node: Element, name: string): string | undefined =>
  /^url\(\s*["']?#([^"')]+)["']?\s*\)$/.exec(node.getAttribute(name) ?? '')?.[1]

function collectOne(node: Element, around: Around, reading: Reading): void {
  const { depth } = around
  if (depth > MOST_DEPTH) throw new SvgError('The SVG nests its groups too deeply.')
  if (++reading.elements > MOST_ELEMENTS) throw new SvgError(`The SVG has more than ${MOST_ELEMENTS} elements.`)
  if (node.getAttribute('display') === 'none') return
  const paint = paintOf(node, around.paint)
  const name = node.localName ?? ''
  if (TOLD[name]) {
    if (paint.isVisible) reading.left.set(TOLD[name], (reading.left.get(TOLD[name]) ?? 0) + 1)
    return
  }
  const own = node.getAttribute('transform')
  const transform = own ? after(around.transform, matrixOf(own)) : around.transform
  const faint = Number.parseFloat(node.getAttribute('opacity') ?? '1')
  const opacity = around.opacity * (Number.isFinite(faint) ? Math.max(0, Math.min(1, faint)) : 1)
  if (opacity < UNSEEN) return
  if (node.getAttribute('filter')) reading.told.add('An effect (blur, shadow) was left out.')
  let here: Around = { ...around, transform, paint, opacity }
  const clip = linked(node, 'clip-path')
  if (clip) here = { ...here, ...within(here.region, clipRegion(node, clip, here, reading)) }
  const mask = linked(node, 'mask')
  if (mask) here = { ...here, ...within(here.region, maskRegion(node, mask, here, reading)) }
  const id = name === 'g' ? node.getAttribute('id') : null
  here = { ...here, ...(around.layer || !id ? {} : { layer: (reading.layers[id] ?? id).slice(0, 100) }), depth: depth + 1 }
  if (name === 'use') {
    collectUse(node, here, reading)
    return
  }
  const data = elementData(node)
  if (data && paint.isVisible) {
    try {
      add(data, here, reading)
    } catch {
      reading.unread++
    }
  }
  collect(node, here, reading)
}

/** What one of our own drawings repeats; what others repeat was resolved before. */
function collectUse(node: Element, around: Around, reading: Reading): void {
  const link = (node.getAttribute('href') ?? node.getAttribute('xlink:href') ?? '').trim()
  const target = link.startsWith('#') ? reading.byId.get(link.slice(1)) : undefined
  if (!target) {
    const what = link.startsWith('#') ? 'reference to nothing' : 'reference to another file'
    reading.left.set(what, (reading.left.get(what) ?? 0) + 1)
    return
  }
  const n = (name: string): number => Number.parseFloat(node.getAttribute(name) ?? '0') || 0
  collectOne(target, { ...around, transform: after(around.transform, movedBy(n('x'), n('y'))) }, reading)
}

/** A region within another. */
const within = (outer: readonly Ring[] | undefined, inner: readonly Ring[] | undefined): Pick<Around, 'region'> =>
  inner === undefined ? {} : { region: outer ? combine('intersect', inner, outer) : inner }

/** The box around the geometry of an element in its own units, strokes without their width (SVG 1.1, 7.11). */
function geometryBox(node: Element, transform: Matrix, depth: number): Bounds {
  const data = elementData(node)
  let box = data ? drawingBounds({ shapes: [{ paths: pathsOf(data, transform), look: {}, rule: 'nonzero' }] }) : EMPTY_BOUNDS
  for (let child = node.firstChild; child && depth < MOST_DEPTH; child = child.nextSibling) {
    if (child.nodeType !== 1) continue
    const inner = child as unknown as Element
    if (SKIPPED.has(inner.localName ?? '')) continue
    const own = inner.getAttribute('transform')
    box = unite(box, geometryBox(inner, own ? after(transform, matrixOf(own)) : transform, depth + 1))
  }
  return box
}

/** Where shares of the box of an element are meant: from them to mm; undefined where it has no box. */
function boxTransform(node: Element, around: Around): Matrix | undefined {
  const { x0, y0, x1, y1 } = geometryBox(node, movedBy(0, 0), 0)
  return x1 > x0 && y1 > y0 ? after(around.transform, [x1 - x0, 0, 0, y1 - y0, x0, y0]) : undefined
}

/** The shape of a clip path in mm; undefined where there is no such path: then nothing is clipped. */
function clipRegion(node: Element, id: string, around: Around, reading: Reading): readonly Ring[] | undefined {
  const clip = reading.byId.get(id)
  if (clip?.localName !== 'clipPath' || around.depth > MOST_DEPTH) return undefined
  const base = clip.getAttribute('clipPathUnits') === 'objectBoundingBox' ? boxTransform(node, around) : around.transform
  if (!base) return undefined
  const own = clip.getAttribute('transform')
  const rings: Ring[] = []
  const inside: Around = {
    transform: own ? after(base, matrixOf(own)) : base,
    paint: { ...FIRST_PAINT, stroke: 'none' },
    opacity: 1,
    depth: around.depth + 1,
  }
  clipShapes(clip, inside, { ...reading, shapes: [], left: new Map() }, rings)
  const all = combine('union', rings)
  const further = linked(clip, 'clip-path')
  const outer = further ? clipRegion(node, further, { ...around, depth: around.depth + 1 }, reading) : undefined
  return outer ? combine('intersect', all, outer) : all
}

/** The areas in a clip path, each by its own rule. */
function clipShapes(parent: Element, around: Around, reading: Reading, rings: Ring[]): void {
  for (let child = parent.firstChild; child; child = child.nextSibling) {
    if (child.nodeType !== 1) continue
    const node = child as unknown as Element
    const paint = paintOf(node, around.paint)
    const own = node.getAttribute('transform')
    const transform = own ? after(around.transform, matrixOf(own)) : around.transform
    const data = elementData(node)
    const clip = linked(node, 'clip-path')
    const here = { ...around, transform, paint }
    const region = clip ? clipRegion(node, clip, here, reading) : undefined
    let area: Ring[] = []
    if (data && paint.isVisible) area = areaOf(pathsOf(data, transform), paint.clipRule)
    else if (!data) clipShapes(node, here, reading, area)
    for (const ring of region ? combine('intersect', combine('union', area), region) : area) rings.push(ring)
  }
}

/**
 * What of something is seen through a mask, mm: where it is at least half light (or half there). What is in between is told.
 * Undefined where there is no such mask.
 */
function maskRegion(node: Element, id: string, around: Around, reading: Reading): readonly Ring[] | undefined {
  const mask = reading.byId.get(id)
  if (mask?.localName !== 'mask' || around.depth > MOST_DEPTH) return undefined
  const shares = (name: string, otherwise: string): boolean => (mask.getAttribute(name) ?? otherwise) === 'objectBoundingBox'
  const boxed = boxTransform(node, around)
  const base = shares('maskContentUnits', 'userSpaceOnUse') ? boxed : around.transform
  if (!base) return []
  const inside: Reading = { ...reading, shapes: [], left: new Map(), told: new Set() }
  const isAlpha = mask.getAttribute('mask-type') === 'alpha'
  collect(mask, { transform: base, paint: FIRST_PAINT, opacity: 1, depth: around.depth + 1 }, inside)
  let seen: Ring[] = []
  for (const { paths, look, rule } of inside.shapes) {
    for (const [colour, rings] of [
      [look.fill, () => areaOf(paths, rule)],
      [look.stroke, () => strokeArea(linesOf(paths), (look.strokeMm ?? 0) / 2, look.ends)],
    ] as const) {
      const rgb = colour && rgbOf(colour)
      if (!rgb) continue
      // What is black and half seen through is as dark as it is on white: masks are made of white on nothing.
      const light = isAlpha ? 1 - luminanceOf(rgb) : luminanceOf(rgb)
      if (light > SOFT && light < 1 - SOFT) reading.told.add('A soft mask cuts where it is half light.')
      seen = light >= 0.5 ? combine('union', [...seen, ...combine('union', rings())]) : combine('subtract', seen, rings())
    }
  }
  const part = shares('maskUnits', 'objectBoundingBox') ? boxed : around.transform
  if (!part) return seen
  const number = (name: string, share: number): number => {
    const value = Number.parseFloat(mask.getAttribute(name) ?? '')
    return Number.isFinite(value) ? value : share
  }
  const [x, y, w, h] = [number('x', -0.1), number('y', -0.1), number('width', 1.2), number('height', 1.2)]
  return combine('intersect', seen, areaOf(pathsOf(`M${x} ${y}h${w}v${h}h${-w}Z`, part), 'nonzero'))
}

/** Between this and the rest of 1 a mask is soft. */
const SOFT = 0.08

/** Paths as polylines; those that close end where they begin. */
const linesOf = (paths: readonly Path[]): Ring[] => flatOf(paths).map((line, i) => (paths[i].closed ? closedLine(line) : line))

/** A stroke as wide as this is an area where it cannot stay a line, mm; a thinner one stays one. */
const WIDE_MM = 0.3

/** The colour that stands for a paint; what is no colour is one all the same, and told. */
function colourOf(paint: string, opacity: number, reading: Reading): string | undefined {
  if (paint === 'none' || opacity < UNSEEN) return undefined
  const id = /^url\(\s*["']?#([^"')]+)/.exec(paint)?.[1]
  if (id === undefined) return seenOnWhite(rgbOf(paint) ?? [0, 0, 0], opacity)
  const server = reading.byId.get(id)
  if (server?.localName === 'pattern') {
    reading.told.add('A pattern was taken as one tone.')
    return seenOnWhite([128, 128, 128], opacity)
  }
  const stops = Array.from(server?.getElementsByTagName('stop') ?? [])
  if (stops.length === 0) return undefined
  reading.told.add('A gradient was taken as one tone.')
  const sum = [0, 0, 0, 0]
  for (const stop of stops) {
    const part = Number.parseFloat(stop.getAttribute('stop-opacity') ?? '1')
    const rgb = rgbOf(stop.getAttribute('stop-color') ?? '') ?? [0, 0, 0]
    rgb.forEach((v, i) => {
      sum[i] += v / stops.length
    })
    sum[3] += part / stops.length
  }
  return seenOnWhite([sum[0], sum[1], sum[2]], opacity * sum[3])
}

/** One shape, as it is seen: its fill, then its stroke, as one where nothing parts them. */
function add(data: string, { transform, paint, opacity, layer, region }: Around, reading: Reading): void {
  const { shapes } = reading
  const fill = colourOf(paint.fill, opacity * paint.fillOpacity, reading)
  const width = paint.strokeWidth
  const stroke = width > 0 ? colourOf(paint.stroke, opacity * paint.strokeOpacity, reading) : undefined
  // What nobody sees is not burned.
  if (!fill && !stroke) return
  const paths = pathsOf(data, transform)
  if (paths.length === 0) return
  const [a, b, c, d] = transform
  const scale = Math.sqrt(Math.abs(a * d - b * c))
  const strokeMm = Math.round(width * scale * 1e4) / 1e4
  const named = layer ? { layer } : {}
  const stroked: Look = { ...(stroke ? { stroke, strokeMm, ends: endsOf(paint) } : {}), ...named }
  const filled: Look = { ...(fill ? { fill } : {}), ...named }
  const flat = region ? flatOf(paths) : []
  if (region && flat.length > 0 && region.length === 0) return
  const isWhole = !region || isWithin(flat, region, stroke ? (strokeMm / 2) * Math.max(1, paint.mitreLimit) : 0)
  const isDashed = paint.dashes.some((each) => each > 0)
  const isSkewed = stroke !== undefined && strokeMm >= WIDE_MM && isUneven(transform)
  // A fill closes what is open; a stroke does not.
  const isOpen = fill !== undefined && paths.some(({ closed }) => !closed)
  if (isWhole && !isSkewed && !(stroke && (isDashed || isOpen))) {
    shapes.push({ paths: isOpen ? paths.map(closing) : paths, look: { ...stroked, ...filled }, rule: paint.rule })
    return
  }
  if (fill) {
    const inside = isWhole ? paths.map(closing) : areaWithin(areaOf(paths, paint.rule), region!)
    if (inside.length > 0) shapes.push({ paths: inside, look: filled, rule: isWhole ? paint.rule : 'evenodd' })
  }
  if (!stroke) return
  // Dashes and widths are in units of the element.
  const own = isSkewed ? linesOf(pathsOf(data, [scale, 0, 0, scale, 0, 0])) : linesOf(paths)
  const lines = isDashed
    ? own.flatMap((line) =>
        dashesOf(
          line,
          paint.dashes.map((each) => each * scale),
          paint.dashOffset * scale,
        ),
      )
    : own
  if (isWhole && !isSkewed && !isDashed) {
    shapes.push({ paths, look: stroked, rule: paint.rule })
    return
  }
  if (strokeMm < WIDE_MM || (isWhole && !isSkewed)) {
    const placed = lines.map(pathFromLine)
    const inside = isWhole ? placed : linesIn(lines, region!)
    if (inside.length > 0) shapes.push({ paths: inside, look: stroked, rule: paint.rule })
    return
  }
  let rings = strokeArea(lines, strokeMm / 2, endsOf(paint))
  if (isSkewed) rings = rings.map((ring) => throughMatrix(after(transform, [1 / scale, 0, 0, 1 / scale, 0, 0]), ring))
  const inside = isWhole ? rings.map(pathFromRing) : areaWithin(combine('union', rings), region!)
  if (inside.length > 0) shapes.push({ paths: inside, look: { fill: stroke, ...named }, rule: 'evenodd' })
}

/** A path that goes back to where it began, as fills take it. */
function closing(path: Path): Path {
  if (path.closed) return path
  const { kinds, points } = path
  const n = points.length
  if (points[n - 2] === points[0] && points[n - 1] === points[1]) return { ...path, closed: true }
  const closed = { kinds: new Uint8Array(kinds.length + 1), points: new Float64Array(n + 2) }
  closed.kinds.set(kinds)
  closed.points.set(points)
  closed.points.set(points.subarray(0, 2), n)
  return { ...closed, closed: true }
}

/** Whether a map makes circles to ellipses that are seen as such. */
function isUneven([a, b, c, d]: Matrix): boolean {
  const [across, along] = [Math.hypot(a, b), Math.hypot(c, d)]
  return Math.abs(across - along) > 0.01 * Math.max(across, along) || Math.abs(a * c + b * d) > 0.01 * across * along
}

function throughMatrix([a, b, c, d, e, f]: Matrix, ring: Ring): Ring {
  const out = new Float64Array(ring.length)
  for (let i = 0; i < ring.length; i += 2) {
    out[i] = a * ring[i] + c * ring[i + 1] + e
    out[i + 1] = b * ring[i] + d * ring[i + 1] + f
  }
  return out
}
