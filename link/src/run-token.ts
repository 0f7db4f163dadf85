import type { Place, Report } from './report.ts'

/** So many lines are sent before line `from.driven + 1` of the program, which begins at that place. */
export interface Base {
  readonly preamble: number
  readonly from: Place
}

export const FROM_START: Base = { preamble: 0, from: { driven: 0, x: 0, y: 0, z: 0 } }

/** What the machine keeps of a run: whose it is, and how its lines are counted; so another sender can take it up. Places in µm. */
export const tokenOf = (id: string, { preamble, from: { driven, x, y, z } }: Base): string =>
  [id, preamble, driven, ...[x, y, z].map((v) => Math.round(v * 1000))].join('.')

/** @returns undefined where the machine tells no run of ours, or one that cannot be */
export function readToken(token: string): { readonly id: string; readonly base: Base } | undefined {
  const found = /^([\w-]{1,40})\.(\d{1,6})\.(\d{1,9})\.(-?\d{1,9})\.(-?\d{1,9})\.(-?\d{1,9})$/.exec(token)
  if (!found) return undefined
  const [preamble, driven, x, y, z] = found.slice(2).map(Number)
  return { id: found[1], base: { preamble, from: { driven, x: x / 1000, y: y / 1000, z: z / 1000 } } }
}

/** The id of the run that a machine has, from what it says of itself; undefined where it has none. */
export const runOn = (report: Report): string | undefined => readToken(report.token)?.id
