import { mapPath, type Path, turnPath } from '../../geometry/path.ts'
import { type Entity, number, text, texts } from './dxf-document.ts'

/** What letters are set with: capitals 1 high, base line at 0, y down. */
export interface Letters {
  readonly name: string
  readonly set: (line: string) => readonly { readonly paths: readonly Path[]; readonly advance: number }[]
}

/** From line to line, as a share of the height of capitals as the format has it. */
const LINE_SHARE = 5 / 3

/** Words of what is written: without the signs for fonts, heights and colours, with the characters that codes stand for. */
export function plainText(coded: string): string[] {
  const signs = coded
    .replace(/%%[dD]/g, '°')
    .replace(/%%[pP]/g, '±')
    .replace(/%%[cC]/g, '⌀')
    .replace(/%%[uUoO]/g, '')
    .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))
    .replace(/\\S([^;^/#]*)[\^/#]([^;]*);/g, '$1/$2')
    .replace(/\\[fFHCTQWApL][^;\\]*;/g, '')
    .replace(/\\~/g, ' ')
    .replace(/\\[LlOoKk]/g, '')
  // Braces keep formats together; those that are meant have a sign before them.
  return signs.split(/\\P|\r?\n/).map((line) => line.replace(/\\([\\{}])|[{}]/g, (_, meant?: string) => meant ?? ''))
}

/** Where lines begin, and on which height: shares of their width and of the block's height. */
interface Anchor {
  readonly across: 0 | 0.5 | 1
  readonly along: 'base' | 'bottom' | 'middle' | 'top'
}

const THIRDS = [0, 0.5, 1] as const

function anchorOf(entity: Entity): Anchor {
  if (entity.type === 'MTEXT') {
    const at = Math.min(9, Math.max(1, number(entity, 71, 1))) - 1
    return { across: THIRDS[at % 3], along: (['top', 'middle', 'bottom'] as const)[Math.floor(at / 3)] }
  }
  const across = number(entity, 72, 0)
  const along = (['base', 'bottom', 'middle', 'top'] as const)[Math.min(3, Math.max(0, number(entity, 73, 0)))]
  return { across: across === 1 || across === 4 ? 0.5 : across === 2 ? 1 : 0, along: across === 4 ? 'middle' : along }
}

/**
 * The letters of a TEXT, MTEXT or ATTRIB as outlines, in the units of the drawing, y up (DXF reference: 40 is the height of capitals).
 * @returns undefined where the entity is no text
 */
export function textPaths(entity: Entity, face: Letters): Path[] | undefined {
  if (!['TEXT', 'MTEXT', 'ATTRIB'].includes(entity.type)) return undefined
  const isBlock = entity.type === 'MTEXT'
  const lines = plainText(isBlock ? [...texts(entity, 3), text(entity, 1) ?? ''].join('') : (text(entity, 1) ?? ''))
  const high = number(entity, 40, 1)
  const wider = isBlock ? 1 : number(entity, 41, 1)
  const { across, along } = anchorOf(entity)
  // A text that is not at its left base has its place in the second point.
  const second = !isBlock && (number(entity, 72, 0) !== 0 || number(entity, 73, 0) !== 0) && text(entity, 11) !== undefined
  const [px, py] = second ? [number(entity, 11), number(entity, 21)] : [number(entity, 10), number(entity, 20)]
  const angle =
    isBlock && text(entity, 11) !== undefined
      ? Math.atan2(number(entity, 21), number(entity, 11))
      : (number(entity, 50) * Math.PI) / 180
  const step = high * LINE_SHARE * (isBlock ? number(entity, 44, 1) || 1 : 1)
  const block = high + step * (lines.length - 1)
  // Where the first base line lies over the place.
  const first = along === 'top' ? -high : along === 'middle' ? block / 2 - high : along === 'bottom' ? block - high : 0
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)]
  return lines.flatMap((line, row) => {
    const letters = face.set(line)
    const width = letters.reduce((sum, { advance }) => sum + advance, 0) * high * wider
    let at = -across * width
    return letters.flatMap(({ paths, advance }) => {
      const from = at
      at += advance * high * wider
      return paths.map((path) => turnPath(mapPath(path, high * wider, -high, from, first - row * step), cos, sin, px, py))
    })
  })
}
