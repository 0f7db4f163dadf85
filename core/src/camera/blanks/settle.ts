/** How strongly places go with those around them. */
const TOGETHER = 3.2
const ROUNDS = 8
/** A single place says at most so much. */
const MOST = 2.4

/** Running means over 2 · half + 1 places along rows, then columns: into `to`. */
function blur(from: Float32Array, to: Float32Array, w: number, h: number, half: number): void {
  const share = 1 / (2 * half + 1)
  const rows = new Float32Array(w * h)
  for (let y = 0; y < h; y++) {
    const row = y * w
    let sum = (half + 1) * from[row]
    for (let x = 1; x <= half; x++) sum += from[row + Math.min(w - 1, x)]
    for (let x = 0; x < w; x++) {
      rows[row + x] = sum * share
      sum += from[row + Math.min(w - 1, x + half + 1)] - from[row + Math.max(0, x - half)]
    }
  }
  for (let x = 0; x < w; x++) {
    let sum = (half + 1) * rows[x]
    for (let y = 1; y <= half; y++) sum += rows[Math.min(h - 1, y) * w + x]
    for (let y = 0; y < h; y++) {
      to[y * w + x] = sum * share
      sum += rows[Math.min(h - 1, y + half + 1) * w + x] - rows[Math.max(0, y - half) * w + x]
    }
  }
}

/** The mean of what is around each place: over 2 · half + 1 places each way. */
export function meanAround(of: Float32Array, w: number, h: number, half: number): Float32Array {
  const out = new Float32Array(w * h)
  blur(of, out, w, h, half)
  return out
}

/**
 * How surely each place is inside, 0–1, from what it says itself and what those around it do: a mean field (see C. Bishop, Pattern
 * Recognition and Machine Learning, 10.1) whose neighbours are a window of places.
 * @param says above nought: inside, as a logarithm of how much likelier @param half of the window, places
 */
export function settled(says: Float32Array, w: number, h: number, half: number): Float32Array {
  const q = new Float32Array(w * h)
  const around = new Float32Array(w * h)
  const own = says.map((v) => Math.max(-MOST, Math.min(MOST, v)))
  const sure = (v: number): number => 1 / (1 + Math.exp(-v))
  // What is seen around counts at first as well: one place may look like anything.
  blur(own, around, w, h, half)
  for (let i = 0; i < q.length; i++) q[i] = sure(own[i] + 2 * around[i])
  for (let round = 0; round < ROUNDS; round++) {
    blur(q, around, w, h, half)
    for (let i = 0; i < q.length; i++) q[i] = sure(own[i] + TOGETHER * (2 * around[i] - 1) * 2)
  }
  return q
}
