import {
  assetsSupply,
  type JobDocument,
  MACHINES,
  MATERIALS,
  proposalsFor,
  ROTARIES,
  radiusByChord,
  type SourceFacts,
  type TextSpec,
  timesRound,
  withArch,
  withEnds,
  withRound,
} from '@neotaxis/core'
import { drawnFile } from './label-jobs.ts'

/** One of the waves around the rolling pin: along the pin, and around it before it is made to close, mm. */
const TILE = { along: 180, around: 33 }
const PIN_MM = 64
const AMPLITUDE_MM = 6
const STEPS = 48

/** Bands of waves, bolder towards the middle of the pin: one wave of each, which goes on at its own beginning. */
export function wavesTile(): string {
  const ribbon = (middle: number, thick: number): string => {
    const at = (k: number, side: number): string => {
      const turn = (2 * Math.PI * k) / STEPS
      const slope = (AMPLITUDE_MM * 2 * Math.PI * Math.cos(turn)) / TILE.around
      // As thick across wherever it goes.
      const half = (thick / 2) * Math.hypot(1, slope)
      return `${(middle + AMPLITUDE_MM * Math.sin(turn) + side * half).toFixed(3)} ${((TILE.around * k) / STEPS).toFixed(3)}`
    }
    const there = Array.from({ length: STEPS + 1 }, (_, k) => at(k, -1))
    const back = Array.from({ length: STEPS + 1 }, (_, k) => at(STEPS - k, 1))
    return `<path d="M${[...there, ...back].join('L')}Z"/>`
  }
  const bands = [1.2, 1.8, 2.6, 3.4, 2.6, 1.8, 1.2].map((thick, i) => ribbon(15 + 25 * i, thick))
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${TILE.along}mm" height="${TILE.around}mm" viewBox="0 0 ${TILE.along} ${TILE.around}">${bands.join('')}</svg>`
}

/** A rolling pin of lime wood, Ø 64 mm, on rollers: waves that go six times around it and close. */
export function rollingPinJob(facts: SourceFacts, bytes: Uint8Array): JobDocument {
  const supply = assetsSupply(() => bytes)
  const settings = {
    workpiece: { widthMm: 250, heightMm: 200, thicknessMm: 12 },
    material: MATERIALS.find(({ id }) => id === 'lime-wood-12')!,
    machine: MACHINES[0],
    size: { widthMm: TILE.along },
  }
  const { job } = proposalsFor(facts, settings, supply).find(({ id }) => id === 'engrave-seen')!
  const round = withEnds(withRound({ ...job, name: 'Rolling pin, waves' }, ROTARIES.rollers, PIN_MM, 250), { held: 'left' })
  return timesRound(round, 'source', 'scale', { count: 6 })
}

/** A lamp cup: the diameters of its ends, and how long its side is, mm. */
const LAMP = { leftMm: 80, rightMm: 60 }
const LAMP_SIDE_MM = 100

/** A shoal: one fish, its head to the rim. */
export const fishTile = (): string =>
  '<svg xmlns="http://www.w3.org/2000/svg" width="26mm" height="16mm" viewBox="0 0 26 16">' +
  '<path fill-rule="evenodd" d="M1 8C5 2 12 1 18 7L25 2L23 8L25 14L18 9C12 15 5 14 1 8ZM6 7A1.1 1.1 0 1 0 6 7.01Z"/></svg>'

/** A tapered lamp cup of lime wood in a chuck: a shoal that goes around it in three bands, and closes. */
export function lampCupJob(facts: SourceFacts, bytes: Uint8Array): JobDocument {
  const settings = {
    workpiece: { widthMm: LAMP_SIDE_MM, heightMm: 200, thicknessMm: 12 },
    material: MATERIALS.find(({ id }) => id === 'lime-wood-12')!,
    machine: MACHINES[0],
    size: { widthMm: 26 },
  }
  const { job } = proposalsFor(
    facts,
    settings,
    assetsSupply(() => bytes),
  ).find(({ id }) => id === 'engrave-seen')!
  const round = withRound({ ...job, name: 'Lamp cup, shoal' }, ROTARIES.chuck, LAMP, LAMP_SIDE_MM)
  return timesRound(withEnds(round, { lip: 'left', held: 'right' }), 'source', 'gap', { count: 11, bands: 3 })
}

/** The name of a boat, in single strokes. */
export const HULL_NAME: TextSpec = {
  kind: 'text',
  text: 'SANDPIPER',
  font: { kind: 'strokes' },
  capMm: 34,
  letterMm: 4,
  lineShare: 1.6,
  align: 'middle',
}
const PLANK = { widthMm: 300, heightMm: 90 }
/** So much higher its middle stands than its long edges, mm. */
const CROWN_MM = 6

/** The name of a boat scored on a plank of a hull, which is curved across: its letters where it is sharp. */
export function hullNameJob(facts: SourceFacts): JobDocument {
  const settings = {
    workpiece: { ...PLANK, thicknessMm: 12 },
    material: MATERIALS.find(({ id }) => id === 'lime-wood-12')!,
    machine: MACHINES[0],
    size: { widthMm: 250 },
  }
  const bytes = drawnFile(HULL_NAME)
  const { job } = proposalsFor(
    facts,
    settings,
    assetsSupply(() => bytes),
  ).find(({ id }) => id === 'score-lines')!
  return withArch({ ...job, name: 'Hull plank, Sandpiper' }, { across: 'y', radiusMm: radiusByChord(PLANK.heightMm, CROWN_MM) })
}
