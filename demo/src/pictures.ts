import { encodePng, type RawPicture, type Ring } from '@neotaxis/core'
import { islandHeights, islandMesh } from './island.ts'
import { BOATS } from './label-jobs.ts'
import { heron, soundings, stormShutter } from './outline-pictures.ts'
import { band, bar, circle, polygon, reversed, wave } from './shapes.ts'
import { Sheet } from './sheet.ts'

const WHITE = [1, 1, 1] as const

/** Numbers 0–1 from a place, always the same: the grain of a made-up photograph. */
function speckle(x: number, y: number): number {
  let h = (Math.imul(x + 11, 374761393) + Math.imul(y + 7, 668265263)) | 0
  h = Math.imul(h ^ (h >>> 13), 1274126177)
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296
}

/** The lighthouse of Saltmere, standing on (x, foot), `h` tall. */
function lighthouse(sheet: Sheet, x: number, foot: number, h: number, dark: number): void {
  const half = (t: number): number => h * (0.16 - 0.07 * t)
  const at = (t: number): number => foot - h * t
  for (let k = 0; k < 5; k++) {
    const a = k * 0.145
    const b = a + 0.145
    sheet.fill(
      [polygon([x - half(a), at(a)], [x - half(b), at(b)], [x + half(b), at(b)], [x + half(a), at(a)])],
      k % 2 ? 0.97 : dark,
    )
  }
  sheet.fill(
    [
      polygon(
        [x - half(0), at(0)],
        [x - half(0.725), at(0.725)],
        [x - half(0.725) + h * 0.012, at(0.725)],
        [x - half(0) + h * 0.012, at(0)],
      ),
    ],
    dark,
  )
  sheet.fill(
    [
      polygon(
        [x + half(0) - h * 0.012, at(0)],
        [x + half(0.725) - h * 0.012, at(0.725)],
        [x + half(0.725), at(0.725)],
        [x + half(0), at(0)],
      ),
    ],
    dark,
  )
  sheet.fill(
    [polygon([x - h * 0.13, at(0.725)], [x - h * 0.13, at(0.755)], [x + h * 0.13, at(0.755)], [x + h * 0.13, at(0.725)])],
    dark,
  )
  sheet.fill(
    [polygon([x - h * 0.075, at(0.755)], [x - h * 0.075, at(0.88)], [x + h * 0.075, at(0.88)], [x + h * 0.075, at(0.755)])],
    dark,
  )
  sheet.fill(
    [polygon([x - h * 0.05, at(0.78)], [x - h * 0.05, at(0.86)], [x + h * 0.05, at(0.86)], [x + h * 0.05, at(0.78)])],
    0.95,
  )
  sheet.fill([polygon([x - h * 0.1, at(0.88)], [x, at(1)], [x + h * 0.1, at(0.88)])], dark)
}

function moon(sheet: Sheet, x: number, y: number, r: number, phase: number): void {
  sheet.fill([circle(x, y, r)], 0.94)
  sheet.fill(band(x, y, r, r * 0.09), 0.1)
  // The dark part: a half disc and half an ellipse.
  const n = 60
  const points: [number, number][] = []
  const bulge = Math.cos(2 * Math.PI * phase)
  const side = phase < 0.5 ? -1 : 1
  for (let i = 0; i <= n; i++) {
    const a = -Math.PI / 2 + (Math.PI * i) / n
    points.push([x + side * r * Math.cos(a), y + r * Math.sin(a)])
  }
  for (let i = n; i >= 0; i--) {
    const a = -Math.PI / 2 + (Math.PI * i) / n
    points.push([x - side * r * bulge * Math.cos(a), y + r * Math.sin(a)])
  }
  sheet.fill([polygon(...points)], 0.42, 0.9)
}

/** The face of the tide clock: marks, moons, lighthouse and water, on white. */
export function tideClockFace(side = 1600): RawPicture {
  const sheet = new Sheet(side, side, WHITE)
  const c = side / 2
  const u = side / 1600
  sheet.fill(band(c, c, 770 * u, 14 * u), 0.08)
  for (let i = 0; i < 60; i++) {
    const a = (Math.PI * 2 * i) / 60
    const hour = i % 5 === 0
    const inner = (hour ? 690 : 720) * u
    sheet.fill(
      [
        bar(
          c + inner * Math.cos(a),
          c + inner * Math.sin(a),
          c + 745 * u * Math.cos(a),
          c + 745 * u * Math.sin(a),
          (hour ? 14 : 5) * u,
        ),
      ],
      0.08,
    )
  }
  for (let i = 0; i < 8; i++) {
    const a = -Math.PI / 2 + (Math.PI * 2 * i) / 8
    moon(sheet, c + 590 * u * Math.cos(a), c + 590 * u * Math.sin(a), 62 * u, i / 8)
  }
  sheet.fill(band(c, c, 470 * u, 10 * u), 0.08)
  // Water: waves that thin out towards the bottom, inside the inner circle.
  for (let k = 0; k < 9; k++) {
    const y = c + (40 + 48 * k) * u
    const reach = Math.sqrt(Math.max(0, (455 * u) ** 2 - (y - c) ** 2))
    if (reach < 40 * u) continue
    const f = (x: number): number => y + 9 * u * Math.sin((x / u) * 0.021 + k * 1.7)
    sheet.fill(
      [wave(c - reach, c + reach, f, (t) => (14 - k) * u * Math.sin(Math.PI * Math.min(0.98, Math.max(0.02, t))) + 1)],
      0.12 + 0.05 * k,
    )
  }
  sheet.fill(
    [
      wave(
        c - 190 * u,
        c + 190 * u,
        (x) => c + 58 * u - 46 * u * Math.cos(((x - c) / (190 * u)) * (Math.PI / 2)),
        (t) => 40 * u * Math.sin(Math.PI * Math.min(0.99, Math.max(0.01, t))) + 2,
      ),
    ],
    0.2,
  )
  lighthouse(sheet, c, c + 24 * u, 400 * u, 0.1)
  for (const way of [-1, 1]) {
    for (let k = 0; k < 5; k++) {
      const a = (-0.16 + 0.08 * k) * way
      const x = c + way * (90 + 6 * k) * u
      sheet.fill(
        [bar(x, c - 304 * u + 90 * u * Math.tan(a), x + way * 250 * u, c - 304 * u + 340 * u * Math.tan(a), 5 * u)],
        0.45,
      )
    }
  }
  return sheet.picture(1)
}

/** Night over the harbour: soft tones and grain, like a photograph. */
export function harbourNight(width = 1500, height = 1000): RawPicture {
  const sheet = new Sheet(width, height, WHITE)
  const u = width / 1500
  const mx = 1080 * u
  const my = 250 * u
  const horizon = 640 * u
  sheet.shade((x, y) => {
    const glow = Math.exp(-Math.hypot(x - mx, y - my) / (260 * u))
    if (y < horizon) return 0.14 + 0.3 * (y / horizon) ** 1.6 + 0.6 * glow
    const path = Math.exp(-(((x - mx) / ((60 + (y - horizon) * 0.35) * u)) ** 2))
    const ripple = 0.5 + 0.5 * Math.sin(y * 0.19 + 2.4 * Math.sin(x * 0.013 + y * 0.05))
    return 0.12 + 0.16 * ripple * (0.5 + (y - horizon) / (height - horizon)) + 0.55 * path * ripple
  })
  sheet.fill([circle(mx, my, 62 * u)], 0.98)
  sheet.fill(
    [
      wave(
        -60 * u,
        760 * u,
        (x) => horizon - 20 * u - 90 * u * Math.sin(Math.max(0, (x + 60 * u) / (820 * u)) * Math.PI),
        () => 240 * u,
      ),
    ],
    0.07,
  )
  lighthouse(sheet, 360 * u, horizon - 190 * u, 330 * u, 0.16)
  sheet.fill([polygon([376 * u, 158 * u], [376 * u, 178 * u], [1500 * u, 330 * u], [1500 * u, 90 * u])], 0.95, 0.16)
  for (let k = 0; k < 3; k++) {
    const x = (820 + 190 * k) * u
    const y = (720 + 40 * k) * u
    sheet.fill([polygon([x - 70 * u, y], [x - 52 * u, y + 26 * u], [x + 52 * u, y + 26 * u], [x + 70 * u, y])], 0.04)
    sheet.fill([bar(x, y, x, y - 130 * u, 5 * u)], 0.05)
    sheet.fill([circle(x, y - 134 * u, 5 * u)], 0.95)
  }
  sheet.shade((x, y, before) => before + 0.07 * (speckle(x, y) + speckle(x + 1, y) + speckle(x, y + 1) - 1.5))
  return sheet.picture(1)
}

/** A ferry with see-through surroundings, in flat colours. */
export function ferry(width = 1200, height = 800): RawPicture {
  const sheet = new Sheet(width, height, undefined)
  const u = width / 1200
  const p = (...points: readonly (readonly [number, number])[]): Ring =>
    polygon(...points.map(([x, y]) => [x * u, y * u] as const))
  sheet.fill([p([90, 480], [190, 660], [960, 660], [1120, 470])], [0.12, 0.26, 0.42])
  sheet.fill([p([118, 530], [136, 562], [1042, 562], [1070, 530])], [0.93, 0.93, 0.9])
  sheet.fill([p([240, 350], [240, 482], [960, 478], [930, 350])], [0.97, 0.97, 0.95])
  for (let k = 0; k < 7; k++) sheet.fill([circle((310 + 92 * k) * u, 412 * u, 27 * u)], [0.3, 0.42, 0.5])
  sheet.fill([p([360, 240], [360, 352], [800, 352], [760, 240])], [0.86, 0.87, 0.85])
  for (let k = 0; k < 4; k++)
    sheet.fill([p([390 + 92 * k, 268], [390 + 92 * k, 318], [450 + 92 * k, 318], [450 + 92 * k, 268])], [0.25, 0.36, 0.44])
  sheet.fill([p([470, 110], [456, 242], [580, 242], [566, 110])], [0.7, 0.23, 0.17])
  sheet.fill([p([467, 138], [464, 170], [573, 170], [570, 138])], [0.95, 0.95, 0.93])
  sheet.fill([bar(840 * u, 120 * u, 840 * u, 352 * u, 14 * u)], [0.2, 0.2, 0.22])
  sheet.fill([p([846, 126], [930, 150], [846, 178])], [0.7, 0.23, 0.17])
  return sheet.picture(4)
}

/** A fish between two waves in black and white, as cut in lino. */
export function linoFish(width = 1400, height = 1000): RawPicture {
  const sheet = new Sheet(width, height, WHITE)
  const u = width / 1400
  const body: [number, number][] = []
  for (let i = 0; i <= 80; i++) {
    const t = i / 80
    body.push([(260 + 760 * t) * u, (500 - 190 * Math.sin(Math.PI * t) ** 0.8) * u])
  }
  for (let i = 80; i >= 0; i--) {
    const t = i / 80
    body.push([(260 + 760 * t) * u, (500 + 170 * Math.sin(Math.PI * t) ** 0.8) * u])
  }
  sheet.fill([polygon(...body)], 0)
  sheet.fill([polygon([960 * u, 500 * u], [1180 * u, 330 * u], [1130 * u, 505 * u], [1190 * u, 680 * u])], 0)
  sheet.fill([polygon([560 * u, 330 * u], [700 * u, 210 * u], [800 * u, 345 * u])], 0)
  sheet.fill([circle(390 * u, 460 * u, 34 * u), reversed(circle(390 * u, 460 * u, 15 * u))], 1)
  for (let row = 0; row < 3; row++) {
    for (let k = 0; k < 5; k++) {
      const x = (530 + 80 * k + 40 * (row % 2)) * u
      const y = (430 + 70 * row) * u
      sheet.fill(
        [
          wave(
            x - 30 * u,
            x + 30 * u,
            (v) => y + 22 * u * Math.cos(((v - x) / (30 * u)) * (Math.PI / 2)),
            (t) => 12 * u * Math.sin(Math.PI * Math.min(0.97, Math.max(0.03, t))),
          ),
        ],
        1,
      )
    }
  }
  for (const [y, w] of [
    [130, 40],
    [850, 46],
    [925, 22],
  ]) {
    sheet.fill(
      [
        wave(
          110 * u,
          1290 * u,
          (x) => y * u + 26 * u * Math.sin((x / u) * 0.017),
          (t) => w * u * (0.35 + 0.65 * Math.sin(Math.PI * t)),
        ),
      ],
      0,
    )
  }
  return sheet.picture(1)
}

/** The files to drop, by name. */
export const dropFiles = (): Record<string, Uint8Array> => ({
  'harbour-night.png': encodePng(harbourNight(), {}),
  'ferry.png': encodePng(ferry(), { pixelsPerMm: 12 }),
  'lino-fish.png': encodePng(linoFish(), {}),
  'saltmere-heights.png': encodePng(islandHeights(), {}),
  'saltmere.stl': islandMesh(),
  'soundings.png': encodePng(soundings(), {}),
  'heron.png': encodePng(heron(), {}),
  'boats.csv': new TextEncoder().encode(BOATS),
  'storm-shutter.svg': new TextEncoder().encode(stormShutter()),
})
