import type { TextSpec } from './text-spec.ts'
import type { Letter, Typeface } from './typeface.ts'

/** No capital is made smaller than this to fit a box, mm. */
const LEAST_CAP_MM = 0.4
/** Halvings of the height that is looked for: to a thousandth of it. */
const HALVINGS = 12

/** How wide some letters stand, mm. */
export const lettersWidth = (letters: readonly Letter[], capMm: number, letterMm: number): number =>
  letters.reduce((sum, { advance }) => sum + advance * capMm + letterMm, 0) - (letters.length > 0 ? letterMm : 0)

type Box = { readonly widthMm: number; readonly heightMm: number }

/** Words in lines that are no wider than a box; undefined where a word alone is wider. */
function broken(text: string, { widthMm }: Box, capMm: number, letterMm: number, face: Typeface): string[] | undefined {
  const wide = (words: string): number => lettersWidth(face.set(words), capMm, letterMm)
  const lines: string[] = []
  for (const paragraph of text.split(/\r?\n/)) {
    let line = ''
    for (const word of paragraph.split(/[ \t]+/).filter((each) => each !== '')) {
      const longer = line === '' ? word : `${line} ${word}`
      if (line !== '' && wide(longer) > widthMm) {
        lines.push(line)
        line = word
      } else line = longer
      if (wide(line) > widthMm + 1e-6) return undefined
    }
    lines.push(line)
  }
  return lines
}

/** From the top of the first line's capitals to the base of the last line, mm. */
export const blockHeight = (lines: number, capMm: number, lineShare: number): number => capMm * (1 + (lines - 1) * lineShare)

/**
 * Texts in lines that fit a box each, all with capitals of one height: as high as asked for, lower only where that is too much.
 * @throws RangeError with a sentence where even the smallest letters do not fit
 */
export function fittedLines(
  texts: readonly string[],
  { capMm, letterMm, lineShare }: TextSpec,
  box: Box,
  face: Typeface,
): { readonly capMm: number; readonly lines: readonly (readonly string[])[] } {
  const set = (cap: number): string[][] | undefined => {
    const all: string[][] = []
    for (const text of texts) {
      // What is between letters shrinks with them.
      const lines = broken(text, box, cap, (letterMm * cap) / capMm, face)
      if (!lines || blockHeight(lines.length, cap, lineShare) > box.heightMm + 1e-6) return undefined
      all.push(lines)
    }
    return all
  }
  const whole = set(capMm)
  if (whole) return { capMm, lines: whole }
  let low = Math.min(LEAST_CAP_MM, capMm)
  let best = set(low)
  if (!best)
    throw new RangeError(
      `The text does not fit into its box of ${box.widthMm.toFixed(1)} × ${box.heightMm.toFixed(1)} mm: make the box larger or the text shorter.`,
    )
  let high = capMm
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2
    const lines = set(middle)
    if (lines) {
      best = lines
      low = middle
    } else high = middle
  }
  return { capMm: low, lines: best }
}
