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

/** Takes the plan as it is made. */
export interface PlanSink {
  /** The operation that the next moves belong to. */
  operation(id: string): void
  moves(block: MoveBlock): void
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

  operation(id: string): void {
    this.flush()
    this.sink.operation(id)
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

  flush(): void {
    if (this.block.count > 0) this.sink.moves(this.block)
    this.block.count = 0
  }
}
