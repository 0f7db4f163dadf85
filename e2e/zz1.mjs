import { open } from './zz-look.mjs'

const post = (p, b) =>
  fetch('http://127.0.0.1:4400/api/machines/bench-60' + p, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(b),
  })
await post('/panel', { do: 'lift' })
await post('/camera/under', { lay: 'driftwood', fault: null })
for (const [w, h, dark, name] of [
  [1280, 800, false, 'bed-photo'],
  [1024, 768, true, 'bed-dark'],
]) {
  const { browser, page, shot, go, job } = await open({ w, h, dark })
  await go(`/jobs/${await job('Heron on driftwood')}/compose`)
  await page.waitForTimeout(3000)
  await page.keyboard.press('v')
  await page.getByTestId('photo-facts').waitFor({ timeout: 60000 })
  await page.waitForTimeout(3500)
  if (!dark) {
    await page.getByTestId('find-blanks').click()
    await page.getByTestId('blanks-found').waitFor({ timeout: 60000 })
    await page.waitForTimeout(500)
  }
  await shot(name)
  if (!dark) {
    await post('/camera/under', { lay: 'coasters' })
    await go(`/jobs/${await job('Storm shutter')}/compose`)
    await page.waitForTimeout(2000)
    await page.keyboard.press('v')
    await page.getByTestId('photo-facts').waitFor({ timeout: 60000 })
    await page.getByTestId('find-blanks').click()
    await page.getByTestId('blanks-found').waitFor({ timeout: 60000 })
    await page.getByTestId('fill-blank').click()
    await page.waitForTimeout(9000)
    await shot('coasters')
    await page.keyboard.press('Control+z')
    await post('/camera/under', { lay: 'driftwood' })
    await go('/journal')
    await page.waitForTimeout(1500)
    await page.locator('[data-testid^=run-]').first().click()
    await page.getByTestId('photo-after').waitFor({ timeout: 60000 })
    await page.getByTestId('photo-after').scrollIntoViewIfNeeded()
    await page.waitForTimeout(700)
    await shot('journal')
  }
  await browser.close()
}
