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

const median = (times: number[]): number => times.sort((a, b) => a - b)[times.length >> 1]

/** Median seconds of two works done in turn, so that a slow moment of the machine meets both. The first turn does not count. */
export async function pairSeconds(
  ours: () => unknown,
  reference: () => unknown,
  runs = 7,
): Promise<readonly [ours: number, reference: number]> {
  const times: [number[], number[]] = [[], []]
  for (let i = -1; i < runs; i++) {
    for (const [k, work] of [ours, reference].entries()) {
      const started = performance.now()
      await work()
      if (i >= 0) times[k].push((performance.now() - started) / 1000)
    }
  }
  return [median(times[0]), median(times[1])]
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
  return median(times)
}

const ms = (s: number): number => s * 1000

/** A row of times in ms. */
export const timeRow = (
  what: string,
  [ours, reference]: readonly [number, number | undefined],
  target: number | undefined,
  note?: string,
): Row => ({ what, ours: ms(ours), reference: reference === undefined ? undefined : ms(reference), unit: 'ms', target, note })
