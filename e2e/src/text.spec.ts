import { expect, test } from '@playwright/test'
import { saved, serverJob, settled, wavesJob } from './hands.ts'

test('names of a table are written on a job, changed afterwards, and moved with its picture', async ({ page }) => {
  await wavesJob(page)
  await page.getByTestId('draw-shape').click()
  await page.getByTestId('draw-text').fill('Boat {}')
  await expect(page.getByTestId('draw-text')).toHaveAttribute('data-typed', 'no')
  const csv = 'berth,boat\nN 1,Tern\nN 2,Eider\nN 3,Gannet\n'
  await page.getByTestId('series-file').setInputFiles({ name: 'boats.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) })
  await page.getByTestId('series-column').click()
  await page.getByRole('option', { name: 'boat' }).click()
  await expect(page.getByTestId('series-facts')).toContainText('3 texts: Tern, Eider, Gannet')
  await page.getByTestId('draw-it').click()
  await page.getByTestId('proposal-score-lines').click({ timeout: 30_000 })
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2)
  await saved(page)
  const text = async () => {
    const { document } = await serverJob(page)
    const [id, node] = Object.entries(document.nodes).find(([, each]) => each.kind === 'drawing')!
    if (node.kind !== 'drawing' || node.drawn?.kind !== 'text') throw new Error('no text')
    return { id, drawn: node.drawn, widthMm: node.widthMm, place: document.placements[id], document }
  }
  const first = await text()
  expect(first.drawn.series?.entries).toEqual(['Tern', 'Eider', 'Gannet'])

  // Another font, by its details: what comes from it follows.
  await page.getByText('Boat {}').first().click()
  await page.getByTestId('draw-font').click()
  await page.getByRole('option', { name: 'Slab, bold' }).click()
  await expect.poll(async () => (await text()).drawn.font.kind).toBe('file')
  const second = await text()
  expect(second.widthMm).not.toBeCloseTo(first.widthMm, 1)
  expect(second.place.xMm).toBeCloseTo(first.place.xMm, 2)
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
  await page.getByTestId('draw-shape').click()
  const font = { name: 'broken.ttf', mimeType: 'font/ttf', buffer: Buffer.from([0, 1, 0, 0, 9, 9, 9, 9, 9, 9, 9, 9]) }
  await page.getByTestId('own-font').setInputFiles(font)
  await expect(page.getByText(/broken.ttf: The font is damaged/)).toBeVisible()
  await page.getByTestId('draw-kind').click()
  await page.getByRole('option', { name: /by hand/ }).click()
  for (const [x, y] of [
    [20, 30],
    [80, 30],
    [80, 70],
  ]) {
    await page.getByRole('textbox', { name: 'Across' }).fill(String(x))
    await page.getByRole('textbox', { name: 'Across' }).press('Enter')
    await page.getByRole('textbox', { name: 'Down' }).fill(String(y))
    await page.getByRole('textbox', { name: 'Down' }).press('Enter')
    await page.getByTestId('hand-add').click()
  }
  await page.getByRole('button', { name: 'Close it' }).click()
  await expect(page.getByTestId('draw-facts')).toContainText('60.0 mm × 40.0 mm')
  await page.getByTestId('draw-it').click()
  await page.getByTestId('proposal-cut-lines').click({ timeout: 30_000 })
  await saved(page)
  const { document } = await serverJob(page)
  const id = Object.keys(document.nodes).find((each) => document.nodes[each].kind === 'drawing')!
  expect(document.placements[id]).toMatchObject({ xMm: 20, yMm: 30, widthMm: 60, heightMm: 40 })
})

test('artwork is kept in the library and used again: the job remembers where it came from and what its licence asks', async ({
  page,
}) => {
  await page.goto('/library')
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><circle cx="20" cy="20" r="15" fill="none" stroke="#000" stroke-width="0.1"/></svg>'
  await page
    .getByTestId('library-file')
    .setInputFiles({ name: 'net-float.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) })
  await page.getByRole('textbox', { name: 'Where it came from' }).fill('the net loft')
  await page.getByRole('textbox', { name: 'Where it came from' }).press('Enter')
  await page.getByRole('textbox', { name: 'Credit to' }).fill('Net loft')
  await page.getByRole('textbox', { name: 'Credit to' }).press('Enter')
  await expect(page.getByTestId('artwork-net-float')).toContainText('with credit')
  await page.getByTestId('make-job').click()
  await page.getByTestId('proposal-cut-lines').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  await expect(page.getByTestId('finding-licence')).toContainText('Net loft')
  await page.getByText('net-float').first().click()
  await expect(page.getByTestId('provenance')).toContainText('the net loft')

  // Once more, into the same job.
  await page.getByTestId('from-library-button').click()
  await page.getByTestId('find-artwork').fill('net loft')
  await page.getByTestId('artwork-net-float').click()
  await page.getByTestId('proposal-score-lines').click({ timeout: 30_000 })
  await expect(page.locator('[data-testid^=block-]')).toHaveCount(2)
  await saved(page)
  const { document } = await serverJob(page)
  const from = Object.values(document.nodes).filter((node) => 'provenance' in node)
  expect(from).toHaveLength(2)
  await page.goto('/library')
  await page.getByTestId('artwork-net-float').click()
  await expect(page.getByTestId('used-in')).toContainText('In 1 job')
})

test('a text that is pasted on the board becomes a job: what was typed last is what is drawn', async ({ page }) => {
  await page.goto('/jobs')
  await expect(page.getByTestId('write')).toBeVisible()
  await page.evaluate(() => {
    const data = new DataTransfer()
    data.setData('text/plain', 'Oyster beds')
    document.body.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))
  })
  await expect(page.getByTestId('draw-text')).toHaveValue('Oyster beds')
  await expect(page.getByTestId('draw-facts')).toContainText('mm')
  await page.getByTestId('draw-text').fill('Mussel beds')
  await page.getByTestId('draw-it').click()
  await page.getByTestId('proposal-score-lines').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  const { nodes } = (await serverJob(page)).document
  expect(nodes.source).toMatchObject({ kind: 'drawing', drawn: { kind: 'text', text: 'Mussel beds' } })
})
