import { burnedKernel } from './burned-kernel.ts'
import { sharedBytes } from './shared-bytes.ts'

/**
 * How much of each dot's cell is dark, 0–255, where dots reach into the cells beside them. @param reach share of a cell that
 * a dot reaches beyond its own at either end
 */
export function coverOfDots(columns: number, dark: Uint8Array, reach: number): Uint8Array {
  if (reach <= 0) return dark
  // Whole numbers, half of what both sides can give at most: beyond that a cell is full.
  const share = Math.round(Math.min(0.5, reach) * 256)
  const out = sharedBytes(dark.length)
  const { run, room } = burnedKernel()
  const padded = (columns + 31) & ~15
  const row = ((run.freeFrom() + 15) & ~15) + 16
  const made = row + padded
  const memory = room(made + padded)
  memory.fill(0, row - 16, made)
  for (let at = 0; at < dark.length; at += columns) {
    memory.set(dark.subarray(at, at + columns), row)
    run.coverRow(row, columns, share, made)
    out.set(memory.subarray(made, made + columns), at)
  }
  return out
}

/** Dots that go through the kernel at once. */
const AT_ONCE = 1 << 18

/** Every level led through a table. */
function throughTable(levels: Uint8Array, table: Uint8Array): Uint8Array {
  const out = sharedBytes(levels.length)
  const { run, room } = burnedKernel()
  const places = (run.freeFrom() + 15) & ~15
  const from = places + 256
  const memory = room(from + AT_ONCE)
  memory.set(table, places)
  for (let at = 0; at < levels.length; at += AT_ONCE) {
    const part = levels.subarray(at, at + AT_ONCE)
    memory.set(part, from)
    run.throughBytes(from, part.length, places, from)
    out.set(memory.subarray(from, from + part.length), at)
  }
  return out
}

/**
 * Darkness of every dot, 0–255: its mark through a table, then as late as the beam follows its command. A beam with rise
 * time τ at speed v draws each change out over v·τ along its row (first-order lag), in the direction the row is burned.
 * @param tones darkness of each mark level @param lagDots v·τ in dots, 0 none
 */
export function darknessOfDots(
  { columns, rows, levels }: { readonly columns: number; readonly rows: number; readonly levels: Uint8Array },
  tones: Uint8Array,
  lagDots: number,
  bothWays: boolean,
): Uint8Array {
  const out = throughTable(levels, tones)
  if (lagDots < 0.02) return out
  const follow = 1 - Math.exp(-1 / lagDots)
  for (let y = 0; y < rows; y++) {
    const back = bothWays && y % 2 === 1
    let beam = 0
    for (let k = 0; k < columns; k++) {
      const i = y * columns + (back ? columns - 1 - k : k)
      beam += (out[i] - beam) * follow
      out[i] = beam + 0.5
    }
  }
  return out
}
