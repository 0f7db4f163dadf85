import { LineError, type Word } from './line.ts'

/** The numbers that G and M may have; the other letters take any. */
const WORDS: Readonly<Record<string, readonly number[]>> = {
  G: [0, 1, 2, 3, 4, 20, 21, 54, 90, 91, 92],
  M: [0, 2, 3, 4, 5, 7, 8, 9, 30],
}

/** What earlier lines set for those that follow. */
export class Modes {
  motion: 0 | 1 | 2 | 3 = 0
  inches = false
  absolute = true
  /** mm/s */
  feed = 0
  beamOn = false
  /** The beam follows the speed (M4), or stays (M3). */
  follows = true
  /** Share of full power. */
  power = 0
  air = false
  offsetX = 0
  offsetY = 0

  get unit(): number {
    return this.inches ? 25.4 : 1
  }

  /** Checks a whole line first: one that is refused must not leave its beam on, or any other mode. @throws LineError */
  check(words: readonly Word[], moves: boolean): void {
    let motion: number = this.motion
    for (const { letter, value } of words) {
      if (!(WORDS[letter]?.includes(value) ?? 'FSXYZIJPN'.includes(letter))) throw new LineError(2)
      if (letter === 'G' && value <= 3) motion = value
    }
    const feed = words.find(({ letter }) => letter === 'F')?.value ?? this.feed
    if (moves && motion !== 0 && !(feed > 0)) throw new LineError(3)
  }

  /** @param fullS the S value of full power */
  set({ letter, value }: Word, fullS: number): void {
    if (letter === 'G') {
      if (value <= 3) this.motion = value as 0 | 1 | 2 | 3
      else if (value === 20 || value === 21) this.inches = value === 20
      else if (value === 90 || value === 91) this.absolute = value === 90
    } else if (letter === 'M') {
      if (value === 3 || value === 4) {
        this.beamOn = true
        this.follows = value === 4
      } else if (value === 5 || value === 2 || value === 30) this.beamOn = false
      if (value === 7 || value === 8) this.air = true
      else if (value === 9 || value === 2 || value === 30) this.air = false
    } else if (letter === 'F') this.feed = (value * this.unit) / 60
    else if (letter === 'S') this.power = Math.min(1, Math.max(0, value / fullS))
  }
}
