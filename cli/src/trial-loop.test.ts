// From an unknown material to a job whose forecast and burn agree: cards burned on the simulated machine, read, and believed.

import type { AddressInfo } from 'node:net'
import {
  assetsSupply,
  BED_BOARD,
  boardDots,
  boardSpots,
  burnTone,
  calibrated,
  cardView,
  cellsOf,
  checkFindings,
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
  propose,
  readingTroubles,
  rectified,
  type TrialCard,
  tonesOfCard,
  trialCard,
  waysTo,
  withOperation,
  withReadings,
} from '@neotaxis/core'
import { squarePicture, supplyWith } from '@neotaxis/core/testing/sample-job'
import { readPhoto } from '@neotaxis/intake'
import { Bed, BedCamera, hungOver, type Laid, Machine, plateWithDots, servePanel, TRUTHS, Workpiece } from '@neotaxis/stand-ins'
import { describe, expect, it } from 'vitest'
import { atPanel } from './testing/at-panel.ts'
import { programOf } from './testing/on-machine.ts'

const BED = { x: 600, y: 400 }
const CELL = 0.02
const machine = MACHINES[0]
const stuff = (id: string): Material => MATERIALS.find((each) => each.id === id)!
/** As it comes into the shop: nothing was measured on it. */
const unknown = (id: string): Material => {
  const material = stuff(id)
  return { ...material, recipes: [], layers: material.layers.map(({ curves: _, ...layer }) => layer) }
}

/** A machine that keeps what it burns. */
const fresh = (unevenness: number, cell = CELL): Machine =>
  new Machine({ ...TRUTHS['bench-60'], unevenness }, new Bed(BED.x, BED.y, cell, 0.12))

/** Where the card lies, machine mm, and what it is. */
function laidOf(job: JobDocument, material: string): Laid {
  const { pose, thicknessMm, outline } = mainPiece(job)
  if (outline.kind !== 'rect') throw new Error('A card is a rectangle.')
  const y1 = BED.y - pose.yMm
  return { material, thickness: thicknessMm, x0: pose.xMm, y0: y1 - outline.heightMm, x1: pose.xMm + outline.widthMm, y1 }
}

/** A program driven on a machine, and what the piece really is then. */
function burnedText(text: string, laid: Laid, real: Machine): Workpiece {
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

/** The same for a card. */
const burned = ({ job, assets }: TrialCard, hidden: string, real: Machine): Workpiece => {
  const { text } = programOf(
    job,
    assetsSupply((name) => assets.get(name)),
  )
  return burnedText(text, laidOf(job, hidden), real)
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
      const { tones: read, contrast } = tonesOfCard(made.job, light.samples, expected, view)
      const really = gauged(made.job, piece, 'tone')
      const off = cellsOf(made.job.trial!).map((cell) => Math.abs(read.get(cell)! - really.trial!.readings![cell].tone![0]))
      expect(off).toHaveLength(25)
      // Where it is dark already it turns no darker: that is no mistake of whoever read it.
      expect(readingTroubles(really, 'tone')).toEqual([])
      expect(Math.max(...off)).toBeLessThan(0.03)
      // A material that turns lighter where it is burned is read as well.
      const { tones: lighter } = tonesOfCard(
        made.job,
        Array.from(light.samples, (v) => 400 - v),
        expected,
        view,
      )
      for (const cell of cellsOf(made.job.trial!)) expect(Math.abs(lighter.get(cell)! - read.get(cell)!)).toBeLessThan(0.08)
      // What a run burned on the same material later is told by the contrast that the card had: here one of its own cells.
      const inside = new Uint8Array(expected.length).fill(1)
      for (const cell of ['cell-2-3', 'cell-4-5', 'cell-5-1']) {
        const { xMm, yMm, widthMm, heightMm } = made.job.placements[cell]
        const own = expected.map((v, i) => {
          const [x, y] = [view.x + ((i % view.widthPx) + 0.5) / 4, view.y + (Math.floor(i / view.widthPx) + 0.5) / 4]
          const [u, w] = [x - pose.xMm - xMm, y - pose.yMm - yMm]
          return u > 1 && w > 1 && u < widthMm - 1 && w < heightMm - 1 ? v : 0
        })
        const maps = { light: light.samples, own, all: expected, inside }
        const { seen } = burnTone(maps, view.widthPx, view.heightPx, 0.25, contrast, { dxMm: 0, dyMm: 0 })!
        expect(Math.abs(seen - really.trial!.readings![cell].tone![0]), cell).toBeLessThan(0.04)
      }
      // With nothing there it says so.
      await atPanel(panel, { do: 'lift' })
      const empty = lightOf({ ...view, rgba: rectified(await photo(), known, view, material.thicknessMm) })
      expect(() => tonesOfCard(made.job, empty.samples, expected, view)).toThrow('not seen in the photo')
    } finally {
      outside.close()
    }
  }, 120_000)
})

describe('a depth that is asked for', () => {
  it('is reached within 5 %, each way, after one card on a material of which nothing was known', () => {
    const made = card(unknown('lime-wood-12'), PLACES[0], [0.2, 0.9], [250, 160, 100, 60, 40])
    const read = gauged(made.job, burned(made, 'lime-wood', fresh(0.01)), 'depth')
    const curve = curveOfTrial(read, 'depth', 'first', '2026-11-29')
    const wood = unknown('lime-wood-12')
    const known: Material = { ...wood, layers: [{ ...wood.layers[0], curves: [curve] }] }
    const filled = trialCard(
      {
        process: 'area',
        across: { setting: 'power', values: [0.5] },
        settings: { intervalMm: 0.12, speedMmS: 150 } as never,
        cellMm: 14,
      },
      { workpiece: { widthMm: 90, heightMm: 60, thicknessMm: 12 }, material: known, machine },
    )
    const asked = waysTo(filled.job, 'cell-1-1', { kind: 'depth', mm: 1.4 })
    if ('not' in asked) throw new Error(asked.not)
    expect(asked.ways.map(({ id }) => id)).toEqual(['quickest', 'speed-stays', 'power-stays', 'gentle'])
    for (const { id, change, off } of asked.ways) {
      const job = withOperation(filled.job, 'cell-1-1', change)
      const deep = gauged(job, burned({ ...filled, job }, 'lime-wood', fresh(0.01)), 'depth').trial!.readings!['cell-1-1']
        .depth![0]
      expect(Math.abs(deep / 1.4 - 1), `${id} ${deep}`).toBeLessThan(0.05)
      expect(off).toBeLessThan(0.1)
    }
  }, 180_000)
})

describe('a coating that is lifted', () => {
  it('is gone where it should be, and what lies below is harmed nowhere', () => {
    const material = stuff('tin-lid-03')
    const picture = squarePicture(60, 20)
    const supply = supplyWith(picture)
    const { widthPx, heightPx } = picture
    const found = propose(
      { name: 'tide.png', asset: 'a'.repeat(64), widthPx, heightPx, hasAlpha: false },
      picture,
      { material, machine, workpiece: { widthMm: 70, heightMm: 70, thicknessMm: 0.3 }, size: { widthMm: 24 } },
      supply,
    ).find(({ id }) => id === 'lift-coating')!
    expect(checkFindings(found.job, supply).filter(({ severity }) => severity !== 'note')).toEqual([])
    const { text } = programOf(found.job, supply)
    const real = fresh(0, 0.02)
    const piece = burnedText(text, laidOf(found.job, 'tin-lid'), real)
    const { xMm, yMm, widthMm, heightMm } = found.job.placements.source
    const { pose } = mainPiece(found.job)
    const at = (u: number, v: number): [number, number] => [pose.xMm + xMm + u * widthMm, BED.y - pose.yMm - yMm - v * heightMm]
    // All of it is light, to the edge of the square.
    expect(piece.over('tone', ...at(0.5, 0.5), 6)).toBeGreaterThan(0.99)
    let harmed = 0
    for (let v = 0.1; v < 0.9; v += 0.004) for (let u = 0.1; u < 0.9; u += 0.004) if (piece.harmed(...at(u, v))) harmed++
    expect(harmed).toBe(0)
    // With half as much more it would be.
    const strong = withOperation(found.job, 'lift', { power: Math.min(1, 2.2 * found.job.operations.lift.power) })
    expect(checkFindings(strong, supply).map(({ kind }) => kind)).toContain('harmed')
    const bad = burnedText(programOf(strong, supply).text, laidOf(strong, 'tin-lid'), fresh(0))
    expect(bad.harmed(...at(0.5, 0.5))).toBe(true)
  }, 120_000)
})
