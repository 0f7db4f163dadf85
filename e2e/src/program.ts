// A small parser of its own: it knows nothing of how programs are written here, only what G-code means.

/** One stretch of the head's way. */
export interface Stretch {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
  /** Beam, 0 where it is off. */
  readonly s: number
  readonly operation: string
}

/** What a controller would do with a program: every stretch, with the beam it has then. */
export function parseProgram(text: string): Stretch[] {
  const stretches: Stretch[] = []
  let x = 0
  let y = 0
  let s = 0
  let motion = 0
  let beam = false
  let operation = ''
  for (const raw of text.split('\n')) {
    const comment = /^; operation ([^:]+):/.exec(raw)
    if (comment) operation = comment[1]
    const line = raw.replace(/;.*$/, '').replace(/\s+/g, '')
    if (line === '') continue
    const words = [...line.matchAll(/([A-Z])([-+]?[\d.]+)/g)].map(([, letter, value]) => [letter, Number(value)] as const)
    if (words.map(([l, v]) => `${l}${v}`).join('').length === 0) throw new Error(`This is no G-code: ${raw}`)
    let nx = x
    let ny = y
    let moves = false
    for (const [letter, value] of words) {
      if (letter === 'G' && (value === 0 || value === 1)) motion = value
      else if (letter === 'G' && ![21, 90, 54].includes(value)) throw new Error(`Unexpected G${value}`)
      else if (letter === 'M' && (value === 3 || value === 4)) beam = true
      else if (letter === 'M' && (value === 5 || value === 2)) beam = false
      else if (letter === 'S') s = value
      else if (letter === 'X') {
        nx = value
        moves = true
      } else if (letter === 'Y') {
        ny = value
        moves = true
      }
    }
    if (!moves) continue
    stretches.push({ x0: x, y0: y, x1: nx, y1: ny, s: motion === 1 && beam ? s : 0, operation })
    x = nx
    y = ny
  }
  return stretches
}
