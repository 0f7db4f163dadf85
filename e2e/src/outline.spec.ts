import { expect, type Page, test } from '@playwright/test'
import { dropFile, saved, serverJob, settled, type } from './hands.ts'
import { badgePicture } from './pictures.ts'

const outlineSettled = (page: Page): Promise<void> =>
  expect(page.locator('[data-testid=outline-stage][data-settled=true]')).toBeVisible({ timeout: 30_000 })

test('a drawing becomes a stencil whose islands are held: nothing falls', async ({ page }) => {
  await page.goto('/jobs')
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="80mm" viewBox="0 0 120 80"><g fill="none" stroke="#000" stroke-width="0.1">
    <circle cx="40" cy="40" r="30"/><circle cx="40" cy="40" r="14"/><rect x="80" y="20" width="30" height="40"/></g></svg>`
  await dropFile(page, 'lifebuoy.svg', new TextEncoder().encode(svg), 'image/svg+xml')
  await page.getByTestId('proposal-cut-lines').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.locator('[data-testid^=block-]').first().click()
  // Its parts are wanted at first: the ring and the plate, and the middle of the ring is waste.
  await expect(page.getByTestId('finding-falls-out')).toHaveCount(0)
  await page.getByTestId('keeps').click()
  await page.getByRole('option', { name: /a stencil/ }).click()
  const finding = page.getByTestId('finding-falls-out')
  await expect(finding).toContainText('A piece of 2')
  await finding.getByRole('button', { name: /Hold it with 2 bridges/ }).click()
  await expect(finding).toHaveCount(0)
  await saved(page)
  const held = (await serverJob(page)).document
  const node = held.nodes[held.operations.cut.of[0]]
  expect(node.kind === 'bridged' && Object.keys(node.bridges)).toHaveLength(2)

  // By hand: a bridge is moved along the edge, taken away, and brought back.
  await page.getByTestId('tab-outline').click()
  await page.goto(page.url().replace(/outline.*/, `outline/${held.operations.cut.of[0]}`))
  await outlineSettled(page)
  const first = page.locator('[data-testid^=bridge-]').first()
  const before = await first.boundingBox()
  await first.focus()
  await page.keyboard.press('Shift+ArrowRight')
  await expect.poll(async () => (await first.boundingBox())!.x).not.toBe(before!.x)
  await first.focus()
  await page.keyboard.press('Delete')
  await expect(page.locator('[data-testid^=bridge-]')).toHaveCount(1)
  await page.keyboard.press('Control+z')
  await expect(page.locator('[data-testid^=bridge-]')).toHaveCount(2)
})

test('the shop’s rules say what becomes of a drawing: they are seen, changed and kept', async ({ page }) => {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="50mm" viewBox="0 0 80 50">
    <rect x="1" y="1" width="78" height="48" fill="none" stroke="#000" stroke-width="0.05"/>
    <path d="M10 25h60" fill="none" stroke="#00f" stroke-width="1"/></svg>`
  const drop = async (): Promise<void> => {
    await page.goto('/jobs')
    await dropFile(page, 'name-plate.svg', new TextEncoder().encode(svg), 'image/svg+xml')
    await expect(page.getByTestId('proposal-by-rules')).toBeVisible({ timeout: 30_000 })
  }
  await drop()
  await expect(page.getByTestId('caught')).toContainText('1 · Thin lines are cut')
  await page.getByTestId('edit-rules').click()
  await expect(page.getByTestId('caught-bold-lines')).toContainText('1 here')
  await page.getByRole('button', { name: 'A rule before these' }).click()
  await page.getByRole('textbox', { name: 'Rule 1', exact: true }).fill('Blue is scored')
  await page.getByRole('textbox', { name: 'Its stroke' }).first().fill('#0000ff')
  await page.getByTestId('save-rules').click()
  await expect(page.getByTestId('caught')).toContainText('1 · Blue is scored')
  await expect(page.getByTestId('proposal-by-rules')).toContainText('1 score → 2 cut')

  // The next drawing finds them; the shop takes them back.
  await drop()
  await expect(page.getByTestId('caught')).toContainText('1 · Blue is scored')
  await page.getByTestId('edit-rules').click()
  await page.getByRole('button', { name: 'As they were first' }).click()
  await page.getByTestId('save-rules').click()
  await expect(page.getByTestId('proposal-by-rules')).toContainText('1 picture → 2 cut')
})

test('a picture in colours is parted into them: paper is left out, colours are taken together, each gets its outline', async ({
  page,
}) => {
  await page.goto('/jobs')
  await dropFile(page, 'badge.png', badgePicture(400))
  await page.getByTestId('proposal-cut-shape').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.locator('[data-testid^=block-]').first().click()
  await page.getByTestId('trace-mode').click()
  await page.getByRole('option', { name: /its colours/ }).click()
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  await type(page, 'Colours', '3')
  const colours = page.getByRole('group', { name: 'Colours that are meant' }).getByRole('button')
  await expect(colours).toHaveCount(3)
  // The ground is not meant; the disc and the ring are, and make one shape together.
  const meant = page.locator('[data-testid^=colour-][aria-pressed=true]')
  await expect(meant).toHaveCount(2)
  await expect(page.getByRole('button', { name: /red 25\d, green 25\d, blue 25\d/ })).toHaveAttribute('aria-pressed', 'false')
  const numbers = page.getByTestId('trace-numbers')
  await settled(page)
  const length = async (): Promise<number> => Number.parseFloat(/([\d.]+)\s*mm; smallest/.exec(await numbers.innerText())![1])
  await expect.poll(length).toBeGreaterThan(0)
  const together = await length()
  // Without the disc, only the ring: its outer edge and the one that it shares with the disc.
  await page.getByRole('button', { name: /^Colour \d, red [12]\d, / }).click()
  await expect(meant).toHaveCount(1)
  await expect.poll(async () => (await length()) / together).toBeCloseTo((0.42 + 0.25) / 0.42, 2)
  await page.keyboard.press('Control+z')
  await expect(meant).toHaveCount(2)

  await page.getByTestId('each-colour').click()
  // The button answers when the engine has parted them: only then there is something to save.
  const single = async (): Promise<number> => {
    const { document } = await serverJob(page)
    return Object.values(document.nodes).filter((node) => node.kind === 'trace' && node.chosen?.length === 1).length
  }
  await expect.poll(single).toBe(2)
})
