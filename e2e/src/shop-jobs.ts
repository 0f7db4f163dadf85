// Whole jobs of the shop, from dropped files to a finished run on the simulated machine: how many movements of the hand each takes, and
// what was burned in the end. They run a machine: whoever runs them has it alone.
import { readFile } from 'node:fs/promises'
import { burnOrder, setUps } from '@neotaxis/core'
import { expect, type Page, test } from '@playwright/test'
import { atTheMachine } from './at-the-machine.ts'
import { dropFile, saved, serverJob, settled } from './hands.ts'
import { discPicture, wavesPicture } from './pictures.ts'

/** A hand that counts what it does: presses, keys, fields that are filled, files that are dropped. */
class Hand {
  readonly page: Page
  movements = 0

  constructor(page: Page) {
    this.page = page
  }

  async drop(name: string, bytes: Uint8Array): Promise<void> {
    this.movements++
    await dropFile(this.page, name, bytes)
  }
  async press(testId: string, how: { readonly button?: 'right'; readonly modifiers?: ['Control'] } = {}): Promise<void> {
    this.movements++
    await this.page.getByTestId(testId).first().click(how)
  }
  async key(key: string): Promise<void> {
    this.movements++
    await this.page.keyboard.press(key)
  }
  async choose(testId: string, option: string): Promise<void> {
    this.movements += 2
    await this.page.getByTestId(testId).getByRole('combobox').click()
    await this.page.getByRole('option', { name: option }).click()
  }
  /** Another material for the workpiece. */
  async material(name: string): Promise<void> {
    this.movements += 3
    await this.page.getByTestId('workpiece-chip').click()
    await this.page.getByRole('combobox', { name: 'Material' }).click()
    await this.page.getByRole('option', { name }).click()
    await this.page.keyboard.press('Escape')
  }
  async type(label: string, text: string): Promise<void> {
    this.movements++
    const field = this.page.getByRole('complementary', { name: 'Details' }).getByRole('textbox', { name: label, exact: true })
    await field.fill(text)
    await field.press('Enter')
  }
}

/** To the machine: its list, its frame, and the start. */
async function start(hand: Hand): Promise<void> {
  const { page } = hand
  await saved(page)
  await hand.press('tab-run')
  await page.waitForURL(/run$/)
  await settled(page)
  await atTheMachine(page, 'Runa')
  await page.getByTestId('home').click()
  await expect(page.getByTestId('head-place')).toContainText('X 0.0 · Y 0.0')
  await hand.press('to-focus')
  await expect(page.getByTestId('head-place')).toContainText(/Z (3|12)\.0/)
  // The margins, checked by the head going around.
  await hand.press('frame')
  await expect(page.getByTestId('machine-chip')).toContainText('framing')
  await hand.press('stop')
  await expect(page.getByTestId('machine-chip')).toContainText('ready')
  await hand.press('preflight-all')
  for (const asked of await page.locator('[data-testid^=preflight-finding]').all()) await asked.click()
  await page.getByRole('button', { name: '60 × time' }).click()
  await hand.press('start')
}

/** What was seen is written down, and the piece is lifted. */
async function finish(hand: Hand): Promise<void> {
  const { page } = hand
  await expect(page.getByTestId('countdown')).toHaveAttribute('data-phase', 'done', { timeout: 120_000 })
  for (const id of await page.locator('[data-testid^=look-][data-testid$=-yes]').all()) {
    hand.movements++
    await id.click()
  }
  for (const item of ['exhaust', 'bed', 'machine']) {
    const box = page.getByTestId(`closing-${item}`)
    if ((await box.count()) > 0) await box.click()
  }
  await hand.press('finish')
  const sure = page.getByTestId('finish')
  if ((await sure.count()) > 0) await sure.click()
  await expect(page.getByTestId('start')).toBeVisible()
}

const onServer = async (page: Page) => {
  await saved(page)
  return (await serverJob(page)).document
}

export function shopJobs(): void {
  test('a deep engraving: ways to fill compared, margins framed, filled and sanded later', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page)
    await page.goto('/jobs')
    await hand.drop('bollard.png', discPicture(240, 80).png)
    await page.getByTestId('proposal-cut-shape').waitFor({ timeout: 30_000 })
    await hand.press('proposal-cut-shape')
    await page.waitForURL(/compose/)
    await settled(page)
    // The cut becomes a fill, in place.
    await page.locator('[data-testid^=block-]').first().focus()
    await hand.key('3')
    await settled(page)
    await hand.type('Width', '30')
    await settled(page)
    await hand.press('compare-fills')
    const cards = page.getByTestId('fill-cards')
    for (const name of ['sweep', 'patches', 'rings', 'two-angles'])
      await expect(cards.getByTestId(`fill-${name}`)).toHaveAttribute('data-seconds', /\d/, { timeout: 60_000 })
    const seconds = async (name: string) => Number(await cards.getByTestId(`fill-${name}`).getAttribute('data-seconds'))
    const told = await seconds('rings')
    await hand.press('fill-rings')
    await settled(page)
    await hand.press('compare-fills')
    // In soft wood, as deep as is wanted: by what the shop measured on it.
    await hand.material('Lime wood')
    await hand.type('Depth', '1.5')
    await settled(page)
    const depth = page.getByRole('complementary', { name: 'Details' }).getByRole('textbox', { name: 'Depth', exact: true })
    expect(Math.abs(Number(await depth.inputValue()) - 1.5)).toBeLessThan(0.03)
    // Later, at the bench.
    await hand.press('add-step')
    await hand.press('add-by-hand')
    const job = await onServer(page)
    const fill = job.operations[burnOrder(job)[0]]
    expect(fill).toMatchObject({ process: 'area', strategy: 'rings' })
    expect(fill.passes).toBeGreaterThan(1)
    expect(job.order.map((id) => job.steps[id].kind)).toEqual(expect.arrayContaining(['burn', 'by-hand']))
    const block = page.locator('[data-testid^=block-]').first()
    await expect.poll(async () => Number(await block.getAttribute('data-seconds')), { timeout: 30_000 }).toBeGreaterThan(told)
    await start(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await expect(page.getByTestId('burn-card')).toContainText(/tone/, { timeout: 60_000 })
    const off = /tone (as forecast|([\d.]+) %)/.exec((await page.getByTestId('burn-card').textContent()) ?? '')
    expect(off).not.toBeNull()
    expect(Number(off![2] ?? 0)).toBeLessThan(6)
    await finish(hand)
    test.info().annotations.push({ type: 'movements', description: String(hand.movements) })
    expect(hand.movements).toBeLessThanOrEqual(26)
  })

  test('a wall panel from several sources: a picture, a traced area, a silhouette; scaled as one, nothing burned twice, cut last', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page)
    await page.goto('/jobs')
    await hand.drop('harbour-light.png', discPicture(240, 80).png)
    await page.getByTestId('proposal-engrave').waitFor({ timeout: 30_000 })
    await hand.press('proposal-engrave')
    await page.waitForURL(/compose/)
    await settled(page)
    await hand.press('block-engrave')
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
    test.info().annotations.push({ type: 'movements', description: String(hand.movements) })
    expect(hand.movements).toBeLessThanOrEqual(34)
  })

  test('a picture and a contour that another tool cuts: two set-ups, a file each, cleaning between', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page)
    await page.goto('/jobs')
    await hand.drop('tide-mark.png', wavesPicture(300, 200))
    await page.getByTestId('proposal-engrave-cut-around').waitFor({ timeout: 30_000 })
    await hand.press('proposal-engrave-cut-around')
    await page.waitForURL(/compose/)
    await settled(page)
    // The contour is cut by the router instead: its block goes, its outline stays.
    await hand.press('block-cut')
    await hand.type('Width', '60')
    await settled(page)
    await page.getByTestId('block-cut').focus()
    await hand.key('Delete')
    await hand.press('add-step')
    await hand.press('add-elsewhere')
    await hand.press('elsewhere-of')
    await page.getByRole('option').last().click()
    await page.keyboard.press('Escape')
    hand.movements++
    const svg = page.waitForEvent('download')
    await hand.press('elsewhere-svg')
    const text = await readFile((await (await svg).path())!, 'utf8')
    expect(text).toContain('tool path')
    // A second set-up after it: turned over, its outline scored on the back.
    await hand.press('add-step')
    await hand.press('add-set-up')
    await page.locator('[data-testid^=node-]').last().click()
    await hand.key('2')
    await settled(page)
    const job = await onServer(page)
    expect(setUps(job).length).toBeGreaterThan(1)
    const files: string[] = []
    page.on('download', (download) => files.push(download.suggestedFilename()))
    await hand.press('save-program')
    await expect.poll(() => files.length, { timeout: 30_000 }).toBe(setUps(job).length)
    await start(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await finish(hand)
    test.info().annotations.push({ type: 'movements', description: String(hand.movements) })
    expect(hand.movements).toBeLessThanOrEqual(34)
  })
}

/** Brings a file into the job that is open, by one of its proposals. */
async function bringIn(hand: Hand, name: string, buffer: Uint8Array, proposal: string): Promise<void> {
  const { page } = hand
  const blocks = page.locator('[data-testid^=block-]')
  const before = await blocks.count()
  hand.movements++
  await page.getByTestId('bring-in-file').setInputFiles({ name, mimeType: 'image/png', buffer: Buffer.from(buffer) })
  await page.getByTestId(`proposal-${proposal}`).waitFor({ timeout: 30_000 })
  await hand.press(`proposal-${proposal}`)
  await expect(blocks).toHaveCount(before + 1)
  await settled(page)
}

/** Goes through whatever the run waits for, until it is over: lists of set-ups, pauses. */
async function finishWhatWaits(hand: Hand): Promise<void> {
  const { page } = hand
  const countdown = page.getByTestId('countdown')
  for (let i = 0; i < 6; i++) {
    await expect(countdown).toHaveAttribute('data-phase', /paused|done/, { timeout: 120_000 })
    if ((await countdown.getAttribute('data-phase')) === 'done') return
    if ((await page.getByTestId('preflight-count').count()) > 0) {
      await expect(page.getByTestId('resume')).toBeDisabled()
      await hand.press('preflight-all')
      const open = page.locator('[role=checkbox][aria-checked=false][data-testid^=preflight-]')
      for (let left = await open.count(); left > 0; left--) {
        hand.movements++
        await open.first().click()
        await expect(open).toHaveCount(left - 1)
      }
    }
    await hand.press('resume')
    await expect(countdown).not.toHaveAttribute('data-phase', 'paused', { timeout: 30_000 })
  }
}
