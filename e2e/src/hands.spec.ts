import { expect, type Page, test } from '@playwright/test'
import { dropFile, saved, serverJob, settled } from './hands.ts'
import { discPicture } from './pictures.ts'

async function makeJob(page: Page, name: string): Promise<void> {
  await page.goto('/jobs')
  await dropFile(page, name, discPicture(300, 100).png)
  await page.getByTestId('proposal-engrave-cut-around').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
}
const place = async (page: Page) => (await serverJob(page)).document.placements.source

test('artwork is dragged, sized by its handles, and moved by keys; a copy is a job of its own', async ({ page }) => {
  await makeJob(page, 'bell-buoy.png')
  const before = await place(page)
  const box = (await page.getByTestId('stage').boundingBox())!
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 - 37 }
  await page.mouse.move(middle.x, middle.y)
  await page.mouse.down()
  await page.mouse.move(middle.x - 40, middle.y + 5, { steps: 5 })
  await page.mouse.move(middle.x - 80, middle.y + 10, { steps: 5 })
  await page.mouse.up()
  await settled(page)
  await saved(page)
  const dragged = await place(page)
  expect(dragged.xMm).toBeLessThan(before.xMm - 15)
  expect(dragged.yMm).toBeGreaterThan(before.yMm + 1)
  expect(dragged.widthMm).toBe(before.widthMm)

  const handle = (await page.locator('[data-handle="1,1"]').boundingBox())!
  await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2)
  await page.mouse.down()
  await page.mouse.move(handle.x - 40, handle.y - 40, { steps: 6 })
  await page.mouse.up()
  await settled(page)
  await saved(page)
  const sized = await place(page)
  expect(sized.widthMm).toBeLessThan(dragged.widthMm - 5)
  expect(sized.heightMm / sized.widthMm).toBeCloseTo(1, 2)

  await page.getByTestId('stage').focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Shift+ArrowDown')
  await settled(page)
  await saved(page)
  const moved = await place(page)
  expect([moved.xMm - sized.xMm, moved.yMm - sized.yMm].map((v) => Number(v.toFixed(3)))).toEqual([1, 10])
  await expect(page.getByTestId('undo')).toHaveAttribute('aria-label', 'Undo: move 10 mm')

  const id = /jobs\/([^/]+)\//.exec(page.url())![1]
  await page.goto('/jobs')
  await page
    .getByTestId(`card-${id}`)
    .getByRole('button', { name: /New job from/ })
    .click()
  await page.waitForURL((url) => url.pathname.includes('compose') && !url.pathname.includes(id))
  await settled(page)
  expect((await serverJob(page)).document.name).toBe('bell buoy (copy)')
  expect(await place(page)).toEqual(moved)
})

test('two fingers zoom and pan the stage, and look closer at time on the run line', async ({ browser }) => {
  const context = await browser.newContext({ hasTouch: true, reducedMotion: 'reduce' })
  const page = await context.newPage()
  await makeJob(page, 'channel-marker.png')
  await page.getByTestId('block-cut').click()
  await settled(page)
  const width = async (): Promise<number> => {
    const left = (await page.locator('[data-handle="-1,-1"]').boundingBox())!
    const right = (await page.locator('[data-handle="1,1"]').boundingBox())!
    return right.x - left.x
  }
  const before = await width()
  const cdp = await context.newCDPSession(page)
  const spread = async (x: number, y: number): Promise<void> => {
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', by: number) =>
      cdp.send('Input.dispatchTouchEvent', {
        type,
        touchPoints:
          type === 'touchEnd'
            ? []
            : [
                { x: x - by, y, id: 1 },
                { x: x + by, y, id: 2 },
              ],
      })
    await touch('touchStart', 40)
    for (let by = 45; by <= 80; by += 5) await touch('touchMove', by)
    await touch('touchEnd', 80)
  }
  const box = (await page.getByTestId('stage').boundingBox())!
  await spread(box.x + box.width / 2, box.y + box.height / 2 + 180)
  await expect.poll(width).toBeGreaterThan(before * 1.7)
  expect((await place(page)).widthMm).toBeGreaterThan(0)
  const block = page.getByTestId('block-cut')
  const long = async (): Promise<number> => (await block.boundingBox())!.width
  const first = await long()
  const on = (await block.boundingBox())!
  await spread(on.x + on.width / 2, on.y + on.height / 2)
  await expect.poll(long).toBeGreaterThan(first * 1.6)
  expect((await serverJob(page)).revision).toBe(0)
  await context.close()
})
