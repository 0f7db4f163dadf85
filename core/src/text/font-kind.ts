/** Whether bytes are a font file, by how they begin: TrueType, OpenType, WOFF. */
export function isFont(bytes: Uint8Array): boolean {
  const tag = String.fromCharCode(...bytes.subarray(0, 4))
  return tag === '\u0000\u0001\u0000\u0000' || ['OTTO', 'true', 'wOFF', 'wOF2', 'ttcf'].includes(tag)
}
