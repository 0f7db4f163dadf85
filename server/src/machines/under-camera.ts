import type { UnderCamera } from '@neotaxis/contract'
import { boardDots, boardFor, codeModules, firstDot } from '@neotaxis/core'

/** As the simulated camera takes it. */
interface Thing {
  readonly rings: readonly (readonly number[])[]
  readonly thicknessMm: number
  readonly look: 'paper' | 'card' | 'ply' | 'driftwood' | 'slate' | 'acrylic'
  readonly ink?: readonly (readonly number[])[]
}

interface BedSize {
  readonly widthMm: number
  readonly heightMm: number
}

const around = (count: number, x: number, y: number, radius: (angle: number) => readonly [number, number]): number[] =>
  Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count
    const [u, v] = radius(angle)
    return [x + u * Math.cos(angle), y + v * Math.sin(angle)]
  }).flat()

const disc = (x: number, y: number, mm: number): number[] => around(48, x, y, () => [mm / 2, mm / 2])

/** What lies under a simulated camera after somebody laid it there. */
export function underCamera({ lay, heightMm = 0, code = 'NOBODY' }: UnderCamera, bed: BedSize): Thing[] {
  const { widthMm: w, heightMm: h } = bed
  const s = Math.min(1, w / 600)
  switch (lay) {
    case 'nothing':
      return []
    case 'board': {
      const board = boardFor(bed)
      const [x, y] = firstDot(bed, board)
      const ink = boardDots(board).map((dot) => disc(x + dot.x, y + dot.y, dot.mm))
      return [{ rings: [[0, 0, w, 0, w, h, 0, h]], thicknessMm: heightMm, look: 'paper', ink }]
    }
    case 'driftwood': {
      const slab = around(220, 0.47 * w, 0.5 * h, (a) => {
        const r = s * (150 * (1 + 0.1 * Math.cos(2 * a + 0.4) + 0.05 * Math.sin(3 * a) + 0.025 * Math.cos(7 * a)))
        return [r, 0.58 * r]
      })
      return [{ rings: [slab, disc(0.47 * w + s * 118, 0.5 * h - s * 8, 13 * s)], thicknessMm: 12, look: 'driftwood' }]
    }
    case 'coasters': {
      const leaf = (x: number, y: number, deg: number): number[] => {
        const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
        const flat = around(120, 0, 0, (a) => {
          const r = 42 * s * (1 + 0.13 * Math.cos(2 * a) + 0.06 * Math.sin(3 * a))
          return [r, 0.8 * r]
        })
        return flat.map((_, i) => (i % 2 === 0 ? x + cos * flat[i] - sin * flat[i + 1] : y + sin * flat[i - 1] + cos * flat[i]))
      }
      const places = [
        [0.18, 0.3, 8],
        [0.42, 0.27, -63],
        [0.7, 0.33, 140],
        [0.24, 0.72, 32],
        [0.55, 0.7, -18],
      ]
      return places.map(([x, y, deg]) => ({ rings: [leaf(x * w, y * h, deg)], thicknessMm: 3, look: 'ply' as const }))
    }
    case 'pane': {
      const [cos, sin] = [Math.cos(0.16), Math.sin(0.16)]
      const on = (x: number, y: number): readonly [number, number] => [
        0.3 * w + s * (cos * x - sin * y),
        0.3 * h + s * (sin * x + cos * y),
      ]
      return [{ rings: [[on(0, 0), on(190, 0), on(190, 120), on(0, 120)].flat()], thicknessMm: 3, look: 'acrylic' }]
    }
    case 'sheet': {
      const [cos, sin] = [Math.cos(0.021), Math.sin(0.021)]
      const on = (x: number, y: number): readonly [number, number] => [
        0.15 * w + s * (cos * x - sin * y),
        0.2 * h + s * (sin * x + cos * y),
      ]
      const sheet = [on(0, 0), on(300, 0), on(300, 210), on(0, 210)].flat()
      const ink = [on(20, 20), on(280, 20), on(280, 190), on(20, 190)].map(([x, y]) => disc(x, y, 5 * s))
      return [{ rings: [sheet], thicknessMm: 0.3, look: 'paper', ink }]
    }
    case 'label': {
      const modules = codeModules(code)
      const cell = (34 * s) / modules.length
      const [x0, y0] = [0.3 * w + 12 * s, 0.3 * h + 12 * s]
      const ink = modules.flatMap((row, r) =>
        row.flatMap((dark, c) => {
          const [x, y] = [x0 + c * cell, y0 + r * cell]
          return dark ? [[x, y, x + cell, y, x + cell, y + cell, x, y + cell]] : []
        }),
      )
      const [x, y, r, b] = [0.3 * w, 0.3 * h, 0.3 * w + 160 * s, 0.3 * h + 100 * s]
      return [{ rings: [[x, y, r, y, r, b, x, b]], thicknessMm: 3, look: 'paper', ink }]
    }
    case 'tag': {
      const edge = around(160, 0.52 * w, 0.47 * h, (a) => {
        const r = 0.24 * Math.min(w, h) * (1 + 0.14 * Math.cos(2 * a + 0.7) + 0.05 * Math.sin(5 * a))
        return [1.2 * r, r]
      })
      return [{ rings: [edge, disc(0.36 * w, 0.4 * h, 0.045 * Math.min(w, h))], thicknessMm: 1, look: 'card' }]
    }
    case 'drawing': {
      const sheet = [0.2 * w, 0.2 * h, 0.7 * w, 0.23 * h, 0.685 * w, 0.85 * h, 0.185 * w, 0.82 * h]
      const ink = Array.from({ length: 5 }, (_, i) => [
        around(90, 0.44 * w, 0.52 * h, (a) => [s * (20 + 18 * i) * (1 + 0.1 * Math.cos(5 * a)), s * (14 + 13 * i)]),
        around(90, 0.44 * w, 0.52 * h, (a) => [s * (18.6 + 18 * i) * (1 + 0.1 * Math.cos(5 * a)), s * (12.6 + 13 * i)]),
      ]).flat()
      return [{ rings: [sheet], thicknessMm: 0.2, look: 'paper', ink }]
    }
  }
}
