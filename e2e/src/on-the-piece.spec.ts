// What is made on the workpiece itself: texts and shapes where they go, artwork behind an edge, rows of a list, a tray of several pieces.
import { mainPiece, placesOf } from '@neotaxis/core'
import { expect, type Page, test } from '@playwright/test'
import { details, dropFile, saved, serverJob, settled, wavesJob } from './hands.ts'
import { discPicture } from './pictures.ts'

const rests = async (page: Page): Promise<void> => {
  await settled(page)
  await saved(page)
}

test('a text is typed where it stands, a rectangle pulled out to its size; both lie in rows for each entry of a list', async ({
  page,
}) => {
  await wavesJob(page)
  const at = (await page.getByTestId('stage').boundingBox())!
  await page.getByTestId('stage').focus()
  await page.keyboard.press('i')
  await page.mouse.click(at.x + 150, at.y + 120)
  const field = page.getByTestId('write-here')
  await field.pressSequentially('Ebb')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-testid^=block-score]')).toBeVisible({ timeout: 30_000 })
  await rests(page)
  const written = (await serverJob(page)).document
  const [text, node] = Object.entries(written.nodes).find(([, each]) => each.kind === 'drawing')!
  expect(node).toMatchObject({ drawn: { kind: 'text', text: 'Ebb' } })
  // Escape leaves nothing behind.
  await page.getByTestId('stage').focus()
  await page.keyboard.press('i')
  await page.mouse.click(at.x + 150, at.y + 200)
  await page.getByTestId('write-here').pressSequentially('gone')
  await page.keyboard.press('Escape')
  await expect(field).toHaveCount(0)
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2)

  await page.getByTestId('draw-here').click()
  await page.getByTestId('draw-here-rectangle').click()
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  await page.mouse.move(at.x + 420, at.y + 150)
  await page.mouse.down()
  await page.mouse.move(at.x + 540, at.y + 210, { steps: 5 })
  await page.mouse.up()
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(3, { timeout: 30_000 })
  await rests(page)
  const drawn = (await serverJob(page)).document
  const [shape] = Object.entries(drawn.nodes).find(([id, each]) => each.kind === 'drawing' && id !== text)!
  const box = drawn.placements[placesOf(drawn, shape)[0]]
  // Whole millimetres, as large as the pull.
  expect(Number.isInteger(box.widthMm) && Number.isInteger(box.xMm)).toBe(true)
  expect(box.widthMm / box.heightMm).toBeCloseTo(2, 0)

  // Six of it in rows, and once again.
  await page.getByTestId('in-rows').click()
  await rests(page)
  const rows = (await serverJob(page)).document
  expect(placesOf(rows, shape)).toHaveLength(6)
  const columns = details(page).getByRole('textbox', { name: 'Beside each other' })
  await columns.fill('2')
  await columns.press('Enter')
  await rests(page)
  const two = (await serverJob(page)).document
  expect(new Set(placesOf(two, shape).map((place) => two.placements[place].xMm)).size).toBe(2)
  // And around a circle, whose middle is pulled straight down.
  await page.getByTestId('repeat-way').click()
  await page.getByRole('option', { name: 'around a circle' }).click()
  await rests(page)
  const grip = (await page.getByTestId('circle-middle').boundingBox())!
  const [gx, gy] = [grip.x + grip.width / 2, grip.y + grip.height / 2]
  await page.mouse.move(gx, gy)
  await page.mouse.down()
  await page.mouse.move(gx + 3, gy + 40, { steps: 4 })
  await page.mouse.up()
  await rests(page)
  const round = (await serverJob(page)).document
  expect(round.repeats?.[shape]).toMatchObject({ count: 6, atDeg: -90, overDeg: 360, turned: true })
  expect(placesOf(round, shape).map((place) => round.placements[place].deg ?? 0)).toEqual(
    expect.arrayContaining([0, 60, 120, 180, -120, -60]),
  )
  expect(round.placements[placesOf(round, shape)[0]]).toMatchObject({ xMm: box.xMm, yMm: box.yMm })
  await page.getByTestId('not-in-rows').click()
  await rests(page)
  expect(placesOf((await serverJob(page)).document, shape)).toHaveLength(1)
})

test('the edge of the workpiece is drawn corner by corner where it lies; one that crosses itself is refused', async ({
  page,
}) => {
  await wavesJob(page)
  const { outline } = mainPiece((await serverJob(page)).document)
  const stage = page.getByTestId('stage')
  const at = (await stage.boundingBox())!
  const begin = async (): Promise<void> => {
    await page.getByTestId('workpiece-chip').click()
    await page.getByTestId('workpiece-shape').click()
    await page.getByRole('option', { name: /Drawn on the stage/ }).click()
    await expect(page.locator('.MuiPopover-root')).toHaveCount(0)
  }
  const press = async (corners: readonly (readonly [number, number])[]): Promise<void> => {
    for (const [x, y] of corners) await page.mouse.click(at.x + x, at.y + y)
  }
  await begin()
  // A bow tie.
  await press([
    [160, 120],
    [420, 320],
    [420, 120],
    [160, 320],
  ])
  await page.keyboard.press('Enter')
  await expect(page.getByText('This line crosses itself')).toBeVisible()
  expect(mainPiece((await serverJob(page)).document).outline).toEqual(outline)
  // A leaf of four corners, the last one taken back and set anew.
  await press([
    [160, 120],
    [420, 140],
    [440, 300],
    [300, 200],
  ])
  await page.keyboard.press('Backspace')
  await press([[180, 320]])
  await page.keyboard.press('Enter')
  await rests(page)
  const piece = mainPiece((await serverJob(page)).document)
  if (piece.outline.kind !== 'rings') throw new Error('No outline.')
  expect(piece.outline.rings).toHaveLength(1)
  expect(piece.outline.rings[0]).toHaveLength(8)
  // All on whole millimetres, and one step to take it back.
  await page.getByTestId('undo').click()
  await rests(page)
  expect(mainPiece((await serverJob(page)).document).outline).toEqual(outline)
})

test('a picture fills a round blank, ends inside its edge, and is moved behind it', async ({ page }) => {
  await page.goto('/jobs')
  await dropFile(page, 'moon.png', discPicture(200, 96).png)
  await page.getByTestId('proposal-engrave').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.getByTestId('workpiece-chip').click()
  await page.getByTestId('workpiece-shape').getByRole('combobox').click()
  await page.getByRole('option', { name: 'Circle' }).click()
  await page.keyboard.press('Escape')
  await settled(page)
  await page.locator('[data-testid^=block-]').first().click()
  await page.getByTestId('fill-blank').click()
  await rests(page)
  await expect(page.getByTestId('finding-outside-workpiece')).toHaveCount(0)
  const fade = details(page).getByRole('textbox', { name: 'Fades over' })
  await fade.fill('6')
  await fade.press('Enter')
  await page.getByTestId('stage').focus()
  await page.keyboard.press('Shift+ArrowRight')
  await rests(page)
  const { document } = await serverJob(page)
  const picture = Object.values(document.nodes).find(({ kind }) => kind === 'picture')
  expect(picture).toMatchObject({ clip: { marginMm: 2, fadeMm: 6 } })
  await expect(page.getByTestId('finding-outside-workpiece')).toHaveCount(0)
  await page.getByTestId('keep-whole').click()
  await rests(page)
  await expect(page.getByTestId('finding-outside-workpiece').first()).toBeVisible()
})

test('several workpieces lie on the bed: one is looked at by a press, artwork goes once on each, one is taken away', async ({
  page,
}) => {
  await page.goto('/jobs')
  await dropFile(page, 'buoy.png', discPicture(160, 50).png)
  await page.getByTestId('proposal-cut-shape').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await page.locator('[data-testid^=block-]').first().click()
  const width = details(page).getByRole('textbox', { name: 'Width', exact: true })
  await width.fill('30')
  await width.press('Enter')
  await page.getByTestId('workpiece-chip').click()
  for (const [label, mm] of [
    ['Width', '90'],
    ['Height', '70'],
  ]) {
    const field = page.locator('.MuiPopover-paper').getByRole('textbox', { name: label, exact: true })
    await field.fill(mm)
    await field.press('Enter')
  }
  await page.getByTestId('another-piece').click()
  await page.getByTestId('another-3').click()
  await expect(page.getByTestId('pieces').locator('.MuiChip-root')).toHaveCount(4)
  await page.keyboard.press('Escape')
  await rests(page)
  await page.locator('[data-testid^=block-]').first().click()
  await page.getByTestId('workpiece-chip').click()
  await page.getByTestId('on-each').click()
  await page.keyboard.press('Escape')
  await rests(page)
  const tray = (await serverJob(page)).document
  const places = Object.values(tray.placements)
  expect(new Set(places.map(({ on }) => on)).size).toBe(4)
  // Another one is looked at, and what lies there is moved alone.
  await page.getByTestId('piece-grip-workpiece 3').click()
  await settled(page)
  await page.locator('[data-testid^=block-]').first().click()
  await settled(page)
  await page.getByTestId('put-top-left').click()
  await rests(page)
  const moved = (await serverJob(page)).document
  const third = Object.keys(moved.workpieces).find((id) => moved.workpieces[id].name === 'workpiece 3')!
  const others = Object.entries(moved.placements).filter(([, { on }]) => on !== third)
  for (const [id, place] of others) expect(place).toEqual(tray.placements[id])
  expect(Object.values(moved.placements).find(({ on }) => on === third)!.xMm).toBeLessThan(5)
  await page.getByTestId('workpiece-chip').click()
  await page.getByRole('button', { name: 'Take this one away' }).click()
  await page.keyboard.press('Escape')
  await rests(page)
  expect(Object.keys((await serverJob(page)).document.workpieces)).toHaveLength(3)
})
