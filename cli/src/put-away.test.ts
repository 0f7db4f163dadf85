// What was put under the simulated camera, and what the machine below it has: two things never lie at one place.
import type { AddressInfo } from 'node:net'
import { lightOf, photoOf } from '@neotaxis/core'
import { readPhoto } from '@neotaxis/intake'
import { Bed, BedCamera, hungOver, Machine, servePanel, TRUTHS } from '@neotaxis/stand-ins'
import { expect, it } from 'vitest'
import { atPanel } from './testing/at-panel.ts'

it('a thing under the camera is gone while the machine has something of another thickness there, and back afterwards', async () => {
  const machine = new Machine(TRUTHS['bench-60'], new Bed(600, 400, 0.2, 0.12))
  const outside = await servePanel(machine, 0)
  const panel = (outside.address() as AddressInfo).port
  const camera = new BedCamera(hungOver({ x: 600, y: 400 }, 'moderate', 3), 3, { panel, deepMm: 400, fromFront: true })
  /** How light the middle of the bed is, 0–255. */
  const middle = async (): Promise<number> => {
    const { samples, widthPx, heightPx } = lightOf(photoOf(await readPhoto(await camera.photo(640))))
    return samples[Math.round(heightPx / 2) * widthPx + Math.round(widthPx / 2)]
  }
  try {
    camera.lay([{ rings: [[200, 120, 400, 120, 400, 280, 200, 280]], thicknessMm: 12, look: 'slate' }])
    const slate = await middle()
    const laid = { material: 'grey-card', thickness: 1, x0: 260, y0: 170, x1: 340, y1: 230 }
    await atPanel(panel, { do: 'lay', laid })
    const card = await middle()
    expect(card).toBeGreaterThan(slate + 60)
    // As thick as it: it is the same thing, as the machine was told of it.
    await atPanel(panel, { do: 'lay', laid: { ...laid, thickness: 12, x0: 500, x1: 560 } })
    expect(Math.abs((await middle()) - slate)).toBeLessThan(30)
    await atPanel(panel, { do: 'lift' })
    expect(Math.abs((await middle()) - slate)).toBeLessThan(30)
  } finally {
    outside.close()
  }
})
