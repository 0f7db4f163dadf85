/**
 * Everything whose grey lies within a tolerance of a place's and hangs together with it (4 neighbours), line by line
 * (A. Smith, SIGGRAPH 1979).
 * @returns 255 where it is, row by row
 */
export function flood(grey: Uint8Array, width: number, height: number, x: number, y: number, tolerance: number): Uint8Array {
  const out = new Uint8Array(width * height)
  if (!(x >= 0 && y >= 0 && x < width && y < height)) return out
  const seed = grey[y * width + x]
  const fits = (i: number): boolean => out[i] === 0 && Math.abs(grey[i] - seed) <= tolerance
  const stack = [y * width + x]
  while (stack.length > 0) {
    const at = stack.pop()!
    if (!fits(at)) continue
    const row = Math.floor(at / width) * width
    let left = at
    let right = at
    while (left > row && fits(left - 1)) left--
    while (right < row + width - 1 && fits(right + 1)) right++
    out.fill(255, left, right + 1)
    for (const next of [row - width, row + width]) {
      if (next < 0 || next >= out.length) continue
      let inside = false
      for (let i = left - row + next; i <= right - row + next; i++) {
        const now = fits(i)
        if (now && !inside) stack.push(i)
        inside = now
      }
    }
  }
  return out
}
