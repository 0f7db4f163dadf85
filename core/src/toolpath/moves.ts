import type { PathEvent } from './events.ts'

/** How many moves one block holds. */
export const BLOCK_MOVES = 1 << 14

/**
 * Moves of the axes in machine coordinates, many at a time. A move goes to where its axes say from where the last one ended.
 * A reader takes the first `count` entries and keeps nothing: the block is used again.
 */
export interface MoveBlock {
  count: number
  /** End of the move, µm: what the program will say, so that time and program agree to the last digit. */
  readonly x: Int32Array
  readonly y: Int32Array
  /** The same along the lens, µm from where it is in focus on the piece; absent where nothing moves along it. */
  readonly z?: Int32Array
  /** The same around, thousandths of a degree; absent where nothing turns. */
  readonly a?: Int32Array
  /** Beam during the move as S value; 0 is off. */
  readonly s: Uint16Array
  /** Speed wanted, mm/s, a degree counted as a mm as controllers do; 0 stands for a rapid move. */
  readonly speed: Float32Array
}

/** Moves that are kept, as many as there are. */
export interface MoveRecord {
  readonly count: number
  readonly x: Int32Array
  readonly y: Int32Array
  readonly s: Uint16Array
  readonly speed: Float32Array
}

/** What an operation is driven with, where the machine's line made it slower than it is set. */
export interface Driven {
  readonly power: number
  readonly speedMmS: number
}

/** Takes the plan as it is made. */
export interface PlanSink {
  /** The operation that the next moves belong to. @param asked what is asked of somebody before it, step by step */
  operation(id: string, asked: readonly string[], driven?: Driven): void
  moves(block: MoveBlock): void
  /** Something that is no move, between the moves before and after it. */
  event(event: PathEvent): void
}

/** Collects moves into blocks and hands full ones on. */
export class MoveWriter {
  private block: MoveBlock = {
    count: 0,
    x: new Int32Array(BLOCK_MOVES),
    y: new Int32Array(BLOCK_MOVES),
    s: new Uint16Array(BLOCK_MOVES),
    speed: new Float32Array(BLOCK_MOVES),
  }
  private readonly sink: PlanSink
  /** Where the head is, µm; how far it is turned, thousandths of a degree. */
  x = 0
  y = 0
  z = 0
  a = 0

  constructor(sink: PlanSink) {
    this.sink = sink
  }

  operation(id: string, asked: readonly string[] = [], driven?: Driven): void {
    this.flush()
    this.sink.operation(id, asked, driven)
  }

  event(event: PathEvent): void {
    this.flush()
    this.sink.event(event)
  }

  /** The lens is brought to a height, dark and at rest. @param z µm */
  focus(z: number): void {
    if (z === this.z) return
    this.event({ kind: 'focus', zMm: z / 1000 })
    this.moveAxes(this.x, this.y, z, this.a, 0, 0)
  }

  /** From now on blocks have z and a: the moves before ended where both were. */
  private useAllAxes(): { readonly z: Int32Array; readonly a: Int32Array } {
    const { z, a } = this.block
    if (z && a) return { z, a }
    this.flush()
    const all = { z: new Int32Array(BLOCK_MOVES), a: new Int32Array(BLOCK_MOVES) }
    this.block = { ...this.block, ...all }
    return all
  }

  /**
   * A move of all axes at once. A move without length is left out.
   * @param x,y,z µm @param a thousandths of a degree @param s 0 off @param speed mm/s, 0 rapid
   */
  moveAxes(x: number, y: number, z: number, a: number, s: number, speed: number): void {
    if (z === this.z && a === this.a) {
      this.move(x, y, s, speed)
      return
    }
    const all = this.useAllAxes()
    const b = this.block
    const i = b.count++
    b.x[i] = this.x = x
    b.y[i] = this.y = y
    all.z[i] = this.z = z
    all.a[i] = this.a = a
    b.s[i] = s
    b.speed[i] = speed
    if (b.count === BLOCK_MOVES) this.flush()
  }

  /** A move without length is left out. @param x µm @param y µm @param s 0 off @param speed mm/s, 0 rapid */
  move(x: number, y: number, s: number, speed: number): void {
    if (x === this.x && y === this.y) return
    const b = this.block
    const i = b.count++
    b.x[i] = this.x = x
    b.y[i] = this.y = y
    if (b.z) this.stand(i, i + 1)
    b.s[i] = s
    b.speed[i] = speed
    if (b.count === BLOCK_MOVES) this.flush()
  }

  /** Moves that neither lift nor turn. */
  private stand(from: number, to: number): void {
    this.block.z?.fill(this.z, from, to)
    this.block.a?.fill(this.a, from, to)
  }

  /** Moves along one y, as many as there are. @param x µm @param s beam @param speed mm/s, 0 rapid */
  row(y: number, x: Int32Array, s: Uint16Array, speed: Float32Array): void {
    const b = this.block
    // Where the head stands at the start already, there is nothing to move.
    let from = x[0] === this.x && y === this.y ? 1 : 0
    while (from < x.length) {
      const n = Math.min(x.length - from, BLOCK_MOVES - b.count)
      b.x.set(x.subarray(from, from + n), b.count)
      b.y.fill(y, b.count, b.count + n)
      if (b.z) this.stand(b.count, b.count + n)
      b.s.set(s.subarray(from, from + n), b.count)
      b.speed.set(speed.subarray(from, from + n), b.count)
      b.count += n
      from += n
      if (b.count === BLOCK_MOVES) this.flush()
    }
    this.x = x[x.length - 1]
    this.y = y
  }

  flush(): void {
    if (this.block.count > 0) this.sink.moves(this.block)
    this.block.count = 0
  }
}

/** Bytes that a whole block takes in a kernel's memory. */
export const BLOCK_BYTES = BLOCK_MOVES * 22

/** Copies a block into a kernel's memory. @returns the places of x, y, s and speed */
export function blockInto(block: MoveBlock, memory: ArrayBufferLike, at: number): readonly [number, number, number, number] {
  const { count } = block
  const y = at + 4 * BLOCK_MOVES
  const speed = y + 4 * BLOCK_MOVES
  const s = speed + 4 * BLOCK_MOVES
  new Int32Array(memory, at, count).set(block.x.subarray(0, count))
  new Int32Array(memory, y, count).set(block.y.subarray(0, count))
  new Float32Array(memory, speed, count).set(block.speed.subarray(0, count))
  new Uint16Array(memory, s, count).set(block.s.subarray(0, count))
  return [at, y, s, speed]
}

/** Copies z and a of a block behind the rest of it. @returns their places */
export function axesInto(block: Required<MoveBlock>, memory: ArrayBufferLike, at: number): readonly [number, number] {
  const z = at + 14 * BLOCK_MOVES
  const a = z + 4 * BLOCK_MOVES
  new Int32Array(memory, z, block.count).set(block.z.subarray(0, block.count))
  new Int32Array(memory, a, block.count).set(block.a.subarray(0, block.count))
  return [z, a]
}

/** Whether a block lifts or turns anything. */
export const hasAllAxes = (block: MoveBlock): block is Required<MoveBlock> => block.z !== undefined && block.a !== undefined
