/** How many moves one block holds. */
export const BLOCK_MOVES = 1 << 14

/**
 * Moves of the head in machine coordinates, many at a time. A move goes to (x, y) from where the last one ended.
 * A reader takes the first `count` entries and keeps nothing: the block is used again.
 */
export interface MoveBlock {
  count: number
  /** End of the move, µm: what the program will say, so that time and program agree to the last digit. */
  readonly x: Int32Array
  readonly y: Int32Array
  /** Beam during the move as S value; 0 is off. */
  readonly s: Uint16Array
  /** Speed wanted, mm/s; 0 stands for a rapid move. */
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

/** Takes the plan as it is made. */
export interface PlanSink {
  /** The operation that the next moves belong to. @param asked what is asked of somebody before it, step by step */
  operation(id: string, asked: readonly string[]): void
  moves(block: MoveBlock): void
  /** The machine comes to rest and waits before the operation that was named last. */
  rest(): void
}

/** Collects moves into blocks and hands full ones on. */
export class MoveWriter {
  private readonly block: MoveBlock = {
    count: 0,
    x: new Int32Array(BLOCK_MOVES),
    y: new Int32Array(BLOCK_MOVES),
    s: new Uint16Array(BLOCK_MOVES),
    speed: new Float32Array(BLOCK_MOVES),
  }
  private readonly sink: PlanSink
  /** Where the head is, µm. */
  x = 0
  y = 0

  constructor(sink: PlanSink) {
    this.sink = sink
  }

  operation(id: string, asked: readonly string[] = []): void {
    this.flush()
    this.sink.operation(id, asked)
  }

  rest(): void {
    this.flush()
    this.sink.rest()
  }

  /** A move without length is left out. @param x µm @param y µm @param s 0 off @param speed mm/s, 0 rapid */
  move(x: number, y: number, s: number, speed: number): void {
    if (x === this.x && y === this.y) return
    const b = this.block
    const i = b.count++
    b.x[i] = this.x = x
    b.y[i] = this.y = y
    b.s[i] = s
    b.speed[i] = speed
    if (b.count === BLOCK_MOVES) this.flush()
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
export const BLOCK_BYTES = BLOCK_MOVES * 14

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
