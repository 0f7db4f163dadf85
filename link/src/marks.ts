import { ModeReader, type Modes } from './modes.ts'

/** A place in a program's file from which its modes are known: nothing before it needs to be read again. */
export interface Mark {
  /** Lines that are counted before it, and where the next one begins in the file, bytes. */
  readonly lines: number
  readonly byte: number
  readonly modes: Modes
}

/** A mark stands after every so many lines. */
const EVERY = 4096

const NEWLINE = 10
const SEMICOLON = 59
const OPEN = 40
const CLOSE = 41

/**
 * Follows a program while it is written, and marks places in it with what was set until then.
 * Lines are counted as they are sent: without blank ones and comments.
 */
export class MarkMaker {
  private readonly reader = new ModeReader()
  private readonly found: Mark[] = []
  private count = 0
  private byte = 0
  /** The line that is not ended yet, without its comments. */
  private line = new Uint8Array(4096)
  private length = 0
  private comment = 0
  private readonly every: number

  /** @param every so many lines have a mark */
  constructor(every = EVERY) {
    this.every = every
  }

  /** The next bytes of the file, cut anywhere. */
  take(bytes: Uint8Array): void {
    for (let i = 0; i < bytes.length; i++) {
      const code = bytes[i]
      if (code === NEWLINE) {
        this.end()
        if (this.count > 0 && this.count % this.every === 0 && this.found.at(-1)?.lines !== this.count)
          this.found.push({ lines: this.count, byte: this.byte + i + 1, modes: { ...this.reader.modes } })
      } else if (this.comment === SEMICOLON) continue
      else if (this.comment === OPEN) {
        if (code === CLOSE) this.comment = 0
      } else if (code === SEMICOLON || code === OPEN) this.comment = code
      else {
        if (this.length === this.line.length) this.line = grown(this.line)
        this.line[this.length++] = code
      }
    }
    this.byte += bytes.length
  }

  private end(): void {
    let blank = true
    for (let i = 0; i < this.length && blank; i++) blank = this.line[i] <= 32
    if (!blank) {
      this.reader.take(this.line, 0, this.length)
      this.count++
    }
    this.length = 0
    this.comment = 0
  }

  /** The file is whole. @returns its marks in order, and how many lines it has */
  done(): { readonly marks: readonly Mark[]; readonly lines: number } {
    this.end()
    return { marks: this.found, lines: this.count }
  }
}

function grown(line: Uint8Array): Uint8Array<ArrayBuffer> {
  const longer = new Uint8Array(line.length * 2)
  longer.set(line)
  return longer
}

/** The last mark at or before so many lines; undefined where it is the beginning. */
export function markBefore(marks: readonly Mark[], lines: number): Mark | undefined {
  let low = 0
  let high = marks.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (marks[middle].lines <= lines) low = middle + 1
    else high = middle
  }
  return marks[low - 1]
}
