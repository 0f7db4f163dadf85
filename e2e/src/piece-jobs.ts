// Whole jobs about the piece itself: the corner of a sheet from stock, a sheet whose corners were touched, a pane in its jig.
import { burnOrder, mainPiece, outlineSize } from '@neotaxis/core'
import { expect, type Page, test } from '@playwright/test'
import { atTheMachine } from './at-the-machine.ts'
import { finish, finishWhatWaits, Hand, start, startHere } from './counting-hand.ts'
import { dimension, saved, serverJob, settled } from './hands.ts'
import { discPicture, preparedDots } from './pictures.ts'

interface Item {
  readonly jig: string | null
  readonly id: string
  readonly code: string
  readonly name: string
  readonly count: number
  readonly kind: string
  readonly areaMm2: number
  readonly cents: number
}

/** Puts a sheet on the shelf. */
async function onShelf(page: Page, material: string, thicknessMm: number, more: object = {}): Promise<Item> {
  const answer = await page.request.post('/api/stock', {
    data: {
      name: `${material} ${Date.now() % 1e6}`,
      kind: 'sheet',
      material,
      thicknessMm,
      outline: { kind: 'rect', widthMm: 200, heightMm: 120 },
      keepOuts: {},
      marks: {},
      count: 1,
      shelf: 'rack A',
      note: '',
      photo: null,
      recipe: null,
      jig: null,
      cents: 2400,
      ...more,
    },
  })
  expect(answer.status()).toBe(201)
  return answer.json()
}

const stockNow = async (page: Page, id: string): Promise<Item> =>
  (await (await page.request.get('/api/stock')).json()).stock.find((item: Item) => item.id === id)

/** The head is jogged to a place on the bed and stands there. mm from the machine's zero */
async function jogTo(hand: Hand, x: number, y: number): Promise<void> {
  hand.movements++
  const moved = await hand.page.request.post('/api/machines/bench-60/go', {
    headers: { 'X-Operator': 'Runa' },
    data: { x, y, speedMmS: 300 },
  })
  expect(moved.ok()).toBe(true)
  await expect(hand.page.getByTestId('head-place')).toContainText(`X ${x.toFixed(1)} · Y ${y.toFixed(1)}`, { timeout: 30_000 })
}

export function pieceJobs(): void {
  test('parts from the corner of a sheet: from stock, with a margin, the strip cut off, the use written down', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'W4')
    await page.goto('/jobs')
    const sheet = await onShelf(page, 'birch-ply-3', 3)
    // On this sheet of the shelf.
    await page.goto(`/stock?piece=${sheet.id}`)
    await hand.press('begin-on')
    await page.waitForURL(/jobs$/)
    await hand.drop('oarlock.png', discPicture(240, 100).png)
    await page.getByTestId('proposal-cut-shape').waitFor({ timeout: 30_000 })
    await hand.press('proposal-cut-shape')
    await page.waitForURL(/compose/)
    await settled(page)
    await hand.type('Width', '36')
    await settled(page)
    await hand.press('put-top-left')
    await settled(page)
    await expect(page.getByTestId('dim-margin-left')).toContainText('5.0')
    // What is left is cut off straight, after everything else.
    await hand.press('workpiece-chip')
    await hand.press('cut-off')
    await expect(page.getByText(/stay in one piece behind the line/)).toBeVisible({ timeout: 30_000 })
    await page.keyboard.press('Escape')
    await settled(page)
    await saved(page)
    const { document } = await serverJob(page)
    expect(mainPiece(document)).toMatchObject({ stock: { id: sheet.id, cents: 2400 } })
    expect(burnOrder(document)).toHaveLength(2)
    const cost = Number(await page.getByTestId('job-cost').getAttribute('data-cents'))
    expect(cost).toBeGreaterThan(300)
    // Proved on card first, where it will lie: that takes nothing from the shelf.
    await hand.press('tab-run')
    await page.waitForURL(/run$/)
    const real = page.url()
    const before = hand.movements
    await hand.press('proof-first')
    await page.waitForURL((url) => /run$/.test(url.pathname) && !real.endsWith(url.pathname))
    await settled(page)
    expect(hand.movements - before).toBe(1)
    const burned = async (): Promise<void> => {
      await startHere(hand)
      await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
      await finishWhatWaits(hand)
      await expect
        .poll(async () => Number(await page.getByTestId('burn-card').getAttribute('data-cut')), { timeout: 60_000 })
        .toBeGreaterThan(0.7)
    }
    await burned()
    await finish(hand)
    expect(await stockNow(page, sheet.id)).toMatchObject({ kind: 'sheet' })
    await hand.press('proof-back')
    await page.waitForURL(real)
    await settled(page)
    await burned()
    // The shelf has the straight rest of it, under the same code; what was used is written down.
    await expect.poll(async () => (await stockNow(page, sheet.id)).kind, { timeout: 30_000 }).toBe('offcut')
    const left = await stockNow(page, sheet.id)
    expect(left.code).toBe(sheet.code)
    const [use] = (await (await page.request.get('/api/stock/uses')).json()).uses
    expect(use.stockId).toBe(sheet.id)
    // The rest behind the line, and what of the strip is worth to be kept.
    const { stock } = await (await page.request.get('/api/stock')).json()
    const rests: Item[] = stock.filter(({ name }: { name: string }) => name === `rest of ${sheet.name}`)
    const kept = rests.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)
    expect(Math.abs(use.areaMm2 + kept - 24_000)).toBeLessThan(20)
    expect(left.areaMm2).toBeGreaterThan(17_000)
    expect(use.areaMm2).toBeLessThan(1500)
    await finish(hand)
    hand.counted()
  })

  test('a pierced disc from a sheet whose corners were touched with the head, one place cut again before it is lifted', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'W5')
    await page.goto('/jobs')
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40"><g fill="none" stroke="#000" stroke-width="0.1"><circle cx="20" cy="20" r="20"/><circle cx="20" cy="20" r="4"/></g></svg>'
    await hand.drop('oar-collar.svg', new TextEncoder().encode(svg), 'image/svg+xml')
    await page.getByTestId('proposal-cut-lines').waitFor({ timeout: 30_000 })
    await hand.press('proposal-cut-lines')
    await page.waitForURL(/compose/)
    await settled(page)
    await saved(page)
    // The sheet as it lies there: two of its corners.
    await hand.press('tab-run')
    await page.waitForURL(/run$/)
    await settled(page)
    await atTheMachine(page, 'Runa')
    await jogTo(hand, 120, 90)
    await hand.press('touch-first')
    await jogTo(hand, 196, 152)
    await hand.press('touch-take')
    // Middle on middle.
    await hand.press('touch-apply-middle')
    await saved(page)
    const { document: centred } = await serverJob(page)
    const touched = mainPiece(centred)
    expect(outlineSize(touched.outline)).toMatchObject({ widthMm: 76, heightMm: 62 })
    const { source } = centred.placements
    expect(source.xMm + source.widthMm / 2).toBeCloseTo(38, 1)
    expect(source.yMm + source.heightMm / 2).toBeCloseTo(31, 1)
    await settled(page)
    await startHere(hand, { framed: true })
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    // Not through in one place: again, slower, on the piece as it lies.
    const block = page.locator('[data-testid^=look-][data-testid$=-partly]').first()
    await block.click()
    hand.movements++
    await hand.press('run-again')
    await expect(page.getByTestId('countdown')).toHaveAttribute('data-phase', /running|done/, { timeout: 60_000 })
    await finishWhatWaits(hand)
    await finish(hand)
    const { id } = /jobs\/(?<id>[^/]+)\//.exec(page.url())!.groups!
    const { runs } = await (await page.request.get(`/api/runs?jobId=${id}`)).json()
    expect(runs).toHaveLength(2)
    const [again, first] = runs
    expect(again.parentId).toBe(first.id)
    hand.counted()
  })

  test('a photo behind lacquered glass: a pane of the shelf, filled to its edge, in a paper jig that is cut first', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'P2')
    const blank = { kind: 'blank', outline: { kind: 'rect', widthMm: 60, heightMm: 40 }, count: 4, cents: 320 }
    await page.goto('/jobs')
    const glass = await onShelf(page, 'float-glass-4', 4, blank)
    await page.goto(`/stock?piece=${glass.id}`)
    await hand.press('begin-on')
    await page.waitForURL(/jobs$/)
    await hand.drop('harbour-light.png', discPicture(240, 90).png)
    await page.getByTestId('proposal-engrave-filling').waitFor({ timeout: 30_000 })
    await expect(page.getByTestId('begun-stock')).toContainText(glass.name)
    await hand.press('proposal-engrave-filling')
    await page.waitForURL(/compose/)
    await settled(page)
    await saved(page)
    const made = (await serverJob(page)).document
    expect(mainPiece(made)).toMatchObject({ stock: { id: glass.id }, thicknessMm: 4 })
    const picture = Object.values(made.nodes).find(({ kind }) => kind === 'picture')
    expect(picture).toMatchObject({ clip: { marginMm: 2 } })
    const pane = page.url().split('/').at(-2)!

    // The jig: a job of its own on card, cut before the pane is laid in.
    await page.getByTestId('stage').focus()
    await hand.key('Shift+J')
    await page.waitForURL((url) => /run$/.test(url.pathname) && !url.pathname.includes(pane))
    await settled(page)
    // The pane knows its jig from then on.
    await expect.poll(async () => (await stockNow(page, glass.id)).jig).toBe(new URL(page.url()).pathname.split('/')[2])
    await startHere(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await finish(hand)

    // On to the pane, which lies in it.
    await hand.press('held-piece')
    await page.waitForURL((url) => url.pathname.includes(pane))
    await settled(page)
    await startHere(hand)
    hand.started(true)
    await finishWhatWaits(hand)
    await expect
      .poll(async () => Number(await page.getByTestId('burn-card').getAttribute('data-dots')), { timeout: 60_000 })
      .toBeGreaterThan(0.95)
    await finish(hand)
    // A pane that nothing goes through is what was made: one less on the shelf.
    await expect.poll(async () => (await stockNow(page, glass.id)).count, { timeout: 30_000 }).toBe(3)
    hand.counted()
  })

  test('a stencil panel: what would fall is held by bridges, and lies with its margins', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'O4')
    await page.goto('/jobs')
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="50mm" viewBox="0 0 80 50"><g fill="none" stroke="#000" stroke-width="0.1"><rect width="80" height="50"/><circle cx="40" cy="25" r="18"/><circle cx="40" cy="25" r="9"/></g></svg>'
    await hand.drop('lantern-stencil.svg', new TextEncoder().encode(svg), 'image/svg+xml')
    await page.getByTestId('proposal-cut-lines').waitFor({ timeout: 30_000 })
    await hand.press('proposal-cut-lines')
    await page.waitForURL(/compose/)
    await settled(page)
    const falls = page.getByTestId('finding-falls-out').first()
    await expect(falls).toBeVisible({ timeout: 30_000 })
    await falls.getByRole('button', { name: /Hold/ }).first().click()
    hand.movements++
    await settled(page)
    await expect(page.getByTestId('finding-falls-out')).toHaveCount(0)
    await dimension(page, 'Margin left', '12')
    await dimension(page, 'Margin top', '9')
    hand.movements += 2
    await settled(page)
    await saved(page)
    const { document } = await serverJob(page)
    expect(Object.values(document.nodes).some(({ kind }) => kind === 'bridged')).toBe(true)
    await expect(page.getByTestId('dim-margin-left')).toContainText('12.0')
    await expect(page.getByTestId('dim-margin-top')).toContainText('9.0')
    await start(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await expect
      .poll(async () => Number(await page.getByTestId('burn-card').getAttribute('data-cut')), { timeout: 60_000 })
      .toBeGreaterThan(0.7)
    await finish(hand)
    hand.counted()
  })

  test('dots that are prepared already, on card: a guide is burned to lay it on, then every dot as it is', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'P3')
    await page.goto('/jobs')
    await hand.drop('beacon-dots.png', preparedDots(160, 120))
    await page.getByTestId('proposal-burn-dots').waitFor({ timeout: 30_000 })
    await hand.materialTyped('Grey card')
    await page.getByTestId('proposal-burn-dots').waitFor({ timeout: 30_000 })
    await hand.press('proposal-burn-dots')
    await page.waitForURL(/compose/)
    await settled(page)
    await hand.press('workpiece-chip')
    await hand.press('lay-by-guide')
    await expect(page.locator('[data-testid^=block-guide], [data-testid^=block-score]').first()).toBeVisible({ timeout: 30_000 })
    await page.keyboard.press('Escape')
    await settled(page)
    await saved(page)
    const { document } = await serverJob(page)
    expect(document.order.map((id) => document.steps[id].kind)).toEqual(['burn', 'pause', 'burn'])
    expect(burnOrder(document).map((id) => document.operations[id].process)).toEqual(['guide', 'picture'])
    await start(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await expect
      .poll(async () => Number(await page.getByTestId('burn-card').getAttribute('data-dots')), { timeout: 60_000 })
      .toBeGreaterThan(0.97)
    await finish(hand)
    hand.counted()
  })
}
