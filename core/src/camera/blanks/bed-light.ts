import { Matrix, solve } from 'ml-matrix'

/** How light changes over a bed: a surface of the fourth degree, in places from −1 to 1. */
export type BedLight = (u: number, v: number) => number

const terms = (u: number, v: number, degree: number): number[] => {
  const out: number[] = []
  for (let i = 0; i <= degree; i++) for (let j = 0; i + j <= degree; j++) out.push(u ** i * v ** j)
  return out
}

/** Surfaces of a higher degree bend where nothing holds them: so much holds each number back. */
const HOLD = 1e-3

/** The surface nearest to some places by least squares, its bends held back. @param degree 0 (even) to 4 */
export function lightOver(
  places: readonly { readonly u: number; readonly v: number; readonly light: number }[],
  degree: number,
): BedLight {
  const count = terms(0, 0, degree).length
  if (places.length === 0) return () => 0
  const a = Matrix.zeros(count, count)
  const b = Matrix.zeros(count, 1)
  for (const { u, v, light } of places) {
    const row = terms(u, v, degree)
    for (let i = 0; i < count; i++) {
      b.set(i, 0, b.get(i, 0) + row[i] * light)
      for (let j = 0; j < count; j++) a.set(i, j, a.get(i, j) + row[i] * row[j])
    }
  }
  for (let i = 1; i < count; i++) a.set(i, i, a.get(i, i) + HOLD * places.length)
  a.set(0, 0, a.get(0, 0) + 1e-9)
  const all = solve(a, b).to1DArray()
  return (u, v) => {
    let sum = 0
    let k = 0
    for (let i = 0, ui = 1; i <= degree; i++, ui *= u)
      for (let j = 0, vj = 1; i + j <= degree; j++, vj *= v) sum += all[k++] * ui * vj
    return sum
  }
}
