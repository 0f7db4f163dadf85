// Several pieces of artwork at once: selected, moved, duplicated, copied to another job, deleted; by keys, menu and a box around.
import { expect, type Page, test } from '@playwright/test'
import { dropFile, saved, serverJob, settled, wavesJob } from './hands.ts'
import { discPicture } from './pictures.ts'

async function makeJob(page: Page, name: string): Promise<void> {
  await page.goto('/jobs')
  await dropFile(page, name, discPicture(200, 60).png)
  await page.getByTestId('proposal-engrave-cut-around').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
}
const places = async (page: Page) => Object.values((await serverJob(page)).document.placements).map(({ xMm, yMm }) => [xMm, yMm])
const rests = async (page: Page): Promise<void> => {
  await settled(page)
  await saved(page)
}

test('artwork is duplicated, moved together, copied into another job, and deleted; nothing of it is final', async ({ page }) => {
  await makeJob(page, 'lifebuoy.png')
  const stage = page.getByTestId('stage')
  await page.getByTestId('node-source').click()
  await stage.focus()
  await page.keyboard.press('Control+d')
  await rests(page)
  const [first, second] = await places(page)
  expect([second[0] - first[0], second[1] - first[1]]).toEqual([5, 5])

  // All of it, moved by keys and by the hand: each as far as the other.
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Shift+ArrowLeft')
  await rests(page)
  const near = (v: number) => expect.closeTo(v, 6)
  expect(await places(page)).toEqual([
    [near(first[0] - 10), near(first[1])],
    [near(second[0] - 10), near(second[1])],
  ])
  const at = (await stage.boundingBox())!
  const middle = { x: at.x + at.width / 2 - 20, y: at.y + at.height / 2 - 37 }
  await page.mouse.move(middle.x, middle.y)
  await page.mouse.down()
  await page.mouse.move(middle.x + 30, middle.y, { steps: 4 })
  await page.mouse.move(middle.x + 60, middle.y + 1, { steps: 4 })
  await page.mouse.up()
  await rests(page)
  const [a, b] = await places(page)
  expect(b[0] - a[0]).toBeCloseTo(5, 3)
  expect(a[0]).toBeGreaterThan(first[0] - 8)

  // A box drawn around with Shift, on the bare workpiece, selects what lies in it.
  await stage.focus()
  await page.keyboard.press('Escape')
  await page.keyboard.press('w')
  await page.keyboard.down('Shift')
  await page.mouse.move(at.x + 40, at.y + 110)
  await page.mouse.down()
  await page.mouse.move(at.x + at.width / 2, at.y + 300, { steps: 3 })
  await page.mouse.move(at.x + at.width - 30, at.y + at.height - 20, { steps: 3 })
  await page.mouse.up()
  await page.keyboard.up('Shift')
  await expect(page.locator('[role=treeitem][aria-selected=true]')).toHaveCount(2)

  // Copied here, pasted in another job.
  await page.keyboard.press('Control+c')
  await expect(page.getByText(/^Copied: 2 pieces of artwork/)).toBeVisible()
  const from = page.url()
  await makeJob(page, 'net-tag.png')
  await page.getByTestId('stage').focus()
  await page.keyboard.press('Control+v')
  await expect.poll(async () => (await places(page)).length).toBe(3)
  await rests(page)
  const other = (await serverJob(page)).document
  expect(other.order.length).toBe(6)

  // The menu of the right button takes them away again, and Undo brings them back.
  await page.getByTestId('node-source').click({ button: 'right' })
  await page.getByTestId('menu-delete').click()
  await expect.poll(async () => (await places(page)).length).toBe(2)
  await page.getByTestId('undo-delete').click()
  await expect.poll(async () => (await places(page)).length).toBe(3)

  // All of it away: an empty job is a job.
  await page.goto(from)
  await settled(page)
  await page.getByTestId('stage').focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await rests(page)
  expect(await places(page)).toEqual([])
  await expect(page.getByTestId('total-time')).toBeVisible()
})

test('an operation is deleted in the run line, and its artwork stays', async ({ page }) => {
  await makeJob(page, 'bell-buoy.png')
  await page.getByTestId('block-cut').focus()
  await page.keyboard.press('Delete')
  await rests(page)
  const { document } = await serverJob(page)
  expect(Object.keys(document.operations)).toEqual(['engrave'])
  expect(Object.keys(document.nodes)).toContain('around')
})

test('files dropped together become one job; what is left out comes back, and what waits is decided later', async ({ page }) => {
  await page.goto('/jobs')
  await page.getByTestId('file-input').setInputFiles(
    ['buoy.png', 'cleat.png', 'float.png'].map((name, i) => ({
      name,
      mimeType: 'image/png',
      buffer: Buffer.from(discPicture(120, 30 + 10 * i).png),
    })),
  )
  await page.getByText('All of them into one job').click({ timeout: 30_000 })
  await expect(page.getByText('What becomes of “buoy.png”? (1 of 3)')).toBeVisible()
  await page.getByTestId('proposal-engrave-cut-around').click({ timeout: 30_000 })

  // The second: left out, and brought back while the third is asked about: it comes after that.
  await expect(page.getByText('What becomes of “cleat.png”? (2 of 3)')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByText('What becomes of “float.png”? (3 of 3)')).toBeVisible()
  // (A sheet that is open hides what lies under it from roles.)
  await page.getByText('Bring it back').click()
  await expect(page.locator('[data-testid^=proposal-]').first()).toBeVisible({ timeout: 30_000 })
  await page.getByTestId('decide-later').click({ timeout: 30_000 })

  // Tab and Enter take a proposal, and throw nothing away.
  await expect(page.getByText(/What becomes of “cleat.png”/)).toBeVisible()
  await expect(page.locator('[data-testid^=proposal-]').first()).toBeFocused({ timeout: 30_000 })
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await page.waitForURL(/compose/, { timeout: 30_000 })
  await rests(page)
  const { document } = await serverJob(page)
  const boxes = Object.values(document.placements).map(({ xMm, yMm, widthMm, heightMm }) => ({ xMm, yMm, widthMm, heightMm }))
  expect(boxes).toHaveLength(3)
  for (const [i, a] of boxes.entries())
    for (const b of boxes.slice(i + 1)) {
      const beside = a.xMm + a.widthMm <= b.xMm || b.xMm + b.widthMm <= a.xMm
      const over = a.yMm + a.heightMm <= b.yMm || b.yMm + b.heightMm <= a.yMm
      expect(beside || over, 'each has room of its own').toBe(true)
    }
  const before = document.order.length
  await page.getByText('float.png').click()
  await page.getByTestId('decide-now').click()
  await page.getByTestId('proposal-engrave').click({ timeout: 30_000 })
  await expect.poll(async () => (await serverJob(page)).document.order.length).toBe(before + 1)
  await expect(page.getByTestId('decide-now')).toHaveCount(0)
})

test('a second side is shown whole as soon as it is there, and the first one again when it is undone', async ({ page }) => {
  await wavesJob(page)
  const stage = page.getByTestId('stage')
  const grip = page.locator('[data-testid^=piece-grip]')
  await expect(grip).toHaveCount(0)
  await page.keyboard.press('Control+k')
  await page.getByRole('textbox', { name: 'Find a command' }).fill('second side')
  await page.keyboard.press('Enter')
  await expect(grip).toHaveCount(1)
  await settled(page)
  // It is held over the middle of its rear edge: in the middle of the stage, and under its tools.
  await expect
    .poll(async () => {
      const [at, on] = [await grip.boundingBox(), await stage.boundingBox()]
      return at && on ? [Math.abs(at.x + at.width / 2 - on.x - on.width / 2) < 30, at.y > on.y + 42] : []
    })
    .toEqual([true, true])
  await page.keyboard.press('Control+z')
  await expect(grip).toHaveCount(0)
  await settled(page)
})
