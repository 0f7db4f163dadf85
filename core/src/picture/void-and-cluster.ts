/** Width of the Gaussian that tells clusters from voids, dots. */
const SIGMA = 1.5

/**
 * Ranks of a blue-noise tile that repeats without a seam, by void and cluster (R. Ulichney, Proc. SPIE 1913, 1993).
 * @param side a power of two @param seed any whole number
 * @returns side × side ranks 0…side² − 1
 */
export function voidAndCluster(side: number, seed: number): Uint16Array {
  const n = side * side
  const wave = new Float64Array(n)
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const dx = Math.min(x, side - x)
      const dy = Math.min(y, side - y)
      wave[y * side + x] = Math.exp(-(dx * dx + dy * dy) / (2 * SIGMA * SIGMA))
    }
  }
  const energy = new Float64Array(n)
  const set = new Uint8Array(n)
  const toggle = (at: number, sign: number): void => {
    set[at] = sign > 0 ? 1 : 0
    const ax = at % side
    const ay = (at - ax) / side
    for (let y = 0; y < side; y++) {
      const row = ((y - ay) & (side - 1)) * side
      for (let x = 0; x < side; x++) energy[y * side + x] += sign * wave[row + ((x - ax) & (side - 1))]
    }
  }
  /** The fullest of the set ones, or the emptiest of the others. */
  const extreme = (of: 0 | 1): number => {
    let best = -1
    for (let i = 0; i < n; i++) {
      if (set[i] !== of) continue
      if (best < 0 || (of === 1 ? energy[i] > energy[best] + 1e-9 : energy[i] < energy[best] - 1e-9)) best = i
    }
    return best
  }
  let state = seed >>> 0 || 1
  const random = (): number => {
    state ^= state << 13
    state ^= state >>> 17
    state ^= state << 5
    state >>>= 0
    return state / 4294967296
  }
  const first = Math.floor(n / 10)
  for (let placed = 0; placed < first; ) {
    const at = Math.floor(random() * n)
    if (set[at]) continue
    toggle(at, 1)
    placed++
  }
  for (;;) {
    const cluster = extreme(1)
    toggle(cluster, -1)
    const hole = extreme(0)
    toggle(hole, 1)
    if (hole === cluster) break
  }
  const ranks = new Uint16Array(n)
  const start = set.slice()
  const startEnergy = energy.slice()
  for (let rank = first - 1; rank >= 0; rank--) {
    const cluster = extreme(1)
    toggle(cluster, -1)
    ranks[cluster] = rank
  }
  set.set(start)
  energy.set(startEnergy)
  for (let rank = first; rank < n; rank++) {
    const hole = extreme(0)
    toggle(hole, 1)
    ranks[hole] = rank
  }
  return ranks
}
