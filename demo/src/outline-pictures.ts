import type { RawPicture, Ring } from '@neotaxis/core'
import { bar, circle, polygon, reversed, wave } from './shapes.ts'
import { Sheet } from './sheet.ts'

/** A reproducible number 0–1 for a place. */
const grain = (x: number, y: number): number => {
  let h = (Math.imul(x | 0, 374761393) + Math.imul(y | 0, 668265263)) | 0
  h = Math.imul(h ^ (h >>> 13), 1274126177)
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296
}

/** Strokes of the digits in a box of 1 × 1.6. */
const DIGITS: Readonly<Record<string, readonly (readonly [number, number])[]>> = {
  '1': [
    [0.2, 0.4],
    [0.5, 0],
    [0.5, 1.6],
  ],
  '2': [
    [0, 0.4],
    [0.2, 0],
    [0.8, 0],
    [1, 0.4],
    [0.9, 0.8],
    [0, 1.6],
    [1, 1.6],
  ],
  '3': [
    [0, 0.1],
    [0.7, 0],
    [1, 0.4],
    [0.5, 0.75],
    [1, 1.1],
    [0.7, 1.6],
    [0, 1.5],
  ],
  '4': [
    [0.8, 1.6],
    [0.8, 0],
    [0, 1.1],
    [1, 1.1],
  ],
  '5': [
    [0.9, 0],
    [0.1, 0],
    [0.1, 0.7],
    [0.8, 0.7],
    [1, 1.1],
    [0.8, 1.6],
    [0, 1.5],
  ],
  '7': [
    [0, 0],
    [1, 0],
    [0.4, 1.6],
  ],
}

/** A line of a pen through points, round at its joints. */
function stroke(sheet: Sheet, points: readonly (readonly [number, number])[], width: number, tone: number): void {
  for (let i = 0; i + 1 < points.length; i++) {
    const [[ax, ay], [bx, by]] = [points[i], points[i + 1]]
    if (Math.hypot(bx - ax, by - ay) > 0.01) sheet.fill([bar(ax, ay, bx, by, width)], tone)
  }
  for (const [x, y] of points) sheet.fill([circle(x, y, width / 2)], tone)
}

/** Soundings around Saltmere drawn by hand and photographed: coast, two depth lines, numbers, on paper lit from one side. */
export function soundings(width = 1600, height = 1200): RawPicture {
  const sheet = new Sheet(width, height, [0.9, 0.9, 0.9])
  const u = width / 1600
  const coast = (scale: number, wobble: number): [number, number][] =>
    Array.from({ length: 141 }, (_, i) => {
      const a = (2 * Math.PI * (i % 140)) / 140
      const r = (230 + 46 * Math.sin(3 * a + 0.6) + 28 * Math.sin(5 * a + 2) + wobble * Math.sin(11 * a)) * scale
      return [(800 + 1.35 * r * Math.cos(a)) * u, (600 + r * Math.sin(a)) * u]
    })
  stroke(sheet, coast(1, 12), 7 * u, 0.16)
  stroke(sheet, coast(1.42, 5), 4 * u, 0.2)
  stroke(sheet, coast(1.86, 3), 4 * u, 0.2)
  // The lighthouse, and soundings in fathoms.
  stroke(
    sheet,
    [
      [800 * u, 640 * u],
      [800 * u, 560 * u],
    ],
    6 * u,
    0.16,
  )
  for (const dx of [-34, 34])
    stroke(
      sheet,
      [
        [800 * u, 560 * u],
        [(800 + dx) * u, 540 * u],
      ],
      5 * u,
      0.16,
    )
  const places: readonly (readonly [number, number, string])[] = [
    [180, 250, '23'],
    [420, 140, '17'],
    [760, 110, '14'],
    [1180, 160, '25'],
    [1400, 380, '31'],
    [1490, 800, '27'],
    [1190, 1020, '15'],
    [740, 1060, '12'],
    [230, 1050, '21'],
    [120, 680, '24'],
  ]
  for (const [x, y, text] of places)
    for (const [k, digit] of [...text].entries()) {
      const points = DIGITS[digit].map(([dx, dy]) => [(x + 44 * k + 30 * dx) * u, (y + 30 * dy) * u] as const)
      stroke(sheet, points, 5 * u, 0.2)
    }
  // Light from the left, the grain of a camera, and a few crumbs on the paper.
  sheet.shade((x, y, before) => before * (1 - (0.24 * x) / width - (0.06 * y) / height) + 0.02 * (grain(x, y) - 0.5))
  for (let i = 0; i < 26; i++)
    sheet.fill([circle(grain(i, 1) * width, grain(i, 2) * height, (1.2 + 2.2 * grain(i, 3)) * u)], 0.35)
  return sheet.picture(1)
}

/** A heron in shallow water between reeds, dark against the light. */
export function heron(width = 1400, height = 1100): RawPicture {
  const sheet = new Sheet(width, height, [0.86, 0.86, 0.86])
  const u = width / 1400
  const p = (...points: readonly (readonly [number, number])[]): Ring =>
    polygon(...points.map(([x, y]) => [x * u, y * u] as const))
  for (let k = 0; k < 9; k++)
    sheet.fill(
      [
        wave(
          0,
          width,
          (x) => (720 + 42 * k) * u + 7 * u * Math.sin(x / u / (60 + 9 * k) + k),
          (t) => (5 + 5 * Math.sin(7 * t + k)) * u,
        ),
      ],
      0.66,
    )
  // Reeds at both sides: they are not meant.
  for (let k = 0; k < 14; k++) {
    const x = (k < 7 ? 24 + 32 * k : 1130 + 36 * (k - 7)) * u
    const top = (170 + 330 * grain(k, 5)) * u
    sheet.fill([bar(x, 1090 * u, x + (grain(k, 7) - 0.5) * 90 * u, top, (7 + 5 * grain(k, 9)) * u)], 0.24)
    sheet.fill([circle(x + (grain(k, 7) - 0.5) * 90 * u, top, 13 * u)], 0.2)
  }
  const ink = 0.1
  const body: [number, number][] = Array.from({ length: 60 }, (_, i) => {
    const a = (2 * Math.PI * i) / 60
    return [640 + 205 * Math.cos(a) * (1 + 0.16 * Math.cos(a)), 560 + 92 * Math.sin(a) - 46 * Math.cos(a)]
  })
  sheet.fill([p(...body)], ink)
  sheet.fill([p([430, 560], [300, 690], [330, 700], [470, 625])], ink)
  // The neck in an S, the head, the bill and its feather.
  const neck: [number, number][] = Array.from({ length: 40 }, (_, i) => {
    const t = i / 39
    return [(790 + 92 * t + 64 * Math.sin(2 * Math.PI * t)) * u, (520 - 300 * t) * u]
  })
  for (let i = 0; i + 1 < neck.length; i++) sheet.fill([bar(...neck[i], ...neck[i + 1], (62 - 26 * (i / 39)) * u)], ink)
  for (let i = 0; i < neck.length; i++) sheet.fill([circle(...neck[i], (31 - 13 * (i / 39)) * u)], ink)
  sheet.fill([circle(890 * u, 214 * u, 30 * u)], ink)
  sheet.fill([p([905, 196], [1066, 226], [905, 236])], ink)
  sheet.fill([p([872, 196], [770, 158], [868, 222])], ink)
  sheet.fill([circle(897 * u, 207 * u, 5 * u)], 0.86)
  for (const [x, lean] of [
    [600, -18],
    [690, 22],
  ]) {
    sheet.fill([bar(x * u, 630 * u, (x + lean) * u, 800 * u, 15 * u)], ink)
    sheet.fill([bar((x + lean) * u, 796 * u, (x + lean * 0.3) * u, 985 * u, 13 * u)], ink)
    sheet.fill([p([x + lean * 0.3 - 6, 975], [x + lean * 0.3 + 58, 1000], [x + lean * 0.3 - 40, 1000])], ink)
  }
  // Drops on the lens, and light spots on the feathers.
  for (let i = 0; i < 40; i++)
    sheet.fill([circle((380 + 600 * grain(i, 21)) * u, (90 + 880 * grain(i, 22)) * u, (2 + 3 * grain(i, 23)) * u)], 0.3)
  for (let i = 0; i < 7; i++)
    sheet.fill([circle((540 + 190 * grain(i, 31)) * u, (520 + 70 * grain(i, 32)) * u, (4 + 4 * grain(i, 33)) * u)], 0.8)
  sheet.shade((x, y, before) => before + 0.035 * (grain(x, y) - 0.5))
  return sheet.picture(1)
}

const number = (v: number): string => String(Number(v.toFixed(3)))
const path = (ring: Ring): string => {
  let d = ''
  for (let i = 0; i < ring.length; i += 2) d += `${i ? 'L' : 'M'}${number(ring[i])} ${number(ring[i + 1])}`
  return `${d}Z`
}

/** A storm shutter as a drawing, in mm: boards with a moon, a lifebuoy whose middle would fall, stars and three waves. */
export function stormShutter(): string {
  const line = 'fill="none" stroke="#000" stroke-width="0.1"'
  const moon = 'M92 38a26 26 0 1 0 18 44a31 31 0 0 1 -18 -44Z'
  const buoy = [circle(190, 66, 30), reversed(circle(190, 66, 15))].map(path).join('')
  const star = (x: number, y: number, r: number): string =>
    path(
      Float64Array.from({ length: 20 }, (_, i) => {
        const a = (Math.PI * (i >> 1)) / 5 - Math.PI / 2
        const d = (i >> 1) % 2 ? r * 0.45 : r
        return i % 2 ? y + d * Math.sin(a) : x + d * Math.cos(a)
      }),
    )
  const waves = [118, 134, 150].map((y) =>
    path(
      wave(
        40,
        240,
        (x) => y + 5 * Math.sin(x / 16),
        (t) => 1 + 5 * Math.sin(Math.PI * t),
      ),
    ),
  )
  return `<svg xmlns="http://www.w3.org/2000/svg" width="280mm" height="180mm" viewBox="0 0 280 180">
<g id="boards" ${line}><rect x="10" y="8" width="260" height="164" rx="9"/><circle cx="24" cy="22" r="3"/><circle cx="256" cy="22" r="3"/><circle cx="24" cy="158" r="3"/><circle cx="256" cy="158" r="3"/></g>
<g id="moon" ${line}><path d="${moon}"/></g>
<g id="buoy" ${line}><path d="${buoy}"/></g>
<g id="stars" ${line}><path d="${star(132, 44, 9)}"/><path d="${star(142, 84, 6)}"/><path d="${star(50, 84, 7)}"/></g>
<g id="waves" ${line}>${waves.map((d) => `<path d="${d}"/>`).join('')}</g>
</svg>
`
}
