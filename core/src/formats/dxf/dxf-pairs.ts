import { strFromU8 } from 'fflate'

/** A DXF that cannot be used; `message` is a sentence for the operator. */
export class DxfError extends Error {}

/** One group of a DXF: what its value is, by number, and the value. */
export interface Pair {
  readonly code: number
  readonly value: string
}

/** The most groups that are read: about 60 MB of text. */
const MOST_PAIRS = 6_000_000

/**
 * The text of a DXF: UTF-8 where it holds together as such, else the Latin code page that older files use.
 * @throws DxfError where it is a binary DXF or no text at all
 */
export function dxfText(bytes: Uint8Array): string {
  // Text holds no zero bytes; both the binary kind and other files do, early on.
  if (bytes.subarray(0, 4000).includes(0))
    throw new DxfError('This DXF is binary, or no DXF. Save it as a text (ASCII) DXF where it was made.')
  const text = strFromU8(bytes)
  return text.includes('\ufffd') ? strFromU8(bytes, true) : text
}

/** Whether a text begins as a DXF does: a group 0 with a section, comments before it allowed. */
export const isDxf = (text: string): boolean =>
  /^\s*(999\s*\r?\n[^\n]*\n\s*)*0\s*\r?\n\s*SECTION\s*\r?\n/i.test(text.slice(0, 4000))

/** All groups. A file cut short ends with the last whole group. @throws DxfError */
export function dxfPairs(text: string): Pair[] {
  const pairs: Pair[] = []
  const lines = text.split(/\r\n|\n|\r/)
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = Number(lines[i].trim())
    if (lines[i].trim() === '' && lines.slice(i).every((line) => line.trim() === '')) break
    if (!Number.isInteger(code) || code < -5 || code > 1071)
      throw new DxfError(`The DXF is damaged: line ${i + 1} is no group number.`)
    pairs.push({ code, value: lines[i + 1].trim() })
    if (pairs.length > MOST_PAIRS) throw new DxfError('The DXF is larger than can be read.')
  }
  return pairs
}
