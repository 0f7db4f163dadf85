import type { RawPicture } from '@neotaxis/core'

/** Extents of the island's model, mm; its highest point is the lighthouse hill. */
const WIDTH = 160
const DEPTH = 120
const HEIGHT = 14

/** A number between −1 and 1 for a place on a lattice, always the same. */
function lattice(x: number, y: number): number {
  let h = (Math.imul(x + 101, 374761393) + Math.imul(y + 57, 668265263)) | 0
  h = Math.imul(h ^ (h >>> 13), 1274126177)
  return ((h ^ (h >>> 16)) >>> 0) / 2147483648 - 1
}

function smooth(x: number, y: number): number {
  const i = Math.floor(x)
  const j = Math.floor(y)
  const ease = (t: number): number => t * t * t * (t * (6 * t - 15) + 10)
  const a = ease(x - i)
  const b = ease(y - j)
  const top = lattice(i, j) * (1 - a) + lattice(i + 1, j) * a
  const bottom = lattice(i, j + 1) * (1 - a) + lattice(i + 1, j + 1) * a
  return top * (1 - b) + bottom * b
}

/** Height of Saltmere above the sea floor at a place 0–1 across and down, 0–1. */
export function islandHeight(u: number, v: number): number {
  const x = (u - 0.5) * 2
  const y = (v - 0.5) * 2
  const bay = Math.exp(-(((x - 0.25) / 0.22) ** 2) - ((y - 0.55) / 0.32) ** 2)
  const shore = 1 - Math.hypot(x / 0.82, y / 0.74) + 0.16 * smooth(4 * x + 9, 4 * y) - 0.7 * bay
  const hills =
    0.55 * Math.exp(-(((x + 0.35) / 0.3) ** 2) - ((y + 0.2) / 0.28) ** 2) +
    0.32 * Math.exp(-(((x - 0.4) / 0.26) ** 2) - ((y + 0.28) / 0.3) ** 2)
  const ridges = 0.05 * smooth(11 * x, 11 * y + 3) + 0.02 * smooth(23 * x + 5, 23 * y)
  const land = shore > 0 ? 0.12 + 0.5 * shore ** 0.8 + hills + ridges * Math.min(1, 4 * shore) : Math.max(0, 0.12 + 0.35 * shore)
  return Math.min(1, Math.max(0, land / 1.08))
}

/** The island as a height map of 16 bit: high is white. */
export function islandHeights(width = 1600, height = 1200): RawPicture {
  const samples = new Uint16Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      samples[y * width + x] = Math.round(65_535 * islandHeight((x + 0.5) / width, (y + 0.5) / height))
  return { widthPx: width, heightPx: height, channels: 1, samples, full: 65_535 }
}

/** The island as a mesh, a binary STL: its surface in triangles, rows from the rear. */
export function islandMesh(columns = 200, rows = 150): Uint8Array {
  const bytes = new Uint8Array(84 + 50 * 2 * columns * rows)
  const view = new DataView(bytes.buffer)
  bytes.set(new TextEncoder().encode('Saltmere, height above the sea floor, mm'))
  view.setUint32(80, 2 * columns * rows, true)
  const corner = (c: number, r: number): readonly [number, number, number] => [
    (WIDTH * c) / columns,
    DEPTH - (DEPTH * r) / rows,
    HEIGHT * islandHeight(c / columns, r / rows),
  ]
  let at = 84
  const triangle = (...corners: readonly (readonly [number, number, number])[]): void => {
    corners.flat().forEach((v, k) => {
      view.setFloat32(at + 12 + 4 * k, v, true)
    })
    at += 50
  }
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      triangle(corner(c, r), corner(c, r + 1), corner(c + 1, r))
      triangle(corner(c + 1, r), corner(c, r + 1), corner(c + 1, r + 1))
    }
  }
  return bytes
}
