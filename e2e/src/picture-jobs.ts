// Whole jobs of pictures, from the dropped file to the finished run: what was burned, and what the journal says of it.
import { burnOrder, type JobDocument, type PictureNode } from '@neotaxis/core'
import { expect, type Page, test } from '@playwright/test'
import { finish, finishWhatWaits, Hand, start } from './counting-hand.ts'
import { saved, serverJob, settled } from './hands.ts'
import { photoPicture, ruledPage } from './pictures.ts'

const pictureOf = (job: JobDocument): PictureNode =>
  Object.values(job.nodes).find((node): node is PictureNode => node.kind === 'picture')!

/** A file dropped on the board becomes a job by one of its proposals, as wide as is typed there. */
export async function proposed(
  hand: Hand,
  file: { readonly name: string; readonly bytes: Uint8Array; readonly type?: string },
  proposal: string,
  { material, widthMm }: { readonly material?: string; readonly widthMm?: number } = {},
): Promise<void> {
  const { page } = hand
  await page.goto('/jobs')
  await hand.drop(file.name, file.bytes, file.type)
  await page.locator('[data-testid^=proposal-]').first().waitFor({ timeout: 30_000 })
  if (material) await hand.materialTyped(material)
  if (widthMm !== undefined) {
    const field = page.getByRole('dialog').getByRole('textbox', { name: 'Artwork' })
    hand.movements++
    await field.fill(String(widthMm))
    await field.press('Enter')
  }
  await page.getByTestId(`proposal-${proposal}`).waitFor({ timeout: 30_000 })
  await hand.press(`proposal-${proposal}`)
  await page.waitForURL(/compose/)
  await settled(page)
}

/** Burned, seen to be as forecast, and finished. */
export async function burnedAsForecast(hand: Hand, facts: { readonly dots?: number; readonly cut?: number }): Promise<void> {
  const { page } = hand
  await start(hand)
  await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 60_000 })
  await finishWhatWaits(hand)
  for (const [name, least] of Object.entries(facts))
    await expect
      .poll(async () => Number(await page.getByTestId('burn-card').getAttribute(`data-${name}`)), { timeout: 60_000 })
      .toBeGreaterThan(least)
  await finish(hand)
}

/** The newest run of the job that is open, as the journal has it. */
export async function journalOf(page: Page) {
  const { id } = /jobs\/(?<id>[^/]+)\//.exec(page.url())!.groups!
  const { runs } = await (await page.request.get(`/api/runs?jobId=${id}`)).json()
  return runs[0] as { readonly phase: string; readonly seconds: number; readonly estimateSeconds: number }
}

export function pictureJobs(): void {
  test('a photo in two tones on wood: of a size, in dots that its machine can resolve, as it was forecast', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'P1')
    await proposed(hand, { name: 'buoy-at-noon.png', bytes: photoPicture(480, 320) }, 'engrave', { widthMm: 40 })
    await saved(page)
    const { document } = await serverJob(page)
    expect(document.placements.source.widthMm).toBeCloseTo(40, 3)
    // Its own levels, and dots that spread their error.
    const picture = pictureOf(document)
    expect(Object.keys(picture.steps)).toEqual(expect.arrayContaining(['levels']))
    expect(picture.dots.kernel).not.toBe('none')
    await burnedAsForecast(hand, { dots: 0.97 })
    const run = await journalOf(page)
    expect(run.phase).toBe('done')
    expect(Math.abs(run.seconds / run.estimateSeconds - 1)).toBeLessThan(0.25)
    hand.counted()
  })

  test('the same on clear acrylic: inverted and mirrored, for it is looked at from the other side', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'P1 inverted')
    const photo = { name: 'buoy-at-night.png', bytes: photoPicture(480, 320) }
    await proposed(hand, photo, 'engrave', { material: 'Cast acrylic', widthMm: 40 })
    await saved(page)
    const { document } = await serverJob(page)
    const picture = pictureOf(document)
    expect(Object.keys(picture.steps)).toContain('invert')
    const { source } = document.nodes
    expect(source.kind === 'source' && source.framing.some(({ kind }) => kind === 'mirror')).toBe(true)
    await burnedAsForecast(hand, { dots: 0.97 })
    hand.counted()
  })

  test('a photographed page of handwriting: its ink alone, without its ruled lines, a part of it kept clear, all at one scale', async ({
    page,
  }) => {
    test.setTimeout(300_000)
    const hand = new Hand(page, 'P4')
    await proposed(hand, { name: 'log-of-the-skiff.png', bytes: ruledPage(900, 420) }, 'ink-only', { widthMm: 60 })
    await saved(page)
    const made = (await serverJob(page)).document
    expect(pictureOf(made).steps.ink).toMatchObject({ kind: 'ink' })
    // A part of it is left out: a stroke of the hand over it keeps it clear.
    await hand.press('tab-picture')
    await expect(page.locator('[data-testid=bench-stage][data-settled=true]')).toBeVisible({ timeout: 60_000 })
    await hand.press('add-step')
    await hand.press('add-clear')
    await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
    const box = (await page.getByTestId('bench-stage').boundingBox())!
    hand.movements++
    await page.mouse.move(box.x + 0.7 * box.width, box.y + 0.5 * box.height)
    await page.mouse.down()
    await page.mouse.move(box.x + 0.8 * box.width, box.y + 0.5 * box.height, { steps: 6 })
    await page.mouse.up()
    await expect(page.getByRole('button', { name: 'Empty it (1 part)' })).toBeVisible()
    await saved(page)
    const { document } = await serverJob(page)
    expect(Object.values(document.placements)).toHaveLength(1)
    expect(burnOrder(document)).toHaveLength(1)
    await burnedAsForecast(hand, { dots: 0.97 })
    hand.counted()
  })
}
