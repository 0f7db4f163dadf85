import { flattenPath, mapPath, type Path } from '../geometry/path.ts'
import { ringArea } from '../geometry/ring.ts'
import { type JobDocument, placeOf } from '../job/document/document.ts'
import type { TraceNode, Zone } from '../job/document/nodes.ts'
import { centreline } from '../outline/centreline/centreline.ts'
import { CHANNELS, colourOf } from '../outline/colours/channels.ts'
import type { ColourPicture } from '../outline/colours/palette.ts'
import { outlinesOf, sharedEdges } from '../outline/colours/separate.ts'
import { DEFAULT_TOLERANCE_PX, trace } from '../outline/trace.ts'
import { partOfPicture } from '../picture/framing.ts'
import { inkPicture } from '../picture/ink/ink-only.ts'
import { framedPicture, type KeyedFrame } from './pictured.ts'
import { keyOf, type Supply } from './supply.ts'

/** Lines are never fitted closer than this, px, and never shorter. */
const LINE_TOLERANCE_PX = 0.2
const SHORTEST_PX = 3

export interface Traced {
  /** Outlines, or lines, in pixels of the framed picture. */
  readonly paths: readonly Path[]
  /** Of lines: how wide each stroke is, px. */
  readonly widths: readonly number[]
  readonly key: string
  /** From those pixels to mm from the placement's corner. */
  readonly sx: number
  readonly sy: number
  readonly dx: number
  readonly dy: number
}

/** A zone in whole pixels, at least one; undefined where all is traced. */
function zoneOf(
  zone: Zone | undefined,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
): Zone | undefined {
  if (!zone) return undefined
  const x = Math.min(widthPx - 1, Math.round(zone.x * widthPx))
  const y = Math.min(heightPx - 1, Math.round(zone.y * heightPx))
  return {
    x,
    y,
    width: Math.max(1, Math.min(widthPx - x, Math.round(zone.width * widthPx))),
    height: Math.max(1, Math.min(heightPx - y, Math.round(zone.height * heightPx))),
  }
}

/** The ink of a page, where a trace is one of its ink alone. */
function inkOf(framed: KeyedFrame, { ink, channel }: TraceNode, supply: Supply): KeyedFrame {
  if (!ink || channel === 'alpha') return framed
  const key = keyOf('ink', framed.key, ink)
  const picture = supply.cache.get(
    key,
    () => inkPicture(framed.picture, ink, supply.progress),
    ({ samples }) => samples.byteLength,
  )
  return { ...framed, picture, key }
}

/** What a trace finds in its picture, kept by content. */
export function traced(job: JobDocument, nodeId: string, node: TraceNode, supply: Supply, place?: string): Traced {
  if (node.mode === 'colours') return tracedColours(job, nodeId, node, supply, place)
  const { picture, window, key: framed } = inkOf(framedPicture(job, nodeId, supply), node, supply)
  const lies = placeOf(job, nodeId, place)
  const sx = lies.widthMm / window.width
  const sy = lies.heightMm / window.height
  const fine = Math.min(sx, sy)
  const part = zoneOf(node.zone, picture)
  const options = {
    threshold: node.threshold,
    ...(node.above === undefined ? {} : { above: node.above }),
    ...(node.smoothMm ? { smoothPx: node.smoothMm / fine } : {}),
    channel: node.channel,
    tolerancePx: node.toleranceMm > 0 ? Math.max(0.02, node.toleranceMm / fine) : DEFAULT_TOLERANCE_PX,
    cornerDeg: node.cornerDeg,
    minAreaPx: node.minAreaMm2 / (sx * sy),
  }
  const key = keyOf('trace', framed, options, ...(node.mode ? [node.mode] : []), ...(part ? [part] : []))
  const made = supply.cache.get(
    key,
    (): Pick<Traced, 'paths' | 'widths'> => {
      const { x, y, width, height } = part ?? { x: 0, y: 0, width: picture.widthPx, height: picture.heightPx }
      const seen = partOfPicture(picture, x, y, width, height)
      const placed = (path: Path): Path => (part ? mapPath(path, 1, 1, x, y) : path)
      if (node.mode !== 'centreline')
        return { paths: trace(seen, { ...options, progress: supply.progress }).map(placed), widths: [] }
      const lines = centreline(seen, {
        threshold: node.threshold,
        channel: node.channel,
        tolerancePx: Math.max(LINE_TOLERANCE_PX, node.toleranceMm / fine),
        minLengthPx: SHORTEST_PX,
        progress: supply.progress,
      })
      return { paths: lines.map(({ path }) => placed(path)), widths: lines.map(({ widthPx }) => widthPx) }
    },
    ({ paths }) => paths.reduce((sum, path) => sum + path.points.byteLength + 200, 0),
  )
  return { ...made, key, sx, sy, dx: -window.x * sx, dy: -window.y * sy }
}

/** A picture in colour, framed. */
export function framedColours(
  job: JobDocument,
  nodeId: string,
  supply: Supply,
): { readonly picture: ColourPicture; readonly key: string } {
  const frames = CHANNELS.map((weights) => framedPicture(job, nodeId, supply, weights))
  const key = keyOf('colours', ...frames.map((framed) => framed.key))
  return { picture: colourOf(frames.map(({ picture }) => picture)), key }
}

/** The outlines of some colours of a picture. Their edges are found once for all of them. */
function tracedColours(job: JobDocument, nodeId: string, node: TraceNode, supply: Supply, place?: string): Traced {
  const { window } = framedPicture(job, nodeId, supply)
  const { picture, key: framed } = framedColours(job, nodeId, supply)
  const lies = placeOf(job, nodeId, place)
  const sx = lies.widthMm / window.width
  const sy = lies.heightMm / window.height
  const tolerance = node.toleranceMm / Math.min(sx, sy)
  const colours = (node.palette ?? []).map((rgb) => ({ rgb, share: 0, paper: false }))
  const part = zoneOf(node.zone, picture)
  const shared = keyOf('shared edges', framed, node.palette, tolerance, ...(part ? [part] : []))
  const edges = supply.cache.get(
    shared,
    () => sharedEdges(part ? partOfColours(picture, part) : picture, colours, tolerance, supply.progress),
    (made) => made.reduce((sum, { pieces }) => sum + 80 * pieces.length + 100, 0),
  )
  const chosen = [...(node.chosen ?? [])].sort((a, b) => a - b)
  const least = node.minAreaMm2 / (sx * sy)
  const key = keyOf('colour outlines', shared, chosen, least)
  const paths = supply.cache.get(
    key,
    () => {
      const found = outlinesOf(edges, new Set(chosen)).filter((path) => Math.abs(ringArea(flattenPath(path, 0.1))) >= least)
      return part ? found.map((path) => mapPath(path, 1, 1, part.x, part.y)) : found
    },
    (made) => made.reduce((sum, path) => sum + path.points.byteLength + 200, 0),
  )
  return { paths, widths: [], key, sx, sy, dx: -window.x * sx, dy: -window.y * sy }
}

function partOfColours({ widthPx, red, green, blue, alpha }: ColourPicture, { x, y, width, height }: Zone): ColourPicture {
  const cut = (channel: Uint8Array): Uint8Array => {
    const out = new Uint8Array(width * height)
    for (let row = 0; row < height; row++)
      out.set(channel.subarray((y + row) * widthPx + x, (y + row) * widthPx + x + width), row * width)
    return out
  }
  return {
    widthPx: width,
    heightPx: height,
    red: cut(red),
    green: cut(green),
    blue: cut(blue),
    ...(alpha ? { alpha: cut(alpha) } : {}),
  }
}
