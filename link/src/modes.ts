/** What the lines of a program have set so far. mm. */
export interface Modes {
  motion: number
  inches: boolean
  relative: boolean
  beam: 'M3' | 'M4' | 'M5'
  air: '' | 'M7' | 'M8'
  /** The number after the last S; undefined where none was. */
  s: number | undefined
  /** mm/min */
  feed: number
  /** Where the last line ends, as far as lines said so. */
  x: number | undefined
  y: number | undefined
  z: number | undefined
  /** It set a zero of its own (G92): its places are not known from outside. */
  ownZero: boolean
}

/** How every program begins. */
export const firstModes = (): Modes => ({
  motion: 0,
  inches: false,
  relative: false,
  beam: 'M5',
  air: '',
  s: undefined,
  feed: 0,
  x: undefined,
  y: undefined,
  z: undefined,
  ownZero: false,
})

/** The numbers of one line that are no modes: where it goes, and around which centre. Undefined where it does not say. */
export interface LineWords {
  x: number | undefined
  y: number | undefined
  z: number | undefined
  i: number | undefined
  j: number | undefined
}

const SPACE = 32
const TAB = 9
const POINT = 46
const isDigit = (code: number): boolean => code >= 48 && code <= 57

/**
 * Reads lines of G-code as bytes and keeps what they set; one object reads millions of lines without making others.
 * A line comes without comment (`bareEnd`). What is no letter with a number behind it is passed over.
 */
export class ModeReader {
  modes: Modes = firstModes()
  readonly words: LineWords = { x: undefined, y: undefined, z: undefined, i: undefined, j: undefined }
  private waits = false

  /** Takes one line. @param bytes ASCII @param from,to where the line stands in it */
  take(bytes: Uint8Array, from: number, to: number): void {
    const { words } = this
    words.x = words.y = words.z = words.i = words.j = undefined
    this.waits = false
    let at = from
    while (at < to) {
      const code = bytes[at] & 0xdf
      if (code < 65 || code > 90) {
        at++
        continue
      }
      at++
      while (at < to && (bytes[at] === SPACE || bytes[at] === TAB)) at++
      const sign = bytes[at] === 45 ? -1 : 1
      let p = bytes[at] === 45 || bytes[at] === 43 ? at + 1 : at
      let digits = 0
      let value = 0
      for (; p < to && isDigit(bytes[p]); p++, digits++) value = value * 10 + (bytes[p] - 48)
      if (p < to && bytes[p] === POINT && (digits > 0 || isDigit(bytes[p + 1]))) {
        let scale = 1
        for (p++; p < to && isDigit(bytes[p]); p++, digits++) {
          value = value * 10 + (bytes[p] - 48)
          scale *= 10
        }
        value /= scale
      }
      if (digits === 0) continue
      this.word(code, sign * value)
      at = p
    }
    this.move()
  }

  private word(letter: number, value: number): void {
    const { modes, words } = this
    switch (letter) {
      case 71: // G
        if (value >= 0 && value <= 3) modes.motion = value
        else if (value === 20 || value === 21) modes.inches = value === 20
        else if (value === 90 || value === 91) modes.relative = value === 91
        else if (value === 92) modes.ownZero = true
        else if (value === 4) this.waits = true
        return
      case 77: // M
        if (value >= 3 && value <= 5) modes.beam = `M${value}` as Modes['beam']
        else if (value === 7 || value === 8) modes.air = `M${value}` as Modes['air']
        else if (value === 9) modes.air = ''
        return
      case 83: // S
        modes.s = value
        return
      case 70: // F
        modes.feed = value * (modes.inches ? 25.4 : 1)
        return
      case 88:
        words.x = value
        return
      case 89:
        words.y = value
        return
      case 90:
        words.z = value
        return
      case 73:
        words.i = value
        return
      case 74:
        words.j = value
    }
  }

  private move(): void {
    const { modes, words } = this
    if (this.waits) {
      words.x = words.y = words.z = words.i = words.j = undefined
      return
    }
    const unit = modes.inches ? 25.4 : 1
    if (words.x !== undefined) modes.x = modes.relative ? (modes.x ?? 0) + words.x * unit : words.x * unit
    if (words.y !== undefined) modes.y = modes.relative ? (modes.y ?? 0) + words.y * unit : words.y * unit
    if (words.z !== undefined) modes.z = modes.relative ? (modes.z ?? 0) + words.z * unit : words.z * unit
  }
}
