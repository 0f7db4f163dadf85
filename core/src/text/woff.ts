import { unzlibSync } from 'fflate'

/** Tables of more than this together are no font that anybody writes with. */
const MOST_BYTES = 60_000_000

/**
 * A WOFF file as the font that it holds (W3C, “WOFF File Format 1.0”, 2012). @throws Error where it is damaged
 */
export function unpackWoff(bytes: Uint8Array): Uint8Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const count = view.getUint16(12)
  const tables = Array.from({ length: count }, (_, i) => {
    const at = 44 + 20 * i
    const [tag, offset, packed, length, checksum] = [0, 4, 8, 12, 16].map((byte) => view.getUint32(at + byte))
    if (offset + packed > bytes.length || packed > length) throw new Error('a table lies outside the file')
    return { tag, checksum, length, packed, data: bytes.subarray(offset, offset + packed) }
  })
  const header = 12 + 16 * count
  const padded = (length: number): number => (length + 3) & ~3
  const whole = tables.reduce((sum, { length }) => sum + padded(length), header)
  if (whole > MOST_BYTES) throw new Error('it unpacks to more than can be used')
  const out = new Uint8Array(whole)
  const write = new DataView(out.buffer)
  write.setUint32(0, view.getUint32(4))
  write.setUint16(4, count)
  const power = 2 ** Math.floor(Math.log2(Math.max(1, count)))
  write.setUint16(6, 16 * power)
  write.setUint16(8, Math.log2(power))
  write.setUint16(10, 16 * (count - power))
  let at = header
  tables.forEach(({ tag, checksum, length, packed, data }, i) => {
    const entry = 12 + 16 * i
    for (const [k, value] of [tag, checksum, at, length].entries()) write.setUint32(entry + 4 * k, value)
    const table = packed < length ? unzlibSync(data, { out: new Uint8Array(length) }) : data
    if (table.length !== length) throw new Error('a table is shorter than it says')
    out.set(table, at)
    at += padded(length)
  })
  return out
}
