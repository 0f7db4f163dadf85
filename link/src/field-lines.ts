/** What a scan head adds to every place: at so many places each way, from its zero along x, row after row, µm. */
export interface FieldTable {
  readonly points: number
  readonly offsetsUm: readonly number[]
}

/** Places in one line: no machine takes longer ones. */
const AT_ONCE = 8

/** The lines by which a scan head takes the correction of its field; none: it forgets the one that it has. */
export function fieldLines(table: FieldTable | undefined): string[] {
  if (!table) return ['field 0']
  const lines = [`field ${table.points}`]
  for (let first = 0; 2 * first < table.offsetsUm.length; first += AT_ONCE)
    lines.push(`nodes ${first} ${table.offsetsUm.slice(2 * first, 2 * (first + AT_ONCE)).join(' ')}`)
  return lines
}
