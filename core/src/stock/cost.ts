/** What the shop counts, hundredths of its currency. */
export interface Rates {
  /** As it is written behind a number: “€”. */
  readonly currency: string
  readonly machineHourCents: number
  readonly handHourCents: number
  /** Laying in, focusing and lifting out: by hand at every run, minutes. */
  readonly runMinutes: number
}

/** What a shop counts that has settled nothing: it is asked to. */
export const FIRST_RATES: Rates = { currency: '€', machineHourCents: 3000, handHourCents: 4000, runMinutes: 5 }

/** What a piece costs, hundredths. */
export interface Cost {
  readonly materialCents: number
  readonly machineCents: number
  readonly handCents: number
  readonly totalCents: number
}

export interface Worked {
  /** What the whole workpiece is worth, hundredths, and which share of it is used up, 0–1. */
  readonly pieceCents: number
  readonly usedShare: number
  readonly machineSeconds: number
  /** Beside what every run asks for. */
  readonly handMinutes: number
}

/** What a run costs at the shop's rates: rounded part by part, so that the parts add up to what stands below them. */
export function costOf({ pieceCents, usedShare, machineSeconds, handMinutes }: Worked, rates: Rates): Cost {
  const materialCents = Math.round(pieceCents * usedShare)
  const machineCents = Math.round((machineSeconds / 3600) * rates.machineHourCents)
  const handCents = Math.round(((handMinutes + rates.runMinutes) / 60) * rates.handHourCents)
  return { materialCents, machineCents, handCents, totalCents: materialCents + machineCents + handCents }
}
