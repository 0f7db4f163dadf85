// Everything that runs a machine stands in this file: there is one of each, and files run side by side.
import { expect, type Page, test } from '@playwright/test'
import { atTheMachine } from './at-the-machine.ts'
import { dropFile, saved, serverJob, settled, type } from './hands.ts'
import { pictureJobs } from './picture-jobs.ts'
import { discPicture, handwriting, pagePicture } from './pictures.ts'

test('a dropped picture is run, held, found not through, run again and written down', async ({ page, browser }) => {
  test.setTimeout(200_000)
  await page.goto('/jobs')
  await dropFile(page, 'mooring-mark.png', discPicture(240, 80).png)
  await page.getByTestId('proposal-engrave-cut-around').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.getByTestId('block-cut').click()
  await type(page, 'Width', '40')
  await settled(page)
  // Far too weak to cut this: somebody guessed.
  await type(page, 'Power', '20')
  await settled(page)

  // Rehearsed first: the stage shows a moment, step by step, and the place that is asked for.
  await page.getByTestId('rehearse').click()
  await expect.poll(async () => Number(await page.getByTestId('stage').getAttribute('data-moment'))).toBeGreaterThan(0.5)
  await page.getByTestId('rehearse').click()
  const moment = async (): Promise<number> => Number(await page.getByTestId('stage').getAttribute('data-moment'))
  const before = await moment()
  await page.getByRole('button', { name: 'One move on' }).click()
  await expect.poll(moment).toBeGreaterThan(before)
  await page.getByRole('button', { name: 'One move back' }).click()
  await page.getByRole('button', { name: 'One move back' }).click()
  await expect.poll(moment).toBeLessThanOrEqual(before)
  await page.getByTestId('playhead').focus()
  await page.keyboard.press('End')
  await settled(page)
  await page.getByTestId('after-burn').click()
  await expect(page.getByTestId('stage')).toHaveAttribute('data-moment', '')
  await saved(page)

  // At the machine.
  await page.getByTestId('tab-run').click()
  await page.waitForURL(/run$/)
  await settled(page)
  await atTheMachine(page, 'Mara')
  await page.getByTestId('home').click()
  await expect(page.getByTestId('head-place')).toContainText('X 0.0 · Y 0.0')
  await page.getByTestId('jog-right').click()
  await expect(page.getByTestId('head-place')).toContainText('X 10.0')
  await page.getByTestId('to-focus').click()
  await expect(page.getByTestId('head-place')).toContainText('Z 3.0')
  await page.getByRole('button', { name: 'again and again' }).click()
  await page.getByTestId('frame').click()
  await expect(page.getByTestId('machine-chip')).toContainText('framing')
  await page.getByTestId('stop').click()
  await expect(page.getByTestId('machine-chip')).toContainText('ready')
  await expect(page.getByTestId('start')).toBeDisabled()
  await page.getByTestId('preflight-people').click()
  await expect(page.getByTestId('preflight-count')).toContainText('2 of')
  await page.getByTestId('preflight-all').click()

  // Run, with somebody else looking on; in real time, so that it lasts until all this is done.
  await page.getByRole('button', { name: '1 × time' }).click()
  await page.getByTestId('start').click()
  await expect(page.getByTestId('countdown')).toHaveAttribute('data-phase', 'running')
  const other = await (await browser.newContext()).newPage()
  await other.goto(page.url())
  await expect(other.getByTestId('countdown')).toBeVisible()
  await other.goto('/jobs')
  await expect(other.getByTestId('stop-bench-60')).toContainText('Stop Bench laser 60 W: mooring mark')
  await page.getByTestId('hold').click()
  await expect(page.getByTestId('countdown')).toHaveAttribute('data-phase', 'held')
  await page.getByTestId('resume').click()
  await expect(page.getByTestId('countdown')).toHaveAttribute('data-phase', 'running')
  await page.getByTestId('panel-lid').click()
  await expect(page.getByTestId('run-reason')).toContainText('The lid is open')
  await expect(page.getByTestId('panel-lid')).toHaveText('Close lid')

  await page.getByTestId('panel-lid').click()
  await expect(page.getByTestId('panel-lid')).toHaveText('Open lid')
  await page.getByTestId('resume').click()
  await page.getByRole('button', { name: '60 × time' }).click()
  await expect(page.getByTestId('countdown')).toHaveAttribute('data-phase', 'done', { timeout: 15_000 })

  // Not through: seen from above, and said so. The dots are as they were forecast.
  await expect(page.getByTestId('burn-card')).toHaveAttribute('data-cut', '0', { timeout: 30_000 })
  expect(Number(await page.getByTestId('burn-card').getAttribute('data-dots'))).toBe(1)
  await page.getByTestId('look-engrave-yes').click()
  await page.getByTestId('look-cut-no').click()
  const again = page.getByTestId('again-cut')
  for (let i = 0; i < 12; i++) await again.getByRole('button', { name: 'More power' }).click()
  await expect(again.getByTestId('change-power')).toHaveValue('80')
  await page.getByTestId('run-again').click()
  await expect(page.getByTestId('look-cut')).toBeVisible({ timeout: 60_000 })
  await expect(page.getByTestId('look-engrave')).toBeHidden()
  await expect
    .poll(async () => Number(await page.getByTestId('burn-card').getAttribute('data-cut')), { timeout: 30_000 })
    .toBeGreaterThan(0.8)
  await page.getByTestId('look-cut-yes').click()
  await page.getByTestId('take-over-cut').click()
  await saved(page)
  await page.getByTestId('closing-exhaust').click()
  // Two things of the closing list are open: it says so, and is pressed again.
  await page.getByTestId('finish').click()
  await expect(page.getByTestId('finish')).toContainText('still open: bed, machine off or watched')
  await page.getByTestId('closing-bed').click()
  await page.getByTestId('finish').click()
  await expect(page.getByTestId('start')).toBeVisible()

  // The journal has both, with what was seen.
  await page.goto('/journal')
  const runs = page.getByTestId('journal').locator('li')
  // Other tests run on other machines meanwhile: only this job's are looked at, the newest first.
  const own = runs.filter({ hasText: 'mooring mark' })
  await expect(own.first()).toContainText('again: mooring mark (1 block)')
  await own.nth(1).locator('button').click()
  const entry = page.getByTestId('run-entry')
  await expect(entry).toContainText('Cut of “edge + 3 mm” 20 %')
  await expect(own.nth(1)).toContainText('2 interruptions')
  await entry.locator('label', { hasText: '4 of 5' }).click()
  await entry.getByTestId('run-note').fill('Too weak: guessed.')
  await page.getByRole('textbox', { name: 'Find a run' }).fill('guessed')
  await expect(runs).toHaveCount(1)
  await expect(page.getByRole('img', { name: '4 of 5' })).toBeVisible()
  await entry.getByTestId('start-again').click()
  await page.waitForURL(/run$/)
  await expect(page.getByTestId('strip-cut')).toContainText('80 %')
})

/** Waits until the bench shows the job as it is now. */
const benchSettled = (page: Page): Promise<void> =>
  expect(page.locator('[data-testid=bench-stage][data-settled=true]')).toBeVisible({ timeout: 30_000 })

test('a photo is cropped exactly, cleaned by samples, made into dots and run: dot for dot', async ({ page }) => {
  test.setTimeout(200_000)
  await page.goto('/jobs')
  await dropFile(page, 'tide-note.png', pagePicture(900, 600))
  await page.getByTestId('proposal-engrave').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.getByTestId('tab-picture').click()
  await benchSettled(page)

  // Exactly 30 × 12 mm.
  await page.getByTestId('add-step').click()
  await page.getByTestId('add-crop').click()
  for (const [field, size] of [
    ['Crop width', '30'],
    ['Crop height', '12'],
  ]) {
    await page.getByRole('textbox', { name: field }).fill(size)
    await page.getByRole('textbox', { name: field }).press('Enter')
  }
  await page.getByTestId('card-crop').click()
  await benchSettled(page)
  const share = async (fact: string): Promise<number> =>
    Number.parseFloat((await page.getByTestId(fact).innerText()).split('\n')[1])
  await expect(page.getByTestId('fact-dots')).toContainText('236 × 94')
  const shaded = await share('fact-burned')

  // Paper in the light and in the shade, and ink, shown on the picture.
  await page.getByTestId('card-levels').click()
  const stage = (await page.getByTestId('bench-stage').boundingBox())!
  const middle = { x: stage.x + stage.width / 2, y: stage.y + stage.height / 2 }
  const patch = page.getByTestId('patch-paper')
  await page.getByTestId('sample-paper').click()
  for (const [i, [dx, dy]] of [
    [-0.4, 0.02],
    [0.4, 0.02],
  ].entries()) {
    await page.mouse.click(middle.x + dx * stage.width, middle.y + dy * stage.height)
    await expect(patch).toHaveCount(i + 1)
  }
  await page.getByTestId('sample-paper').click()
  await benchSettled(page)
  await expect.poll(() => share('fact-burned')).toBeLessThan(shaded * 0.7)
  const before = await share('fact-burned')
  await page.keyboard.press('Control+z')
  await expect(patch).toHaveCount(1)
  await page.keyboard.press('Control+Shift+z')
  await expect(patch).toHaveCount(2)
  await expect.poll(() => share('fact-burned')).toBe(before)

  // Other dots; a stroke that keeps a corner clear.
  await page.getByTestId('card-dots').click()
  await page.getByTestId('kernel').click()
  await page.getByRole('option', { name: 'Stucki' }).click()
  await page.getByTestId('add-step').click()
  await page.getByTestId('add-clear').click()
  // The menu fades, and takes presses until it is gone.
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  await page.mouse.move(middle.x - 0.3 * stage.width, middle.y)
  await page.mouse.down()
  await page.mouse.move(middle.x - 0.1 * stage.width, middle.y + 4, { steps: 6 })
  await page.mouse.up()
  await expect(page.getByRole('button', { name: 'Empty it (1 part)' })).toBeVisible()
  await benchSettled(page)
  await expect.poll(() => share('fact-burned')).not.toBe(before)
  await saved(page)

  await page.getByTestId('tab-run').click()
  await page.waitForURL(/run$/)
  await settled(page)
  await atTheMachine(page, 'Runa')
  await page.getByTestId('home').click()
  await expect(page.getByTestId('head-place')).toContainText('X 0.0 · Y 0.0')
  await page.getByTestId('to-focus').click()
  await expect(page.getByTestId('head-place')).toContainText('Z 3.0')
  await page.getByTestId('preflight-all').click()
  await page.getByTestId('start').click()
  await expect(page.getByTestId('burn-card')).toHaveAttribute('data-dots', '1', { timeout: 60_000 })
})

test('what stops a job stops its start, with the reason', async ({ page }) => {
  await page.goto('/jobs')
  await dropFile(page, 'far-out.png', discPicture(200, 60).png)
  await page.getByTestId('proposal-cut-shape').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.getByTestId('workpiece-chip').click()
  await page.getByRole('textbox', { name: 'From the left' }).fill('580')
  await page.keyboard.press('Enter')
  // Beside the sheet: it closes.
  await page.mouse.click(30, 500)
  await settled(page)
  await page.getByTestId('tab-run').click()
  await settled(page)
  await expect(page.getByRole('alert').filter({ hasText: 'Cannot run:' })).toContainText('outside the bed')
  await expect(page.getByTestId('start')).toBeDisabled()
})

test('a program from a file is shown, checked and run; carried ones are written down by hand', async ({ page }) => {
  await page.goto('/jobs')
  const square = ['G21', 'G90', 'M4 S700', 'G0X200Y200', 'G1X240F1200', 'Y230', 'X200', 'Y200', 'M5', 'G0X0Y0', 'M2'].join('\n')
  await dropFile(page, 'pier-plate.nc', new TextEncoder().encode(square), 'text/plain')
  await page.waitForURL(/compose/)
  await settled(page)
  await expect(page.getByTestId('block-program')).toContainText('Program')
  await page.getByTestId('block-program').click()
  await expect(page.getByTestId('dim-width')).toContainText('40.0')
  await page.getByTestId('operator').click()
  await page.getByLabel('Your name').fill('Tobin')
  await page.keyboard.press('Enter')
  await page.getByTestId('save-program').click()
  await page.getByTestId('carried').click()
  await page.waitForURL(/journal/)
  await page.getByTestId('journal').locator('li', { hasText: 'pier-plate' }).first().locator('button').click()
  await page.getByTestId('carried-time').fill('1:05')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('journal').locator('li', { hasText: 'pier-plate' }).first()).toContainText('1:05')

  await page.goto('/jobs')
  await dropFile(page, 'odd-words.nc', new TextEncoder().encode('G21\nG90\nM4S300\nG1X20Y20F900\nG38.2Z4\nG1X40\n'), 'text/plain')
  await page.waitForURL(/compose/)
  await settled(page)
  await expect(page.getByTestId('finding-program').first()).toContainText(
    'Line 5 of the program: “G38.2” is a word that Neotaxis does not know.',
  )
  await page.goto('/jobs')
  await dropFile(page, 'letter.nc', new TextEncoder().encode('Dear harbour master,\n'), 'text/plain')
  await expect(page.getByText('no moves were found in it')).toBeVisible()
})

const outlineSettled = (page: Page): Promise<void> =>
  expect(page.locator('[data-testid=outline-stage][data-settled=true]')).toBeVisible({ timeout: 30_000 })

/** A number of the bench's facts. */
const told = async (page: Page, name: string): Promise<number> => {
  const text = await page.getByTestId('outline-numbers').innerText()
  return Number.parseFloat(new RegExp(`${name}\\s+([\\d.]+)`).exec(text)![1])
}

test('handwriting is cleaned, traced along its strokes and scored on a brass plate', async ({ page }) => {
  test.setTimeout(200_000)
  await page.goto('/jobs')
  await dropFile(page, 'harbour-master.png', handwriting(600, 300))
  await page.getByTestId('proposal-score-strokes').waitFor({ timeout: 30_000 })
  await page.getByRole('combobox', { name: 'Material' }).click()
  await page.getByRole('option', { name: /Lacquered brass/ }).click()
  await page.getByTestId('proposal-score-strokes').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await expect(page.locator('[data-testid^=block-]').first()).toContainText('Score')

  // On its bench: crumbs go, one stroke is opened, and taken back.
  await page.getByTestId('tab-outline').click()
  await outlineSettled(page)
  await expect.poll(() => told(page, 'open lines')).toBeGreaterThan(1)
  const lines = await told(page, 'open lines')
  await page.getByTestId('add-outline-step').click()
  await page.getByTestId('add-specks').click()
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  await page.getByRole('textbox', { name: 'Smaller than' }).fill('9')
  await page.getByRole('textbox', { name: 'Smaller than' }).press('Enter')
  await outlineSettled(page)
  await expect.poll(() => told(page, 'open lines')).toBeLessThan(lines)
  const cleaned = await told(page, 'open lines')
  await saved(page)
  const { document } = await serverJob(page)
  expect(document.nodes[document.operations.score.of[0]].kind).toBe('clean')

  // A box takes away what is inside it; undo brings it back.
  const stage = (await page.getByTestId('outline-stage').boundingBox())!
  await page.getByTestId('tool-erase').click()
  await page.mouse.move(stage.x + 2, stage.y + 50)
  await page.mouse.down()
  await page.mouse.move(stage.x + stage.width - 4, stage.y + stage.height - 4, { steps: 4 })
  await page.mouse.up()
  await expect.poll(() => told(page, 'open lines')).toBe(0)
  await page.keyboard.press('Control+z')
  await expect.poll(() => told(page, 'open lines')).toBe(cleaned)

  await page.getByTestId('tab-run').click()
  await page.waitForURL(/run$/)
  await settled(page)
  await atTheMachine(page, 'Ebba')
  // It may stand at its zero already: that the way there is over is told by the answer.
  await Promise.all([page.waitForResponse(/\/home$/), page.getByTestId('home').click()])
  await expect(page.getByTestId('head-place')).toContainText('X 0.0 · Y 0.0')
  await expect(page.getByTestId('machine-chip')).toContainText('ready')
  await page.getByTestId('to-focus').click()
  await expect(page.getByTestId('head-place')).toContainText('Z 1.0')
  await page.getByTestId('preflight-all').click()
  await page.getByTestId('start').click()
  await expect(page.getByTestId('look-score')).toBeVisible({ timeout: 60_000 })
  await page.getByTestId('look-score-yes').click()
})

// Three of the whole jobs; all of them are a campaign.
pictureJobs()
