// The same whole jobs by other hands: by touch alone, and by the keyboard alone.
import { readFile } from 'node:fs/promises'
import { expect, type Page, test } from '@playwright/test'
import { atTheMachine } from './at-the-machine.ts'
import { finish, finishWhatWaits, Hand } from './counting-hand.ts'
import { dropFile, saved, serverJob, settled } from './hands.ts'
import { discPicture, photoPicture, ringOnNothing } from './pictures.ts'

/** Goes on by Tab until something has the focus; what cannot be reached so is no way by the keyboard. */
async function tabTo(page: Page, testId: string, most = 80): Promise<void> {
  for (let i = 0; i < most; i++) {
    if (await page.evaluate((id) => document.activeElement?.closest(`[data-testid="${id}"]`) !== null, testId)) return
    await page.keyboard.press('Tab')
  }
  throw new Error(`“${testId}” was not reached by Tab.`)
}

/** What a clipboard holds is pasted. */
const pasted = (page: Page, name: string, bytes: Uint8Array): Promise<void> =>
  page.evaluate(
    ([text, fileName]) => {
      const array = Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
      const clipboardData = new DataTransfer()
      clipboardData.items.add(new File([array], fileName, { type: 'image/png' }))
      document.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
    },
    [Buffer.from(bytes).toString('base64'), name],
  )

/** From the run screen to a finished run, by taps. */
async function tappedToTheEnd(page: Page): Promise<void> {
  const tap = (testId: string): Promise<void> => page.getByTestId(testId).first().tap()
  await page.waitForURL(/run$/)
  await settled(page)
  await atTheMachine(page, 'Ebba')
  await tap('preflight-all')
  for (const asked of await page.locator('[data-testid^=preflight-finding]').all()) await asked.tap()
  await page.getByRole('button', { name: '60 × time' }).tap()
  await tap('start')
  await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 60_000 })
  const hand = new Hand(page)
  await finishWhatWaits(hand)
  await finish(hand)
}

export function otherHands(): void {
  test.describe('by touch', () => {
    test.use({ hasTouch: true })
    for (const [job, name, bytes, proposal] of [
      ['O1', 'mooring-mark.png', discPicture(240, 80).png, 'engrave-cut-around'],
      ['O2', 'quay-ring.png', ringOnNothing(240), 'engrave-cut-around'],
      ['P1', 'buoy-at-noon.png', photoPicture(300, 200), 'engrave'],
    ] as const)
      test(`${job} is done by touch alone, from the dropped file to the finished run`, async ({ page }) => {
        test.setTimeout(240_000)
        await page.goto('/jobs')
        await dropFile(page, name, bytes)
        await page.getByTestId(`proposal-${proposal}`).tap({ timeout: 60_000 })
        await page.waitForURL(/compose/)
        await settled(page)
        // Smaller, by the number on the stage.
        await page.getByTestId('dim-width').tap()
        const field = page.getByRole('textbox', { name: 'Width', exact: true }).last()
        await field.fill('40')
        await field.press('Enter')
        await settled(page)
        await saved(page)
        expect((await serverJob(page)).document.placements.source.widthMm).toBeCloseTo(40, 1)
        await page.getByTestId('tab-run').tap()
        await tappedToTheEnd(page)
      })
  })

  test('P1 is done by the keyboard alone: pasted, proposed, gone to the machine, started, looked at, finished', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    await page.goto('/jobs')
    await expect(page.getByTestId('board')).toBeVisible()
    await pasted(page, 'buoy-at-dawn.png', photoPicture(240, 160, 6))
    // The first that is proposed has the focus.
    await expect
      .poll(async () => page.evaluate(() => document.activeElement?.getAttribute('data-testid') ?? ''), { timeout: 60_000 })
      .toBe('proposal-engrave')
    await page.keyboard.press('Enter')
    await page.waitForURL(/compose/)
    await settled(page)
    await saved(page)
    await page.keyboard.press('g')
    await page.waitForURL(/run$/)
    await settled(page)
    await atTheMachine(page, 'Tobin')
    await tabTo(page, 'preflight-all')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: '60 × time' }).click()
    await tabTo(page, 'start')
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 60_000 })
    await expect(page.getByTestId('countdown')).toHaveAttribute('data-phase', 'done', { timeout: 120_000 })
    await tabTo(page, 'look-engrave-yes')
    await page.keyboard.press('Enter')
    await tabTo(page, 'finish')
    await page.keyboard.press('Enter')
    // What is open of the closing list is said; pressed again it is meant.
    await expect(page.getByTestId('finish')).toContainText(/still open|write it down/)
    await page.keyboard.press('Enter')
    await expect(page.getByTestId('start')).toBeVisible()
  })

  test('O6 is done by the keyboard alone: pasted, its outline proposed, its program saved and carried away', async ({ page }) => {
    test.setTimeout(240_000)
    await page.goto('/jobs')
    await expect(page.getByTestId('board')).toBeVisible()
    await pasted(page, 'hatch-cover.png', discPicture(240, 80).png)
    await page.getByTestId('proposal-cut-shape').waitFor({ timeout: 60_000 })
    await expect
      .poll(async () => page.evaluate(() => document.activeElement?.getAttribute('data-testid') ?? ''), { timeout: 60_000 })
      .toContain('proposal-')
    await tabTo(page, 'proposal-cut-shape')
    await page.keyboard.press('Enter')
    await page.waitForURL(/compose/)
    await settled(page)
    await saved(page)
    const file = page.waitForEvent('download')
    await page.keyboard.press('Control+Shift+G')
    expect(await readFile((await (await file).path())!, 'utf8')).toMatch(/^G21/m)
  })
}
