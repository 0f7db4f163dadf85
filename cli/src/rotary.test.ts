import { describe, expect, it } from 'vitest'
import { ran } from './testing/ran.ts'

const told = async (...args: string[]) => {
  const { code, out, err } = await ran('rotary', ...args, '--json')
  expect(err).toBe('')
  expect(code).toBe(0)
  return JSON.parse(out)
}

describe('rotary', () => {
  it('tells steps and turns of rollers and chucks', async () => {
    expect(await told('--roller', '64', '--steps', '7200')).toEqual({ stepsPerMm: expect.closeTo(35.81, 3) })
    expect(await told('--roller', '64', '--steps', '7200', '--diameter', '80')).toMatchObject({
      stepsPerMm: expect.closeTo(35.81, 3),
      circumferenceMm: expect.closeTo(251.327, 3),
    })
    expect(await told('--chuck', '--steps', '12800', '--gear', '1', '--diameter', '80')).toMatchObject({
      stepsPerMm: expect.closeTo(50.93, 3),
      degreesPerMm: expect.closeTo(1.4324, 4),
    })
    // A tape tells the same as a calliper.
    expect((await told('--chuck', '--steps', '12800', '--circumference', '251.327')).stepsPerMm).toBeCloseTo(50.93, 3)
  })
  it('corrects the steps by a test turn', async () => {
    const { stepsPerTurn, stepsPerMm } = await told('--chuck', '--steps', '12800', '--diameter', '80', '--turn-test', '-2.5')
    expect(stepsPerTurn).toBeCloseTo((12_800 * 251.3274) / 248.8274, 2)
    expect(stepsPerMm).toBeCloseTo(stepsPerTurn / 251.3274, 4)
  })
  it('tells how artwork closes, and what goes over itself', async () => {
    const once = await told('--diameter', '80', '--artwork-width', '60', '--repeat')
    expect(once.repeat).toEqual({ count: 4, scale: expect.closeTo(1.0472, 4), gapMm: 0 })
    expect(once.byGap).toEqual({ count: 4, scale: 1, gapMm: expect.closeTo(2.832, 3) })
    expect(once.overlapMm).toBe(0)
    expect((await told('--diameter', '20', '--artwork-width', '70')).overlapMm).toBeCloseTo(70 - 62.832, 3)
  })
  it('lays a cone flat, whichever end is said first, and repeats around its middle or where it is said', async () => {
    for (const cone of ['60,80,100', '80,60,100'])
      expect((await told('--cone', cone)).cone).toMatchObject({
        innerRadiusMm: expect.closeTo(300, 6),
        outerRadiusMm: expect.closeTo(400, 6),
        angleDeg: expect.closeTo(36, 6),
      })
    expect((await told('--cone', '60,80,100')).diameterMm).toBeCloseTo(70, 9)
    expect((await told('--cone', '60,80,100', '--at', '100')).diameterMm).toBeCloseTo(80, 9)
  })
  it('says in words what it tells', async () => {
    const { code, out, err } = await ran('rotary', '--cone', '60,80,100', '--artwork-width', '50', '--repeat')
    expect([code, out]).toEqual([0, ''])
    expect(err).toContain('4 times round at 109.96 % of its size')
    expect(err).toContain('R 300.00 to R 400.00 mm, 36.000°')
  })
  it('says what is missing, and what cannot be', async () => {
    for (const [args, words, code] of [
      [[], 'say what holds it', 2],
      [['--chuck', '--steps', '100'], 'needs --diameter', 2],
      [['--roller', '60', '--chuck', '--steps', '100'], 'not both', 2],
      [['--roller', '60'], '--steps is missing', 2],
      [['--diameter', '80', '--circumference', '250'], 'not both', 2],
      [['--diameter', '80', '--repeat'], 'needs --artwork-width', 2],
      [['--cone', '60,80'], 'wants 3 numbers', 2],
      [['--cone', '80,80,100'], 'it is a cylinder', 1],
      [['--cone', '10,80,20'], 'along the side', 1],
      [['--diameter', '0'], 'more than 0', 1],
      [['--roller', '60', '--steps', '100', '--diameter', '80', '--turn-test', '200'], 'half a turn', 1],
    ] as const) {
      const found = await ran('rotary', ...args)
      expect(found.code, args.join(' ')).toBe(code)
      expect(found.err).toContain(words)
    }
  })
})
