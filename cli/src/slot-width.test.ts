// How wide cuts are, seen by the camera at the head: against what the simulated material says of them.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { cameraFile, encodePng, middleOf, slotWidth } from '@neotaxis/core'
import { Bed, besideHead, Machine, type Thing, TRUTHS, Workpiece } from '@neotaxis/stand-ins'
import { describe, expect, it } from 'vitest'
import { BED, type Burn, known, type Point, SIZE, seenFrom } from './testing/head-camera.ts'
import { ran } from './testing/ran.ts'

/** A line of 20 mm cut into a piece at this speed, as the machine leaves it. @param deg its way */
async function cutAt(material: string, thickness: number, speed: number, power: number, deg: number) {
  const machine = new Machine(TRUTHS['bench-60'], new Bed(BED.x, BED.y, 0.05, 0.12))
  machine.surface = thickness
  machine.jog(0, 0, thickness, 10)
  while (machine.finishMove());
  const laid = { material, thickness, x0: 200, y0: 100, x1: 300, y1: 200 }
  const piece = new Workpiece(laid, machine.bed!, 0)
  const [ux, uy] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)]
  // Over walls and holes of the bed's honeycomb.
  const middle: Point = [244.013 + 0.71 * speed, 147.007 + 0.43 * speed]
  const end = (mm: number): string => `X${(middle[0] + ux * mm).toFixed(3)} Y${(middle[1] + uy * mm).toFixed(3)}`
  for (const line of ['G21', 'G90', `G0 ${end(-10)}`, 'M4', `G1 ${end(10)} F${speed * 60} S${1000 * power}`, 'M5', 'M2']) {
    while (!machine.hasRoom) machine.finishMove()
    machine.take(line)
  }
  while (machine.finishMove());
  const [x, y, cell, side] = [middle[0] - 6, middle[1] - 6, 0.03, 400]
  const seen = await piece.picture(x, y, side, side, cell, true)
  // The bed counts from its rear, this machine from its front.
  const burn: Burn = { x, y: BED.y - y - side * cell, cell, ...seen }
  const rings = [[laid.x0, BED.y - laid.y1, laid.x1, BED.y - laid.y1, laid.x1, BED.y - laid.y0, laid.x0, BED.y - laid.y0]]
  return {
    truth: piece.slot(...middle),
    through: piece.through(...middle),
    burn,
    at: [middle[0], BED.y - middle[1]] as Point,
    along: [ux, -uy] as Point,
    rings,
  }
}

describe('how wide a cut is, seen from near', () => {
  const optics = besideHead(BED, 2)
  const closed = known(optics)
  const { camera } = closed
  const [mx, my] = middleOf(camera)
  const cases = [
    ['birch-ply', 'ply', 3, 0.9, [4, 8, 12]],
    ['cast-acrylic', 'acrylic', 3, 0.9, [6, 10]],
  ] as const
  it.each(cases)(
    'in %s, within three hundredths of a millimetre, whichever way it goes',
    async (material, look, thickness, power, speeds) => {
      for (const speed of speeds)
        for (const deg of [0, 90]) {
          const cut = await cutAt(material, thickness, speed, power, deg)
          const piece: Thing = { rings: cut.rings, thicknessMm: thickness, look }
          const head: Point = [cut.at[0] - mx + 0.3, cut.at[1] - my - 0.2]
          const photo = seenFrom({ ...optics, highMm: optics.highMm + thickness }, head, [piece], 50 + speed, cut.burn)
          const seen = slotWidth(photo, camera, [cut.at[0] - head[0], cut.at[1] - head[1]], cut.along)
          console.info(`${material} at ${speed} mm/s: ${cut.truth.toFixed(3)}, seen ${seen?.widthMm.toFixed(3)} mm`)
          expect(cut.through).toBe(true)
          expect(Math.abs(seen!.widthMm - cut.truth)).toBeLessThan(0.03)
          expect(seen!.spreadMm).toBeLessThan(0.02)
        }
    },
  )

  it('is not told where nothing is cut, nor where more is gone than a slot', async () => {
    const cut = await cutAt('birch-ply', 3, 8, 0.9, 0)
    const piece: Thing = { rings: cut.rings, thicknessMm: 3, look: 'ply' }
    const head: Point = [cut.at[0] - mx, cut.at[1] - my]
    const high = { ...optics, highMm: optics.highMm + 3 }
    expect(slotWidth(seenFrom(high, head, [piece], 60), camera, [mx, my], cut.along)).toBeUndefined()
    // The part has fallen out: its edge, and the bed beside it.
    const half = [[200, 200, 300, 200, 300, cut.at[1], 200, cut.at[1]]]
    expect(slotWidth(seenFrom(high, head, [{ ...piece, rings: half }], 61), camera, [mx, my], cut.along)).toBeUndefined()
  })

  it('is told by the command line as well, and in one sentence where there is none', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'neotaxis-slot-'))
    try {
      const cut = await cutAt('cast-acrylic', 3, 6, 0.9, 90)
      const piece: Thing = { rings: cut.rings, thicknessMm: 3, look: 'acrylic' }
      const head: Point = [cut.at[0] - mx, cut.at[1] - my]
      const { rgba } = seenFrom({ ...optics, highMm: optics.highMm + 3 }, head, [piece], 70, cut.burn)
      const photo = join(folder, 'near.png')
      writeFileSync(photo, encodePng({ ...SIZE, channels: 4, samples: Uint8Array.from(rgba), full: 255 }))
      const file = join(folder, 'head.json')
      writeFileSync(file, cameraFile(closed))
      const at = (x: number): string => `--at=${x.toFixed(3)},${my.toFixed(3)}`
      const done = await ran('camera', 'slot', photo, '--calibration', file, at(mx), '--angle-deg', '90', '--json')
      expect(done.err).toBe('')
      expect(Math.abs(JSON.parse(done.out).widthMm - cut.truth)).toBeLessThan(0.03)
      expect((await ran('camera', 'slot', photo, '--calibration', file, at(mx + 4))).err).toContain('No slot is seen there')
      expect((await ran('camera', 'slot', photo, '--calibration', file)).err).toContain('say where the cut is seen')
    } finally {
      rmSync(folder, { recursive: true })
    }
  })
})
