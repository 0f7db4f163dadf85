import { GCODE_WASM } from '../kernels/gcode.wasm.ts'
import { Arena, type Kernel, kernelMaker } from '../kernels/kernel.ts'
import type { PathEvent } from '../toolpath/events.ts'
import {
  axesInto,
  BLOCK_BYTES,
  BLOCK_MOVES,
  blockInto,
  type Driven,
  hasAllAxes,
  type MoveBlock,
  type PlanSink,
} from '../toolpath/moves.ts'

/** What comments of a program say. */
export interface ProgramWords {
  /** Lines at its head. */
  readonly head: readonly string[]
  /** How high the lens stands where the plan's z is 0, µm; absent: 0. */
  readonly lensUm?: number
  /** What is said of an operation; undefined: the way back. */
  operation(id: string, driven?: Driven): string | undefined
}

/** Takes finished pieces of the program; a piece may be used again after the call. */
export type ByteSink = (bytes: Uint8Array) => void

/** What `kernels/src/gcode` does: see there. */
interface GcodeKernel {
  freeFrom(): number
  lineRoom(): number
  write(count: number, x: number, y: number, s: number, speed: number, out: number): number
  writeAll(count: number, x: number, y: number, z: number, a: number, s: number, speed: number, out: number): number
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

  operation(id: string, asked: readonly string[], driven?: Driven): void {
    this.line(`; ${this.words.operation(id, driven) ?? 'return'}`)
    for (const text of asked) this.line(`; pause: ${plain(text)}`)
  }

  moves(block: MoveBlock): void {
    const { buffer } = this.memory
    const [x, y, s, speed] = blockInto(block, buffer, this.block)
    const { run } = this.kernel
    const { lensUm = 0 } = this.words
    const lifted = lensUm !== 0 && hasAllAxes(block) ? { ...block, z: block.z.map((z) => z + lensUm) } : block
    const bytes = hasAllAxes(lifted)
      ? run.writeAll(block.count, x, y, ...axesInto(lifted, buffer, this.block), s, speed, this.text)
      : run.write(block.count, x, y, s, speed, this.text)
    this.lines += block.count
    this.out(this.memory.subarray(this.text, this.text + bytes))
  }

  event(event: PathEvent): void {
    switch (event.kind) {
      case 'air':
        this.air = event.on
        this.line(event.on ? 'M8' : 'M9')
        break
      case 'dwell':
        this.line(`G4 P${Number(event.seconds.toFixed(3))}`)
        break
      case 'focus':
        this.line(`; focus at z ${event.zMm}`)
        break
      case 'refocus':
        this.line(`; pause: ${plain(event.text)}`)
        this.wait()
        break
      default:
        this.wait()
    }
  }

  /** The machine waits until somebody goes on: with the beam off, away from the piece. */
  private wait(): void {
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
