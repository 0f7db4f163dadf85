import type { Bounds } from '../geometry/bounds.ts'
import { coverage } from '../geometry/coverage.ts'
import { mapRing, type Ring } from '../geometry/ring.ts'
import { grainAt } from './grain.ts'
import type { DotLayer, KerfLayer, Scene } from './scene.ts'

/** Which piece of the workpiece, at which scale. */
export interface View {
  /** Top-left corner, job mm. */
  readonly x: number
  readonly y: number
  readonly pxPerMm: number
  readonly widthPx: number
  readonly heightPx: number
}

/**
 * Paints the workpiece after the burn: its surface, every dot at its place, scorched rims, and kerfs open
 * (transparent), as is everything beside the workpiece.
 * @returns RGBA, not premultiplied
 */
export function paintForecast(scene: Scene, view: View): Uint8ClampedArray {
  const { widthPx, heightPx, pxPerMm } = view
  const { surface, grain, burn, edge, kind } = scene.look
  const n = widthPx * heightPx
  const dark = new Float32Array(n)
  for (const layer of scene.layers) if (layer.kind === 'dots') addDots(dark, layer, view)
  const out = new Uint8ClampedArray(n * 4)
  const x1 = (scene.widthMm - view.x) * pxPerMm
  const y1 = (scene.heightMm - view.y) * pxPerMm
  const x0 = -view.x * pxPerMm
  const y0 = -view.y * pxPerMm
  for (let py = 0; py < heightPx; py++) {
    const insideY = Math.min(1, Math.max(0, Math.min(py + 1, y1) - Math.max(py, y0)))
    if (insideY === 0) continue
    const y = view.y + (py + 0.5) / pxPerMm
    for (let px = 0; px < widthPx; px++) {
      const insideX = Math.min(1, Math.max(0, Math.min(px + 1, x1) - Math.max(px, x0)))
      if (insideX === 0) continue
      const i = py * widthPx + px
      const g = grainAt(kind, view.x + (px + 0.5) / pxPerMm, y)
      const d = dark[i]
      const o = 4 * i
      for (let c = 0; c < 3; c++) {
        const base = surface[c] + (grain[c] - surface[c]) * g
        out[o + c] = base + (burn[c] * (0.92 + 0.16 * g) - base) * d
      }
      out[o + 3] = 255 * insideX * insideY
    }
  }
  for (const layer of scene.layers) if (layer.kind === 'kerf') openKerf(out, layer, view, edge)
  return out
}

/** Adds the darkness of a layer's dots. Doses of layers on the same spot add up, but never beyond full. */
export function addDots(dark: Float32Array, layer: DotLayer, view: View): void {
  const pxPerDot = layer.pitch * view.pxPerMm
  if (pxPerDot >= 1.5) addTrueDots(dark, layer, view)
  else addMeanDots(dark, layer, view, pxPerDot)
}

/** Far away: the mean of the dots under every pixel, dots as wide as the spot makes them. */
function addMeanDots(dark: Float32Array, layer: DotLayer, view: View, pxPerDot: number): void {
  const { levels } = layer.pyramid
  let scale = 0
  while (scale + 1 < levels.length && pxPerDot * 2 ** (scale + 1) <= 1) scale++
  const cell = layer.pitch * 2 ** scale
  const { columns, rows, levels: marks } = levels[scale]
  // A lone line of dots covers as much of its pitch as the spot is wide.
  const gain = Math.min(1, layer.spot / layer.pitch)
  const last = columns - 1
  for (let py = 0; py < view.heightPx; py++) {
    const fy = (view.y + (py + 0.5) / view.pxPerMm - layer.y0) / cell - 0.5
    const r = Math.floor(fy)
    if (r < -1 || r >= rows) continue
    const v = fy - r
    const top = r >= 0 ? r * columns : -1
    const bottom = r + 1 < rows ? (r + 1) * columns : -1
    for (let px = 0; px < view.widthPx; px++) {
      const fx = (view.x + (px + 0.5) / view.pxPerMm - layer.x0) / cell - 0.5
      const c = Math.floor(fx)
      if (c < -1 || c > last) continue
      const u = fx - c
      let sum = 0
      if (top >= 0) sum += (1 - v) * ((c >= 0 ? marks[top + c] * (1 - u) : 0) + (c < last ? marks[top + c + 1] * u : 0))
      if (bottom >= 0) sum += v * ((c >= 0 ? marks[bottom + c] * (1 - u) : 0) + (c < last ? marks[bottom + c + 1] * u : 0))
      if (sum === 0) continue
      const i = py * view.widthPx + px
      const d = dark[i] + (sum / 255) * gain
      dark[i] = d > 1 ? 1 : d
    }
  }
}

/** Near: each dot is the way of the spot over its cell, a bar with round ends. */
function addTrueDots(dark: Float32Array, layer: DotLayer, view: View): void {
  const { columns, rows, levels } = layer.pyramid.levels[0]
  const { pitch } = layer
  const radius = layer.spot / 2
  const reach = Math.max(1, Math.ceil(radius / pitch))
  for (let py = 0; py < view.heightPx; py++) {
    const y = view.y + (py + 0.5) / view.pxPerMm - layer.y0
    const r = Math.floor(y / pitch)
    if (r < -reach || r >= rows + reach) continue
    for (let px = 0; px < view.widthPx; px++) {
      const x = view.x + (px + 0.5) / view.pxPerMm - layer.x0
      const c = Math.floor(x / pitch)
      if (c < -reach || c >= columns + reach) continue
      let best = 0
      for (let rr = Math.max(0, r - reach); rr <= Math.min(rows - 1, r + reach); rr++) {
        const dy = (rr + 0.5) * pitch - y
        for (let cc = Math.max(0, c - reach); cc <= Math.min(columns - 1, c + reach); cc++) {
          const level = levels[rr * columns + cc]
          if (level === 0) continue
          const left = cc * pitch
          const dx = x < left ? left - x : x > left + pitch ? x - left - pitch : 0
          const covered = (radius - Math.sqrt(dx * dx + dy * dy)) * view.pxPerMm + 0.5
          if (covered <= 0) continue
          const value = (covered > 1 ? 1 : covered) * level
          if (value > best) best = value
        }
      }
      if (best === 0) continue
      const i = py * view.widthPx + px
      const d = dark[i] + best / 255
      dark[i] = d > 1 ? 1 : d
    }
  }
}

export function visible(rings: readonly Ring[], bounds: readonly Bounds[], view: View): Ring[] {
  const x1 = view.x + view.widthPx / view.pxPerMm
  const y1 = view.y + view.heightPx / view.pxPerMm
  const near: Ring[] = []
  for (let i = 0; i < rings.length; i++) {
    // Whatever lies left of the view still counts: coverage adds up from the left.
    const b = bounds[i]
    if (b.x0 <= x1 && b.y0 <= y1 && b.y1 >= view.y && b.x1 >= view.x)
      near.push(mapRing(rings[i], view.pxPerMm, view.pxPerMm, -view.x * view.pxPerMm, -view.y * view.pxPerMm))
  }
  return near
}

function openKerf(out: Uint8ClampedArray, layer: KerfLayer, view: View, edge: readonly [number, number, number]): void {
  const rim = visible(layer.rim, layer.rimBounds, view)
  if (rim.length === 0) return
  const scorched = coverage(rim, view.widthPx, view.heightPx)
  const open = coverage(visible(layer.kerf, layer.kerfBounds, view), view.widthPx, view.heightPx)
  for (let i = 0; i < scorched.length; i++) {
    const s = scorched[i] * 0.72
    const k = open[i]
    if (s === 0 && k === 0) continue
    const o = 4 * i
    for (let c = 0; c < 3; c++) out[o + c] += (edge[c] - out[o + c]) * s
    out[o + 3] *= 1 - k
  }
}
