// Things that turn: a picture around a cup, from the dropped file to the burn.
import { mainPiece } from '@neotaxis/core'
import { expect, test } from '@playwright/test'
import { finish, finishWhatWaits, Hand, start } from './counting-hand.ts'
import { saved, serverJob, settled } from './hands.ts'
import { discPicture } from './pictures.ts'

export function roundJobs(): void {
  test('a picture goes around a cup: measured by a tape, its face laid flat, turned and burned as it was forecast', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page)
    await page.goto('/jobs')
    await hand.drop('mooring-post.png', discPicture(240, 100).png)
    await page.getByTestId('proposal-engrave').waitFor({ timeout: 30_000 })
    await hand.press('proposal-engrave')
    await page.waitForURL(/compose/)
    await settled(page)
    await hand.press('workpiece-chip')
    await hand.choose('workpiece-shape', 'Round, turning in a rotary')
    const tape = page.getByRole('textbox', { name: 'Once around' })
    hand.movements++
    await tape.fill('251.3')
    await tape.press('Enter')
    await page.keyboard.press('Escape')
    await settled(page)
    await saved(page)
    expect(hand.movements).toBeLessThanOrEqual(7)
    const { document } = await serverJob(page)
    expect(mainPiece(document).surface).toMatchObject({ kind: 'cylinder', diameterMm: expect.closeTo(79.99, 1) })
    await expect(page.getByTestId('workpiece-chip')).toContainText('Ø 80')
    // A small one is quickly burned.
    await page.getByTestId('block-engrave').click()
    await hand.type('Width', '30')
    await settled(page)
    await start(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await expect(page.getByTestId('burn-card')).toContainText('of the dots are as forecast', { timeout: 60_000 })
    expect(Number(await page.getByTestId('burn-card').getAttribute('data-dots'))).toBeGreaterThan(0.99)
    await finish(hand)
    test.info().annotations.push({ type: 'movements', description: String(hand.movements) })
  })
}
