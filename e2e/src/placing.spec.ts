// Artwork is put to places: by the small workpiece, by snaps, in even gaps, as large as it goes, and with a line of it level.
import { expect, type Page, test } from '@playwright/test'
import { details, dropFile, saved, serverJob, settled } from './hands.ts'
import { discPicture, wavesPicture } from './pictures.ts'

const rests = async (page: Page): Promise<void> => {
  await settled(page)
  await saved(page)
}
const placements = async (page: Page) => Object.values((await serverJob(page)).document.placements)

test('artwork goes to corners, into line and even gaps, snaps in the hand, grows as large as it can, and lies level', async ({
  page,
}) => {
  await page.goto('/jobs')
  await dropFile(page, 'tide-plate.png', discPicture(200, 60).png)
  await page.getByTestId('proposal-cut-shape').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.locator('[data-testid^=block-]').first().click()
  await settled(page)
  const width = details(page).getByRole('textbox', { name: 'Width', exact: true })
  await width.fill('30')
  await width.press('Enter')
  await rests(page)

  // Into a corner, as far from both edges as is wanted.
  await page.getByTestId('put-bottom-right').click()
  await rests(page)
  await expect(page.getByTestId('dim-margin-right')).toContainText('5.0')
  await expect(page.getByTestId('dim-margin-bottom')).toContainText('5.0')
  await page.getByTestId('put-centre').click()
  await rests(page)
  await expect(page.getByTestId('dim-margin-left')).toContainText('135.0')

  // Two more of it; by the hand it comes to the middle of the first exactly, and says so.
  await page.getByTestId('stage').focus()
  await page.keyboard.press('Control+d')
  await expect(page.getByTestId('dim-margin-left')).toContainText('140.0')
  await rests(page)
  const grip = async (id: string) => (await page.locator(`[data-handle="${id}"]`).boundingBox())!
  const middle = async () => {
    const [a, b] = [await grip('-1,-1'), await grip('1,1')]
    return { x: (a.x + b.x + b.width) / 2, y: (a.y + b.y + b.height) / 2 }
  }
  const from = await middle()
  const perMm = ((await grip('1,1')).x - (await grip('-1,-1')).x) / 30
  await page.mouse.move(from.x + 4, from.y + 4)
  await page.mouse.down()
  await page.mouse.move(from.x + 100, from.y + 20, { steps: 6 })
  // Five millimetres down and right of the first: a little off its line.
  await page.mouse.move(from.x + 4 + 70 * perMm, from.y + 4 - 5 * perMm + 2, { steps: 6 })
  await expect(page.getByTestId('snaps')).toBeAttached()
  await page.mouse.up()
  await rests(page)
  const [first, second] = await placements(page)
  expect(second.yMm).toBe(first.yMm)
  expect(second.xMm - first.xMm).toBeGreaterThan(60)
  await page.keyboard.press('Control+d')
  await rests(page)

  // Three in a row, with gaps alike.
  await page.keyboard.press('Control+a')
  await rests(page)
  await page.getByTestId('put-top').click()
  await rests(page)
  await page.getByTestId('gaps-across').click()
  await rests(page)
  const three = await placements(page)
  expect(new Set(three.map(({ yMm }) => yMm)).size).toBe(1)
  const xs = three.map(({ xMm }) => xMm).sort((a, b) => a - b)
  expect(Math.abs(xs[2] - 2 * xs[1] + xs[0])).toBeLessThan(0.003)
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await rests(page)

  // Laid out by their outlines: apart, and within the margin.
  await page.getByTestId('lay-out').click()
  await expect(page.getByText(/Laid out: \d+ % of the workpiece is used/)).toBeVisible({ timeout: 30_000 })
  await rests(page)
  // Discs of 30 mm in the middle of their pictures.
  const out = (await placements(page)).map(({ xMm, yMm, widthMm, heightMm }) => [xMm + widthMm / 2, yMm + heightMm / 2])
  for (const [i, [x, y]] of out.entries()) {
    expect(Math.min(x, y)).toBeGreaterThan(19.9)
    for (const [u, v] of out.slice(0, i)) expect(Math.hypot(x - u, y - v)).toBeGreaterThan(31.9)
  }
  await page.keyboard.press('Control+z')
  await rests(page)

  // As large as it goes: a disc's cut takes the height, less the margin on both sides.
  await page.keyboard.press('Escape')
  await page.locator('[data-testid^=block-]').first().click()
  await settled(page)
  await page.getByTestId('as-large').click()
  await expect(page.getByTestId('dim-margin-top')).toContainText('5.0', { timeout: 20_000 })
  await rests(page)
  await expect(page.getByTestId('dim-margin-bottom')).toContainText('5.0')
})

test('a line of the artwork is made level by two points', async ({ page }) => {
  await page.goto('/jobs')
  await dropFile(page, 'wave-board.png', wavesPicture(300, 200))
  await page.getByTestId('proposal-cut-shape').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.locator('[data-testid^=block-]').first().click()
  await settled(page)
  const at = (await page.getByTestId('stage').boundingBox())!
  const [cx, cy] = [at.x + at.width / 2, at.y + at.height / 2 - 30]
  await page.getByTestId('make-level').click()
  await page.mouse.move(cx - 60, cy - 10)
  await page.mouse.down()
  await page.mouse.move(cx + 60, cy + 11.2, { steps: 5 })
  await page.mouse.up()
  await rests(page)
  const [place] = await placements(page)
  expect(place.deg).toBeCloseTo((-Math.atan2(21.2, 120) * 180) / Math.PI, 0)
  // It was for once: the next press is a press again.
  await page.mouse.click(at.x + 20, at.y + at.height - 60)
  await expect(page.getByTestId('put-centre')).toBeHidden()
})

test('a jig for the workpiece begins a job of its own', async ({ page }) => {
  await page.goto('/jobs')
  await dropFile(page, 'slate.png', discPicture(200, 60).png)
  await page.getByTestId('proposal-cut-shape').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  const first = page.url()
  await page.getByTestId('workpiece-chip').click()
  await page.getByTestId('jig').click()
  await page.getByTestId('make-jig').click()
  await page.waitForURL((url) => /compose/.test(url.pathname) && url.toString() !== first, { timeout: 30_000 })
  await rests(page)
  const { document } = await serverJob(page)
  expect(document.name).toContain('jig for slate')
  const [place] = Object.values(document.placements)
  // The workpiece of 300 mm, its room, and the frame on both sides.
  expect(place.widthMm).toBeCloseTo(340.6, 0)
  expect(Object.values(document.materials).map(({ name }) => name)).toEqual(['Grey card'])
})

test('a rectangle with round corners is cut around a picture, of a size, and moves along with it', async ({ page }) => {
  await page.goto('/jobs')
  await dropFile(page, 'name-plate.png', discPicture(200, 60).png)
  await page.getByTestId('proposal-engrave').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.getByTestId('cut-around').click()
  const sheet = page.getByTestId('around')
  await sheet.getByTestId('around-shape').getByRole('combobox').click()
  await page.getByRole('option', { name: 'a rectangle with round corners' }).click()
  const width = sheet.getByRole('textbox', { name: 'Width' })
  await width.fill('90')
  await width.press('Enter')
  await sheet.getByTestId('around-it').click()
  await expect(sheet).toBeHidden({ timeout: 30_000 })
  await rests(page)
  const { document } = await serverJob(page)
  const operations = Object.values(document.operations)
  expect(operations.map(({ process }) => process).sort()).toEqual(['cut', 'picture'])
  const [picture, edge] = ['source', 'drawing'].map((kind) => {
    const [id] = Object.entries(document.nodes).find(([, node]) => node.kind === kind)!
    return Object.values(document.placements).find(({ of }) => of === id)!
  })
  expect(edge.widthMm).toBeCloseTo(90, 1)
  expect(edge.xMm + edge.widthMm / 2).toBeCloseTo(picture.xMm + picture.widthMm / 2, 0)
  expect(new Set(Object.values(document.groups ?? {})).size).toBe(1)
})
