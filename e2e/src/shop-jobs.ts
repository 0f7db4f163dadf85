// Whole jobs of the shop, from dropped files to a finished run on the simulated machine: how many movements of the hand each takes, and
// what was burned in the end. They run a machine: whoever runs them has it alone.
import { readFile } from 'node:fs/promises'
import { burnOrder, chartOf, mapped, setUps } from '@neotaxis/core'
import { type Download, expect, type Page, test } from '@playwright/test'
import { bringIn, finish, finishWhatWaits, Hand, start } from './counting-hand.ts'
import { dropFile, saved, serverJob, settled } from './hands.ts'
import { proposed } from './picture-jobs.ts'
import { discPicture, wavesPicture } from './pictures.ts'

const onServer = async (page: Page) => {
  await saved(page)
  return (await serverJob(page)).document
}

export function shopJobs(): void {
  test('a deep engraving: ways to fill compared, margins framed, filled and sanded later', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'O8')
    const DEEP_MM = 1.2
    // The board that work is begun on today: lime wood. A small one is quickly burned.
    const bollard = { name: 'bollard.png', bytes: discPicture(240, 80, 8).png }
    await page.goto('/jobs')
    await dropFile(page, bollard.name, bollard.bytes)
    await new Hand(page).materialTyped('Lime wood')
    // A ground, filled and sanded later; how it is filled is compared at once, and begins with the quickest way.
    await proposed(hand, bollard, 'fill-deep')
    const cards = page.getByTestId('fill-cards')
    for (const name of ['sweep', 'patches', 'rings', 'two-angles'])
      await expect(cards.getByTestId(`fill-${name}`)).toHaveAttribute('data-seconds', /\d/, { timeout: 60_000 })
    const ways = await cards
      .locator('[data-seconds]')
      .evaluateAll((all) =>
        all.map((card) => ({ seconds: Number(card.getAttribute('data-seconds')), chosen: card.getAttribute('aria-pressed') })),
      )
    expect(ways.toSorted((a, b) => a.seconds - b.seconds)[0].chosen, JSON.stringify(ways)).toBe('true')
    // As deep as is wanted: by what the shop measured on it.
    await hand.type('Depth', String(DEEP_MM))
    await settled(page)
    const depth = page.getByRole('complementary', { name: 'Details' }).getByRole('textbox', { name: 'Depth', exact: true })
    await expect.poll(async () => Math.abs(Number(await depth.inputValue()) - DEEP_MM)).toBeLessThan(0.03)
    const job = await onServer(page)
    const fill = job.operations[burnOrder(job)[0]]
    expect(fill).toMatchObject({ process: 'area' })
    expect(fill.passes).toBeGreaterThan(1)
    expect(job.order.map((id) => job.steps[id].kind)).toEqual(['burn', 'by-hand'])
    await start(hand, { framed: true })
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await expect(page.getByTestId('burn-card')).toContainText(/tone/, { timeout: 60_000 })
    const off = /tone (as forecast|([\d.]+) %)/.exec((await page.getByTestId('burn-card').textContent()) ?? '')
    expect(off).not.toBeNull()
    expect(Number(off![2] ?? 0)).toBeLessThan(6)
    // As deep as was asked for, by a gauge beside the middle, where its rings come together.
    const { xMm, yMm, widthMm, heightMm } = job.placements.source
    const [x, y] = mapped(chartOf(job).toAxes, xMm + 0.63 * widthMm, yMm + 0.5 * heightMm)
    const gauge = await page.request.post('/api/machines/bench-60/panel', { data: { do: 'gauge', what: 'depth', x, y, side: 4 } })
    const { value } = await gauge.json()
    // This machine is off by a few per cent, and this sheet wanders by six: neither is what the shop's curve was measured with.
    expect(Math.abs(value / DEEP_MM - 1), `${value} mm`).toBeLessThan(0.12)
    await finish(hand)
    hand.counted()
  })

  test('a wall panel from several sources: a picture, a traced area, a silhouette; scaled as one, nothing burned twice, cut last', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'W1')
    await page.goto('/jobs')
    await hand.drop('harbour-light.png', discPicture(240, 80).png)
    await page.getByTestId('proposal-engrave').waitFor({ timeout: 30_000 })
    await hand.press('proposal-engrave')
    await page.waitForURL(/compose/)
    await settled(page)
    await hand.type('Width', '40')
    await settled(page)
    // Traced, and filled instead of cut.
    await bringIn(hand, 'seal.png', discPicture(200, 60).png, 'cut-shape')
    await page.locator('[data-testid^=block-cut]').first().focus()
    await hand.key('3')
    await settled(page)
    await bringIn(hand, 'waves.png', wavesPicture(300, 200), 'cut-shape')
    // All of it as one, smaller.
    await page.getByTestId('stage').focus()
    await hand.key('Control+a')
    await hand.key('Control+g')
    await settled(page)
    await page.locator('[data-testid^=node-]').first().click()
    await hand.type('Width', '30')
    await settled(page)
    await hand.press('good-order')
    await settled(page)
    const job = await onServer(page)
    expect(burnOrder(job).map((id) => job.operations[id].process)).toEqual(['picture', 'area', 'cut'])
    expect(new Set(Object.values(job.groups ?? {})).size).toBe(1)
    const widths = Object.values(job.placements).map(({ widthMm }) => widthMm)
    expect(Math.max(...widths)).toBeLessThan(200)
    await expect(page.getByTestId('finding-burned-twice')).toHaveCount(0)
    await start(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await expect
      .poll(async () => Number(await page.getByTestId('burn-card').getAttribute('data-dots')), { timeout: 60_000 })
      .toBeGreaterThan(0.95)
    expect(Number(await page.getByTestId('burn-card').getAttribute('data-cut'))).toBeGreaterThan(0.7)
    await finish(hand)
    hand.counted()
  })

  test('a picture and a contour that another tool cuts: two set-ups, a file each, cleaning between', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'W2')
    await page.goto('/jobs')
    await hand.drop('tide-mark.png', wavesPicture(300, 200))
    // The contour is cut by the router: its outline, held by bridges, is a file of its own.
    await page.getByTestId('proposal-engrave-cut-elsewhere').waitFor({ timeout: 30_000 })
    await hand.press('proposal-engrave-cut-elsewhere')
    await page.waitForURL(/compose/)
    await settled(page)
    const job = await onServer(page)
    const held = Object.values(job.nodes).find((node) => node.kind === 'bridged')
    expect(Object.keys(held?.bridges ?? {}).length).toBeGreaterThan(1)
    expect(job.order.map((id) => job.steps[id].kind)).toEqual(['burn', 'by-hand', 'elsewhere'])
    const files: Download[] = []
    page.on('download', (download) => void files.push(download))
    await hand.press('save-program')
    await expect.poll(() => files.length, { timeout: 30_000 }).toBe(setUps(job).length + 1)
    const drawing = files.find((file) => file.suggestedFilename().endsWith('.svg'))
    expect(await readFile((await drawing!.path())!, 'utf8')).toContain('tool path')
    await start(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await finish(hand)
    hand.counted()
  })
}
