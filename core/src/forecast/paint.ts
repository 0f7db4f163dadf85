import type { Bounds } from '../geometry/bounds.ts'
import { coverage } from '../geometry/coverage.ts'
import { mapRing, type Ring, ringBounds } from '../geometry/ring.ts'
import type { View } from '../geometry/view.ts'
import { grainField } from './grain.ts'
import type { DotLayer, GoneLayer, KerfLayer, Scene } from './layers.ts'
import { BESIDE_PX, isThin, seenLines } from './thin-lines.ts'
import { throughTurn } from './turned-view.ts'

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
  const lit = reliefLight(scene, view)
  const field = grainField(kind, view)
  const out = new Uint8ClampedArray(n * 4)
  // A small picture has fewer pixels than the table has tones.
  const tones = lit || n < TONES ? undefined : burnTones(scene.look)
  const whole = new Uint32Array(out.buffer)
  const x1 = (scene.widthMm - view.x) * pxPerMm
  const y1 = (scene.heightMm - view.y) * pxPerMm
  const x0 = -view.x * pxPerMm
  const y0 = -view.y * pxPerMm
  const [s0, s1, s2] = surface
  const [g0, g1, g2] = grain.map((v, c) => v - surface[c])
  const [b0, b1, b2] = burn
  for (let py = 0; py < heightPx; py++) {
    const insideY = Math.min(1, Math.max(0, Math.min(py + 1, y1) - Math.max(py, y0)))
    if (insideY === 0) continue
    for (let px = 0; px < widthPx; px++) {
      const insideX = Math.min(1, Math.max(0, Math.min(px + 1, x1) - Math.max(px, x0)))
      if (insideX === 0) continue
      const i = py * widthPx + px
      const g = field[i]
      const d = dark[i]
      const o = 4 * i
      if (tones) {
        whole[i] = tones[((g * FINE + 0.5) << FINE_BITS) | (d * FINE + 0.5)]
        if (insideX * insideY < 1) out[o + 3] = 255 * insideX * insideY
        continue
      }
      const strength = 0.92 + 0.16 * g
      const light = lit ? lit[i] : 1
      const r = s0 + g0 * g
      const v = s1 + g1 * g
      const b = s2 + g2 * g
      out[o] = (r + (b0 * strength - r) * d) * light
      out[o + 1] = (v + (b1 * strength - v) * d) * light
      out[o + 2] = (b + (b2 * strength - b) * d) * light
      out[o + 3] = 255 * insideX * insideY
    }
  }
  if (scene.outline) beyondEdge(out, scene.outline, view)
  for (const layer of scene.layers) {
    if (layer.kind === 'kerf') openKerf(out, layer, view, layer.lineMm === undefined ? edge : lineColour(scene.look))
    if (layer.kind === 'gone') takeAway(out, layer, view)
  }
  return out
}

/** Grain and darkness are told apart in so many steps, twice as fine as a screen shows them. */
const FINE_BITS = 9
const FINE = 2 ** FINE_BITS - 1
const TONES = 4 ** FINE_BITS
let kept: { readonly of: string; readonly tones: Uint32Array } | undefined

/** How a surface looks by its grain and how dark it was burned, RGBA in one number; kept while the same material is painted. */
function burnTones({ surface, grain, burn }: Scene['look']): Uint32Array {
  const of = JSON.stringify([surface, grain, burn])
  if (kept?.of === of) return kept.tones
  const bytes = new Uint8ClampedArray(4 * TONES)
  for (let i = 0; i < TONES; i++) {
    const [g, d] = [(i >> FINE_BITS) / FINE, (i & FINE) / FINE]
    const strength = 0.92 + 0.16 * g
    for (let c = 0; c < 3; c++) {
      const own = surface[c] + (grain[c] - surface[c]) * g
      bytes[4 * i + c] = own + (burn[c] * strength - own) * d
    }
    bytes[4 * i + 3] = 255
  }
  const tones = new Uint32Array(bytes.buffer)
  kept = { of, tones }
  return tones
}

/** How a line looks that only marks: scorched as edges are, or as light as what is burned where burning makes lighter. */
export function lineColour({ surface, burn, edge }: Scene['look']): Scene['look']['edge'] {
  const light = ([r, g, b]: Scene['look']['edge']): number => 0.3 * r + 0.59 * g + 0.11 * b
  return light(burn) > light(surface) ? burn : edge
}

/** How steep slopes look against how steep they are: depths are small beside widths. */
const STEEPER = 5

/**
 * How the light of a lamp at the upper left falls on carved surfaces, 1 on flat ground (Lambert's law); undefined where
 * nothing is carved.
 */
function reliefLight(scene: Scene, view: View): Float32Array | undefined {
  const carved = scene.layers.flatMap((layer) => (layer.kind === 'dots' && layer.relief ? [{ ...layer, ...layer.relief }] : []))
  if (carved.length === 0) return undefined
  const { widthPx, heightPx, pxPerMm } = view
  // A pixel more on every side, so that slopes are known up to the border and tiles join.
  const wide = beside(view, 1)
  const w = wide.widthPx
  const depth = new Float32Array(w * wide.heightPx)
  for (const layer of carved) {
    const share = new Float32Array(depth.length)
    const { toFace, ...straight } = layer
    const whole = { ...straight, spot: layer.pitch }
    if (toFace) throughTurn(share, wide, toFace, (swept, its) => addMeanDots(swept, whole, its, layer.pitch * pxPerMm))
    else addMeanDots(share, whole, wide, layer.pitch * pxPerMm)
    for (let i = 0; i < depth.length; i++) depth[i] += share[i] * layer.deepMm
  }
  const out = new Float32Array(widthPx * heightPx)
  const slope = (STEEPER * pxPerMm) / 2
  const flat = 1 / Math.sqrt(3)
  const deepest = carved.reduce((sum, { deepMm }) => sum + deepMm, 0)
  for (let y = 0; y < heightPx; y++) {
    for (let x = 0; x < widthPx; x++) {
      const i = (y + 1) * w + x + 1
      const gx = (depth[i + 1] - depth[i - 1]) * slope
      const gy = (depth[i + w] - depth[i - w]) * slope
      // The surface falls by (gx, gy); the lamp stands at (−1, −1, 1).
      const light = (1 - gx - gy) / Math.sqrt(3 * (gx * gx + gy * gy + 1)) / flat
      // Burned ground is shown lighter than it is, or nothing would be seen in it; deep places see less of the sky.
      const share = depth[i] / deepest
      const sky = 1 + Math.min(1, 20 * share) * (0.3 - 0.5 * share)
      out[y * widthPx + x] = sky * (0.5 + 0.5 * Math.min(2, Math.max(0, light)))
    }
  }
  return out
}

/** Adds the darkness of a layer's dots. Doses of layers on the same spot add up, but never beyond full. */
export function addDots(dark: Float32Array, layer: DotLayer, view: View): void {
  const { toFace, ...straight } = layer
  if (toFace) {
    throughTurn(dark, view, toFace, (swept, its) => addDots(swept, straight, its))
    return
  }
  const pxPerDot = layer.pitch * view.pxPerMm
  if (pxPerDot >= 1.5) addTrueDots(dark, layer, view)
  else addMeanDots(dark, layer, view, pxPerDot)
}

/** Cells of a line that lie under each pixel, and how much of each: at most four. */
interface Under {
  readonly first: Int32Array
  readonly weights: Float32Array
}

/**
 * Cells under pixels, by the area that a pixel (or, where cells are larger, a cell's width around it) covers: whatever the
 * zoom, no pattern of dots turns into another one.
 * @param from place of the first pixel in cells @param step cells a pixel
 */
function cellsUnder(from: number, step: number, pixels: number, cells: number): Under {
  const first = new Int32Array(pixels)
  const weights = new Float32Array(4 * pixels)
  const half = Math.max(1, step) / 2
  for (let i = 0; i < pixels; i++) {
    const middle = from + (i + 0.5) * step
    const a = middle - half
    const b = middle + half
    const start = Math.floor(a + 1e-9)
    first[i] = start
    for (let k = 0; k < 4; k++) {
      const c = start + k
      if (c < 0 || c >= cells) continue
      weights[4 * i + k] = Math.max(0, Math.min(b, c + 1) - Math.max(a, c)) / (2 * half)
    }
  }
  return { first, weights }
}

/** Far away: the mean of the dots under every pixel, dots as wide as the spot makes them. */
function addMeanDots(dark: Float32Array, layer: DotLayer, view: View, pxPerDot: number): void {
  const { levels } = layer.pyramid
  let scale = 0
  while (scale + 1 < levels.length && pxPerDot * 2 ** (scale + 1) <= 1) scale++
  const cell = layer.pitch * 2 ** scale
  const { columns, rows, levels: marks } = levels[scale]
  // A lone line of dots covers as much of its pitch as the spot is wide.
  const gain = Math.min(1, layer.spot / layer.pitch) / 255
  const step = 1 / (view.pxPerMm * cell)
  const across = cellsUnder((view.x - layer.x0) / cell, step, view.widthPx, columns)
  const down = cellsUnder((view.y - layer.y0) / cell, step, view.heightPx, rows)
  const reach = Math.min(4, Math.ceil(Math.max(1, step)) + 1)
  // Down first: the mean of the rows under a line of pixels; then across. Cells beside the picture hold nothing.
  const { widthPx, heightPx } = view
  const start = across.first[0]
  const end = across.first[widthPx - 1] + reach
  const from = Math.max(0, start)
  const to = Math.min(columns, end)
  const line = new Float32Array(end - start)
  for (let py = 0; py < heightPx; py++) {
    let any = false
    for (let j = 0; j < reach; j++) {
      const v = down.weights[4 * py + j] * gain
      if (v === 0) continue
      const row = (down.first[py] + j) * columns
      if (any) for (let c = from; c < to; c++) line[c - start] += v * marks[row + c]
      else for (let c = from; c < to; c++) line[c - start] = v * marks[row + c]
      any = true
    }
    if (any) addAcross(dark, py * widthPx, widthPx, line, across, reach)
  }
}

/** A line of means to its pixels, as dark as full at most. */
function addAcross(
  dark: Float32Array,
  at: number,
  pixels: number,
  line: Float32Array,
  { first, weights }: Under,
  reach: number,
): void {
  const start = first[0]
  for (let px = 0; px < pixels; px++) {
    const c = first[px] - start
    const w = 4 * px
    let sum = dark[at + px] + weights[w] * line[c] + weights[w + 1] * line[c + 1]
    if (reach > 2) sum += weights[w + 2] * line[c + 2]
    if (reach > 3) sum += weights[w + 3] * line[c + 3]
    dark[at + px] = sum > 1 ? 1 : sum
  }
}

/**
 * Near: each dot is the way of the spot over its cell, a bar with round ends where nothing goes on beside it. The bar is as
 * large as the energy that was left in it: what its round ends would add is taken from its length.
 */
function addTrueDots(dark: Float32Array, layer: DotLayer, view: View): void {
  const { columns, rows } = layer.pyramid.levels[0]
  const { pitch, reachMm, dark: levels } = layer
  const { widthPx, pxPerMm } = view
  const { spot } = layer
  const radius = spot / 2
  // Rows that overlap share their dose: from one to the next it goes over evenly, and a full area is full everywhere.
  const overlap = Math.max(0, Math.min(spot, 2 * pitch) - pitch)
  const edge = Math.min(spot, pitch) / 2
  const ramp = Math.max(overlap, 1 / pxPerMm)
  const rowsBeside = Math.ceil(radius / pitch)
  for (let py = 0; py < view.heightPx; py++) {
    const y = view.y + (py + 0.5) / pxPerMm - layer.y0
    const r = Math.floor(y / pitch)
    for (let row = Math.max(0, r - rowsBeside); row <= Math.min(rows - 1, r + rowsBeside); row++) {
      const dy = Math.abs((row + 0.5) * pitch - y)
      const across = clamped((edge - dy) / ramp + 0.5) / 255
      if (across === 0) continue
      // How far a free end goes beyond its cell at this height of the bar; a round end reaches π/4 of its radius on average.
      // Bars that overlap end straight.
      const round = overlap > 0 ? 0 : Math.sqrt(Math.max(0, radius * radius - dy * dy)) - (Math.PI / 4) * radius
      const end = reachMm + round
      for (let px = 0; px < widthPx; px++) {
        const x = view.x + (px + 0.5) / pxPerMm - layer.x0
        const c = Math.floor(x / pitch)
        if (c < -1 || c > columns) continue
        const at = row * columns + c
        const own = c >= 0 && c < columns ? levels[at] : 0
        const left = c > 0 ? levels[at - 1] : 0
        const right = c < columns - 1 ? levels[at + 1] : 0
        if (own + left + right === 0) continue
        const fromLeft = x - c * pitch
        const fromRight = pitch - fromLeft
        let value = 0
        if (own > 0) {
          const begun = left > 0 ? 1 : clamped((fromLeft + end) * pxPerMm + 0.5)
          const goesOn = right > 0 ? 1 : clamped((fromRight + end) * pxPerMm + 0.5)
          value = own * Math.min(begun, goesOn)
        }
        if (left > own) value = Math.max(value, left * clamped((end - fromLeft) * pxPerMm + 0.5))
        if (right > own) value = Math.max(value, right * clamped((end - fromRight) * pxPerMm + 0.5))
        if (value === 0) continue
        const i = py * widthPx + px
        const d = dark[i] + value * across
        dark[i] = d > 1 ? 1 : d
      }
    }
  }
}

const clamped = (share: number): number => (share < 0 ? 0 : share > 1 ? 1 : share)

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

/** Beside the workpiece there is nothing. */
function beyondEdge(out: Uint8ClampedArray, outline: readonly Ring[], view: View): void {
  const inside = coverage(visible(outline, outline.map(ringBounds), view), view.widthPx, view.heightPx)
  for (let i = 0; i < inside.length; i++) if (inside[i] < 1) out[4 * i + 3] *= inside[i]
}

/** A view with some pixels more on every side. */
const beside = ({ x, y, pxPerMm, widthPx, heightPx }: View, px: number): View => ({
  x: x - px / pxPerMm,
  y: y - px / pxPerMm,
  pxPerMm,
  widthPx: widthPx + 2 * px,
  heightPx: heightPx + 2 * px,
})

/** Where pieces are gone there is nothing. */
function takeAway(out: Uint8ClampedArray, layer: GoneLayer, view: View): void {
  const rings = visible(layer.rings, layer.bounds, view)
  if (rings.length === 0) return
  const gone = coverage(rings, view.widthPx, view.heightPx)
  for (let i = 0; i < gone.length; i++) if (gone[i] > 0) out[4 * i + 3] *= 1 - gone[i]
}

function openKerf(out: Uint8ClampedArray, layer: KerfLayer, view: View, edge: readonly [number, number, number]): void {
  const linePx = (layer.lineMm ?? Number.POSITIVE_INFINITY) * view.pxPerMm
  const seen = isThin(linePx) ? beside(view, BESIDE_PX) : view
  const rim = visible(layer.rim, layer.rimBounds, seen)
  if (rim.length === 0) return
  const cover = coverage(rim, seen.widthPx, seen.heightPx)
  const scorched = seen === view ? cover : seenLines(cover, view.widthPx, view.heightPx, linePx)
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
