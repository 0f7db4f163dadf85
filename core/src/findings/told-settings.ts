const percent = (share: number): string => `${Number((100 * share).toFixed(1))} %`
const plain = (value: number): string => String(Number(value.toFixed(3)))

/** Settings that findings compare, what they are called, and how a value is told. */
export const TOLD_SETTINGS = [
  ['power', 'power', percent],
  ['speedMmS', 'speed in mm/s', plain],
  ['passes', 'passes', plain],
  ['intervalMm', 'interval in mm', plain],
  ['kerfMm', 'kerf in mm', plain],
] as const satisfies readonly (readonly [string, string, (value: number) => string])[]

export type ToldSettings = Partial<Record<(typeof TOLD_SETTINGS)[number][0], number>>
