import { burnOrder } from '@neotaxis/core'
import { expect, test } from '@playwright/test'
import { drawHere, dropFile, saved, serverJob, settled, wavesJob } from './hands.ts'
import { pagePicture } from './pictures.ts'

test('dots and relief of one photo are looked at side by side, and one press runs the other', async ({ page }) => {
  await page.goto('/jobs')
  await dropFile(page, 'pilot-boat.png', pagePicture(300, 200))
  await page.getByTestId('proposal-engrave').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.getByTestId('tab-picture').click()
  await expect(page.locator('[data-testid=bench-stage][data-settled=true]')).toBeVisible({ timeout: 30_000 })
  const first = burnOrder((await serverJob(page)).document)

  await page.getByTestId('beside').click()
  await expect(page.getByRole('slider', { name: 'Edge between both burns' })).toBeVisible()
  await expect(page.getByTestId('bench-stage')).toContainText('as relief, after the burn')
  await saved(page)
  const both = (await serverJob(page)).document
  const relief = Object.keys(both.operations).find((id) => !first.includes(id))!
  expect(burnOrder(both)).toEqual(first)

  await page.getByTestId('other-way').click()
  await expect(page.getByTestId('bench-stage')).toContainText(/as dots, after the burn.*as relief, after the burn/)
  await saved(page)
  expect(burnOrder((await serverJob(page)).document)).toEqual([relief])
  await page.keyboard.press('Control+z')
  await expect.poll(async () => burnOrder((await serverJob(page)).document)).toEqual(first)
})

test('a drawing is traced as lines to score, in a zone only', async ({ page }) => {
  await wavesJob(page)
  const block = page.locator('[data-testid^=block-]').first()
  await block.click()
  await page.getByTestId('trace-mode').click()
  await page.getByRole('option', { name: /lines to score/ }).click()
  await expect(block).toContainText('Score')
  const numbers = page.getByTestId('trace-numbers')
  await expect(numbers).toContainText(/line/)
  const length = async (): Promise<number> => Number.parseFloat(/([\d.]+)\s*mm; thinnest/.exec(await numbers.innerText())![1])
  await settled(page)
  const whole = await length()
  await page.getByTestId('trace-zone').click()
  await expect(page.getByTestId('zone-box')).toBeVisible()
  await settled(page)
  await expect.poll(length).toBeLessThan(0.9 * whole)
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('zone-box')).toHaveCount(0)
  await expect.poll(length).toBeCloseTo(whole, 1)
})

test('a drawing is brought into a job beside its picture, and combined with its outline', async ({ page }) => {
  await wavesJob(page)
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="150mm" height="100mm" viewBox="0 0 150 100"><rect width="150" height="100" fill="none" stroke="#000" stroke-width="0.1"/></svg>'
  await page
    .getByTestId('bring-in-file')
    .setInputFiles({ name: 'plate.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) })
  await page.getByTestId('proposal-cut-lines').click({ timeout: 30_000 })
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2)
  await saved(page)
  const { document } = await serverJob(page)
  const plate = Object.keys(document.nodes).find((id) => id.startsWith('outline-'))!
  await page.goto(page.url().replace('compose', `outline/${plate}`))
  await expect(page.locator('[data-testid=outline-stage][data-settled=true]')).toBeVisible({ timeout: 30_000 })
  await page.getByTestId('add-outline-step').click()
  await page.getByTestId('combine-shape').click()
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  // The plate with the waves taken off: one outline with two holes.
  await expect(page.getByTestId('outline-numbers')).toContainText(/outlines\s*3/)
  await page.keyboard.press('Control+z')
  await expect(page.getByTestId('outline-numbers')).toContainText(/outlines\s*1/)
})

test('a shape is drawn by exact numbers, around a circle, and cut', async ({ page }) => {
  await wavesJob(page)
  await drawHere(page, 'ellipse')
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2, { timeout: 30_000 })
  for (const field of ['Shape width', 'Shape height']) {
    await page.getByRole('textbox', { name: field }).fill('5')
    await page.getByRole('textbox', { name: field }).press('Enter')
  }
  await page.getByTestId('draw-repeat').click()
  await page.getByRole('option', { name: 'around a circle' }).click()
  await page.getByRole('textbox', { name: 'Copies' }).fill('8')
  await page.getByRole('textbox', { name: 'Copies' }).press('Enter')
  await expect
    .poll(async () => {
      const { document } = await serverJob(page)
      const node = Object.values(document.nodes).find(({ kind }) => kind === 'drawing')
      return node?.kind === 'drawing' && node.drawn?.repeat?.kind === 'round' ? node.drawn.repeat.count : 0
    })
    .toBe(8)
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2)
  await saved(page)
  const { document } = await serverJob(page)
  const drawing = Object.values(document.nodes).find(({ kind }) => kind === 'drawing')
  expect(drawing).toMatchObject({ name: 'ellipse', drawn: { kind: 'ellipse', widthMm: 5 } })
  // 120 mm from middle to middle, and half a hole on either side.
  expect((drawing as { widthMm: number }).widthMm).toBeCloseTo(125, 2)
})
