// Whole jobs of outlines: cut around, scored, filled, carried away as a file; what was cut, and in which order.
import { readFile } from 'node:fs/promises'
import { burnOrder, decodePng, type JobDocument } from '@neotaxis/core'
import { expect, type Page, test } from '@playwright/test'
import { finish, finishWhatWaits, Hand, start } from './counting-hand.ts'
import { saved, serverJob, settled } from './hands.ts'
import { burnedAsForecast, proposed } from './picture-jobs.ts'
import { discPicture, handwriting, ringOnNothing } from './pictures.ts'

const processes = (job: JobDocument): string[] => burnOrder(job).map((id) => job.operations[id].process)

/** How dark the last run of the open job burned its box, place by place, 0–255. */
async function burnedTones(page: Page): Promise<Uint8Array> {
  const { id } = /jobs\/(?<id>[^/]+)\//.exec(page.url())!.groups!
  const { runs } = await (await page.request.get(`/api/runs?jobId=${id}`)).json()
  const { samples } = decodePng(new Uint8Array(await (await page.request.get(`/api/runs/${runs[0].id}/burn.png`)).body()))
  return Uint8Array.from({ length: samples.length / 3 }, (_, i) => samples[3 * i])
}

export function outlineJobs(): void {
  test('a picture is engraved, then cut out around it: outside it by 3 mm, its outermost line alone, in register', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'O1')
    await proposed(hand, { name: 'mooring-mark.png', bytes: discPicture(240, 80).png }, 'engrave-cut-around')
    await saved(page)
    const { document } = await serverJob(page)
    expect(processes(document)).toEqual(['picture', 'cut'])
    const around = Object.values(document.nodes).find(({ kind }) => kind === 'offset')
    expect(around).toMatchObject({ kind: 'offset' })
    expect(Object.keys(document.placements)).toEqual(['source'])
    await burnedAsForecast(hand, { dots: 0.97, cut: 0.7 })
    hand.counted()
  })

  test('a shape is cut around a transparent picture: its own outline, by what is opaque of it', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'O2')
    await proposed(hand, { name: 'quay-ring.png', bytes: ringOnNothing(240, 6) }, 'engrave-cut-around')
    await saved(page)
    const { document } = await serverJob(page)
    expect(processes(document)).toEqual(['picture', 'cut'])
    await burnedAsForecast(hand, { cut: 0.7 })
    hand.counted()
  })

  test('handwriting of a phone photo goes on a small brass plate: its ink out of uneven light, filled along its contours', async ({
    page,
  }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'O5')
    await proposed(hand, { name: 'harbour-master.png', bytes: handwriting(600, 300, true) }, 'fill-shapes', {
      material: 'Lacquered brass',
      widthMm: 50,
    })
    await hand.press('compare-fills')
    await hand.press('fill-rings')
    await settled(page)
    await saved(page)
    const { document } = await serverJob(page)
    expect(document.operations.fill).toMatchObject({ process: 'area', strategy: 'rings' })
    await start(hand)
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 60_000 })
    await finishWhatWaits(hand)
    const burn = page.getByTestId('burn-card')
    await expect(burn).toContainText(/tone/, { timeout: 90_000 })
    const off = /tone (as forecast|([\d.]+) %)/.exec((await burn.textContent()) ?? '')
    expect(off).not.toBeNull()
    expect(Number(off![2] ?? 0)).toBeLessThan(6)
    // Ink is a small share of the plate: no shadow was burned with it.
    const tones = await burnedTones(page)
    const dark = tones.filter((tone) => tone > 60).length / tones.length
    expect(dark).toBeLessThan(0.3)
    expect(dark).toBeGreaterThan(0.02)
    await finish(hand)
    hand.counted()
  })

  test('a traced outline as a program file: carried to its machine, its real time written down', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'O6')
    await proposed(hand, { name: 'hatch.png', bytes: discPicture(240, 80).png }, 'cut-shape')
    await saved(page)
    const { document } = await serverJob(page)
    await page.getByTestId('operator').click()
    await page.getByLabel('Your name').fill('Tobin')
    await page.keyboard.press('Enter')
    const file = page.waitForEvent('download')
    await hand.press('save-program')
    const text = await readFile((await (await file).path())!, 'utf8')
    // A circle as arcs or short lines, with its beam off at the end.
    expect(text).toMatch(/^G21/m)
    expect(text.split('\n').length).toBeGreaterThan(12)
    expect(text.trim().split('\n').slice(-6).join('\n')).toMatch(/M5/)
    await hand.press('carried')
    hand.started()
    await page.waitForURL(/journal/)
    const entry = page.getByTestId('journal').locator('li', { hasText: document.name }).first()
    await entry.locator('button').click()
    hand.movements++
    await page.getByTestId('carried-time').fill('0:48')
    await page.keyboard.press('Enter')
    hand.movements++
    await expect(entry).toContainText('0:48')
    hand.counted()
  })

  test('a shelf label: a picture, a name, an edge that is cut last', async ({ page }) => {
    test.setTimeout(240_000)
    const hand = new Hand(page, 'O7')
    await proposed(hand, { name: 'rope.png', bytes: discPicture(240, 70).png }, 'engrave-cut-around', { widthMm: 24 })
    // The name, typed where it begins.
    await page.getByTestId('stage').focus()
    await hand.key('i')
    const at = (await page.getByTestId('stage').boundingBox())!
    await page.mouse.click(at.x + at.width / 2, at.y + 0.7 * at.height)
    hand.movements++
    await page.getByTestId('write-here').pressSequentially('Tern')
    await page.keyboard.press('Enter')
    hand.movements++
    await expect(page.getByTestId('drawn-details')).toBeVisible({ timeout: 30_000 })
    await settled(page)
    await saved(page)
    const { document } = await serverJob(page)
    expect(processes(document).at(-1)).toBe('cut')
    expect(processes(document)).toHaveLength(3)
    await burnedAsForecast(hand, { cut: 0.7 })
    hand.counted()
  })
}
