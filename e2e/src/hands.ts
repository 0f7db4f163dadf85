import { expect, type Locator, type Page } from '@playwright/test'
import { wavesPicture } from './pictures.ts'

/** Drops a file on the board, as a hand does. */
export async function dropFile(page: Page, name: string, bytes: Uint8Array, type = 'image/png'): Promise<void> {
  const data = await page.evaluateHandle(
    ([text, fileName, mime]) => {
      const binary = atob(text)
      const array = Uint8Array.from(binary, (c) => c.charCodeAt(0))
      const transfer = new DataTransfer()
      transfer.items.add(new File([array], fileName, { type: mime }))
      return transfer
    },
    [Buffer.from(bytes).toString('base64'), name, type],
  )
  const board = page.getByTestId('board')
  await board.dispatchEvent('dragenter', { dataTransfer: data })
  await board.dispatchEvent('drop', { dataTransfer: data })
}

/** Waits until everything shown belongs to the job as it is now. */
export async function settled(page: Page): Promise<void> {
  await expect(page.locator('[data-testid=stage][data-settled=true]')).toBeVisible({ timeout: 30_000 })
}

/** Waits until the server has every change. */
export async function saved(page: Page): Promise<void> {
  await expect(page.locator('[data-testid=save-state][data-state=saved]')).toBeVisible()
}

/** Types a value into a field of the details and takes it. */
export async function type(page: Page, label: string, text: string): Promise<void> {
  const field = details(page).getByRole('textbox', { name: label, exact: true })
  await field.fill(text)
  await field.press('Enter')
}

export const details = (page: Page): Locator => page.getByRole('complementary', { name: 'Details' })

/** Types a number into a dimension line on the stage. */
export async function dimension(page: Page, label: string, text: string): Promise<void> {
  await page.getByTestId(`dim-${label.toLowerCase().replace(' ', '-')}`).click()
  const field = page.getByRole('textbox', { name: label, exact: true }).last()
  await field.fill(text)
  await field.press('Enter')
}

/** The job document as the server has it. */
export async function serverJob(page: Page) {
  const id = /jobs\/([^/]+)\//.exec(page.url())![1]
  return (await (await page.request.get(`/api/jobs/${id}`)).json()) as {
    revision: number
    document: import('@neotaxis/core').JobDocument
    edits: { name: string }[]
  }
}

/** Begins a job of a picture of waves, whose shape is cut. */
export async function wavesJob(page: Page): Promise<void> {
  await page.goto('/jobs')
  await dropFile(page, 'chart-margin.png', wavesPicture(500, 320))
  await page.getByTestId('proposal-cut-shape').click({ timeout: 60_000 })
  await page.waitForURL(/compose/)
  await settled(page)
}

/** Draws one of the kinds where the stage is pressed: in its middle, as large as it is at first. */
export async function drawHere(page: Page, kind: string): Promise<void> {
  await page.getByTestId('draw-here').click()
  await page.getByTestId(`draw-here-${kind}`).click()
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  const at = (await page.getByTestId('stage').boundingBox())!
  await page.mouse.click(at.x + at.width / 2, at.y + at.height / 2)
}

/** Writes a text on the workpiece, in its rear left part: its numbers are beside it then. */
export async function writeHere(page: Page, text: string): Promise<void> {
  await page.getByTestId('draw-here').click()
  await page.getByTestId('draw-here-text').click()
  await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
  const at = (await page.getByTestId('stage').boundingBox())!
  await page.mouse.click(at.x + 150, at.y + 120)
  await page.getByTestId('write-here').pressSequentially(text)
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('drawn-details')).toBeVisible({ timeout: 30_000 })
}
