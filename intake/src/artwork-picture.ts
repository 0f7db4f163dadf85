import { crc32, deflateSync } from 'node:zlib'
import {
  assetKind,
  coverage,
  decodePng,
  encodePng,
  heightMap,
  mapRing,
  PictureError,
  type RawPicture,
  readDrawing,
  readStl,
  seenArea,
} from '@neotaxis/core'
import { resolvedDrawing } from './resolved-drawing.ts'

/** The longer side of a small picture, px. */
const SIDE_PX = 320
/** Strokes of drawings are shown at least so wide, px. */
const STROKE_PX = 1.2
const INK = [43, 40, 36] as const

/** Artwork as a small PNG, seen through where nothing is: a picture in its colours, a drawing as it is seen, a mesh by its heights. */
export function artworkPicture(bytes: Uint8Array): Uint8Array {
  const kind = assetKind(bytes)
  const raw = kind === 'png' ? smaller(decodePng(bytes)) : kind === 'stl' ? meshSeen(bytes) : drawingSeen(bytes)
  return encodePng(raw, { crc32, deflate: (body) => deflateSync(body) })
}

function sized(width: number, height: number): { widthPx: number; heightPx: number } {
  const scale = SIDE_PX / Math.max(width, height)
  return { widthPx: Math.max(1, Math.round(width * scale)), heightPx: Math.max(1, Math.round(height * scale)) }
}

/** Every pixel the mean of those it stands for. */
function smaller(raw: RawPicture): RawPicture {
  const { widthPx, heightPx } = Math.max(raw.widthPx, raw.heightPx) <= SIDE_PX ? raw : sized(raw.widthPx, raw.heightPx)
  const { channels, full } = raw
  const samples = new Uint8Array(widthPx * heightPx * channels)
  const edge = (i: number, to: number, from: number): number => Math.floor((i * from) / to)
  for (let y = 0; y < heightPx; y++) {
    const [y0, y1] = [
      edge(y, heightPx, raw.heightPx),
      Math.max(edge(y, heightPx, raw.heightPx) + 1, edge(y + 1, heightPx, raw.heightPx)),
    ]
    for (let x = 0; x < widthPx; x++) {
      const [x0, x1] = [
        edge(x, widthPx, raw.widthPx),
        Math.max(edge(x, widthPx, raw.widthPx) + 1, edge(x + 1, widthPx, raw.widthPx)),
      ]
      for (let c = 0; c < channels; c++) {
        let sum = 0
        for (let v = y0; v < y1; v++) for (let u = x0; u < x1; u++) sum += raw.samples[(v * raw.widthPx + u) * channels + c]
        samples[(y * widthPx + x) * channels + c] = Math.round((255 * sum) / ((x1 - x0) * (y1 - y0) * full))
      }
    }
  }
  return { widthPx, heightPx, channels, samples, full: 255 }
}

function meshSeen(bytes: Uint8Array): RawPicture {
  const mesh = readStl(bytes)
  const whole = heightMap(mesh, '+z', { near: 0, far: 1, widthPx: SIDE_PX, heightPx: SIDE_PX })
  const { widthPx, heightPx, samples, alpha, full } = whole
  const out = new Uint8Array(widthPx * heightPx * 2)
  for (let i = 0; i < widthPx * heightPx; i++) {
    out[2 * i] = Math.round((255 * samples[i]) / full)
    out[2 * i + 1] = alpha ? alpha[i] : 255
  }
  return { widthPx, heightPx, channels: 2, samples: out, full: 255 }
}

function drawingSeen(bytes: Uint8Array): RawPicture {
  const { shapes, widthMm, heightMm } = readDrawing(resolvedDrawing(bytes))
  const [wide, high] = [Math.max(widthMm, heightMm / 50), Math.max(heightMm, widthMm / 50)]
  const { widthPx, heightPx } = sized(wide, high)
  const pxPerMm = widthPx / wide
  const least = STROKE_PX / pxPerMm
  const seen = seenArea(
    shapes.map((shape) =>
      shape.look.stroke ? { ...shape, look: { ...shape.look, strokeMm: Math.max(least, shape.look.strokeMm ?? 0) } } : shape,
    ),
  ).map((ring) => mapRing(ring, pxPerMm, pxPerMm, ((wide - widthMm) / 2) * pxPerMm, ((high - heightMm) / 2) * pxPerMm))
  if (seen.length === 0) throw new PictureError('There is nothing to be seen of it.')
  const covered = coverage(seen, widthPx, heightPx)
  const samples = new Uint8Array(widthPx * heightPx * 4)
  covered.forEach((share, i) => {
    samples.set(INK, 4 * i)
    samples[4 * i + 3] = Math.round(255 * Math.min(1, share))
  })
  return { widthPx, heightPx, channels: 4, samples, full: 255 }
}
