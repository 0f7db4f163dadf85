/** One line of the table: ours against a reference in the same run. */
export interface Row {
  readonly what: string
  readonly ours: number
  readonly reference: number | undefined
  readonly unit: string
  /** Ours over reference must not be more than this; undefined where only ours is told. */
  readonly target: number | undefined
  readonly note?: string
}

/** Median seconds of `runs` runs, after one that is not counted. */
export function seconds(work: () => void, runs = 5): number {
  work()
  const times: number[] = []
  for (let i = 0; i < runs; i++) {
    const started = performance.now()
    work()
    times.push((performance.now() - started) / 1000)
  }
  return times.sort((a, b) => a - b)[runs >> 1]
}

export async function secondsOf(work: () => Promise<unknown>, runs = 5): Promise<number> {
  await work()
  const times: number[] = []
  for (let i = 0; i < runs; i++) {
    const started = performance.now()
    await work()
    times.push((performance.now() - started) / 1000)
  }
  return times.sort((a, b) => a - b)[runs >> 1]
}

const ms = (s: number): number => s * 1000

/** A row of times in ms. */
export const timeRow = (
  what: string,
  ours: number,
  reference: number | undefined,
  target: number | undefined,
  note?: string,
): Row => ({ what, ours: ms(ours), reference: reference === undefined ? undefined : ms(reference), unit: 'ms', target, note })
