/** So many bytes by a function of their index; many times as quick as `Uint8Array.from` for millions of pixels. */
export function bytesBy(count: number, at: (i: number) => number): Uint8Array {
  const out = new Uint8Array(count)
  for (let i = 0; i < count; i++) out[i] = at(i)
  return out
}
