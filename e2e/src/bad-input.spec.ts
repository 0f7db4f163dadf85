import { encodePng } from '@neotaxis/core'
import { expect, test } from '@playwright/test'
import { details, dropFile, saved, serverJob, settled, type } from './hands.ts'
import { discPicture } from './pictures.ts'

const jobs = async (page: import('@playwright/test').Page): Promise<number> =>
  ((await (await page.request.get('/api/jobs?search=bad')).json()) as { jobs: unknown[] }).jobs.length

test('files that are no pictures are refused with a sentence, and the page lives on', async ({ page }) => {
  const { png } = discPicture(200, 60)
  const claims = Uint8Array.from(png)
  new DataView(claims.buffer).setUint32(16, 60_000)
  new DataView(claims.buffer).setUint32(20, 60_000)
  await page.goto('/jobs')
  const before = await jobs(page)
  await dropFile(page, 'bad-words.png', new TextEncoder().encode('these are words, not a picture'))
  await expect(page.getByText(/bad-words\.png: This is no picture/)).toBeVisible()
  await dropFile(page, 'bad-half.png', png.subarray(0, png.length / 2))
  await expect(page.getByText(/bad-half\.png: The PNG is damaged or cut short/)).toBeVisible()
  await dropFile(page, 'bad-giant.png', claims)
  await expect(page.getByText(/bad-giant\.png: The picture claims 60000 × 60000 px/)).toBeVisible()
  await dropFile(page, 'bad.neotaxis', png, 'application/zip')
  await expect(page.getByText(/bad\.neotaxis: This is not a Neotaxis job file/)).toBeVisible()
  expect(await jobs(page)).toBe(before)
  await dropFile(page, 'good.png', png)
  await expect(page.getByTestId('proposal-engrave')).toBeVisible({ timeout: 30_000 })
})

test('values out of range are refused at the field; edits made while the server is away are sent when it is back', async ({
  page,
  context,
}) => {
  const samples = new Uint8Array(40 * 40).fill(60)
  await page.goto('/jobs')
  await dropFile(page, 'tide-gauge.png', encodePng({ widthPx: 40, heightPx: 40, channels: 1, samples, full: 255 }))
  await page.getByTestId('proposal-engrave').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.getByTestId('block-engrave').click()
  await type(page, 'Power', '140')
  await expect(details(page).getByRole('alert')).toContainText('Power goes from 0 to 100 %')
  expect((await serverJob(page)).document.operations.engrave.power).toBe(0.32)
  await page.keyboard.press('Escape')

  await context.setOffline(true)
  await type(page, 'Power', '41')
  await type(page, 'Passes', '3')
  await expect(page.getByTestId('save-state')).toContainText('server away · 2 changes kept here')
  await context.setOffline(false)
  await saved(page)
  expect((await serverJob(page)).document.operations.engrave).toMatchObject({ power: 0.41, passes: 3 })

  // The page is closed while the server is away: the next one brings the change along.
  await page.route('**/edits', (route) => route.abort())
  await type(page, 'Power', '43')
  await expect(page.getByTestId('save-state')).toContainText('server away')
  const url = page.url()
  await page.close({ runBeforeUnload: false })
  const next = await context.newPage()
  await next.goto(url)
  await settled(next)
  expect((await serverJob(next)).document.operations.engrave.power).toBe(0.43)
})
