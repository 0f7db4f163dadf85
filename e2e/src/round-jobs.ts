// Things that turn: a picture around a cup, from the dropped file to the burn.
import { mainPiece } from '@neotaxis/core'
import { expect, test } from '@playwright/test'
import { finish, finishWhatWaits, Hand, start } from './counting-hand.ts'
import { saved, serverJob, settled } from './hands.ts'
import { proposed } from './picture-jobs.ts'
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
    hand.counted()
  })

  test('a drawing goes on a coated cup: cleaned and coated first, traced, upright, in one sweep, framed slowly, washed after', async ({
    page,
  }) => {
    test.setTimeout(300_000)
    const hand = new Hand(page, 'W7')
    // Traced, and filled in one sweep; what the material wants by hand comes with it.
    await proposed(hand, { name: 'anchor.png', bytes: discPicture(240, 80).png }, 'fill-shape', { material: 'Coated steel' })
    await hand.type('Height', '75')
    // How it is measured, where its lip is.
    await page.getByTestId('stage').focus()
    await hand.key('Shift+R')
    const tape = page.getByRole('textbox', { name: 'Once around' })
    hand.movements++
    await tape.fill('251.3')
    await tape.press('Enter')
    await page.keyboard.press('Escape')
    await settled(page)
    // A quarter turn, its top at the lip.
    await hand.press('upright')
    await settled(page)
    await saved(page)
    const { document } = await serverJob(page)
    const [place] = Object.values(document.placements)
    expect(place.deg).toBe(-90)
    // The drawing in it is two thirds of its picture.
    expect((place.heightMm * 160) / 240).toBeCloseTo(75, 0)
    expect(document.order.map((id) => document.steps[id].kind)).toEqual(['by-hand', 'by-hand', 'burn', 'by-hand'])
    // It is seen as it turns, and taken by the hand there.
    await page.getByTestId('as-it-turns').click()
    const view = page.getByTestId('turning-view')
    await expect(view).toHaveAttribute('data-painted', 'true')
    const box = (await view.boundingBox())!
    const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2]
    const before = await serverJob(page)
    await page.mouse.move(cx, cy)
    await page.mouse.down()
    for (let i = 1; i <= 6; i++) await page.mouse.move(cx + 8 * i, cy)
    await page.mouse.up()
    await saved(page)
    const dragged = await serverJob(page)
    const xOf = (job: typeof document): number => Object.values(job.placements)[0].xMm
    expect(xOf(dragged.document) - xOf(before.document)).toBeGreaterThan(5)
    // Beside the artwork a drag turns it.
    const turn = Number(await view.getAttribute('data-turn'))
    await page.mouse.move(cx - box.width / 2 + 30, cy + box.height / 3)
    await page.mouse.down()
    await page.mouse.move(cx - box.width / 2 + 30, cy + box.height / 3 + 60, { steps: 4 })
    await page.mouse.up()
    expect(Number(await view.getAttribute('data-turn'))).not.toBeCloseTo(turn, 0)
    await page.getByTestId('laid-flat').click()
    await expect(view).toHaveCount(0)
    await start(hand, { framed: true })
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
    await finishWhatWaits(hand)
    await expect(page.getByTestId('burn-card')).toContainText(/tone/, { timeout: 60_000 })
    const off = /tone (as forecast|([\d.]+) %)/.exec((await page.getByTestId('burn-card').textContent()) ?? '')
    expect(off).not.toBeNull()
    expect(Number(off![2] ?? 0)).toBeLessThan(6)
    await finish(hand)
    hand.counted()
  })
}
