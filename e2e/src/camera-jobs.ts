// Whole jobs under the camera: calibrated on the screen, an odd slab filled, a shape cut from a pane, a small scan field.
import {
  assetsSupply,
  inOrder,
  MACHINES,
  MATERIALS,
  mainPiece,
  mainPieceId,
  mapped,
  outlineOfFace,
  poseMap,
  proposalsFor,
} from '@neotaxis/core'
import { expect, type Page, test } from '@playwright/test'
import { finish, finishWhatWaits, Hand, start, startHere } from './counting-hand.ts'
import { dropFile, saved, serverJob, settled } from './hands.ts'
import { proposed } from './picture-jobs.ts'
import { discPicture, ringOnNothing } from './pictures.ts'

const MACHINE = 'bench-60'
const FIELD = 'scan-20'

const lay = async (page: Page, what: string, machine = MACHINE): Promise<void> => {
  expect((await page.request.post(`/api/machines/${machine}/camera/under`, { data: { lay: what } })).status()).toBe(204)
}

/** Calibrates the camera as its operator does it, where nobody did so before, and remembers the empty bed. */
async function calibratedHere(page: Page, machine = MACHINE): Promise<void> {
  const { camera } = await (await page.request.get(`/api/machines/${machine}/camera`)).json()
  if (camera.calibration && camera.empty) return
  await page.goto('/machines')
  await page.getByTestId(`machine-${machine}`).click()
  const card = page.getByTestId('camera-card')
  await card.getByTestId('calibrate').click()
  for (let count = 1; count <= 2; count++) {
    await card.getByTestId('photograph-board').click()
    await expect(card.getByText(/of 247 dots seen/)).toHaveCount(count, { timeout: 60_000 })
    if (machine === FIELD && count === 1) await heightTyped(page, '3')
  }
  await card.getByTestId('work-out-lens').click()
  await expect(card.getByTestId('calibration-found')).toContainText('it may be trusted', { timeout: 60_000 })
  await expect(card.getByTestId('trust-map')).toBeVisible()
  await card.getByTestId('keep-calibration').click()
  await expect(card.getByTestId('camera-told')).toContainText('off by', { timeout: 30_000 })
  // Beside a small field nothing of the frame is seen.
  await expect(card).toContainText(machine === FIELD ? 'No marks of the frame' : '4 marks of the frame')
  await lay(page, 'nothing', machine)
  await card.getByTestId('take-empty').click()
  await expect(card).toContainText('The empty bed is known', { timeout: 30_000 })
}

/** On a small field the board is as large as that: raised far it would be seen in part. */
async function heightTyped(page: Page, mm: string): Promise<void> {
  const field = page.getByTestId('calibrating').getByRole('textbox')
  await field.fill(mm)
  await field.press('Enter')
}

/** The bed under the job, and what lies there found. */
async function seen(hand: Hand, blanks: number): Promise<void> {
  const { page } = hand
  await hand.key('v')
  await expect(page.getByTestId('photo-facts')).toContainText('just now', { timeout: 60_000 })
  await hand.press('find-blanks')
  await expect(page.getByTestId('blanks-found').getByRole('checkbox')).toHaveCount(blanks, { timeout: 60_000 })
}

/** Burned, and seen in the next photo where the forecast said. */
async function burnedAndSeen(hand: Hand): Promise<void> {
  const { page } = hand
  await start(hand)
  await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 30_000 })
  await finishWhatWaits(hand)
  const after = page.getByTestId('photo-after')
  await expect(after).toBeVisible({ timeout: 180_000 })
  await expect.poll(async () => Number((await after.getAttribute('data-off')) || Number.NaN)).toBeLessThan(0.4)
  await finish(hand)
}

export function cameraJobs(): void {
  test('artwork fills an odd slab under the camera: photographed, found, filled, burned, and seen there in the next photo', async ({
    page,
  }) => {
    test.setTimeout(480_000)
    await calibratedHere(page)
    await lay(page, 'driftwood')
    const hand = new Hand(page, 'W6')
    await page.goto('/jobs')
    await proposed(hand, { name: 'float.png', bytes: discPicture(240, 100).png }, 'engrave', { material: 'Lime wood' })
    await seen(hand, 1)
    await hand.press('fill-blank')
    await expect(page.getByTestId('blanks-found')).toHaveCount(0, { timeout: 60_000 })
    await settled(page)
    await saved(page)
    const { document } = await serverJob(page)
    const piece = mainPiece(document)
    // The slab: its edge, its hole kept free, turned as it lies.
    expect(piece.outline.kind).toBe('rings')
    expect(outlineOfFace(piece.outline)[0].length).toBeGreaterThan(60)
    expect(Object.values(piece.keepOuts)).toHaveLength(1)
    await expect(page.getByTestId('finding-outside-workpiece')).toHaveCount(0)
    await burnedAndSeen(hand)
    hand.counted()
  })

  test('a shape is cut from the pane in the photo, as large as it goes there; a knocked camera, a dark photo and none are told', async ({
    page,
  }) => {
    test.setTimeout(480_000)
    await calibratedHere(page)
    await lay(page, 'pane')
    const hand = new Hand(page, 'O3')
    // The sheet that work is begun on today: acrylic.
    await page.goto('/jobs')
    await dropFile(page, 'ornament.png', ringOnNothing(240))
    await page.getByRole('combobox', { name: 'Material' }).click({ timeout: 30_000 })
    await page
      .getByRole('option', { name: /acrylic/i })
      .first()
      .click()
    await page.goto('/jobs')
    await hand.drop('ornament.png', ringOnNothing(240))
    await page.getByTestId('proposal-cut-shape').waitFor({ timeout: 30_000 })
    await hand.press('proposal-cut-shape')
    await page.waitForURL(/compose/)
    await settled(page)
    await hand.key('Shift+V')
    await expect(page.getByTestId('blanks-found').getByRole('checkbox')).toHaveCount(1, { timeout: 90_000 })
    await hand.press('fill-blank')
    await expect(page.getByTestId('blanks-found')).toHaveCount(0, { timeout: 60_000 })
    await settled(page)
    // Cut out of the pane, and seen there in the next photo.
    await burnedAndSeen(hand)
    hand.counted()
    await page.getByTestId('tab-compose').click()
    await page.waitForURL(/compose/)
    await settled(page)
    await hand.key('Shift+U')
    await expect.poll(async () => Object.keys((await serverJob(page)).document.workpieces).length).toBe(2)
    await saved(page)
    const { document } = await serverJob(page)
    const [front, back] = inOrder(document).map((id) => document.workpieces[id])
    expect(front.outline).toMatchObject({ kind: 'rect' })
    expect(front.pose.deg).toBeCloseTo((0.16 * 180) / Math.PI, 0)
    expect(back.back).toMatchObject({ way: 'left-right' })
    const [place] = Object.values(document.placements)
    // As large as it goes, within the margin of its edge.
    const height = front.outline.kind === 'rect' ? front.outline.heightMm : 0
    expect(place.heightMm).toBeGreaterThan(0.8 * height)
    // Turned over, it is found where it lies: its second side is in register with the first.
    await lay(page, 'pane')
    await page.getByTestId('tab-run').click()
    await page.waitForURL(/run$/)
    await page.getByTestId('find-piece').click()
    await page.getByTestId('find-which').click()
    await page.getByRole('option').last().click()
    await page.getByTestId('find-by-camera').click()
    await expect(page.getByTestId('seen-piece')).toContainText('it fits what is seen within', { timeout: 90_000 })
    await page.getByTestId('seen-apply').click()
    await saved(page)
    const turned = (await serverJob(page)).document
    const side = inOrder(turned).map((id) => turned.workpieces[id])[1]
    expect(Math.hypot(side.pose.xMm - front.pose.xMm, side.pose.yMm - front.pose.yMm)).toBeLessThan(0.3)
    await page.getByTestId('tab-compose').click()
    await page.waitForURL(/compose/)
    await settled(page)
    // A knocked camera is noticed by the marks of the frame.
    expect(
      (await page.request.post(`/api/machines/${MACHINE}/camera/under`, { data: { lay: 'pane', fault: 'moved' } })).status(),
    ).toBe(204)
    await page.getByTestId('photo-again').click()
    await expect(page.getByTestId('photo-camera-moved')).toContainText('the camera was knocked', { timeout: 60_000 })
    for (const [fault, words] of [
      ['dark', 'dark'],
      ['away', 'does not answer'],
    ] as const) {
      await page.request.post(`/api/machines/${MACHINE}/camera/under`, { data: { lay: 'pane', fault } })
      await page.getByTestId('photo-again').click()
      if (fault === 'dark') await page.getByTestId('find-blanks').click({ timeout: 60_000 })
      await expect(page.getByTestId('photo-trouble')).toContainText(words, { timeout: 60_000 })
    }
    await page.request.post(`/api/machines/${MACHINE}/camera/under`, { data: { lay: 'nothing', fault: null } })
  })

  test('the camera at the head is measured by a dot that is burned, and a print is found by its marks, to hundredths of a mm', async ({
    page,
  }) => {
    test.setTimeout(800_000)
    await lay(page, 'nothing')
    await page.goto('/machines')
    await page.getByTestId(`machine-${MACHINE}`).click()
    const card = page.getByTestId('close-camera')
    await card.getByTestId('measure-close').click()
    await card.getByTestId('burn-mark').click()
    await page.waitForURL(/run$/, { timeout: 60_000 })
    await settled(page)
    const hand = new Hand(page)
    await startHere(hand)
    await finishWhatWaits(hand)
    await finish(hand)
    await page.goto('/machines')
    await page.getByTestId(`machine-${MACHINE}`).click()
    await card.getByTestId('measure-close').click()
    await card.getByTestId('look-close').click()
    await expect(card.getByTestId('keep-close')).toBeVisible({ timeout: 400_000 })
    await card.getByTestId('keep-close').click()
    await expect(card.getByTestId('close-told')).toContainText('of the beam', { timeout: 30_000 })
    const told = await (await page.request.get(`/api/machines/${MACHINE}@head/camera`)).json()
    expect(told.camera.calibration.p95Mm).toBeLessThan(0.03)

    // A printed sheet lies there: a little otherwise than the job has it, and printed 0.4 % too large.
    await lay(page, 'sheet')
    const { png } = discPicture(240, 100)
    const kept = await page.request.post('/api/assets', {
      headers: { 'Content-Type': 'application/octet-stream' },
      data: Buffer.from(png),
    })
    const { job } = proposalsFor(
      { ...(await kept.json()), name: 'print.png' },
      {
        workpiece: { widthMm: 300, heightMm: 210, thicknessMm: 1, pose: { xMm: 89, yMm: 84, deg: 0.9 } },
        material: MATERIALS.find(({ id }) => id === 'grey-card-1')!,
        machine: MACHINES.find(({ id }) => id === MACHINE)!,
      },
      assetsSupply(() => png),
    ).find(({ id }) => id === 'engrave')!
    const corners = [
      [20, 20],
      [280, 20],
      [280, 190],
      [20, 190],
    ]
    const marks = Object.fromEntries(corners.map(([x, y], i) => [`m${i}`, { xMm: x / 1.004, yMm: y / 1.004 }]))
    const sheet = { ...mainPiece(job), marks, thicknessMm: 0.3 }
    const made = { ...job, workpieces: { [mainPieceId(job)]: sheet } }
    const { id } = await (await page.request.post('/api/jobs', { data: { job: made } })).json()
    await page.goto(`/jobs/${id}/run`)
    await settled(page)
    await page.getByTestId('find-piece').click()
    await page.getByTestId('find-near').click()
    await expect(page.getByTestId('print-larger')).toContainText('0.40 % larger', { timeout: 120_000 })
    await page.getByTestId('as-printed').click()
    await expect(page.getByTestId('print-larger')).toHaveCount(0)
    await page.getByTestId('find-apply').click()
    await saved(page)
    const { document } = await serverJob(page)
    const piece = mainPiece(document)
    const map = poseMap(piece.pose, { widthMm: 300, heightMm: 210 })
    for (const [i, [x, y]] of corners.entries()) {
      const { xMm, yMm } = piece.marks[`m${i}`]
      const [px, py] = mapped(map, xMm, yMm)
      const [cos, sin] = [Math.cos(0.021), Math.sin(0.021)]
      expect(Math.hypot(px - (90 + cos * x - sin * y), py - (80 + sin * x + cos * y))).toBeLessThan(0.05)
    }
    await lay(page, 'nothing')
  })

  test('a lens that bends the field of a scan head is measured by burned marks, and the head corrected by it', async ({
    page,
  }) => {
    test.setTimeout(480_000)
    await calibratedHere(page, FIELD)
    const bent = await page.request.post(`/api/machines/${FIELD}/panel`, { data: { do: 'lens', mm: 1.2, seed: 7 } })
    expect(bent.ok()).toBe(true)
    /** How far marks that are burned now lie beside their places. */
    const measured = async (): Promise<number> => {
      await lay(page, 'nothing', FIELD)
      await page.goto('/machines')
      await page.getByTestId(`machine-${FIELD}`).click()
      const card = page.getByTestId('scan-lens')
      await card.getByTestId('burn-field').click()
      await page.waitForURL(/run$/, { timeout: 60_000 })
      await settled(page)
      const hand = new Hand(page)
      await startHere(hand, { machine: FIELD })
      await finishWhatWaits(hand)
      await finish(hand)
      await page.goto('/machines')
      await page.getByTestId(`machine-${FIELD}`).click()
      await card.getByTestId('look-field').click()
      const found = card.getByTestId('field-found')
      await expect(found).toContainText(/(8[01]|7\d) of 81 marks seen/, { timeout: 60_000 })
      return Number(await found.getAttribute('data-off'))
    }
    expect(await measured()).toBeGreaterThan(0.8)
    await page.getByTestId('give-field').click()
    await expect(page.getByTestId('field-told')).toContainText('The scan head has it', { timeout: 30_000 })
    expect(await measured()).toBeLessThan(0.15)
    await expect(page.getByTestId('give-field')).toHaveCount(0)
    // As it was before: other tests burn in this field.
    await page.getByTestId('field-out').click()
    await page.request.post(`/api/machines/${FIELD}/panel`, { data: { do: 'lens', mm: 0 } })
    await lay(page, 'nothing', FIELD)
  })

  test('in a small scan field, under its own camera, an odd tag is found and filled', async ({ page }) => {
    test.setTimeout(480_000)
    await calibratedHere(page, FIELD)
    await lay(page, 'tag', FIELD)
    // A job on the field's machine is open, as it is there all day.
    const { png } = discPicture(240, 100)
    const kept = await page.request.post('/api/assets', {
      headers: { 'Content-Type': 'application/octet-stream' },
      data: Buffer.from(png),
    })
    const facts = { ...(await kept.json()), name: 'tag.png' }
    const settings = {
      workpiece: { widthMm: 60, heightMm: 40, thicknessMm: 1 },
      material: MATERIALS.find(({ id }) => id === 'grey-card-1')!,
      machine: MACHINES.find(({ id }) => id === FIELD)!,
    }
    const { job } = proposalsFor(
      facts,
      settings,
      assetsSupply(() => png),
    ).find(({ id }) => id === 'engrave')!
    const { id } = await (await page.request.post('/api/jobs', { data: { job } })).json()
    await page.goto(`/jobs/${id}/compose`)
    await settled(page)
    const hand = new Hand(page, 'W6 field')
    await seen(hand, 1)
    await hand.press('fill-blank')
    await expect(page.getByTestId('blanks-found')).toHaveCount(0, { timeout: 60_000 })
    await settled(page)
    await saved(page)
    const { document } = await serverJob(page)
    const piece = mainPiece(document)
    expect(piece.outline.kind).toBe('rings')
    expect(Object.values(piece.keepOuts)).toHaveLength(1)
    const [place] = Object.values(document.placements)
    expect(Math.min(place.widthMm, place.heightMm)).toBeGreaterThan(25)
    await expect(page.getByTestId('finding-outside-workpiece')).toHaveCount(0)
    await expect(page.getByTestId('finding-keep-out')).toHaveCount(0)
    await start(hand, { machine: FIELD })
    await expect(page.getByTestId('countdown')).toBeVisible({ timeout: 60_000 })
    await finishWhatWaits(hand)
    // Its dots are finer than can be counted: their tone is as it was forecast.
    await expect(page.getByTestId('burn-card')).toContainText(/tone/, { timeout: 90_000 })
    const off = /tone (as forecast|([\d.]+) %)/.exec((await page.getByTestId('burn-card').textContent()) ?? '')
    expect(Number(off?.[2] ?? 0)).toBeLessThan(6)
    const after = page.getByTestId('photo-after')
    await expect
      .poll(async () => Number((await after.getAttribute('data-off')) || Number.NaN), { timeout: 90_000 })
      .toBeLessThan(0.4)
    await finish(hand)
    await lay(page, 'nothing', FIELD)
    // Other tests run without a camera: with one, a photo follows every run.
    for (const machine of [MACHINE, FIELD])
      for (const address of ['http://127.0.0.1:9/photo.jpg', '']) {
        const changed = await page.request.put(`/api/machines/${machine}/camera`, { data: { address } })
        expect((await changed.json()).camera).toMatchObject({ calibration: null, empty: null })
      }
    hand.counted()
  })
}
