import Joi from 'joi'
import { RANGES } from '../job/document/ranges.ts'
import { within } from '../job/document/schema-parts.ts'
import { type Machine, wattsAt } from '../machine/machine.ts'
import { lineDose } from '../material/material.ts'
import type { Followed } from './strokes.ts'

/** What an operation says of how it follows its lines, beside power, speed and passes. */
export type FollowSettings = Pick<Followed, 'leastPower' | 'passPowers' | 'focusStepMm' | 'restS'>

export const followSchema: Joi.SchemaMap = {
  leastPower: within(RANGES.power).optional(),
  passPowers: Joi.array().items(Joi.number().min(0).max(1)).max(RANGES.passes.max).optional(),
  focusStepMm: within(RANGES.focusStepMm).optional(),
  restS: within(RANGES.restS).optional(),
}

/** How an operation follows its lines. */
export const followedBy = ({
  power,
  speedMmS,
  passes,
  leastPower,
  passPowers,
  focusStepMm,
  restS,
}: FollowSettings & Pick<Followed, 'power' | 'speedMmS' | 'passes'>): Followed => ({
  power,
  speedMmS,
  passes,
  leastPower,
  passPowers,
  focusStepMm,
  restS,
})

/** Energy along a line by all passes, each by its own power, J/mm. */
export const followedDose = ({ power, speedMmS, passes, passPowers = [] }: Followed, machine: Machine): number =>
  Array.from({ length: passes }, (_, pass) => wattsAt(machine, power * (passPowers[pass] ?? 1))).reduce(
    (sum, watts) => sum + lineDose(watts, speedMmS),
    0,
  )
