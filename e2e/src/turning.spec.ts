import { expect, type Page, test } from '@playwright/test'
import { details, dropFile, saved, serverJob, settled, type } from './hands.ts'
import { discPicture } from './pictures.ts'

async function makeJob(page: Page, name: string): Promise<void> {
  await page.goto('/jobs')
  await dropFile(page, name, discPicture(300, 100).png)
  await page.getByTestId('proposal-engrave-cut-around').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.getByTestId('block-engrave').click()
}

const place = async (page: Page) => {
  await settled(page)
  await saved(page)
  return (await serverJob(page)).document.placements.source
}

/** A value typed in the sheet that is open, and taken. */
async function typeIn(page: Page, label: string, text: string): Promise<void> {
  const field = page.getByRole('textbox', { name: label, exact: true }).last()
  await field.fill(text)
  await field.press('Enter')
}

test('artwork is turned by its handle, by keys and by a typed angle; it stays where it is, and it can be undone', async ({
  page,
}) => {
  await makeJob(page, 'tide-table.png')
  const before = await place(page)
  expect(before.deg).toBeUndefined()
  const middle = ({ xMm, yMm, widthMm, heightMm }: typeof before): string =>
    [xMm + widthMm / 2, yMm + heightMm / 2].map((v) => v.toFixed(2)).join(' ')

  // Along the arc of its handle: from where it is held to a quarter further around the middle of the box.
  const handle = (await page.locator('[data-handle="turn"]').boundingBox())!
  const [low, high] = await Promise.all(
    ['-1,-1', '1,1'].map(async (at) => (await page.locator(`[data-handle="${at}"]`).boundingBox())!),
  )
  const centre = { x: (low.x + high.x + high.width) / 2, y: (low.y + high.y + high.height) / 2 }
  const held = { x: handle.x + handle.width / 2, y: handle.y + handle.height / 2 }
  await page.mouse.move(held.x, held.y)
  await page.mouse.down()
  for (const deg of [10, 20, 30]) {
    const t = (deg * Math.PI) / 180
    const [dx, dy] = [held.x - centre.x, held.y - centre.y]
    await page.mouse.move(centre.x + dx * Math.cos(t) - dy * Math.sin(t), centre.y + dx * Math.sin(t) + dy * Math.cos(t), {
      steps: 3,
    })
  }
  await page.mouse.up()
  const turned = await place(page)
  expect(turned.deg).toBeGreaterThan(26)
  expect(turned.deg).toBeLessThan(34)
  expect(middle(turned)).toBe(middle(before))

  await page.getByTestId('stage').focus()
  await page.keyboard.press('PageDown')
  expect((await place(page)).deg).toBeCloseTo(turned.deg! + 1, 3)
  await type(page, 'Turned', '17')
  expect((await place(page)).deg).toBe(17)
  await page.getByTestId('stage').focus()
  await page.keyboard.press('q')
  expect((await place(page)).deg).toBe(107)
  expect(middle(await place(page))).toBe(middle(before))
  for (let i = 0; i < 4; i++) await page.getByTestId('undo').click()
  expect(await place(page)).toEqual(before)
})

test('a round blank that lies askew: what stands over its edge is found, and the program goes where it lies', async ({
  page,
}) => {
  await makeJob(page, 'compass-rose.png')
  await type(page, 'Turned', '17')
  await page.getByTestId('workpiece-chip').click()
  await page.getByTestId('workpiece-shape').click()
  await page.getByRole('option', { name: 'Circle' }).click()
  await typeIn(page, 'Diameter', '150')
  await typeIn(page, 'Lies turned', '30')
  await typeIn(page, 'From the left', '210')
  await page.keyboard.press('Escape')
  await settled(page)
  await saved(page)
  const { document } = await serverJob(page)
  expect(Object.values(document.workpieces)[0]).toMatchObject({
    outline: { kind: 'circle', diameterMm: 150 },
    pose: { xMm: 210, deg: 30 },
  })
  const outside = page.getByTestId('finding-outside-workpiece')
  // Three of them are folded.
  await page.getByTestId('findings-strip').click()
  // Its fix brings it inside the circle, not only inside the box around it.
  await outside
    .first()
    .getByRole('button', { name: /^Move it/ })
    .click()
  await expect(outside).toHaveCount(0)
  const download = page.waitForEvent('download')
  await details(page).getByTestId('save-program').click()
  expect((await download).suggestedFilename()).toMatch(/\.(nc|gcode|zip)$/)
})

test('a workpiece takes the edge of a file; one that encloses nothing is refused with a sentence', async ({ page }) => {
  await makeJob(page, 'net-tag.png')
  await page.getByTestId('workpiece-chip').click()
  const svg = (d: string): Buffer =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="180mm" height="140mm" viewBox="0 0 180 140"><path d="${d}"/></svg>`,
    )
  const give = (name: string, d: string) =>
    page.getByTestId('workpiece-file').setInputFiles({ name, mimeType: 'image/svg+xml', buffer: svg(d) })
  await give('nothing.svg', 'M0 0L50 50')
  await expect(page.getByRole('alert').filter({ hasText: 'encloses nothing' })).toBeVisible()
  await give('offcut.svg', 'M10 10L170 20L150 130L90 100L20 120Z')
  await expect.poll(async () => Object.values((await serverJob(page)).document.workpieces)[0].outline.kind).toBe('rings')
  await page.keyboard.press('Escape')
  await settled(page)
  const { document } = await serverJob(page)
  const [{ outline }] = Object.values(document.workpieces)
  expect(outline.kind === 'rings' && outline.rings.length).toBe(1)
})
