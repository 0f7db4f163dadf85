import type { MeshNode, SourceNode, TraceNode } from '../job/document/nodes.ts'
import { DEFAULT_CORNER_DEG } from '../outline/trace.ts'
import { framedSize } from '../picture/framing.ts'
import { INK } from '../picture/ink/ink-only.ts'

/** Half of what can be seen through, of what is dark, or of ink, is the edge. */
const EDGE = 0.5
/** A speck on a page of ink is smaller than this share of a square as wide as its strokes: a dot of the pen is larger. */
const SPECK = 0.35

/** What may be said of a trace that begins. */
interface Wanted {
  readonly name: string
  /** Lines in the middle of its strokes. */
  readonly mode?: 'centreline'
  /** Specks under this are left out where the picture is no page of ink, mm². */
  readonly minAreaMm2: number
  /** Where dark ends and light begins, 0–1, where the picture is no page of ink; default half. */
  readonly threshold?: number
}

/** How large one pixel of a picture is where it lies, mm. */
export const pixelMm = (
  { widthPx, heightPx, framing }: Pick<SourceNode, 'widthPx' | 'heightPx' | 'framing'>,
  lies: { readonly widthMm: number },
): number => lies.widthMm / Math.max(1, framedSize({ widthPx, heightPx }, framing).widthPx)

/** The smallest spot of a page that is no speck, mm². @param pixel see `pixelMm` */
export const speckMm2 = (strokePx: number, pixel: number): number =>
  Math.round(1e4 * Math.min(0.5, SPECK * (strokePx * pixel) ** 2)) / 1e4

/**
 * A trace of a picture as it begins: of its opacity where it has any, of its ink where it is a page, else of its darkness.
 * @param from id of the picture @param pixel see `pixelMm`
 */
export function newTrace(
  root: SourceNode | MeshNode,
  from: string,
  pixel: number,
  { name, mode, minAreaMm2, threshold = EDGE }: Wanted,
): TraceNode {
  const page = root.kind === 'source' && !root.hasAlpha ? root.inkPage : undefined
  const alpha = root.kind === 'mesh' || root.hasAlpha
  return {
    kind: 'trace',
    name,
    from,
    channel: alpha ? 'alpha' : 'grey',
    ...(mode ? { mode } : {}),
    ...(page ? { ink: INK } : {}),
    threshold: alpha || page ? EDGE : threshold,
    toleranceMm: 0,
    cornerDeg: DEFAULT_CORNER_DEG,
    minAreaMm2: mode ? 0 : page ? speckMm2(page.strokePx, pixel) : minAreaMm2,
  }
}
