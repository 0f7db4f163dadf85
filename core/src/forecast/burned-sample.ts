import type { Machine } from '../machine/machine.ts'
import { dotReach } from '../material/answer.ts'
import { levelTones } from '../material/level-powers.ts'
import type { Material } from '../material/material.ts'
import { frame } from '../picture/framing.ts'
import type { GreyPicture } from '../picture/picture.ts'
import { prepareMarks } from '../picture/prepare.ts'
import type { Dots, Treatment } from '../picture/steps.ts'
import { coverOfDots, darknessOfDots } from './darkness.ts'

/** What a picture is burned on, with, and how. */
export interface Burning {
  readonly material: Material
  readonly machine: Machine
  readonly burn: Parameters<typeof levelTones>[2] & { readonly bothWays: boolean }
}

/**
 * A small picture treated, made into dots and burned in the forecast, as any picture is: what start values are fitted on.
 * @returns how much of each dot's cell is dark, 0–255, row by row
 */
export function burnedSample(
  picture: GreyPicture,
  treatment: Treatment,
  dots: Dots,
  { columns, rows }: { readonly columns: number; readonly rows: number },
  { material, machine, burn }: Burning,
): Uint8Array {
  const plain = { ...dots, asPrepared: false, gain: false }
  const marks = prepareMarks(frame(picture, []), treatment, plain, columns, rows, { pitchMm: burn.intervalMm })
  const lag = (machine.riseTimeS * burn.speedMmS) / burn.intervalMm
  const reach = dotReach(material, machine.id) / burn.intervalMm
  return coverOfDots(columns, darknessOfDots(marks, levelTones(material, machine, burn), lag, burn.bothWays), reach)
}
