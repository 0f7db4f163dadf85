import { runningSums } from './running-sums.ts'

/** Light changes slowly over a bed: what is untouched is looked at so far around, mm, farther where there is too little. */
const AROUND_MM = [6, 12, 24, 48, 96] as const
/** So many untouched cells tell how light the material is. */
const ENOUGH = 24
/** What lies so near to a burn is not untouched: smoke, and the photo's own blur, mm. */
const CLEAR_MM = 1
/** Lighter forecasts than this share are nothing to judge by. */
const LEAST_TONE = 0.02

/** How dark a burn is in a photo, and was forecast to be, over the same places. */
export interface BurnTone {
  /** 0 untouched to 1. */
  readonly seen: number
  readonly forecast: number
  /** It is told over so much, mm². */
  readonly areaMm2: number
}

/**
 * How dark what one operation burned is in a photo: its light against that of the untouched material around it, as a share of the
 * contrast that what is fully dark has in photos of this material.
 * @param light of the photo, rectified, any scale @param own how dark the operation is forecast to be, 0–255 @param all of the whole job
 * @param inside 1 where the material lies @param contrast as a card of this material had it, read from a photo
 * @param off how far from its forecast the burn lies, mm
 * @returns undefined where there is too little to tell
 */
export function burnTone(
  { light, own, all, inside }: Readonly<Record<'light' | 'own' | 'all' | 'inside', ArrayLike<number>>>,
  widthPx: number,
  heightPx: number,
  cellMm: number,
  contrast: number,
  off: { readonly dxMm: number; readonly dyMm: number },
): BurnTone | undefined {
  const [dx, dy] = [Math.round(off.dxMm / cellMm), Math.round(off.dyMm / cellMm)]
  const lightAt = (i: number): number => {
    const x = Math.min(widthPx - 1, Math.max(0, (i % widthPx) + dx))
    const y = Math.min(heightPx - 1, Math.max(0, Math.floor(i / widthPx) + dy))
    return light[y * widthPx + x]
  }
  const near = Math.max(1, Math.round(CLEAR_MM / cellMm))
  const burnt = runningSums(widthPx, heightPx, (i) => (all[i] > 0 ? 1 : 0))
  const box = (i: number, half: number): readonly [number, number, number, number] => {
    const [x, y] = [i % widthPx, Math.floor(i / widthPx)]
    return [Math.max(0, x - half), Math.max(0, y - half), Math.min(widthPx, x + half + 1), Math.min(heightPx, y + half + 1)]
  }
  const isClear = Uint8Array.from({ length: widthPx * heightPx }, (_, i) => (inside[i] && burnt(...box(i, near)) === 0 ? 1 : 0))
  const clear = runningSums(widthPx, heightPx, (i) => isClear[i])
  const lights = runningSums(widthPx, heightPx, (i) => (isClear[i] ? lightAt(i) : 0))
  let [seen, forecast, cells] = [0, 0, 0]
  for (let i = 0; i < widthPx * heightPx; i++) {
    // Only where this operation alone burned.
    if (!inside[i] || !(own[i] > 0) || all[i] !== own[i]) continue
    const around = AROUND_MM.map((mm) => box(i, Math.round(mm / cellMm))).find((each) => clear(...each) >= ENOUGH)
    if (!around) continue
    const white = lights(...around) / clear(...around)
    if (!(white > 0)) continue
    seen += (1 - lightAt(i) / white) / contrast
    forecast += own[i] / 255
    cells++
  }
  if (cells * cellMm * cellMm < 4 || forecast / cells < LEAST_TONE) return undefined
  return { seen: Math.min(1, Math.max(0, seen / cells)), forecast: forecast / cells, areaMm2: cells * cellMm * cellMm }
}
