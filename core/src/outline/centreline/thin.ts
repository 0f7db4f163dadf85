/** The eight neighbours of a pixel, around it. */
export const around = (width: number): readonly number[] => [-width, -width + 1, 1, width + 1, width, width - 1, -1, -width - 1]

/**
 * Whether a pixel may go without parting, joining or opening anything: its ink neighbours hang together by eight, and the
 * ones without ink that touch its sides hang together by four (T. Kong, A. Rosenfeld, “Digital topology”, 1989).
 * Index: a bit for each neighbour in the order of `around`.
 */
const SIMPLE: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) => {
  const bit = (k: number): number => (code >> (k & 7)) & 1
  // Changes from paper to ink around the pixel, where a side neighbour bridges the corner before and after it (Yokoi's number).
  let crossings = 0
  for (let k = 0; k < 8; k += 2) {
    const [a, b, c] = [1 - bit(k), 1 - bit(k + 1), 1 - bit(k + 2)]
    crossings += a - a * b * c
  }
  return crossings === 1 ? 1 : 0
})

const ENDS: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) => {
  let count = 0
  for (let k = 0; k < 8; k++) count += (code >> k) & 1
  return count <= 1 ? 1 : 0
})

/**
 * Ink thinned to lines of one pixel in its middle: pixels go from the border inwards, by their distance from it, as long as
 * nothing is parted and no line shortened (C. Pudney, “Distance-ordered homotopic thinning”, 1998).
 * @param ink 1 where there is ink, its outermost pixels none; becomes the lines @param distances squared, px²
 */
export function thin(ink: Uint8Array, width: number, distances: Int32Array, progress?: (done: number) => void): void {
  const steps = around(width)
  const code = (i: number): number => {
    let bits = 0
    for (let k = 0; k < 8; k++) bits |= ink[i + steps[k]] << k
    return bits
  }
  let farthest = 0
  let count = 0
  for (let i = 0; i < ink.length; i++) {
    if (!ink[i]) continue
    count++
    if (distances[i] > farthest) farthest = distances[i]
  }
  // Counting sort: nearest to the border first.
  const starts = new Int32Array(farthest + 2)
  for (let i = 0; i < ink.length; i++) if (ink[i]) starts[distances[i] + 1]++
  for (let d = 0; d <= farthest; d++) starts[d + 1] += starts[d]
  const order = new Int32Array(count)
  const at = starts.slice()
  for (let i = 0; i < ink.length; i++) if (ink[i]) order[at[distances[i]]++] = i
  const passed = new Uint8Array(ink.length)
  const asked = new Uint8Array(ink.length)
  // Pixels as far from the border as each other go side by side, or a line two pixels wide would be eaten from its end.
  const sides = [-width, width, 1, -1]
  for (let begin = 0; begin < count; ) {
    const distance = distances[order[begin]]
    const end = starts[distance + 1]
    if (progress) progress(begin / count)
    let active: number[] = []
    for (let k = begin; k < end; k++) {
      passed[order[k]] = 1
      active.push(order[k])
    }
    begin = end
    for (let changed = true; changed; ) {
      changed = false
      const freed: number[] = []
      for (const side of sides) {
        const open = active.filter((i) => ink[i] && !ink[i + side])
        for (const i of open) {
          const bits = code(i)
          if (!SIMPLE[bits] || ENDS[bits]) continue
          ink[i] = 0
          changed = true
          // What could not go before may go now.
          for (const step of steps) {
            const next = i + step
            if (!ink[next] || !passed[next] || distances[next] === distance || asked[next]) continue
            asked[next] = 1
            freed.push(next)
          }
        }
      }
      for (const i of freed) asked[i] = 0
      active = active.filter((i) => ink[i])
      for (const i of freed) if (ink[i]) active.push(i)
      if (!changed) break
    }
  }
}
