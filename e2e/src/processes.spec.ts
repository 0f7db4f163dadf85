import { burnOrder } from '@neotaxis/core'
import { expect, test } from '@playwright/test'
import { details, saved, serverJob, settled, wavesJob } from './hands.ts'

const processes = async (page: import('@playwright/test').Page): Promise<string[]> => {
  await saved(page)
  const { document } = await serverJob(page)
  return burnOrder(document).map((id) => document.operations[id].process)
}

test('artwork gets any process in one press: from the shelf, by a key, by the menu; a block changes in place, and goes', async ({
  page,
}) => {
  await wavesJob(page)
  await settled(page)
  expect(await processes(page)).toEqual(['cut'])
  // From the shelf: what it can be, each with its time.
  await page.locator('[data-testid^=block-]').first().click()
  await expect(page.getByTestId('become-cut')).toContainText('now')
  await expect(page.getByTestId('become-area')).toHaveAttribute('data-seconds', /\d/, { timeout: 30_000 })
  const told = Number(await page.getByTestId('become-area').getAttribute('data-seconds'))
  await page.getByTestId('become-area').click()
  await expect(details(page).getByRole('heading', { name: '1 · Fill' })).toBeVisible()
  await settled(page)
  expect(await processes(page)).toEqual(['area', 'cut'])
  // What was told is what the plan says.
  const block = page.locator('[data-testid^=block-area]')
  await expect.poll(async () => Math.abs(Number(await block.getAttribute('data-seconds')) - told)).toBeLessThan(1)

  // By a key, and its place in the order is its own.
  await page.keyboard.press('2')
  await expect.poll(() => processes(page)).toEqual(['area', 'score', 'cut'])
  await page.keyboard.press('Control+z')
  await expect.poll(() => processes(page)).toEqual(['area', 'cut'])

  // In place: the block that has the focus, by a key; and by the details.
  await block.focus()
  await page.keyboard.press('2')
  await expect.poll(() => processes(page)).toEqual(['score', 'cut'])
  // The details are those of what it is now, and stand.
  await expect(details(page).getByRole('heading', { name: '1 · Score' })).toBeVisible()
  await settled(page)
  await page.getByTestId('process-choice').click()
  await page.getByRole('option', { name: 'filled' }).click()
  await expect.poll(() => processes(page)).toEqual(['area', 'cut'])

  // By the menu: once more; then all that is left is taken off.
  await page.locator('[data-testid^=block-area]').click({ button: 'right' })
  await page.getByTestId('menu-operation-again').click()
  await expect.poll(() => processes(page)).toEqual(['area', 'area', 'cut'])
  await page.keyboard.press('Delete')
  await expect.poll(async () => (await processes(page)).length).toBeLessThan(3)
})

test('the ways to fill are compared side by side, and their numbers are those of the program', async ({ page }) => {
  await wavesJob(page)
  await settled(page)
  await page.locator('[data-testid^=node-]').last().click()
  await page.keyboard.press('3')
  await expect.poll(() => processes(page)).toContain('area')
  await settled(page)
  await page.getByTestId('compare-fills').click()
  const cards = page.getByTestId('fill-cards')
  for (const name of ['sweep', 'patches', 'rings', 'two-angles'])
    await expect(cards.getByTestId(`fill-${name}`)).toHaveAttribute('data-seconds', /\d/, { timeout: 60_000 })
  const seconds = Number(await cards.getByTestId('fill-rings').getAttribute('data-seconds'))
  await cards.getByTestId('fill-rings').click()
  await settled(page)
  await expect
    .poll(async () => Math.abs(Number(await page.locator('[data-testid^=block-area]').getAttribute('data-seconds')) - seconds), {
      timeout: 30_000,
    })
    .toBeLessThan(1)
  const { document } = await serverJob(page)
  expect(Object.values(document.operations).find(({ process }) => process === 'area')).toMatchObject({ strategy: 'rings' })
})

test('an operation that is put aside is used again, and settings are carried from one to another', async ({ page }) => {
  await wavesJob(page)
  await settled(page)
  await page.locator('[data-testid^=node-]').last().click()
  await page.keyboard.press('2')
  await expect.poll(() => processes(page)).toEqual(['score', 'cut'])
  await page.locator('[data-testid^=block-cut]').click({ button: 'right' })
  await page.getByTestId('menu-copy-settings').click()
  await page.locator('[data-testid^=block-score]').click({ button: 'right' })
  await page.getByTestId('menu-paste-settings').click()
  await saved(page)
  const { document } = await serverJob(page)
  const by = Object.fromEntries(Object.values(document.operations).map((operation) => [operation.process, operation]))
  expect(by.score.speedMmS).toBe(by.cut.speedMmS)
  await page.locator('[data-testid^=block-score]').click({ button: 'right' })
  await page.getByTestId('menu-put-aside').click()
  await expect.poll(() => processes(page)).toEqual(['cut'])
  await page.keyboard.press('Escape')
  await page.keyboard.press('Escape')
  await page.locator('[data-testid^=aside-]').getByRole('button', { name: 'Use again' }).click()
  await expect.poll(() => processes(page)).toEqual(['score', 'cut'])
})
