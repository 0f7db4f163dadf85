// Between two pages, between typing and drawing, between the page and its workers: what lies between parts that work.
import { expect, type Page, test } from '@playwright/test'
import { details, saved, serverJob, settled, type, wavesJob, writeHere } from './hands.ts'

/** The same job on a page of somebody else's browser. */
async function beside(page: Page): Promise<Page> {
  const other = await (await page.context().browser()!.newContext({ reducedMotion: 'reduce' })).newPage()
  await other.setViewportSize({ width: 1280, height: 800 })
  await other.goto(page.url())
  await settled(other)
  return other
}

const cutPower = async (page: Page): Promise<number> => {
  const { document } = await serverJob(page)
  return Object.values(document.operations).find(({ process }) => process === 'cut')!.power
}

test('two pages that change the same lose neither: one goes on as a branch, and both say what they show', async ({ page }) => {
  await wavesJob(page)
  await saved(page)
  const other = await beside(page)
  await page.locator('[data-testid^=block-]').first().click()
  await other.locator('[data-testid^=block-]').first().click()
  const address = page.url()
  // The other page has lost its line, and goes on.
  await other.context().setOffline(true)
  await type(other, 'Power', '33')
  await type(other, 'Passes', '4')
  await expect(other.getByTestId('save-state')).toContainText('2 changes kept here')
  await type(page, 'Power', '44')
  await saved(page)
  await other.context().setOffline(false)
  await other.waitForURL((url) => url.href !== address)
  await expect(other.getByText(/Your version is kept as .*branch/)).toBeVisible()
  await settled(other)
  await saved(other)
  expect(await cutPower(page)).toBe(0.44)
  expect(await cutPower(other)).toBe(0.33)
  expect((await serverJob(other)).document.operations).toMatchObject({ cut: { passes: 4 } })
  expect(page.url()).toBe(address)
  await other.close()
})

test('an undo takes back what it names, and is refused with a reason where somebody changed the same since', async ({ page }) => {
  await wavesJob(page)
  await page.locator('[data-testid^=block-]').first().click()
  await type(page, 'Power', '44')
  await saved(page)
  const other = await beside(page)
  // News of others does not reach this page for now.
  let letGo = (): void => {}
  const held = new Promise<void>((resolve) => {
    letGo = resolve
  })
  await page.route(/\/api\/jobs\/[^/]+\/edits/, async (route) => {
    if (route.request().method() === 'GET') await held
    await route.continue()
  })
  await other.locator('[data-testid^=block-]').first().click()
  await type(other, 'Power', '33')
  await saved(other)
  // It has not heard of it yet: what it undoes is its own change, and that is not the last any more.
  await page.getByTestId('undo').click()
  letGo()
  await expect(page.getByText(/cannot be undone: “power 33 %” changed the same since/)).toBeVisible()
  await expect(details(page).getByRole('textbox', { name: 'Power' })).toHaveValue('33')
  expect(await cutPower(page)).toBe(0.33)
  // Now it names the other's, and takes that back.
  await expect(page.getByTestId('undo')).toHaveAttribute('aria-label', 'Undo: power 33 %')
  await page.getByTestId('undo').click()
  await saved(page)
  expect(await cutPower(page)).toBe(0.44)
  await expect(details(other).getByRole('textbox', { name: 'Power' })).toHaveValue('44')
  await other.close()
})

test('numbers that are typed quickly into a drawn shape all count', async ({ page }) => {
  await wavesJob(page)
  await writeHere(page, 'float')
  await saved(page)
  await page.getByTestId('draw-repeat').click()
  await page.getByRole('option', { name: 'in rows and columns' }).click()
  for (const [label, value] of [
    ['Columns', '4'],
    ['Rows', '3'],
    ['Pitch across', '41'],
    ['Pitch down', '23'],
    ['Capitals', '6'],
  ])
    await type(page, label, value)
  const drawn = async () => {
    const { document } = await serverJob(page)
    const node = Object.values(document.nodes).find((each) => each.kind === 'drawing')
    return node?.kind === 'drawing' ? node.drawn : undefined
  }
  await expect
    .poll(drawn, { timeout: 20_000 })
    .toMatchObject({ capMm: 6, repeat: { kind: 'grid', columns: 4, rows: 3, pitchXMm: 41, pitchYMm: 23 } })
  await expect(details(page).getByRole('textbox', { name: 'Rows' })).toHaveValue('3')
})

test('a worker that dies is replaced, its work is done again, and the operator is told once', async ({ page }) => {
  await wavesJob(page)
  await page.locator('[data-testid^=block-]').first().click()
  await expect.poll(() => page.workers().length).toBeGreaterThanOrEqual(2)
  for (const worker of page.workers()) await worker.evaluate(() => self.close()).catch(() => {})
  await expect(page.getByText('Computing stopped by itself, and was started again')).toBeVisible()
  await settled(page)
  // All goes on: a change is worked out, painted and timed.
  await type(page, 'Speed', '6')
  await settled(page)
  await expect(page.locator('[data-testid^=block-]').first()).toContainText('6 mm/s')
  await expect(page.getByText('Computing stopped by itself')).toHaveCount(1)
})
