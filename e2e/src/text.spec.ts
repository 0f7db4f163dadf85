import { faceSize, mainPiece } from '@neotaxis/core'
import { expect, test } from '@playwright/test'
import { details, saved, serverJob, settled, wavesJob, writeHere } from './hands.ts'

test('names of a table are written on a job, changed afterwards, and moved with its picture', async ({ page }) => {
  await wavesJob(page)
  await writeHere(page, 'Boat {}')
  const csv = 'berth,boat\nN 1,Tern\nN 2,Eider\nN 3,Gannet\n'
  await page.getByTestId('series-file').setInputFiles({ name: 'boats.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) })
  await page.getByTestId('series-column').click()
  await page.getByRole('option', { name: 'boat' }).click()
  await expect(page.getByTestId('series-facts')).toContainText('3 texts: Tern, Eider, Gannet')
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2)
  await settled(page)
  await saved(page)
  const text = async () => {
    const { document } = await serverJob(page)
    const [id, node] = Object.entries(document.nodes).find(([, each]) => each.kind === 'drawing')!
    if (node.kind !== 'drawing' || node.drawn?.kind !== 'text') throw new Error('no text')
    return { id, drawn: node.drawn, widthMm: node.widthMm, place: document.placements[id], document }
  }
  await expect.poll(async () => (await text()).drawn.series?.entries).toEqual(['Tern', 'Eider', 'Gannet'])
  const first = await text()

  // Another font, by its details: what comes from it follows.
  await page.getByText('Boat {}').first().click()
  await page.getByTestId('draw-font').click()
  await page.getByRole('option', { name: 'Slab, bold' }).click()
  await expect.poll(async () => (await text()).drawn.font.kind).toBe('file')
  const second = await text()
  expect(second.widthMm).not.toBeCloseTo(first.widthMm, 1)
  // It begins where it began: the ink of its first letter is as far off that as the font says.
  expect(Math.abs(second.place.xMm - first.place.xMm)).toBeLessThan(1.5)
  await settled(page)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => (await text()).drawn.font.kind).toBe('strokes')

  // Grouped with the picture it goes where that goes.
  await page.getByTestId('group-with').click()
  await page.getByRole('option', { name: 'chart-margin.png' }).click()
  await expect(page.getByTestId('group-mates')).toContainText('chart-margin.png')
  await saved(page)
  const before = await text()
  await page.locator('[data-testid=stage]').focus()
  await page.keyboard.press('Shift+ArrowRight')
  await expect.poll(async () => (await text()).place.xMm).toBeGreaterThan(before.place.xMm)
  const after = await text()
  const moved = after.place.xMm - before.place.xMm
  expect(after.document.placements.source.xMm - before.document.placements.source.xMm).toBeCloseTo(moved, 3)

  // One cut around both.
  await page.keyboard.press('Escape')
  await page.getByText('Artwork and where it comes from').click()
  await page.mouse.click(700, 620)
  await page.getByTestId('cut-around').click()
  await page.getByTestId('around-it').click()
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(3)
})

test('a line drawn by hand stays where it was drawn; a broken font is refused with a sentence', async ({ page }) => {
  await wavesJob(page)
  await writeHere(page, 'Tern')
  const font = { name: 'broken.ttf', mimeType: 'font/ttf', buffer: Buffer.from([0, 1, 0, 0, 9, 9, 9, 9, 9, 9, 9, 9]) }
  await page.getByTestId('own-font').setInputFiles(font)
  await expect(page.getByText(/broken.ttf: The font is damaged/)).toBeVisible()
  await page.getByTestId('stage').focus()
  await page.keyboard.press('Control+z')
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(1)
  await page.getByTestId('draw-here').click()
  await page.getByTestId('draw-here-path').click()
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  await page.getByTestId('stage').focus()
  // Two places, and a side the way the hand points.
  for (const typed of ['20 30', '80 30', '80 70']) {
    await page.keyboard.type(typed)
    await page.keyboard.press('Enter')
  }
  const stage = (await page.getByTestId('stage').boundingBox())!
  await page.mouse.move(stage.x + 5, stage.y + stage.height / 2)
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2, { timeout: 30_000 })
  await saved(page)
  const { document } = await serverJob(page)
  const id = Object.keys(document.nodes).find((each) => document.nodes[each].kind === 'drawing')!
  expect(document.placements[id]).toMatchObject({ xMm: 20, yMm: 30, widthMm: 60, heightMm: 40 })
})

test('artwork is kept in the library and used again: the job remembers where it came from and what its licence asks', async ({
  page,
}) => {
  await page.goto('/library')
  // Tried again, it is other artwork: what an earlier try kept is there already.
  const { retry, repeatEachIndex } = test.info()
  const name = `net-float${retry || repeatEachIndex ? `-${retry}${repeatEachIndex}` : ''}`
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><circle cx="20" cy="20" r="${15 - retry - 0.1 * repeatEachIndex}" fill="none" stroke="#000" stroke-width="0.1"/></svg>`
  await page
    .getByTestId('library-file')
    .setInputFiles({ name: `${name}.svg`, mimeType: 'image/svg+xml', buffer: Buffer.from(svg) })
  await page.getByRole('textbox', { name: 'Where it came from' }).fill('the net loft')
  await page.getByRole('textbox', { name: 'Where it came from' }).press('Enter')
  await page.getByRole('textbox', { name: 'Credit to' }).fill('Net loft')
  await page.getByRole('textbox', { name: 'Credit to' }).press('Enter')
  await expect(page.getByTestId(`artwork-${name}`)).toContainText('with credit')
  await page.getByTestId('make-job').click()
  await page.getByTestId('proposal-cut-lines').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await expect(page.getByTestId('finding-licence')).toContainText('Net loft')
  await page.getByText(name).first().click()
  await expect(page.getByTestId('provenance')).toContainText('the net loft')

  // Once more, into the same job.
  await page.getByTestId('from-library-button').click()
  await page.getByTestId('find-artwork').fill(name)
  await page.getByTestId(`artwork-${name}`).click()
  await page.getByTestId('proposal-score-lines').click({ timeout: 30_000 })
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2)
  await saved(page)
  const { document } = await serverJob(page)
  const from = Object.values(document.nodes).filter((node) => 'provenance' in node)
  expect(from).toHaveLength(2)
  await page.goto('/library')
  await page.getByTestId(`artwork-${name}`).click()
  await expect(page.getByTestId('used-in')).toContainText('In 1 job')
})

test('a text that is pasted on the board becomes a job with it in the middle', async ({ page }) => {
  await page.goto('/jobs')
  await expect(page.getByTestId('write')).toBeVisible()
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.setData('text/plain', 'Oyster beds')
    window.document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
  })
  await page.waitForURL(/compose/)
  await settled(page)
  const { document } = await serverJob(page)
  const [id, node] = Object.entries(document.nodes).find(([, each]) => each.kind === 'drawing')!
  expect(node).toMatchObject({ name: 'Oyster beds', drawn: { kind: 'text', text: 'Oyster beds' } })
  expect(document.name).toBe('Oyster beds')
  const { xMm, yMm, widthMm, heightMm } = document.placements[id]
  const { widthMm: wide, heightMm: high } = faceSize(mainPiece(document))
  expect([xMm + widthMm / 2, yMm + heightMm / 2]).toEqual([expect.closeTo(wide / 2, 1), expect.closeTo(high / 2, 1)])
})

test('a job begins with nothing, to draw in it: a text in a box, one on an edge, and a text typed anew', async ({ page }) => {
  await page.goto('/jobs')
  await page.getByTestId('write').click()
  await page.waitForURL(/compose/)
  await page.getByTestId('draw-here-ellipse').click()
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  // The stage says what the hand is to do as soon as it can.
  await expect(page.getByText(/Pull it out to its size/)).toBeVisible()
  const stage = (await page.getByTestId('stage').boundingBox())!
  const [cx, cy] = [stage.x + stage.width / 2, stage.y + stage.height / 2 - 30]
  await page.mouse.move(cx - 80, cy - 80)
  await page.mouse.down()
  await page.mouse.move(cx + 80, cy + 80, { steps: 5 })
  await page.mouse.up()
  await expect(page.locator('[data-testid^=block-cut]')).toHaveCount(1, { timeout: 30_000 })
  await settled(page)
  // On the circle: pressed at its top, the text stands over it.
  await page.getByTestId('stage').focus()
  await page.keyboard.press('i')
  await page.mouse.move(cx, cy - 79)
  await expect(page.getByText(/Press: it stands on/)).toBeVisible()
  await page.mouse.click(cx, cy - 79)
  await page.getByTestId('write-here').pressSequentially('Ebb and flood')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-testid^=block-score]')).toHaveCount(1, { timeout: 30_000 })
  await settled(page)
  // In a box that is pulled out beside it.
  await page.getByTestId('stage').focus()
  await page.keyboard.press('i')
  await page.mouse.move(cx - 280, cy - 60)
  await page.mouse.down()
  await page.mouse.move(cx - 120, cy + 10, { steps: 5 })
  await page.mouse.up()
  await page.getByTestId('write-here').pressSequentially('Low water by the old sluice at Northgate')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-testid^=block-score]')).toHaveCount(2, { timeout: 30_000 })
  await settled(page)
  await saved(page)
  const made = (await serverJob(page)).document
  const texts = () =>
    Object.entries(made.nodes).flatMap(([id, node]) =>
      node.kind === 'drawing' && node.drawn?.kind === 'text' ? [{ id, drawn: node.drawn }] : [],
    )
  const [round, boxed] = ['path', 'box'].map((kind) => texts().find(({ drawn }) => drawn.along?.kind === kind)!)
  const circle = Object.entries(made.nodes).find(([, node]) => node.kind === 'drawing' && node.drawn?.kind === 'ellipse')!
  const [around, over, within] = [circle[0], round.id, boxed.id].map((id) => made.placements[id])
  // Its middle over the circle's, outside it; the other one within its box, in several lines.
  expect(over.xMm + over.widthMm / 2).toBeCloseTo(around.xMm + around.widthMm / 2, 0)
  expect(over.yMm).toBeLessThan(around.yMm)
  const box = boxed.drawn.along!
  if (box.kind !== 'box') throw new Error('No box.')
  expect(within.widthMm).toBeLessThanOrEqual(box.widthMm + 0.5)
  expect(within.heightMm).toBeLessThanOrEqual(box.heightMm + 3)
  expect(within.heightMm).toBeGreaterThan(12)
  // Pressed twice it is typed anew, and stays where it begins.
  await page.mouse.dblclick(cx - 200, cy - 25)
  await page.getByTestId('write-here').fill('High water')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => {
      const node = (await serverJob(page)).document.nodes[boxed.id]
      return node.kind === 'drawing' && node.drawn?.kind === 'text' ? node.drawn.text : ''
    })
    .toBe('High water')
  // The circle is made smaller: what stands on it comes along, its middle over the circle's as before.
  await settled(page)
  await page.locator('[data-testid^=block-cut]').first().click()
  const width = details(page).getByRole('textbox', { name: 'Width', exact: true })
  await width.fill('50')
  await width.press('Enter')
  await expect
    .poll(
      async () => {
        const { placements } = (await serverJob(page)).document
        const [ring, text] = [placements[circle[0]], placements[round.id]]
        const off = text.xMm + text.widthMm / 2 - (ring.xMm + ring.widthMm / 2)
        return Math.abs(ring.widthMm - 50) < 0.1 && Math.abs(off) < 1 && text.yMm < ring.yMm && text.yMm > ring.yMm - 12
      },
      { timeout: 60_000 },
    )
    .toBe(true)
})
