// From an unknown material to a job whose forecast and burn agree: cards burned on the simulated machine, read, and believed.

import type { AddressInfo } from 'node:net'
import {
  assetsSupply,
  BED_BOARD,
  boardDots,
  boardSpots,
  calibrated,
  cardView,
  cellsOf,
  curveOfTrial,
  evenSteps,
  fitCurve,
  type JobDocument,
  lightOf,
  MACHINES,
  MATERIALS,
  type Material,
  mainPiece,
  photoOf,
  rectified,
  type TrialCard,
  tonesOfCard,
  trialCard,
  withReadings,
} from '@neotaxis/core'
import { readPhoto } from '@neotaxis/intake'
import { Bed, BedCamera, hungOver, type Laid, Machine, plateWithDots, servePanel, TRUTHS, Workpiece } from '@neotaxis/stand-ins'
import { describe, expect, it } from 'vitest'
import { atPanel } from './testing/at-panel.ts'
import { programOf } from './testing/on-machine.ts'

const BED = { x: 600, y: 400 }
const CELL = 0.05
const machine = MACHINES[0]
const stuff = (id: string): Material => MATERIALS.find((each) => each.id === id)!
/** As it comes into the shop: nothing was measured on it. */
const unknown = (id: string): Material => {
  const material = stuff(id)
  return { ...material, recipes: [], layers: material.layers.map(({ curves: _, ...layer }) => layer) }
}

/** A machine that keeps what it burns. */
const fresh = (unevenness: number): Machine =>
  new Machine({ ...TRUTHS['bench-60'], unevenness }, new Bed(BED.x, BED.y, CELL, 0.12))

/** Where the card lies, machine mm, and what it is. */
function laidOf(job: JobDocument, material: string): Laid {
  const { pose, thicknessMm, outline } = mainPiece(job)
  if (outline.kind !== 'rect') throw new Error('A card is a rectangle.')
  const y1 = BED.y - pose.yMm
  return { material, thickness: thicknessMm, x0: pose.xMm, y0: y1 - outline.heightMm, x1: pose.xMm + outline.widthMm, y1 }
}

/** A card burned on a machine, and what it really is then. */
function burned({ job, assets }: TrialCard, hidden: string, real: Machine): Workpiece {
  const { text } = programOf(
    job,
    assetsSupply((name) => assets.get(name)),
  )
  const laid = laidOf(job, hidden)
  real.surface = laid.thickness
  real.jog(0, 0, laid.thickness, 10)
  while (real.finishMove());
  for (const line of text.split('\n')) {
    while (!real.hasRoom) real.finishMove()
    real.take(line)
  }
  while (real.finishMove());
  expect(real.counts.alarms).toBe(0)
  return new Workpiece(laid, real.bed!, real.truth.unevenness)
}

/** A job with what a gauge reads on each cell of what was burned. */
function gauged(job: JobDocument, piece: Workpiece, quantity: 'depth' | 'tone'): JobDocument {
  const { pose } = mainPiece(job)
  return cellsOf(job.trial!).reduce((sum, cell) => {
    const { xMm, yMm, widthMm, heightMm } = job.placements[cell]
    const value = piece.over(quantity, pose.xMm + xMm + widthMm / 2, BED.y - pose.yMm - yMm - heightMm / 2, 5)
    return withReadings(sum, cell, { [quantity]: [value] })
  }, job)
}

const card = (
  material: Material,
  at: { x: number; y: number },
  power: readonly [number, number],
  speeds: readonly number[],
): TrialCard => {
  const made = trialCard(
    {
      process: 'area',
      across: { setting: 'power', values: evenSteps(...power, 5) },
      down: { setting: 'speedMmS', values: speeds },
      settings: { intervalMm: 0.12 } as never,
    },
    { workpiece: { widthMm: 90, heightMm: 90, thicknessMm: material.thicknessMm }, material, machine },
  )
  const [id] = Object.keys(made.job.workpieces)
  const piece = made.job.workpieces[id]
  return { ...made, job: { ...made.job, workpieces: { [id]: { ...piece, pose: { ...piece.pose, xMm: at.x, yMm: at.y } } } } }
}

const PLACES = [
  { x: 20, y: 20 },
  { x: 230, y: 110 },
  { x: 430, y: 260 },
]

describe('what is hidden in a material', () => {
  const wood = unknown('lime-wood-12')
  /** What it really answers, as nobody here was told: from the stand-in itself. */
  const truth = (dose: number): number => Math.max(0, (dose - 0.15) * 0.52)
  const curveOf = (cards: number) => {
    const curves = PLACES.slice(0, cards).map((at) => {
      const made = card(wood, at, [0.2, 0.9], [250, 160, 100, 60, 40])
      const piece = burned(made, 'lime-wood', fresh(0.015))
      return curveOfTrial(gauged(made.job, piece, 'depth'), 'depth', 'c', '2026-11-29')
    })
    return fitCurve({ points: curves.flatMap(({ points }) => points), scattered: true })
  }
  const worst = (cards: number): number => {
    const fit = curveOf(cards)
    const rise = truth(fit.to)
    let most = 0
    for (let i = 0; i <= 40; i++) {
      const dose = fit.from + ((fit.to - fit.from) * i) / 40
      most = Math.max(most, Math.abs(fit.at(dose) - truth(dose)) / rise)
    }
    return most
  }

  it('is found within 5 % of its whole rise from one card, within 2 % from three', () => {
    expect(worst(1)).toBeLessThan(0.05)
    expect(worst(3)).toBeLessThan(0.02)
  }, 180_000)
})

describe('a card read from a photo', () => {
  it('gives the tones that it has, within 3 %, whatever the light is', async () => {
    const material = unknown('grey-card-1')
    const made = card(material, { x: 200, y: 120 }, [0.05, 0.3], [400, 300, 200, 150, 100])
    const real = fresh(0)
    const outside = await servePanel(real, 0)
    try {
      const panel = (outside.address() as AddressInfo).port
      const optics = hungOver(BED, 'moderate', 4)
      const camera = new BedCamera(optics, 4, { panel, deepMm: BED.y, fromFront: true })
      const photo = async () => photoOf(await readPhoto(await camera.photo(2592)))
      const views = []
      for (const heightMm of [0.2, 15]) {
        camera.lay([plateWithDots({ widthMm: BED.x, heightMm: BED.y, thicknessMm: heightMm }, [30, 20], boardDots(BED_BOARD))])
        const marks = boardSpots(lightOf(await photo()), BED_BOARD)
        views.push({ heightMm, spots: marks.map((mark) => ({ ...mark, x: mark.x + 30, y: mark.y + 20 })) })
      }
      const { camera: known } = calibrated({ widthPx: 2592, heightPx: 1944 }, views)
      camera.lay([])
      await atPanel(panel, { do: 'lay', laid: laidOf(made.job, 'grey-card') })
      const piece = burned(made, 'grey-card', real)
      const view = cardView(made.job, 4)
      const expected = new Uint8Array(view.widthPx * view.heightPx)
      const { pose } = mainPiece(made.job)
      for (const id of [...cellsOf(made.job.trial!), 'full']) {
        const { xMm, yMm, widthMm, heightMm } = made.job.placements[id]
        for (let y = pose.yMm + yMm; y < pose.yMm + yMm + heightMm; y += 0.2)
          for (let x = pose.xMm + xMm; x < pose.xMm + xMm + widthMm; x += 0.2)
            expected[Math.floor((y - view.y) * 4) * view.widthPx + Math.floor((x - view.x) * 4)] = 255
      }
      const light = lightOf({ ...view, rgba: rectified(await photo(), known, view, material.thicknessMm) })
      const read = tonesOfCard(made.job, light.samples, expected, view)
      const really = gauged(made.job, piece, 'tone')
      const off = cellsOf(made.job.trial!).map((cell) => Math.abs(read.get(cell)! - really.trial!.readings![cell].tone![0]))
      expect(off).toHaveLength(25)
      expect(Math.max(...off)).toBeLessThan(0.03)
      // With nothing there it says so.
      await atPanel(panel, { do: 'lift' })
      const empty = lightOf({ ...view, rgba: rectified(await photo(), known, view, material.thicknessMm) })
      expect(() => tonesOfCard(made.job, empty.samples, expected, view)).toThrow('not seen in the photo')
    } finally {
      outside.close()
    }
  }, 120_000)
})
