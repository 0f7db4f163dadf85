import { RANGES } from '../job/document/ranges.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import { PROCESSES } from '../process/table.ts'
import type { Setting } from '../proposals/new-job.ts'
import type { CardSpec } from './card.ts'

/** Processes that a material can be tried with before anything is made of it. */
export const FIRST_TRIALS = ['area', 'cut', 'score'] as const
export type FirstTrial = (typeof FIRST_TRIALS)[number]

/** Powers and speeds of a first card: so many either way, each as many times the last as the next is of it. */
const COUNT = 6
const LEAST_POWER = 0.08
/** From the fastest to the slowest, a share of the fastest that the machine goes. */
const SPEEDS: Readonly<Record<FirstTrial, readonly [number, number]>> = {
  area: [1, 0.08],
  cut: [0.12, 0.006],
  score: [0.5, 0.02],
}

const spread = (from: number, to: number): number[] =>
  Array.from({ length: COUNT }, (_, i) => Number((from * (to / from) ** (i / (COUNT - 1))).toPrecision(2)))

/** The first card on a material of which nothing is known: from what hardly marks to all that the machine can. */
export function firstCard(
  material: Material,
  machine: Machine,
  process: FirstTrial,
): { readonly spec: CardSpec; readonly setting: Setting } {
  const top = Math.min(PROCESSES[process].topSpeed(machine), RANGES.speedMmS.max)
  const [fast, slow] = SPEEDS[process]
  return {
    spec: {
      process,
      across: { setting: 'power', values: spread(LEAST_POWER, machine.safePower ?? 1) },
      down: { setting: 'speedMmS', values: spread(Math.max(0.5, fast * top), Math.max(0.2, slow * top)) },
    },
    setting: { workpiece: { widthMm: 100, heightMm: 100, thicknessMm: material.thicknessMm }, material, machine },
  }
}
