import { encode } from 'uqr'
import { combine } from '../geometry/clip.ts'

/** A code that cameras and scanners read (QR, ISO/IEC 18004), drawn by its text. */
export interface CodeSpec {
  readonly kind: 'code'
  readonly text: string
  /** Of the code itself, without the quiet ground around it, mm. */
  readonly sizeMm: number
  /** Where burning makes the ground lighter, as on slate: the ground is burned, with a border, and the code left out. */
  readonly onDark: boolean
}

/** The ground around a code that scanners ask for, modules. */
const QUIET = 4

const n = (v: number): string => String(Number(v.toFixed(4)))

/** The dark modules of a code by rows. @throws RangeError with a sentence where the text is too long for one */
export function codeModules(text: string): boolean[][] {
  try {
    // A quarter of it may be burned off or dirty.
    return encode(text, { ecc: 'Q', border: 0 }).data
  } catch {
    throw new RangeError('This text is too long for a code: write less into it.')
  }
}

/** A code around its middle, as SVG path data of filled areas, mm. @throws RangeError */
export function codeData({ text, sizeMm, onDark }: CodeSpec): string {
  if (text === '') throw new RangeError('Write what the code should say first.')
  const modules = codeModules(text)
  const count = modules.length
  const unit = sizeMm / count
  const boxes = modules.flatMap((row, y) => {
    const runs: [number, number][] = []
    row.forEach((isDark, x) => {
      if (!isDark) return
      const last = runs.at(-1)
      if (last && last[1] === x) last[1] = x + 1
      else runs.push([x, x + 1])
    })
    return runs.map(([from, to]) => Float64Array.of(from, y, to, y, to, y + 1, from, y + 1))
  })
  // Modules beside each other are one area: no seams are burned between them.
  const dark = combine('union', boxes)
  const [a, b] = [-QUIET, count + QUIET]
  const rings = onDark ? combine('subtract', [Float64Array.of(a, a, b, a, b, b, a, b)], dark) : dark
  const at = (v: number): string => n((v - count / 2) * unit)
  return rings
    .map((ring) => {
      const corners: string[] = []
      for (let i = 0; i < ring.length; i += 2) corners.push(`${at(ring[i])} ${at(ring[i + 1])}`)
      return `M${corners.join('L')}Z`
    })
    .join('')
}
