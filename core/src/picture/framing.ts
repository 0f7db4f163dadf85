import { chained, type Homography, homography, IDENTITY, undoing } from '../geometry/homography.ts'
import type { GreyPicture } from './picture.ts'
import type { CropStep, FramingStep, StraightenStep } from './steps.ts'
import type { Turned } from './turned.ts'
import { warp } from './warp.ts'

/** A picture as it lies on the workpiece. */
export interface Framed {
  readonly picture: GreyPicture
  /** The part of it that is meant, in its pixels: borders may lie between pixels. */
  readonly window: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
  /** From source pixels to window pixels. */
  readonly toFrame: Homography
  /** Where it is turned by an angle that no pixels have: its window is then the dots of the field, see `turnedFrame`. */
  readonly turned?: Turned
}

/** Width and height that a framing leaves, in pixels, without touching any. */
export interface FrameSize {
  readonly widthPx: number
  readonly heightPx: number
}

/** A warped picture does not become larger than this, px a side. */
const MAX_SIDE = 20_000

export const wholeFrame = (picture: GreyPicture): Framed => ({
  picture,
  window: { x: 0, y: 0, width: picture.widthPx, height: picture.heightPx },
  toFrame: IDENTITY,
})

/** What a step makes of a picture's size, and where it takes each point. */
function stepMap(step: FramingStep, width: number, height: number): { map: Homography; width: number; height: number } {
  switch (step.kind) {
    case 'crop': {
      const part = cropWindow(step, width, height)
      return { map: shift(-part.x, -part.y), width: part.width, height: part.height }
    }
    case 'mirror':
      return {
        map: step.way === 'left-right' ? [-1, 0, width, 0, 1, 0, 0, 0, 1] : [1, 0, 0, 0, -1, height, 0, 0, 1],
        width,
        height,
      }
    case 'straighten': {
      const to = straightSize(step)
      const map = homography(step.corners, [0, 0, to.widthPx, 0, to.widthPx, to.heightPx, 0, to.heightPx])
      return { map, width: to.widthPx, height: to.heightPx }
    }
    case 'turn': {
      const turns = quarters(step.degrees)
      if (turns === 0) return { map: IDENTITY, width, height }
      if (turns === 1) return { map: [0, -1, height, 1, 0, 0, 0, 0, 1], width: height, height: width }
      if (turns === 2) return { map: [-1, 0, width, 0, -1, height, 0, 0, 1], width, height }
      if (turns === 3) return { map: [0, 1, 0, -1, 0, width, 0, 0, 1], width: height, height: width }
      const a = (step.degrees * Math.PI) / 180
      const c = Math.cos(a)
      const s = Math.sin(a)
      const w = Math.ceil(width * Math.abs(c) + height * Math.abs(s))
      const h = Math.ceil(width * Math.abs(s) + height * Math.abs(c))
      const dx = w / 2 - (c * width) / 2 + (s * height) / 2
      const dy = h / 2 - (s * width) / 2 - (c * height) / 2
      return { map: [c, -s, dx, s, c, dy, 0, 0, 1], width: w, height: h }
    }
  }
}

/** Size and map of a framing, without touching a pixel. @throws RangeError where a page's corners lie on one line */
export function frameMap(size: FrameSize, steps: readonly FramingStep[]): FrameSize & { readonly toFrame: Homography } {
  let { widthPx: width, heightPx: height } = size
  let toFrame = IDENTITY
  for (const step of steps) {
    if (!step.on) continue
    const next = stepMap(step, width, height)
    toFrame = chained(toFrame, next.map)
    width = next.width
    height = next.height
  }
  return { widthPx: width, heightPx: height, toFrame }
}

/** The size of a framed picture. */
export function framedSize(size: FrameSize, steps: readonly FramingStep[]): FrameSize {
  const { widthPx, heightPx } = frameMap(size, steps)
  return { widthPx, heightPx }
}

/** The framing steps done one after the other. Quarter turns, mirrors and crops move pixels and change none. */
export function frame(picture: GreyPicture, steps: readonly FramingStep[], progress?: (done: number) => void): Framed {
  let framed = wholeFrame(picture)
  const active = steps.filter(({ on }) => on)
  active.forEach((step, i) => {
    const tell = progress && ((done: number) => progress((i + done) / active.length))
    tell?.(0)
    framed = after(framed, step, tell)
  })
  return framed
}

function after(framed: Framed, step: FramingStep, progress?: (done: number) => void): Framed {
  const { picture, window } = framed
  const { map, width, height } = stepMap(step, window.width, window.height)
  const toFrame = chained(framed.toFrame, map)
  const { widthPx: w, heightPx: h } = picture
  if (step.kind === 'crop') return { ...cropped(framed, step), toFrame }
  if (step.kind === 'mirror')
    return step.way === 'left-right'
      ? {
          picture: moved(picture, w, h, (x, y) => y * w + w - 1 - x),
          window: { ...window, x: w - window.x - window.width },
          toFrame,
        }
      : {
          picture: moved(picture, w, h, (x, y) => (h - 1 - y) * w + x),
          window: { ...window, y: h - window.y - window.height },
          toFrame,
        }
  const turns = step.kind === 'turn' ? quarters(step.degrees) : undefined
  if (turns !== undefined) return { ...quarterTurned(framed, turns), toFrame }
  const back = undoing(chained(shift(-window.x, -window.y), map))
  return {
    picture: warp(picture, back, Math.round(width), Math.round(height), window, progress),
    window: { x: 0, y: 0, width, height },
    toFrame,
  }
}

function cropWindow({ x, y, width, height }: Omit<CropStep, 'kind' | 'on'>, widthPx: number, heightPx: number) {
  const x0 = Math.min(Math.max(0, x), widthPx - 1)
  const y0 = Math.min(Math.max(0, y), heightPx - 1)
  return {
    x: x0,
    y: y0,
    width: Math.max(1, Math.min(widthPx - x0, width + Math.min(0, x))),
    height: Math.max(1, Math.min(heightPx - y0, height + Math.min(0, y))),
  }
}

const shift = (dx: number, dy: number): Homography => [1, 0, dx, 0, 1, dy, 0, 0, 1]

function cropped({ picture, window }: Framed, step: CropStep): Omit<Framed, 'toFrame'> {
  const part = cropWindow(step, window.width, window.height)
  const x = window.x + part.x
  const y = window.y + part.y
  const x0 = Math.floor(x + 1e-9)
  const y0 = Math.floor(y + 1e-9)
  const x1 = Math.min(picture.widthPx, Math.ceil(x + part.width - 1e-9))
  const y1 = Math.min(picture.heightPx, Math.ceil(y + part.height - 1e-9))
  return {
    picture: partOfPicture(picture, x0, y0, x1 - x0, y1 - y0),
    window: { x: x - x0, y: y - y0, width: part.width, height: part.height },
  }
}

/** A rectangle of whole pixels of a picture. */
export function partOfPicture(picture: GreyPicture, x0: number, y0: number, width: number, height: number): GreyPicture {
  if (x0 === 0 && y0 === 0 && width === picture.widthPx && height === picture.heightPx) return picture
  const cut = <T extends Uint8Array | Uint16Array>(from: T): T => {
    const out = new (from.constructor as new (length: number) => T)(width * height)
    for (let row = 0; row < height; row++) {
      const at = (y0 + row) * picture.widthPx + x0
      out.set(from.subarray(at, at + width), row * width)
    }
    return out
  }
  return {
    widthPx: width,
    heightPx: height,
    full: picture.full,
    samples: cut(picture.samples),
    ...(picture.alpha ? { alpha: cut(picture.alpha) } : {}),
  }
}

/** Moves pixels: `from` tells for each new pixel the old one. */
function moved(picture: GreyPicture, widthPx: number, heightPx: number, from: (x: number, y: number) => number): GreyPicture {
  const n = widthPx * heightPx
  const samples = picture.full === 255 ? new Uint8Array(n) : new Uint16Array(n)
  const alpha = picture.alpha ? new Uint8Array(n) : undefined
  for (let y = 0, i = 0; y < heightPx; y++) {
    for (let x = 0; x < widthPx; x++, i++) {
      const at = from(x, y)
      samples[i] = picture.samples[at]
      if (alpha) alpha[i] = picture.alpha![at]
    }
  }
  return { widthPx, heightPx, full: picture.full, samples, ...(alpha ? { alpha } : {}) }
}

const quarters = (degrees: number): number | undefined => {
  const turns = (((degrees % 360) + 360) % 360) / 90
  return Number.isInteger(turns) ? turns : undefined
}

/** Whether a framing only moves pixels: crops on their borders, quarter turns, mirrors. */
export const movesPixelsOnly = (steps: readonly FramingStep[]): boolean =>
  steps.every(
    (step) =>
      !step.on ||
      step.kind === 'mirror' ||
      (step.kind === 'turn' && quarters(step.degrees) !== undefined) ||
      (step.kind === 'crop' && [step.x, step.y, step.width, step.height].every(Number.isInteger)),
  )

/** A framed picture turned by quarters, clockwise: its pixels are moved, none is changed. */
export function quarterFrame(framed: Framed, turns: 0 | 1 | 2 | 3): Framed {
  const { width, height } = framed.window
  const { map } = stepMap({ kind: 'turn', on: true, degrees: 90 * turns }, width, height)
  return { ...quarterTurned(framed, turns), toFrame: chained(framed.toFrame, map) }
}

function quarterTurned({ picture, window }: Framed, turns: number): Omit<Framed, 'toFrame'> {
  const { widthPx: w, heightPx: h } = picture
  if (turns === 1)
    return {
      picture: moved(picture, h, w, (x, y) => (h - 1 - x) * w + y),
      window: { x: h - window.y - window.height, y: window.x, width: window.height, height: window.width },
    }
  if (turns === 2)
    return {
      picture: moved(picture, w, h, (x, y) => (h - 1 - y) * w + w - 1 - x),
      window: { ...window, x: w - window.x - window.width, y: h - window.y - window.height },
    }
  if (turns === 3)
    return {
      picture: moved(picture, h, w, (x, y) => x * w + w - 1 - y),
      window: { x: window.y, y: w - window.x - window.width, width: window.height, height: window.width },
    }
  return { picture, window }
}

const apart = (c: readonly number[], a: number, b: number): number => Math.hypot(c[2 * a] - c[2 * b], c[2 * a + 1] - c[2 * b + 1])

/** As wide and high as the page's longer edges, or in the ratio that is known. */
function straightSize({ corners, ratio }: StraightenStep): FrameSize {
  const widthPx = Math.min(MAX_SIDE, Math.max(1, Math.round(Math.max(apart(corners, 0, 1), apart(corners, 3, 2)))))
  const heightPx = ratio > 0 ? widthPx / ratio : Math.max(apart(corners, 0, 3), apart(corners, 1, 2))
  return { widthPx, heightPx: Math.min(MAX_SIDE, Math.max(1, Math.round(heightPx))) }
}
