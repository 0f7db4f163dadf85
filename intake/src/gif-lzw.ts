const MOST_CODES = 4096

/**
 * Unpacks the colour numbers of a GIF frame (GIF89a, appendix F). Written here because the packages that were tried follow a damaged
 * file round and round: the first code after a clear may name an entry that is not there yet, which then names itself.
 * @param count how many pixels the frame has
 * @throws where the data are damaged or end before them
 */
export function unpackLzw(data: Uint8Array, firstBits: number, count: number): Uint8Array {
  if (firstBits < 1 || firstBits > 8) throw new Error('the GIF has codes of no size')
  const out = new Uint8Array(count)
  const clear = 1 << firstBits
  // An entry is the entry it goes on from, and one pixel more; its length says where its first pixel is written.
  const before = new Uint16Array(MOST_CODES)
  const last = new Uint8Array(MOST_CODES)
  const length = new Uint16Array(MOST_CODES)
  for (let code = 0; code < clear; code++) {
    last[code] = code
    length[code] = 1
  }
  let next = clear + 2
  let size = firstBits + 1
  let previous = -1
  let at = 0
  let held = 0
  let bits = 0
  for (let i = 0; i < data.length && at < count; ) {
    while (bits < size && i < data.length) {
      held |= data[i++] << bits
      bits += 8
    }
    if (bits < size) break
    const code = held & ((1 << size) - 1)
    held >>>= size
    bits -= size
    if (code === clear) {
      next = clear + 2
      size = firstBits + 1
      previous = -1
      continue
    }
    if (code === clear + 1) break
    if (previous < 0 ? code > clear : code > next || (code === next && next === MOST_CODES)) break
    if (previous >= 0 && next < MOST_CODES) {
      before[next] = previous
      length[next] = length[previous] + 1
      let head = code === next ? previous : code
      while (head > clear) head = before[head]
      last[next++] = last[head]
      if (next === 1 << size && size < 12) size++
    }
    const end = at + length[code]
    for (let k = end - 1, c = code; k >= at; k--, c = before[c]) if (k < count) out[k] = last[c]
    at = end
    previous = code
  }
  if (at < count) throw new Error('the GIF ends before its picture does')
  return out
}
