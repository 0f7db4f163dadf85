import { GCODE_WASM } from '../kernels/gcode.wasm.ts'
import { Arena, type Kernel, kernelMaker } from '../kernels/kernel.ts'
import { BLOCK_BYTES, BLOCK_MOVES, blockInto, type MoveBlock, type PlanSink } from '../toolpath/moves.ts'

/** What comments of a program say, and where air is wanted. */
export interface ProgramWords {
  /** Lines at its head. */
  readonly head: readonly string[]
  /** What is said of an operation; undefined: the way back. */
  operation(id: string): { readonly text: string; readonly air: boolean } | undefined
}

/** Takes finished pieces of the program; a piece may be used again after the call. */
export type ByteSink = (bytes: Uint8Array) => void

/** What `kernels/src/gcode` does: see there. */
interface GcodeKernel {
  freeFrom(): number
  lineRoom(): number
  write(count: number, x: number, y: number, s: number, speed: number, out: number): number
}

const gcodeKernel = kernelMaker<GcodeKernel>(GCODE_WASM)

/**
 * Writes moves as G-code: mm, absolute, modal words left out where they do not change. `M4` scales the beam with the
 * speed, so that corners get the same dose; `G0` is always dark. The text depends on the plan alone, not on time or place.
 */
export class GcodeWriter implements PlanSink {
  private readonly out: ByteSink
  private readonly words: ProgramWords
  private readonly kernel: Kernel<GcodeKernel> = gcodeKernel.fresh()
  private readonly block: number
  private readonly text: number
  private readonly memory: Uint8Array
  private air = false
  /** Lines so far, comments not counted. */
  lines = 0

  constructor(words: ProgramWords, out: ByteSink) {
    this.words = words
    this.out = out
    const { run, room } = this.kernel
    const arena = new Arena(run.freeFrom())
    this.block = arena.take(BLOCK_BYTES)
    this.text = arena.take(BLOCK_MOVES * run.lineRoom())
    this.memory = room(arena.bytes)
    for (const text of words.head) this.line(`; ${text}`)
    for (const text of ['G21', 'G90', 'G54', 'M5', 'M4 S0']) this.line(text)
  }

  operation(id: string, asked: readonly string[]): void {
    const said = this.words.operation(id)
    if (!said) {
      if (this.air) this.line('M9')
      this.line('; return')
      return
    }
    this.line(`; ${said.text}`)
    for (const text of asked) this.line(`; pause: ${plain(text)}`)
    if (said.air !== this.air) {
      this.line(said.air ? 'M8' : 'M9')
      this.air = said.air
    }
  }

  moves(block: MoveBlock): void {
    const bytes = this.kernel.run.write(block.count, ...blockInto(block, this.memory.buffer, this.block), this.text)
    this.lines += block.count
    this.out(this.memory.subarray(this.text, this.text + bytes))
  }

  /** The machine waits until somebody goes on: with the beam off, away from the piece. */
  rest(): void {
    this.line('M5')
    if (this.air) this.line('M9')
    this.line('M0')
    if (this.air) this.line('M8')
    this.line('M4')
  }

  /** The end of the program: beam and air off. */
  end(): void {
    for (const text of ['M5', 'M9', 'M2']) this.line(text)
  }

  private line(text: string): void {
    this.out(Uint8Array.from(`${text}\n`, (c) => c.charCodeAt(0)))
    if (!text.startsWith(';')) this.lines++
  }
}

/** Printable ASCII without brackets: what every controller takes in a comment. */
export const plain = (text: string): string =>
  text
    .replace(/[^ -~]/g, '?')
    .replace(/[()]/g, '')
    .slice(0, 60)
