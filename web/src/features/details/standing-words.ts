import type { Standing } from '@neotaxis/core'
import { tellDay } from '../field/told.ts'

const times = (count: number): string => (count === 1 ? 'once' : `${count} times`)

/** A day in one piece. @param iso as evidence has it */
export const dayText = (iso: string): string => tellDay(`${iso}T12:00:00`).replaceAll(' ', '\u00a0')

/** How well settings are known, in words. */
export function standingText(standing: Standing): string {
  switch (standing.kind) {
    case 'proven':
      return `proven ${times(standing.times)}${standing.failed > 0 ? `, ${times(standing.failed)} not` : ''}${standing.last ? `, last on ${dayText(standing.last)}` : ''}`
    case 'doubtful':
      return `failed ${times(standing.failed)} in a row, last on ${dayText(standing.last)}${standing.times > 0 ? `; it had worked ${times(standing.times)}` : ''}`
    case 'borrowed':
      return `borrowed from ${standing.from}, not proven here${standing.mayBeOff === undefined ? '' : `; may be ${Math.round(100 * standing.mayBeOff)} % off`}`
    case 'guessed':
      return 'guessed, try it on scrap first'
  }
}
