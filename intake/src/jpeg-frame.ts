/** What the frame header (SOF, ITU-T T.81, B.2.2) of a JPEG tells: px, and how many colours; nothing where there is none. */
export function jpegFrame(
  bytes: Uint8Array,
): { readonly width: number; readonly height: number; readonly components: number } | undefined {
  const u16 = (at: number): number => (bytes[at] << 8) | bytes[at + 1]
  for (let i = 2; i + 9 < bytes.length; ) {
    if (bytes[i] !== 0xff) return undefined
    const marker = bytes[i + 1]
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return { height: u16(i + 5), width: u16(i + 7), components: bytes[i + 9] }
    i += marker === 0xff ? 1 : 2 + u16(i + 2)
  }
  return undefined
}
