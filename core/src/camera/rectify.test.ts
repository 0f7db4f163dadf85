import { describe, expect, it } from 'vitest'
import { BED_BOARD, boardDots, boardSpots, boardSvg } from './board.ts'
import { type Camera, sightOf } from './camera.ts'
import { cameraFile, readCameraFile } from './check-camera.ts'
import { type Photo, photoOf } from './photo.ts'
import { rectified } from './rectify.ts'

const CAMERA: Camera = {
  widthPx: 800,
  heightPx: 600,
  focalPx: 740,
  axisPx: [404, 297],
  lens: { kind: 'brown', k1: -0.18, k2: 0.04, p1: 0.0008, p2: -0.0005 },
  turn: [0.02, -0.015, 0.01],
  shift: [-300, -200, 640],
}

/** A photo of a pattern on the bed, as the camera sees it at a height; `light` by place, mm. */
function photoOfPattern(light: (x: number, y: number) => number, heightMm: number): Photo {
  const { place } = sightOf(CAMERA)
  const rgba = new Uint8ClampedArray(4 * 800 * 600)
  for (let v = 0; v < 600; v++)
    for (let u = 0; u < 800; u++) {
      let sum = 0
      for (const [du, dv] of [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.25, 0.75],
        [0.75, 0.75],
      ]) {
        const at = place(u + du, v + dv, heightMm)
        sum += at ? light(at[0], at[1]) : 0
      }
      rgba.fill(sum / 4, 4 * (v * 800 + u), 4 * (v * 800 + u) + 3)
      rgba[4 * (v * 800 + u) + 3] = 255
    }
  return { widthPx: 800, heightPx: 600, rgba }
}
const wave = (x: number, y: number): number => 128 + 60 * Math.sin(x / 14) + 50 * Math.cos(y / 11)

describe('a rectified bed', () => {
  it('shows each place where it lies, at the height that is looked at, and nothing beyond the photo', () => {
    const photo = photoOfPattern(wave, 12)
    const view = { x: -140, y: 20, pxPerMm: 2, widthPx: 1500, heightPx: 700 }
    const out = rectified(photo, CAMERA, view, 12)
    const { seen } = sightOf(CAMERA)
    let [off, n, clear] = [0, 0, 0]
    for (let py = 3; py < view.heightPx; py += 7)
      for (let px = 3; px < view.widthPx; px += 7) {
        const [x, y] = [view.x + (px + 0.5) / 2, view.y + (py + 0.5) / 2]
        const [u, v] = seen(x, y, 12)!
        const o = 4 * (py * view.widthPx + px)
        const isSeen = u > 1 && v > 1 && u < 799 && v < 599
        if (isSeen) {
          expect(out[o + 3]).toBe(255)
          off = Math.max(off, Math.abs(out[o] - wave(x, y)))
          n++
        } else if (u < -1 || v < -1 || u > 801 || v > 601) {
          expect(out[o + 3]).toBe(0)
          clear++
        }
      }
    expect(n).toBeGreaterThan(5000)
    expect(clear).toBeGreaterThan(100)
    expect(off).toBeLessThan(6)
    // Looked at as if it were flat it lies elsewhere.
    const flat = rectified(photo, CAMERA, view, 0)
    const far = 4 * (350 * view.widthPx + 1100)
    expect(Math.abs(flat[far] - out[far])).toBeGreaterThan(3)
  })

  it('is the same from a smaller photo of the same shape, and can be given up', () => {
    const photo = photoOfPattern(wave, 0)
    const half = new Uint8ClampedArray(4 * 400 * 300)
    for (let v = 0; v < 300; v++)
      for (let u = 0; u < 400; u++)
        for (let k = 0; k < 4; k++) half[4 * (v * 400 + u) + k] = photo.rgba[4 * (2 * v * 800 + 2 * u) + k]
    const view = { x: 100, y: 100, pxPerMm: 1, widthPx: 300, heightPx: 200 }
    const [whole, small] = [
      rectified(photo, CAMERA, view, 0),
      rectified({ widthPx: 400, heightPx: 300, rgba: half }, CAMERA, view, 0),
    ]
    const mean = whole.reduce((sum, v, i) => sum + Math.abs(v - small[i]), 0) / whole.length
    expect(mean).toBeLessThan(4)
    expect(() =>
      rectified(photo, CAMERA, view, 0, () => {
        throw new Error('given up')
      }),
    ).toThrow('given up')
  })
})

describe('the board', () => {
  const dots = boardDots(BED_BOARD)
  const board = (hidden: (x: number, y: number) => boolean) => (x: number, y: number) => {
    const [bx, by] = [x - 30, y - 20]
    if (bx < -20 || by < -20 || bx > 560 || by > 380 || hidden(x, y))
      return 120 + 60 * ((Math.floor(x / 5) + Math.floor(y / 5)) % 2)
    const [c, r] = [Math.round(bx / 30), Math.round(by / 30)]
    const dot = dots[r * BED_BOARD.columns + c]
    return dot && c >= 0 && c < BED_BOARD.columns && Math.hypot(bx - dot.x, by - dot.y) < dot.mm / 2 ? 30 : 225
  }
  const grey = (photo: Photo) => ({
    widthPx: 800,
    heightPx: 600,
    samples: Uint8Array.from({ length: 480_000 }, (_, i) => photo.rgba[4 * i]),
    full: 255,
  })

  it('is found whole or in part, each dot within a tenth of a pixel', () => {
    const { seen } = sightOf(CAMERA)
    for (const hidden of [() => false, (x: number) => x > 430]) {
      const found = boardSpots(grey(photoOfPattern(board(hidden), 0)), BED_BOARD)
      expect(found.length).toBeGreaterThan(hidden(500) ? 140 : 220)
      for (const { x, y, u, v } of found) {
        const at = seen(x + 30, y + 20, 0)!
        expect(Math.hypot(at[0] - u, at[1] - v)).toBeLessThan(0.25)
      }
    }
  })

  it('is not found without its large dots, nor in the dark, nor where there is none', () => {
    const gone = (x: number, y: number): boolean => x > 250 && x < 350 && y > 180 && y < 240
    expect(() => boardSpots(grey(photoOfPattern(board(gone), 0)), BED_BOARD)).toThrow('three large dots')
    expect(() => boardSpots(grey(photoOfPattern(() => 3, 0)), BED_BOARD)).toThrow('dark')
    expect(() => boardSpots(grey(photoOfPattern(() => 90, 0)), BED_BOARD)).toThrow('right before the camera')
    expect(() => boardSpots(grey(photoOfPattern((x) => 80 + x / 5, 0)), BED_BOARD)).toThrow('no board')
  })

  it('is drawn with a pitch of room around it', () => {
    expect(boardSvg(BED_BOARD)).toContain('viewBox="0 0 600 420"')
    expect(dots.filter(({ mm }) => mm === BED_BOARD.largeMm)).toHaveLength(3)
  })
})

describe('the file of a calibration', () => {
  const calibration = {
    camera: CAMERA,
    rmsMm: 0.01,
    p95Mm: 0.02,
    worst: { mm: 0.03, x: 1, y: 2 },
    spots: 247,
    heights: [0, 12],
    errors: [{ mm: 0.01, x: 20, y: 30 }],
  }

  it('holds it, and is refused where it is damaged', () => {
    expect(readCameraFile(cameraFile(calibration))).toEqual(calibration)
    expect(() => readCameraFile('{')).toThrow('no calibration')
    expect(() => readCameraFile('{"format":"other"}')).toThrow('no calibration')
    expect(() => readCameraFile(cameraFile({ ...calibration, camera: { ...CAMERA, focalPx: -1 } }))).toThrow('damaged')
  })
})

describe('a photo', () => {
  it('is read from a picture of any kind', () => {
    const grey = photoOf({ widthPx: 2, heightPx: 1, channels: 1, samples: Uint8Array.of(10, 200), full: 255 })
    expect([...grey.rgba]).toEqual([10, 10, 10, 255, 200, 200, 200, 255])
    const deep = photoOf({ widthPx: 1, heightPx: 1, channels: 3, samples: Uint16Array.of(65_535, 0, 32_768), full: 65_535 })
    expect([...deep.rgba]).toEqual([255, 0, 128, 255])
  })
})
