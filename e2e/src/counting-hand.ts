// A hand that works through whole jobs and counts its movements; what happens at the machine is the same for all of them.
import { expect, type Page, test } from '@playwright/test'
import { atTheMachine } from './at-the-machine.ts'
import { dropFile, saved, settled } from './hands.ts'
import { type Movements, WHOLE_JOBS, type WholeJob } from './whole-jobs.ts'

/** A hand that counts what it does: presses, keys, fields that are filled, files that are dropped. */
export class Hand {
  readonly page: Page
  /** The whole job that it does. */
  readonly job: WholeJob | undefined
  movements = 0
  /** What safety asks before a start: the list, and what the check asks. */
  safety = 0
  /** Movements from the drop to the press that starts. */
  toStart: number | undefined

  constructor(page: Page, job?: WholeJob) {
    this.page = page
    this.job = job
  }

  /** The press that starts was the last one. @param anew a job of several starts counts to the last of them */
  started(anew = false): void {
    if (anew || this.toStart === undefined) this.toStart = this.movements
  }
  /** What it took goes into the table, and may not be more than it was. */
  counted(): void {
    const { job, movements, safety } = this
    if (!job) return
    const toStart = this.toStart ?? movements
    const facts = { job, toStart, after: movements - toStart + safety, burned: this.toStart !== undefined }
    test.info().annotations.push({ type: 'whole job', description: JSON.stringify(facts) })
    const { most, now = most }: Movements = WHOLE_JOBS[job]
    expect(toStart, `movements of ${job} to its start`).toBeLessThanOrEqual(now)
  }

  async drop(name: string, bytes: Uint8Array, type = 'image/png'): Promise<void> {
    this.movements++
    await dropFile(this.page, name, bytes, type)
  }
  async press(testId: string, how: { readonly button?: 'right'; readonly modifiers?: ['Control'] } = {}): Promise<void> {
    this.movements++
    await this.page.getByTestId(testId).first().click(how)
  }
  /** What safety asks around a run. */
  async answers(testId: string): Promise<void> {
    this.safety++
    await this.page.getByTestId(testId).first().click()
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
  /** A material, by some letters of its name and Enter. */
  async materialTyped(name: string): Promise<void> {
    this.movements++
    const field = this.page.getByRole('combobox', { name: 'Material' })
    await field.fill(name)
    await expect(this.page.getByRole('option').first()).toContainText(name)
    await field.press('Enter')
  }
  /** Another material for the workpiece. */
  async material(name: string): Promise<void> {
    await this.press('workpiece-chip')
    await this.materialTyped(name)
    await this.key('Escape')
  }
  async type(label: string, text: string): Promise<void> {
    this.movements++
    const field = this.page.getByRole('complementary', { name: 'Details' }).getByRole('textbox', { name: label, exact: true })
    await field.fill(text)
    await field.press('Enter')
  }
}

interface Start {
  /** The margins are checked by the head going around. */
  readonly framed?: boolean
  /** Another machine than the usual one. */
  readonly machine?: string
}

/** To the machine: its list, and the start, which homes and focuses first where that is missing. */
export async function start(hand: Hand, how: Start = {}): Promise<void> {
  const { page } = hand
  await saved(page)
  await hand.press('tab-run')
  await page.waitForURL(/run$/)
  await settled(page)
  await startHere(hand, how)
}

/** The same, where the run screen is open. */
export async function startHere(hand: Hand, { framed = false, machine }: Start = {}): Promise<void> {
  const { page } = hand
  await atTheMachine(page, 'Runa', machine)
  if (framed) {
    // Once around, by itself.
    const [framing] = await Promise.all([page.waitForResponse(/\/frame$/), hand.press('frame')])
    expect(framing.ok()).toBe(true)
    await expect(page.getByTestId('machine-chip')).toContainText('ready')
  }
  await page.getByTestId('preflight-all').click()
  hand.safety++
  for (const asked of await page.locator('[data-testid^=preflight-finding]').all()) {
    await asked.click()
    hand.safety++
  }
  await page.getByRole('button', { name: '60 × time' }).click()
  await hand.press('start')
  hand.started()
}

/** What was seen is written down, and the piece is lifted. */
export async function finish(hand: Hand): Promise<void> {
  const { page } = hand
  await expect(page.getByTestId('countdown')).toHaveAttribute('data-phase', 'done', { timeout: 120_000 })
  for (const id of await page.locator('[data-testid^=look-][data-testid$=-yes]').all()) {
    hand.safety++
    await id.click()
  }
  for (const item of ['exhaust', 'bed', 'machine']) {
    const box = page.getByTestId(`closing-${item}`)
    if ((await box.count()) > 0) await box.click()
  }
  await hand.answers('finish')
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
      await hand.answers('preflight-all')
      const open = page.locator('[role=checkbox][aria-checked=false][data-testid^=preflight-]')
      for (let left = await open.count(); left > 0; left--) {
        hand.safety++
        await open.first().click()
        await expect(open).toHaveCount(left - 1)
      }
    }
    await hand.answers('resume')
    await expect(countdown).not.toHaveAttribute('data-phase', 'paused', { timeout: 30_000 })
  }
}
