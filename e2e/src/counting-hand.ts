// A hand that works through whole jobs and counts its movements; what happens at the machine is the same for all of them.
import { expect, type Page } from '@playwright/test'
import { atTheMachine } from './at-the-machine.ts'
import { dropFile, saved, settled } from './hands.ts'

/** A hand that counts what it does: presses, keys, fields that are filled, files that are dropped. */
export class Hand {
  readonly page: Page
  movements = 0

  constructor(page: Page) {
    this.page = page
  }

  async drop(name: string, bytes: Uint8Array, type = 'image/png'): Promise<void> {
    this.movements++
    await dropFile(this.page, name, bytes, type)
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
export async function start(hand: Hand): Promise<void> {
  const { page } = hand
  await saved(page)
  await hand.press('tab-run')
  await page.waitForURL(/run$/)
  await settled(page)
  await startHere(hand)
}

/** The same, where the run screen is open. */
export async function startHere(hand: Hand): Promise<void> {
  const { page } = hand
  await atTheMachine(page, 'Runa')
  // It may stand at its zero already: that the way there is over is told by the answer.
  await Promise.all([page.waitForResponse(/\/home$/), page.getByTestId('home').click()])
  await expect(page.getByTestId('head-place')).toContainText('X 0.0 · Y 0.0')
  await expect(page.getByTestId('machine-chip')).toContainText('ready')
  await hand.press('to-focus')
  await expect(page.getByTestId('head-place')).toContainText(/Z (0\.3|(1|3|4|12)\.0)/)
  // The lens may stand there already: the list says when it was set.
  await expect(page.getByTestId('preflight-focus')).toHaveAttribute('aria-checked', 'true', { timeout: 30_000 })
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
export async function finish(hand: Hand): Promise<void> {
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

/** Brings a file into the job that is open, by one of its proposals. */
export async function bringIn(hand: Hand, name: string, buffer: Uint8Array, proposal: string): Promise<void> {
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
export async function finishWhatWaits(hand: Hand): Promise<void> {
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
