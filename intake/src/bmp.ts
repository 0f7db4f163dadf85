import type { Decoded } from './take-in.ts'

/** How colours lie in a pixel: a mask for each. */
interface Masks {
  readonly red: number
  readonly green: number
  readonly blue: number
}

const MASKS_16: Masks = { red: 0x7c00, green: 0x03e0, blue: 0x001f }
const MASKS_32: Masks = { red: 0xff0000, green: 0xff00, blue: 0xff }

/** Part of a value by its mask, as 0–255. */
function shareOf(value: number, mask: number): number {
  if (mask === 0) return 0
  const shift = Math.clz32(mask & -mask) ^ 31
  const most = mask >>> shift
  return Math.round((255 * ((value & mask) >>> shift)) / most)
}

/** Its size by its header, px; undefined where bytes are no BMP. Old ones have 16 bits for a side. */
export function bmpSize(bytes: Uint8Array): { readonly width: number; readonly height: number } | undefined {
  if (bytes.length < 26 || bytes[0] !== 0x42 || bytes[1] !== 0x4d) return undefined
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  if (view.getUint32(14, true) === 12) return { width: view.getUint16(18, true), height: view.getUint16(20, true) }
  return { width: view.getInt32(18, true), height: Math.abs(view.getInt32(22, true)) }
}

/**
 * BMP (Windows GDI: BITMAPCOREHEADER to BITMAPV5HEADER): with a palette of 1, 4 or 8 bit, run lengths of 4 and 8 bit, 16, 24 and 32 bit, masks.
 * Its transparency is not trusted, since most programs leave it at nothing. @throws where it is damaged
 */
export function decodeBmp(bytes: Uint8Array): Decoded {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const u16 = (at: number): number => view.getUint16(at, true)
  const u32 = (at: number): number => view.getUint32(at, true)
  const pixels = u32(10)
  const header = u32(14)
  const isCore = header === 12
  const { width = 0, height = 0 } = bmpSize(bytes) ?? {}
  const isTopDown = !isCore && view.getInt32(22, true) < 0
  const bits = u16(isCore ? 24 : 28)
  const packing = isCore ? 0 : u32(30)
  if (!(width > 0 && height > 0)) throw new Error('a picture without a size')
  const samples = new Uint8Array(width * height * 3)
  const rowOf = (y: number): number => (isTopDown ? y : height - 1 - y)
  const put = (x: number, y: number, r: number, g: number, b: number): void => {
    const at = 3 * (rowOf(y) * width + x)
    samples[at] = r
    samples[at + 1] = g
    samples[at + 2] = b
  }
  if (bits <= 8) {
    const palette = paletteOf(bytes, { header, bits, isCore, used: isCore ? 0 : u32(46), pixels })
    const paint = (x: number, y: number, index: number): void => {
      const [b, g, r] = palette[index] ?? [0, 0, 0]
      put(x, y, r, g, b)
    }
    if (packing === 1 || packing === 2) unpacked(bytes.subarray(pixels), { width, height, nibbles: packing === 2 }, paint)
    else if (packing !== 0) throw new Error(`packed in a way that is not known: ${packing}`)
    else {
      const stride = ((width * bits + 31) >> 5) << 2
      need(bytes, pixels + stride * height)
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const at = x * bits
          const byte = bytes[pixels + y * stride + (at >> 3)]
          paint(x, y, (byte >> (8 - bits - (at & 7))) & ((1 << bits) - 1))
        }
    }
  } else {
    if (packing !== 0 && packing !== 3 && packing !== 6) throw new Error(`packed in a way that is not known: ${packing}`)
    const masks: Masks = packing !== 0 ? { red: u32(54), green: u32(58), blue: u32(62) } : bits === 16 ? MASKS_16 : MASKS_32
    const each = bits >> 3
    const stride = (width * each + 3) & ~3
    need(bytes, pixels + stride * height)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const at = pixels + y * stride + x * each
        if (bits === 24) put(x, y, bytes[at + 2], bytes[at + 1], bytes[at])
        else {
          const value = bits === 16 ? u16(at) : u32(at)
          put(x, y, shareOf(value, masks.red), shareOf(value, masks.green), shareOf(value, masks.blue))
        }
      }
  }
  const perMetre = isCore ? 0 : view.getInt32(38, true)
  return {
    widthPx: width,
    heightPx: height,
    channels: 3,
    samples,
    full: 255,
    ...(perMetre > 0 ? { pixelsPerMm: perMetre / 1000 } : {}),
  }
}

function need(bytes: Uint8Array, length: number): void {
  if (bytes.length < length - 3) throw new Error('it is cut short')
}

/** Blue, green, red of each number. */
function paletteOf(
  bytes: Uint8Array,
  { header, bits, isCore, used, pixels }: { header: number; bits: number; isCore: boolean; used: number; pixels: number },
): (readonly [number, number, number])[] {
  const each = isCore ? 3 : 4
  const from = 14 + header
  const room = Math.max(0, Math.floor((pixels - from) / each))
  const count = Math.min(1 << bits, used || 1 << bits, room || 1 << bits)
  return Array.from({ length: count }, (_, i) => {
    const at = from + i * each
    return [bytes[at] ?? 0, bytes[at + 1] ?? 0, bytes[at + 2] ?? 0] as const
  })
}

/** Run lengths (BI_RLE8, BI_RLE4): what is skipped stays the colour of number 0. */
function unpacked(
  data: Uint8Array,
  { width, height, nibbles }: { readonly width: number; readonly height: number; readonly nibbles: boolean },
  paint: (x: number, y: number, index: number) => void,
): void {
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) paint(x, y, 0)
  const at = (byte: number, k: number): number => (nibbles ? (k % 2 === 0 ? byte >> 4 : byte & 15) : byte)
  let [x, y] = [0, 0]
  for (let i = 0; i + 1 < data.length && y < height; ) {
    const [count, value] = [data[i], data[i + 1]]
    i += 2
    if (count > 0) {
      for (let k = 0; k < count; k++, x++) if (x < width) paint(x, y, at(value, k))
    } else if (value === 0) [x, y] = [0, y + 1]
    else if (value === 1) return
    else if (value === 2) {
      x += data[i]
      y += data[i + 1]
      i += 2
    } else {
      for (let k = 0; k < value; k++, x++) if (x < width) paint(x, y, nibbles ? at(data[i + (k >> 1)], k) : data[i + k])
      const long = nibbles ? (value + 1) >> 1 : value
      i += (long + 1) & ~1
    }
  }
}
