import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { arcSeenAs, broughtRound, closedByGap, closedByScale, opposite, seenWidthMm, wayAround } from './around.ts'
import { type Cone, coneByHeight, levellingDeg, sectorOf } from './cone.ts'
import { afterTurnTest, circumferenceMm, degreesPerMm, diameterByTape, slipsAtMmS2, stepsPerMm } from './device.ts'
import { checkProfile, diameterAt, sharpAlong } from './profile.ts'

const length = (min: number, max: number) => fc.double({ min, max, noNaN: true })

describe('what turns something', () => {
  it('has the steps that a worked example has', () => {
    // 7 200 steps, a roller of 64 mm; 12 800 steps, a chuck without gear, an object of 80 mm.
    expect(stepsPerMm({ kind: 'roller', rollerMm: 64, stepsPerTurn: 7200 }, 80)).toBeCloseTo(35.81, 3)
    expect(stepsPerMm({ kind: 'roller', rollerMm: 64, stepsPerTurn: 7200 }, 20)).toBeCloseTo(35.81, 3)
    expect(stepsPerMm({ kind: 'chuck', gear: 1, stepsPerTurn: 12_800 }, 80)).toBeCloseTo(50.93, 3)
    expect(stepsPerMm({ kind: 'chuck', gear: 3, stepsPerTurn: 12_800 }, 80)).toBeCloseTo(152.79, 2)
    expect(degreesPerMm(80)).toBeCloseTo(1.4324, 4)
    expect(diameterByTape(circumferenceMm(73.2))).toBeCloseTo(73.2, 12)
  })
  it('is corrected by a turn that came out otherwise, whatever it was', () => {
    fc.assert(
      fc.property(length(20, 120), length(0.8, 1.2), length(1000, 50_000), (diameter, wrong, steps) => {
        // Really it has other steps than is written on it: what is said to be a turn goes so far.
        const thought = { kind: 'chuck' as const, gear: 1, stepsPerTurn: steps * wrong }
        const beyond = circumferenceMm(diameter) * (wrong - 1)
        expect(afterTurnTest(thought, diameter, beyond).stepsPerTurn).toBeCloseTo(steps, 6)
      }),
    )
    expect(() => afterTurnTest({ kind: 'roller', rollerMm: 60, stepsPerTurn: 100 }, 80, 130)).toThrow('half a turn')
  })
  it('refuses numbers that are none', () => {
    expect(() => stepsPerMm({ kind: 'chuck', gear: 0, stepsPerTurn: 100 }, 80)).toThrow('gear')
    expect(() => stepsPerMm({ kind: 'roller', rollerMm: -1, stepsPerTurn: 100 }, 80)).toThrow('roller')
    expect(() => circumferenceMm(Number.NaN)).toThrow('diameter')
  })
  it('slips sooner with a thin wall than with something solid', () => {
    expect(slipsAtMmS2(false)).toBeCloseTo(4905, 0)
    expect(slipsAtMmS2(true)).toBe(2 * slipsAtMmS2(false))
  })
})

describe('around something', () => {
  it('repeats close exactly, by size or by the room between them', () => {
    fc.assert(
      fc.property(length(5, 400), length(20, 500), (width, around) => {
        const by = closedByScale(width, around)
        expect(by.count * by.scale * width).toBeCloseTo(around, 6)
        // No other number of them changes the size less.
        for (const count of [by.count - 1, by.count + 1])
          if (count >= 1) {
            const other = around / width / count
            expect(Math.max(other, 1 / other)).toBeGreaterThanOrEqual(Math.max(by.scale, 1 / by.scale) - 1e-9)
          }
        const gaps = closedByGap(width, around)
        expect(gaps.count * (width + gaps.gapMm)).toBeCloseTo(around, 6)
        if (width <= around) expect(gaps.gapMm).toBeGreaterThanOrEqual(-1e-9)
      }),
    )
    expect(closedByGap(40, 251.3).count).toBe(6)
    expect(() => closedByScale(0, 100)).toThrow('wider than 0')
  })
  it('goes the shorter way, and knows what lies across', () => {
    expect(wayAround(10, 240, 251)).toBeCloseTo(-21, 9)
    expect(wayAround(240, 10, 251)).toBeCloseTo(21, 9)
    expect(broughtRound(-1, 250)).toBe(249)
    expect(opposite(200, 250)).toBe(75)
  })
  it('is as wide as the eye sees it, and the way back', () => {
    fc.assert(
      fc.property(length(20, 120), length(0.01, 0.99), (diameter, share) => {
        const seen = share * diameter
        const arc = arcSeenAs(seen, diameter)
        expect(seenWidthMm(arc, diameter)).toBeCloseTo(seen, 6)
        expect(arc).toBeGreaterThanOrEqual(seen)
      }),
    )
    expect(seenWidthMm(200, 80)).toBe(80)
    expect(() => arcSeenAs(81, 80)).toThrow('From the front')
  })
})

describe('a cone', () => {
  const cup: Cone = { smallMm: 60, largeMm: 80, slantMm: 100 }
  it('unrolls as in the worked example', () => {
    const { innerRadiusMm, outerRadiusMm, angleRad } = sectorOf(cup)
    expect(innerRadiusMm).toBeCloseTo(300, 9)
    expect(outerRadiusMm).toBeCloseTo(400, 9)
    expect(angleRad).toBeCloseTo(0.62832, 5)
    // Its rims are as long as they are.
    expect(angleRad * innerRadiusMm).toBeCloseTo(Math.PI * 60, 9)
    expect(angleRad * outerRadiusMm).toBeCloseTo(Math.PI * 80, 9)
    expect(coneByHeight(60, 80, Math.sqrt(9900)).slantMm).toBeCloseTo(100, 9)
    expect(levellingDeg(cup)).toBeCloseTo(5.739, 3)
  })
  it('is refused where it is none', () => {
    expect(() => sectorOf({ smallMm: 80, largeMm: 60, slantMm: 100 })).toThrow('smaller diameter first')
    expect(() => sectorOf({ smallMm: 80, largeMm: 80, slantMm: 100 })).toThrow('cylinder')
    expect(() => sectorOf({ smallMm: 10, largeMm: 80, slantMm: 30 })).toThrow('along the side')
    expect(() => sectorOf({ smallMm: 10, largeMm: 80, slantMm: Number.NaN })).toThrow('more than 0')
  })
})

describe('a profile', () => {
  const vase = [
    { alongMm: 0, diameterMm: 60 },
    { alongMm: 50, diameterMm: 90 },
    { alongMm: 50, diameterMm: 70 },
    { alongMm: 120, diameterMm: 70 },
  ]
  it('has its diameters between its places, with its steps', () => {
    checkProfile(vase)
    expect([-5, 0, 25, 49.999, 50, 80, 300].map((at) => Math.round(diameterAt(vase, at)))).toEqual([60, 60, 75, 90, 70, 70, 70])
    expect(() => checkProfile(vase.slice(0, 1))).toThrow('two diameters')
    expect(() => checkProfile([vase[1], vase[0]])).toThrow('Place 2 lies before')
    expect(() => checkProfile([vase[0], { alongMm: 9, diameterMm: 0 }])).toThrow('Diameter 2')
  })
  it('is sharp as far as it stays in the depth of focus', () => {
    const [from, to] = sharpAlong(vase, 25, 1.5)
    // 0.3 mm of radius a mm along.
    expect(from).toBeCloseTo(20, 3)
    expect(to).toBeCloseTo(30, 3)
    const [, end] = sharpAlong(vase, 80, 1)
    expect(end).toBe(120)
    expect(sharpAlong(vase, 80, 1)[0]).toBeCloseTo(50, 2)
  })
})
