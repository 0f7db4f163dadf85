import { describe, expect, it } from 'vitest'
import { barContrast, toneUnevenness } from '../forecast/detail-response.ts'
import { toneResponse } from '../forecast/tone-response.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import { FINISH_STARTS } from '../material/finish.ts'
import type { Material } from '../material/material.ts'
import { judgePicture } from '../picture/judge.ts'
import { PLAIN_DOTS } from '../picture/steps.ts'
import { picture } from '../process/picture/picture.ts'
import { startTreatment } from '../proposals/proposals-treatment.ts'
import { greyPicture } from '../testing/sample-job.ts'
import { lightnessOf, tunedClean, tunedContrast, tunedSharpening } from './tuned-detail.ts'

const [bench] = MACHINES
const material = (id: string): Material => MATERIALS.find((each) => each.id === id)!
const burning = (on: Material, changed: object = {}) => ({
  material: on,
  machine: bench,
  burn: { ...picture.fromRecipe(['dots'], on, bench), ...changed },
})
const birch = material('birch-ply-3')
const noise = (x: number, y: number): number => (x * 7919 + y * 104_729) % 97
const photo = greyPicture(160, 120, (x, y) => 40 + ((x * 7 + y * 3) % 180))

describe('sharpening', () => {
  const crisp = { times: 1.5, radius: 1, why: 'Because.' }
  const sharp = (on: Material, changed?: object, dots = PLAIN_DOTS, times = crisp.times) =>
    tunedSharpening(burning(on, changed), dots, { ...crisp, times })

  it('lets fine bars stand out in the forecast as was asked for, and no step more', () => {
    const { step } = sharp(birch)
    expect(barContrast(burning(birch), PLAIN_DOTS, step)).toBeGreaterThanOrEqual(1.5)
    expect(barContrast(burning(birch), PLAIN_DOTS, { ...step!, amount: step!.amount - 5 })).toBeLessThan(1.5)
  })

  it('is left out where the kernel sharpens by itself', () => {
    const { step, why } = sharp(birch, {}, { ...PLAIN_DOTS, kernel: 'jarvis-judice-ninke' })
    expect(step).toBeUndefined()
    expect(why).toMatch(/sharpens by itself/)
  })

  it('makes up for a beam that comes late at high speed', () => {
    const slow = { ...bench, riseTimeS: 0.0002 }
    const at = (speedMmS: number) => {
      const late = { ...burning(birch, { speedMmS, bothWays: false }), machine: slow }
      return tunedSharpening(late, { ...PLAIN_DOTS, kernel: 'bayer-8' }, crisp).step!.amount
    }
    expect(at(1200)).toBeGreaterThan(at(100))
  })
})

describe('clean-up', () => {
  const calm = { uneven: 1.4, why: 'Because.' }

  it('ends where dots of the forecast begin to blend for the eye', () => {
    const { step } = tunedClean(burning(birch), PLAIN_DOTS, calm)
    expect(toneUnevenness(burning(birch), PLAIN_DOTS, step!.below)).toBeGreaterThan(1.4)
    expect(toneUnevenness(burning(birch), PLAIN_DOTS, 2 * step!.below)).toBeLessThan(1.4)
  })

  it('takes less away the finer the dots are', () => {
    const below = (intervalMm: number): number => tunedClean(burning(birch, { intervalMm }), PLAIN_DOTS, calm).step?.below ?? 0
    expect(below(0.2)).toBeGreaterThan(below(0.127))
    expect(below(0.127)).toBeGreaterThan(below(0.05))
  })

  it('is left to a kernel that clears light tones', () => {
    const { step, why } = tunedClean(burning(birch), { ...PLAIN_DOTS, kernel: 'atkinson' }, calm)
    expect(step).toBeUndefined()
    expect(why).toMatch(/clear by itself/)
  })
})

describe('contrast', () => {
  const plain = (v: number): number => v
  const contrastOn = (on: Material, picture = photo): number => {
    const here = burning(on)
    return tunedContrast(picture, plain, here, toneResponse(here, PLAIN_DOTS)).step?.contrast ?? 0
  }
  const faint = { ...birch, look: { ...birch.look, burn: [196, 165, 126] as const } }

  it('is raised where the burn is near to the surface in the forecast, and not where it is dark', () => {
    const calm = greyPicture(160, 120, (x, y) => 90 + noise(x, y) * 0.6)
    expect(contrastOn(birch, calm)).toBe(0)
    expect(contrastOn(faint, calm)).toBeGreaterThan(20)
  })

  it('is raised no further than the picture has tones to spare', () => {
    const hard = greyPicture(160, 120, (x) => (x % 2 ? 2 : 253))
    expect(contrastOn(faint, hard)).toBeLessThan(6)
  })

  it('reads lightness as the standard has it', () => {
    expect(lightnessOf([255, 255, 255])).toBeCloseTo(100, 6)
    expect(lightnessOf([119, 119, 119])).toBeCloseTo(50, 0)
    expect(lightnessOf([0, 0, 0])).toBe(0)
  })
})

it('every material begins with settings that came from its forecast, each saying what was seen', () => {
  for (const on of MATERIALS.filter(({ finish }) => finish)) {
    const { treatment, why } = startTreatment(photo, judgePicture(photo), burning(on))
    expect(why.sharpen, on.id).toMatch(/forecast/)
    expect(why.clean, on.id).toMatch(/forecast/)
    expect('invert' in treatment.steps).toBe(FINISH_STARTS[on.finish!].invert !== undefined)
    for (const id of treatment.order) expect(why[id].length).toBeGreaterThan(15)
  }
})
