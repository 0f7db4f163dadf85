import { lineDistance, type NearPixels, type Ring } from '@neotaxis/core'
import { seenRings } from './seen-rings.ts'
import type { OutlineRequest, Stroke } from './shared.ts'

/** Squares of pixels that a broken line shows and leaves out in turn, CSS px. */
const BREAK_PX = 3

/**
 * Outlines as lines on a clear ground. @param rgbOf a colour as the browser takes it, 0–255
 * @returns RGBA, not premultiplied
 */
export function outlinePicture(
  outlines: ReadonlyMap<string, readonly Ring[]>,
  request: OutlineRequest,
  rgbOf: (colour: string) => readonly [number, number, number],
): Uint8ClampedArray<ArrayBuffer> {
  const { strokes, widthPx, heightPx, pxPerMm, ratio } = request
  const out = new Uint8ClampedArray(4 * widthPx * heightPx)
  // Strokes along the same outline come from one field of distances.
  for (let i = 0; i < strokes.length; ) {
    let end = i + 1
    while (end < strokes.length && strokes[end].node === strokes[i].node) end++
    const rings = outlines.get(strokes[i].node)
    const along = strokes.slice(i, end)
    i = end
    if (!rings) continue
    const widest = Math.max(...along.map((stroke) => stroke.widthPx))
    const near = lineDistance(seenRings(rings, pxPerMm), request, (widest * ratio) / 2 + 0.5)
    for (const stroke of along) addLines(out, near, widthPx, stroke, rgbOf(stroke.colour), ratio)
  }
  return out
}

function addLines(
  out: Uint8ClampedArray,
  { at, squared }: NearPixels,
  width: number,
  { widthPx, alpha = 1, broken = false }: Stroke,
  [r, g, b]: readonly [number, number, number],
  ratio: number,
): void {
  const reach = (widthPx * ratio) / 2 + 0.5
  const reach2 = reach * reach
  const side = BREAK_PX * ratio
  for (let k = 0; k < at.length; k++) {
    const d2 = squared[k]
    if (d2 >= reach2) continue
    const i = at[k]
    if (broken && (Math.floor((i % width) / side) + Math.floor(i / width / side)) % 2) continue
    const covered = reach - Math.sqrt(d2)
    const a = alpha * (covered > 1 ? 1 : covered)
    const o = 4 * i
    // Most is covered whole, or lies on a clear ground.
    if (a >= 1 || out[o + 3] === 0) {
      out[o] = r
      out[o + 1] = g
      out[o + 2] = b
      out[o + 3] = 255 * a
      continue
    }
    const under = (out[o + 3] / 255) * (1 - a)
    const whole = a + under
    out[o] = (r * a + out[o] * under) / whole
    out[o + 1] = (g * a + out[o + 1] * under) / whole
    out[o + 2] = (b * a + out[o + 2] * under) / whole
    out[o + 3] = 255 * whole
  }
}
