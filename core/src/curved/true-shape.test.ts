import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type TrueShape, trueOnArch, trueOnCone } from './true-shape.ts'

const length = (min: number, max: number) => fc.double({ min, max, noNaN: true })

/** How far two places of a strip lie apart on the cone itself, for places near to each other. */
function apartOnCone(
  cone: { leftMm: number; rightMm: number; sideMm: number },
  a: readonly number[],
  b: readonly number[],
): number {
  const { leftMm, rightMm, sideMm } = cone
  const diameter = leftMm + ((rightMm - leftMm) * (a[0] + b[0])) / 2 / sideMm
  return Math.hypot(b[0] - a[0], ((b[1] - a[1]) * diameter) / Math.max(leftMm, rightMm))
}

describe('artwork that is true to a taper', () => {
  it('comes back where it was within 1 µm, and is as long there as it is, in every way, whichever end is wider', () => {
    fc.assert(
      fc.property(
        length(20, 120),
        length(20, 120),
        length(70, 250),
        length(0.05, 0.95),
        length(-30, 30),
        length(-40, 40),
        (leftMm, rightMm, sideMm, share, dx, dy) => {
          const cone = { leftMm, rightMm, sideMm }
          const middle = [share * sideMm, 100] as const
          const shape = trueOnCone(cone, middle) as TrueShape
          const at = [middle[0] + Math.max(-0.9 * middle[0], dx), middle[1] + dy] as const
          const [x, y] = shape.onto(...at)
          const back = shape.back(x, y)
          expect(Math.hypot(back[0] - at[0], back[1] - at[1])).toBeLessThan(0.001)
          const h = 1e-3
          for (const [ux, uy] of [
            [h, 0],
            [0, h],
            [h, h],
          ])
            expect(apartOnCone(cone, [x, y], shape.onto(at[0] + ux, at[1] + uy))).toBeCloseTo(Math.hypot(ux, uy), 5)
        },
      ),
    )
  })

  it('is laid on the sector as in the worked example: Ø 60 to 80 mm, 100 mm along the side, a ring of 300 to 400 mm', () => {
    // Middle half way, 350 mm from the tip. 50 mm across it: atan(50 / 350) of the sector's 36° is a turn of 81.3°, at √(350² + 50²).
    const { onto } = trueOnCone({ leftMm: 60, rightMm: 80, sideMm: 100 }, [50, 0]) as TrueShape
    const [x, y] = onto(50, 50)
    expect(x).toBeCloseTo(Math.hypot(350, 50) - 300, 9)
    expect(((y / 40) * 180) / Math.PI).toBeCloseTo((Math.atan(50 / 350) * 180 * 10) / Math.PI, 6)
    // The middle of a wall that does not rise is only as much longer as the widest place is counted.
    expect(trueOnCone({ leftMm: 60, rightMm: 60, sideMm: 100 }, [50, 0])?.onto(70, 20)).toEqual([70, 20])
    expect(trueOnCone({ leftMm: 0, rightMm: 60, sideMm: 100 }, [-5, 0])).toBeUndefined()
  })
})

describe('artwork that is true to a curved face', () => {
  it('is narrower beside the crown as it is seen from above, as long on the face as it is, and comes back', () => {
    fc.assert(
      fc.property(length(30, 400), length(-0.5, 0.5), length(-0.3, 0.3), fc.boolean(), (radiusMm, beside, share, isX) => {
        const crownMm = 100
        const arc = (mm: number): number => radiusMm * Math.asin((mm - crownMm) / radiusMm)
        const middle = crownMm + beside * radiusMm
        const shape = trueOnArch({ radiusMm, crownMm, across: isX ? 'x' : 'y' }, isX ? [middle, 7] : [7, middle])
        const to = middle + share * radiusMm
        const seen = shape.onto(isX ? to : 3, isX ? 3 : to)
        expect(arc(seen[isX ? 0 : 1]) - arc(middle)).toBeCloseTo(to - middle, 6)
        expect(seen[isX ? 1 : 0]).toBe(3)
        expect(shape.back(...seen)[isX ? 0 : 1]).toBeCloseTo(to, 6)
      }),
    )
  })
})
