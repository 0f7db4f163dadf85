import { expect, type Page } from '@playwright/test'

/** The name at the top, and the first connection where nobody went through it yet. */
export async function atTheMachine(page: Page, name: string, at = 'bench-60'): Promise<void> {
  // The page before stays until this one is loaded: its button would be clicked, and go.
  await expect(page.getByTestId('home')).toBeVisible()
  await page.getByTestId('operator').click()
  await page.getByLabel('Your name').fill(name)
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('operator')).toHaveText(name)
  await expect(page.getByTestId('machine-chip')).toContainText('ready')
  const { machines } = await (await page.request.get('/api/live')).json()
  if (machines.find(({ machine }: { machine: string }) => machine === at).checked) return
  await page.getByTestId('first-connection').click()
  await page.getByTestId('check-next').click()
  // Dark, then weak flashes, then dark again.
  await page.getByTestId('check-yes').click()
  await expect(page.getByText('Did it flash a few times, weakly?')).toBeVisible()
  await page.getByTestId('check-yes').click()
  await page.getByTestId('check-yes').click()
  await page.getByTestId('check-done').click()
}
