import { faceOutline, type PieceOutline } from '@neotaxis/core'

/** A number that depends on nothing but its place: 0–1. */
const noise = (seed: number): number => {
  const v = Math.sin(seed * 12.9898) * 43758.5453
  return v - Math.floor(v)
}

/** A pebble from the beach below the lighthouse: round, and none like another. @param acrossMm about so large */
export function pebble(seed: number, acrossMm: number): PieceOutline {
  const corners = 96
  const long = 1 + 0.35 * noise(seed)
  const lean = Math.PI * noise(seed + 0.3)
  const ring = new Float64Array(2 * corners)
  for (let i = 0; i < corners; i++) {
    const a = (2 * Math.PI * i) / corners
    const wave = 0.07 * Math.sin(2 * a + 6 * noise(seed + 1)) + 0.045 * Math.sin(3 * a + 6 * noise(seed + 2))
    const r = (acrossMm / 2) * (1 + wave)
    const [x, y] = [r * long * Math.cos(a), (r / long) * Math.sin(a)]
    ring[2 * i] = x * Math.cos(lean) - y * Math.sin(lean)
    ring[2 * i + 1] = x * Math.sin(lean) + y * Math.cos(lean)
  }
  return faceOutline([ring])
}
