import { readFile } from 'node:fs/promises'
import {
  burnOrder,
  type CutOperation,
  mainPiece,
  NO_TREATMENT,
  type PictureOperation,
  PLAIN_DOTS,
  prepareMarks,
  wholeFrame,
} from '@neotaxis/core'
import { expect, test } from '@playwright/test'
import { details, dimension, dropFile, saved, serverJob, settled, type } from './hands.ts'
import { discPicture } from './pictures.ts'
import { parseProgram, type Stretch } from './program.ts'

const SIDE = 600
const RADIUS = 240

test('a dropped picture becomes an ordered program, through every change, undo and reload', async ({ page }) => {
  const { png, samples } = discPicture(SIDE, RADIUS)
  await page.goto('/jobs')
  await dropFile(page, 'harbour-buoy.png', png)
  await expect(page.getByTestId('proposal-engrave')).toBeVisible({ timeout: 30_000 })
  await expect(page.getByTestId('proposal-cut-shape')).toBeVisible()
  await page.getByTestId('proposal-engrave-cut-around').click()
  await page.waitForURL(/compose/)
  await settled(page)
  const blocks = page.locator('[data-run-line] [role=listitem]')
  await expect(blocks).toHaveCount(2)
  await expect(blocks.nth(0)).toContainText('Picture')

  // Distance and threshold of the cut: the outline follows.
  await page.getByTestId('block-cut').click()
  await type(page, 'Distance', '5')
  await type(page, 'Threshold', '50')
  await settled(page)
  // Inches are understood, the ratio is kept; the width of the cut is the disc's and twice the distance.
  await type(page, 'Width', '4in')
  await settled(page)
  await expect(page.getByTestId('dim-width')).toContainText('101.6')
  await dimension(page, 'Margin left', '20')
  await dimension(page, 'Margin top', '30/2')
  await settled(page)
  await expect(page.getByTestId('dim-margin-left')).toContainText('20.0')
  await expect(page.getByTestId('dim-margin-top')).toContainText('15.0')
  await type(page, 'Power', '70')
  await type(page, 'Passes', '2')

  // Order: by keyboard to the front, which raises a finding, and its fix puts it back.
  await page.getByTestId('block-cut').focus()
  await page.keyboard.press('Alt+ArrowLeft')
  await expect(blocks.nth(0)).toContainText('Cut')
  await settled(page)
  await expect(page.getByTestId('finding-cut-first')).toBeVisible()
  await page.getByTestId('finding-cut-first').getByRole('button', { name: 'Cut after engraving' }).click()
  await expect(blocks.nth(1)).toContainText('Cut')
  // And by dragging the block.
  const from = (await page.getByTestId('block-cut').boundingBox())!
  const to = (await page.getByTestId('block-engrave').boundingBox())!
  await page.mouse.move(from.x + from.width / 2, from.y + 20)
  await page.mouse.down()
  await page.mouse.move(from.x - 60, from.y + 22, { steps: 6 })
  await page.mouse.move(to.x + 20, to.y + 22, { steps: 12 })
  // A hand lets go when it sees the other block make room.
  await expect.poll(async () => (await page.getByTestId('block-engrave').boundingBox())!.x).toBeGreaterThan(to.x + 20)
  await page.mouse.up()
  await expect(blocks.nth(0)).toContainText('Cut')
  await saved(page)
  expect(burnOrder((await serverJob(page)).document)).toEqual(['cut', 'engrave'])

  // All the way back and forth again, also after a reload.
  const before = (await serverJob(page)).document
  await page.reload()
  await settled(page)
  for (let i = 0; i < 12 && (await page.getByTestId('undo').isEnabled()); i++) await page.getByTestId('undo').click()
  await saved(page)
  const start = (await serverJob(page)).document
  expect(burnOrder(start)).toEqual(['engrave', 'cut'])
  expect(start.nodes.around).toMatchObject({ distanceMm: 3 })
  expect(start.operations.cut).toMatchObject({ power: 0.68, passes: 1 })
  await page.reload()
  await settled(page)
  for (let i = 0; i < 12 && (await page.getByTestId('redo').isEnabled()); i++) await page.getByTestId('redo').click()
  await saved(page)
  expect((await serverJob(page)).document).toEqual(before)
  await page.getByTestId('undo').click()
  await expect(blocks.nth(1)).toContainText('Cut')
  await settled(page)

  // The program, read by a parser that knows nothing of ours.
  const wait = page.waitForEvent('download')
  await page.getByTestId('save-program').click()
  const program = parseProgram(await readFile((await (await wait).path())!, 'utf8'))
  await saved(page)
  const { document: job } = await serverJob(page)
  const cut = program.filter(({ operation, s }) => operation === 'cut' && s > 0)
  const scale = job.placements.source.widthMm / SIDE
  const { pose: onBed } = mainPiece(job)
  const centre = {
    x: onBed.xMm + job.placements.source.xMm + (SIDE / 2) * scale,
    y: job.machine.axes.y.travelMm - (onBed.yMm + job.placements.source.yMm + (SIDE / 2) * scale),
  }
  const kerf = (job.operations.cut as CutOperation).kerfMm
  const radius = RADIUS * scale + 5 + kerf / 2
  for (const { x1, y1 } of cut) expect(Math.abs(Math.hypot(x1 - centre.x, y1 - centre.y) - radius)).toBeLessThan(0.05)
  const around = cut.reduce((sum, { x0, y0, x1, y1 }) => sum + Math.hypot(x1 - x0, y1 - y0), 0)
  expect(around / (2 * Math.PI * radius)).toBeCloseTo(2, 2)
  expect(new Set(cut.map(({ s }) => s))).toEqual(new Set([700]))
  // Left margin of the part: what was typed.
  expect(Math.min(...cut.map(({ x1 }) => x1)) - onBed.xMm).toBeCloseTo(20 - kerf / 2, 1)

  const pitch = (job.operations.engrave as PictureOperation).intervalMm
  const columns = Math.round(job.placements.source.widthMm / pitch)
  const rows = Math.round(job.placements.source.heightMm / pitch)
  const wanted = prepareMarks(
    wholeFrame({ widthPx: SIDE, heightPx: SIDE, samples, full: 255 }),
    NO_TREATMENT,
    PLAIN_DOTS,
    columns,
    rows,
    { pitchMm: pitch },
  )
  const burned = burnedDots(
    program.filter(({ operation }) => operation === 'engrave'),
    {
      x: onBed.xMm + job.placements.source.xMm + (job.placements.source.widthMm - columns * pitch) / 2,
      y:
        job.machine.axes.y.travelMm -
        (onBed.yMm + job.placements.source.yMm + (job.placements.source.heightMm - rows * pitch) / 2),
      pitch,
      columns,
      rows,
    },
  )
  expect(Buffer.compare(Buffer.from(burned), Buffer.from(wanted.levels))).toBe(0)

  // The job as a file, opened again.
  const file = page.waitForEvent('download')
  await page.getByTestId('save-job').click()
  const bytes = await readFile((await (await file).path())!)
  await page.goto('/jobs')
  await dropFile(page, 'again.neotaxis', bytes, 'application/zip')
  await page.waitForURL(/compose/)
  await settled(page)
  expect((await serverJob(page)).document).toEqual(job)
  await expect(details(page)).toContainText('The whole job')
})

/** Which dots of a grid the stretches burn: 255 where the beam was on over the middle of the dot. */
function burnedDots(
  stretches: readonly Stretch[],
  grid: { x: number; y: number; pitch: number; columns: number; rows: number },
): Uint8Array {
  const dots = new Uint8Array(grid.columns * grid.rows)
  for (const { x0, y0, x1, s } of stretches) {
    if (s === 0) continue
    const row = Math.round((grid.y - y0) / grid.pitch - 0.5)
    const left = Math.round((Math.min(x0, x1) - grid.x) / grid.pitch)
    const right = Math.round((Math.max(x0, x1) - grid.x) / grid.pitch)
    dots.fill(255, row * grid.columns + left, row * grid.columns + right)
  }
  return dots
}
