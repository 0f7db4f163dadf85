import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { toneResponse } from '../forecast/tone-response.ts'
import { MACHINES, MATERIALS } from '../material/catalogue.ts'
import type { Material } from '../material/material.ts'
import { judgePicture } from '../picture/judge.ts'
import { PLAIN_DOTS } from '../picture/steps.ts'
import { picture } from '../process/picture/picture.ts'
import { startTreatment } from '../proposals/proposals-treatment.ts'
import { greyPicture } from '../testing/sample-job.ts'
import { bestGamma, toneError } from './tuned-tones.ts'

const byId = <T extends { readonly id: string }>(list: readonly T[], id: string): T => list.find((each) => each.id === id)!
const birch = byId(MATERIALS, 'birch-ply-3')
const [bench] = MACHINES
const burningOn = (material: Material) => ({ material, machine: bench, burn: picture.fromRecipe(['dots'], material, bench) })
const response = (f: (tone: number) => number): Float64Array => Float64Array.from({ length: 41 }, (_, i) => f(i / 40))

describe('the best gamma', () => {
  it('is the exponent of a surface that answers with a power, either way round', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.6, max: 2.2, noNaN: true }), (k) => {
        // Dark by 1 − (1 − m)^k: lightness L^(1/γ) comes out as L^(k/γ).
        expect(
          bestGamma(
            response((m) => 1 - (1 - m) ** k),
            false,
          ),
        ).toBeCloseTo(k, 1)
        expect(
          bestGamma(
            response((m) => m ** k),
            true,
          ),
        ).toBeCloseTo(k, 1)
      }),
    )
  })

  it('is never worse than none', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 3, maxLength: 20 }),
        fc.boolean(),
        (list, way) => {
          const steps = Float64Array.from([0, ...list, 1]).sort()
          expect(toneError(steps, bestGamma(steps, way), way)).toBeLessThanOrEqual(toneError(steps, 1, way) + 1e-3)
        },
      ),
    )
  })
})

describe('the answer of a surface to tones', () => {
  it('shows the dot gain that was measured: half of all dots as dark as the wedge was', () => {
    const answer = toneResponse(burningOn(birch), PLAIN_DOTS).shares
    expect(answer[0]).toBe(0)
    expect(answer[12]).toBe(1)
    expect(Math.abs(answer[6] - 0.588)).toBeLessThan(0.02)
  })

  it('is straight where no gain was measured', () => {
    const layers = birch.layers.map((layer) => ({
      ...layer,
      curves: layer.curves?.filter(({ quantity }) => quantity !== 'gain'),
    }))
    const plain = { ...birch, layers }
    const answer = toneResponse(burningOn(plain), PLAIN_DOTS).shares
    for (let i = 0; i <= 12; i++) expect(Math.abs(answer[i] - i / 12)).toBeLessThan(0.012)
  })
})

describe('start values', () => {
  const photo = greyPicture(160, 120, (x, y) => 40 + ((x * 7 + y * 3) % 180))
  const startOn = (id: string) => {
    const material = byId(MATERIALS, id)
    return startTreatment(photo, judgePicture(photo), {
      material,
      machine: bench,
      burn: picture.fromRecipe(['dots'], material, bench),
    })
  }
  const gammaOn = (id: string): number => {
    const levels = startOn(id).treatment.steps.levels
    return levels.kind === 'levels' ? levels.gamma : Number.NaN
  }

  it('lighten the middle as much as dots are measured to gain, darken it where light is burned, and say so', () => {
    expect(gammaOn('birch-ply-3')).toBeCloseTo(1.2, 1)
    expect(gammaOn('float-glass-4')).toBeLessThan(0.95)
    expect(gammaOn('cast-acrylic-3')).toBe(1)
    expect(startOn('birch-ply-3').why.levels).toMatch(/half of all dots make a tone of 59 %: a gamma of 1\.2/)
  })

  it('bring the forecast nearer to the picture than no gamma does', () => {
    for (const id of ['birch-ply-3', 'grey-card-1', 'float-glass-4']) {
      const material = byId(MATERIALS, id)
      const inverted = 'invert' in startOn(id).treatment.steps
      const answer = toneResponse(burningOn(material), startOn(id).dots).shares
      expect(toneError(answer, gammaOn(id), inverted), id).toBeLessThan(0.5 * toneError(answer, 1, inverted))
    }
  })
})
