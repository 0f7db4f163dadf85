import { describe, expect, it } from 'vitest'
import { judgePicture } from '../picture/judge.ts'
import { greyPicture } from '../testing/sample-job.ts'
import { depthOf, toneOf } from './answer.ts'
import { MACHINES, MATERIALS } from './catalogue.ts'
import { FINISH_STARTS } from './finish.ts'
import { levelDepths, levelPowers, levelTones, passesDose, turnOnPower } from './level-powers.ts'
import { FINISHES, topLayer } from './material.ts'

const lime = MATERIALS.find(({ id }) => id === 'lime-wood-12')!
const [machine] = MACHINES
const relief = {
  power: 0.72,
  minPower: 0.04,
  evenIn: 'power',
  speedMmS: 250,
  intervalMm: 0.1,
  passes: 3,
  passPowers: [],
} as const

describe('power of a mark', () => {
  it('runs from the weakest to the strongest, and is off for none', () => {
    const powers = levelPowers(lime, machine, relief)
    expect(powers[0]).toBe(0)
    expect(powers[1]).toBeCloseTo(0.04 + 0.68 / 255, 9)
    expect(powers[255]).toBeCloseTo(0.72, 9)
  })

  it('even in depth makes depth linear in the mark, by the measured curve', () => {
    const depths = levelDepths(lime, machine, { ...relief, evenIn: 'depth' })!
    const low = depthOf(lime, passesDose(machine, relief, 0.04))!
    const high = depthOf(lime, passesDose(machine, relief, 0.72))!
    for (const level of [32, 64, 128, 200, 255]) expect(depths[level]).toBeCloseTo(low + ((high - low) * level) / 255, 4)
    const straight = levelDepths(lime, machine, relief)!
    expect(Math.abs(straight[128] - depths[128])).toBeGreaterThan(0.001)
  })

  it('even in tone makes tone linear in the mark', () => {
    const ply = MATERIALS[0]
    const burn = { ...relief, power: 0.32, minPower: 0.05, speedMmS: 300, intervalMm: 0.127, passes: 1, evenIn: 'tone' } as const
    const tones = levelTones(ply, machine, burn)
    const half = (tones[1] + tones[255]) / 2
    expect(Math.abs(tones[128] - half)).toBeLessThan(4)
  })

  it('starts where the material starts to answer', () => {
    const power = turnOnPower(lime, machine, relief)
    const dose = passesDose(machine, relief, power)
    expect(depthOf(lime, dose)!).toBeGreaterThan(0)
    expect(depthOf(lime, dose)!).toBeLessThan(0.1)
    expect(depthOf(lime, passesDose(machine, relief, power * 0.4))!).toBeLessThan(0.02)
  })

  it('may differ from pass to pass', () => {
    const last = passesDose(machine, { ...relief, passPowers: [1, 1, 0.2] }, 0.5)
    expect(last / passesDose(machine, relief, 0.5)).toBeCloseTo(2.2 / 3, 6)
    expect(passesDose(machine, relief, 0.5, 1)).toBeCloseTo(passesDose(machine, relief, 0.5) / 3, 9)
  })
})

describe('measured curves of the shop', () => {
  it('are read by forecast and powers; a window stands in where nobody measured', () => {
    expect(
      topLayer(lime)
        .curves!.map(({ quantity }) => quantity)
        .sort(),
    ).toEqual(['depth', 'tone'])
    expect([toneOf(lime, 0), toneOf(lime, 5)]).toEqual([0, 1])
    const tile = MATERIALS.find(({ id }) => id === 'glazed-tile-6')!
    expect(topLayer(tile).curves).toBeUndefined()
    expect([toneOf(tile, topLayer(tile).markDose.from), toneOf(tile, topLayer(tile).markDose.to)]).toEqual([0, 1])
    expect(depthOf(tile, 1)).toBeUndefined()
  })
})

describe('start values', () => {
  it('are there for every kind of surface, each with its reason', () => {
    for (const finish of FINISHES) {
      const { framing, crisp, calm, dotsWhy, seenFromBehind } = FINISH_STARTS[finish]
      for (const { why } of [...framing, crisp, calm]) expect(why.length).toBeGreaterThan(15)
      expect(dotsWhy).toBeTruthy()
      expect(framing.some(({ step }) => step.kind === 'mirror')).toBe(seenFromBehind)
    }
    const lifted = ['lacquered-behind', 'coated-metal', 'slate', 'clear-behind'] as const
    for (const finish of FINISHES) expect(FINISH_STARTS[finish].invert !== undefined).toBe(lifted.includes(finish as never))
  })
})

describe('what a picture is', () => {
  it('is told from its pixels', () => {
    const noise = (x: number, y: number): number => (x * 7919 + y * 104_729) % 23
    const photo = greyPicture(200, 150, (x, y) => 60 + 100 * Math.exp(-((x - 90) ** 2 + (y - 60) ** 2) / 2500) + noise(x, y))
    expect(judgePicture(photo)).toMatchObject({ photo: true, twoTone: false, dots: false, heights: { likely: false } })
    const shape = greyPicture(200, 150, (x, y) => (Math.hypot(x - 90, y - 60) < 40 ? 0 : 255))
    expect(judgePicture(shape)).toMatchObject({ photo: false, twoTone: true, dots: false })
    const dots = greyPicture(200, 150, (x, y) => ((x * 3 + y * 5) % 7 < 3 ? 0 : 255))
    expect(judgePicture(dots)).toMatchObject({ twoTone: true, dots: true })
    const hill = greyPicture(200, 150, (x, y) => 250 * Math.max(0, 1 - Math.hypot(x - 100, y - 75) / 70))
    expect(judgePicture(hill).heights.likely).toBe(true)
    for (const flat of [0, 80, 255])
      expect(judgePicture(greyPicture(60, 60, () => flat))).toMatchObject({ dots: false, heights: { likely: false } })
  })
})
