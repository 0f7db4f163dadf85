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
  const out = new Uint8Array(levels.length)
  for (let i = 0; i < levels.length; i++) out[i] = tones[levels[i]]
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
