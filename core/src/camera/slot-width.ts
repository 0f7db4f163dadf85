import type { Camera } from './camera.ts'
import { lightOf, type Photo } from './photo.ts'
import { rectified } from './rectify.ts'

type Point = readonly [number, number]

/** So much of a slot is looked at: along it, and to each side of where it should be, mm. */
const LONG_MM = 4
const ASIDE_MM = 1.8
/** Nearer than this to where it should be the material is not looked at: it is cut or charred, mm. */
const CHARRED_MM = 0.7
/** Fine enough for a tenth of what photos from near show. */
const PX_PER_MM = 80
/** The slot is looked at in pieces as long as this, mm: dust in one of them counts for nothing. */
const PIECE_MM = 0.25
/** A slot is at least so much darker than its material, a share. */
const LEAST_CONTRAST = 0.25
/** At least so many of its pieces must show it. */
const LEAST_SEEN = 0.5

/** How wide a slot is seen, and how far that goes to and fro along it, mm. */
export interface SlotSeen {
  readonly widthMm: number
  readonly spreadMm: number
}

/**
 * How wide a cut is, in a photo of the camera at the head: across each piece of it, from where its light is halfway between the bottom of
 * the slot and the material beside it to where it is so again; the middle of all pieces.
 * @param at a place on the middle of the cut, mm as the camera is calibrated: one at the head from the beam @param along the way of the cut there
 * @param heightMm of what is cut, over what the camera was calibrated on @returns undefined where none is seen
 */
export function slotWidth(photo: Photo, camera: Camera, at: Point, along: Point, heightMm = 0): SlotSeen | undefined {
  const long = Math.hypot(...along)
  const [ux, uy] = [along[0] / long, along[1] / long]
  const [wide, high] = [Math.round(LONG_MM * PX_PER_MM), Math.round(2 * ASIDE_MM * PX_PER_MM)]
  const view = {
    x: at[0] - (ux * LONG_MM) / 2 + uy * ASIDE_MM,
    y: at[1] - (uy * LONG_MM) / 2 - ux * ASIDE_MM,
    pxPerMm: PX_PER_MM,
    widthPx: wide,
    heightPx: high,
    deg: (Math.atan2(uy, ux) * 180) / Math.PI,
  }
  const rgba = rectified(photo, camera, view, heightMm)
  const { samples } = lightOf({ widthPx: wide, heightPx: high, rgba })
  const piece = Math.round(PIECE_MM * PX_PER_MM)
  const widths: number[] = []
  const count = Math.floor(wide / piece)
  for (let p = 0; p < count; p++) {
    const across = new Float64Array(high)
    for (let r = 0; r < high; r++) {
      let sum = 0
      for (let c = p * piece; c < (p + 1) * piece; c++) sum += samples[r * wide + c]
      across[r] = sum / piece
    }
    const width = widthAcross(across)
    if (width !== undefined) widths.push(width / PX_PER_MM)
  }
  if (widths.length < LEAST_SEEN * count) return undefined
  const middle = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1]
  const widthMm = middle(widths)
  return { widthMm, spreadMm: middle(widths.map((w) => Math.abs(w - widthMm))) }
}

/** Across one piece of a slot: how wide it is, px. */
function widthAcross(across: Float64Array): number | undefined {
  const half = across.length / 2
  const beside = [...across].filter((_, r) => Math.abs(r + 0.5 - half) > CHARRED_MM * PX_PER_MM).sort((a, b) => a - b)
  const material = beside[beside.length >> 1]
  let lowest = -1
  for (let r = 0; r < across.length; r++)
    if (Math.abs(r + 0.5 - half) <= CHARRED_MM * PX_PER_MM && (lowest < 0 || across[r] < across[lowest])) lowest = r
  const bottom = across[lowest]
  if (!(material > 0 && (material - bottom) / material >= LEAST_CONTRAST)) return undefined
  const level = (material + bottom) / 2
  const edge = (way: 1 | -1): number | undefined => {
    for (let r = lowest; r >= 0 && r < across.length; r += way)
      if (across[r] >= level) return r - (way * (across[r] - level)) / (across[r] - across[r - way])
    return undefined
  }
  const [from, to] = [edge(-1), edge(1)]
  return from === undefined || to === undefined ? undefined : to - from
}
