import type { JobDocument } from '../job/document.ts'
import type { MoveBlock, PlanSink } from '../plan/moves.ts'

/** Takes finished pieces of the program; a piece may be used again after the call. */
export type ByteSink = (bytes: Uint8Array) => void

const CHUNK = 1 << 18
/** The longest line a move can make. */
const LINE_ROOM = 64

/**
 * Writes moves as G-code: mm, absolute, modal words left out where they do not change. `M4` scales the beam with the
 * speed, so that corners get the same dose; `G0` is always dark. The text depends on the plan alone, not on time or place.
 */
export class GcodeWriter implements PlanSink {
  private readonly out: ByteSink
  private readonly job: JobDocument
  private readonly bytes = new Uint8Array(CHUNK)
  private at = 0
  private mode = -1
  private x = 0
  private y = 0
  private s = -1
  private speed = -1
  private air = false
  lines = 0

  constructor(job: JobDocument, out: ByteSink) {
    this.job = job
    this.out = out
    this.line(`; ${plain(job.name)} - made by Neotaxis`)
    this.line(
      `; ${plain(job.material.name)} ${job.workpiece.thicknessMm} mm, ${job.workpiece.widthMm} x ${job.workpiece.heightMm} mm, on ${plain(job.machine.name)}`,
    )
    for (const text of ['G21', 'G90', 'G54', 'M5', 'M4 S0']) this.line(text)
  }

  operation(id: string): void {
    const op = this.job.operations[id]
    if (!op) {
      if (this.air) this.line('M9')
      this.line('; return')
      return
    }
    this.line(
      `; operation ${id}: ${op.kind}, ${Number((op.power * 100).toFixed(1))} %, ${op.speedMmS} mm/s, ${op.passes} pass${op.passes === 1 ? '' : 'es'}`,
    )
    if (op.air !== this.air) {
      this.line(op.air ? 'M8' : 'M9')
      this.air = op.air
    }
  }

  moves(block: MoveBlock): void {
    const { count, x, y, s, speed } = block
    for (let i = 0; i < count; i++) {
      if (this.at > CHUNK - LINE_ROOM) this.flush()
      const b = this.bytes
      const mode = speed[i] === 0 ? 0 : 1
      if (mode !== this.mode) {
        b[this.at++] = 71 // G
        b[this.at++] = 48 + mode
        this.mode = mode
      }
      if (x[i] !== this.x) {
        b[this.at++] = 88 // X
        this.at = writeMicrons(b, this.at, x[i])
        this.x = x[i]
      }
      if (y[i] !== this.y) {
        b[this.at++] = 89 // Y
        this.at = writeMicrons(b, this.at, y[i])
        this.y = y[i]
      }
      if (mode === 1) {
        if (s[i] !== this.s) {
          b[this.at++] = 83 // S
          this.at = writeInteger(b, this.at, s[i])
          this.s = s[i]
        }
        if (speed[i] !== this.speed) {
          b[this.at++] = 70 // F
          this.at = writeMicrons(b, this.at, Math.round(speed[i] * 60 * 1000))
          this.speed = speed[i]
        }
      }
      b[this.at++] = 10
      this.lines++
    }
  }

  /** The end of the program: beam and air off. */
  end(): void {
    for (const text of ['M5', 'M9', 'M2']) this.line(text)
    this.flush()
  }

  private line(text: string): void {
    if (this.at > CHUNK - text.length - 2) this.flush()
    for (let i = 0; i < text.length; i++) this.bytes[this.at++] = text.charCodeAt(i)
    this.bytes[this.at++] = 10
    this.lines++
  }

  private flush(): void {
    if (this.at > 0) this.out(this.bytes.subarray(0, this.at))
    this.at = 0
  }
}

/** Printable ASCII without brackets: what every controller takes in a comment. */
const plain = (text: string): string =>
  text
    .replace(/[^ -~]/g, '?')
    .replace(/[()]/g, '')
    .slice(0, 60)

function writeInteger(b: Uint8Array, at: number, value: number): number {
  let digits = 1
  for (let v = value; v >= 10; v = (v / 10) | 0) digits++
  let v = value
  for (let i = at + digits - 1; i >= at; i--) {
    const q = (v / 10) | 0
    b[i] = 48 + v - q * 10
    v = q
  }
  return at + digits
}

/** Thousandths as a decimal number without trailing zeros. */
function writeMicrons(b: Uint8Array, start: number, value: number): number {
  let at = start
  let v = value
  if (v < 0) {
    b[at++] = 45
    v = -v
  }
  const whole = Math.floor(v / 1000)
  at = writeInteger(b, at, whole)
  let part = v - whole * 1000
  if (part === 0) return at
  b[at++] = 46
  for (let unit = 100; part > 0; unit /= 10) {
    const digit = Math.floor(part / unit)
    b[at++] = 48 + digit
    part -= digit * unit
  }
  return at
}
