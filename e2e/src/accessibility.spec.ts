import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { expect, type Page, test } from '@playwright/test'
import { dropFile, settled } from './hands.ts'
import { discPicture } from './pictures.ts'

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

interface Violation {
  readonly id: string
  readonly nodes: readonly { readonly html: string; readonly failureSummary: string }[]
}

/** What axe finds wrong by WCAG 2.2 AA. Its script is given to the page by the test, past the page's own policy. */
async function violations(page: Page): Promise<string[]> {
  await page.evaluate(axe)
  const found = await page.evaluate(async () => {
    const run = (
      window as unknown as { axe: { run: (where: Document, options: object) => Promise<{ violations: Violation[] }> } }
    ).axe.run
    return (await run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })).violations
  })
  return found.flatMap(({ id, nodes }) =>
    nodes.map(({ html, failureSummary }) => `${id}: ${html.slice(0, 160)} ${failureSummary.slice(0, 200)}`),
  )
}

for (const colorScheme of ['light', 'dark'] as const) {
  test(`board, proposals and compose can be used by everybody, ${colorScheme}`, async ({ browser }) => {
    const page = await (await browser.newContext({ colorScheme, reducedMotion: 'reduce' })).newPage()
    await page.goto('/stock')
    await page.getByTestId('keep-stock').click()
    await expect(page.getByTestId('stock-name')).toBeVisible()
    expect(await violations(page)).toEqual([])
    await page.goto('/materials?material=coated-steel-1')
    for (const tab of ['recipes', 'facts', 'safety', 'measured', 'changes']) {
      await page.getByTestId(`material-tab-${tab}`).click()
      await expect(page.getByTestId(`material-tab-${tab}`)).toHaveAttribute('aria-selected', 'true')
      expect(await violations(page)).toEqual([])
    }
    await page.goto('/jobs')
    expect(await violations(page)).toEqual([])
    await dropFile(page, `signal-mast-${colorScheme}.png`, discPicture(300, 90).png)
    await expect(page.getByTestId('proposal-engrave-cut-around')).toBeVisible({ timeout: 30_000 })
    expect(await violations(page)).toEqual([])
    await page.getByTestId('proposal-engrave-cut-around').click()
    await page.waitForURL(/compose/)
    await settled(page)
    expect(await violations(page)).toEqual([])
    await page.getByTestId('block-cut').click()
    expect(await violations(page)).toEqual([])
    const own = page.url()
    await page.getByTestId('try-on-card').click()
    await page.waitForURL((url) => /compose$/.test(url.pathname) && !own.endsWith(url.pathname), { timeout: 30_000 })
    await page.getByTestId('tab-measure').click()
    await expect(page.getByTestId('card-grid')).toBeVisible()
    expect(await violations(page)).toEqual([])
    // What is told in passing, too.
    const table = { name: 'depths.csv', mimeType: 'text/csv', buffer: Buffer.from('gulls\n3\n') }
    await page.locator('input[type=file]').first().setInputFiles(table)
    await expect(page.locator('.notistack-SnackbarContainer [role=alert]')).toBeVisible()
    expect(await violations(page)).toEqual([])
    await page.goto(own)
    await settled(page)
    await page.getByTestId('block-cut').click()
    await page.getByTestId('workpiece-chip').click()
    expect(await violations(page)).toEqual([])
    await page.keyboard.press('Escape')
    await page.getByTestId('tab-picture').click()
    await expect(page.locator('[data-testid=bench-stage][data-settled=true]')).toBeVisible({ timeout: 30_000 })
    expect(await violations(page)).toEqual([])
    await page.getByTestId('add-step').click()
    await page.getByTestId('add-levels').click()
    // What fades has no contrast of its own yet.
    await expect(page.locator('.MuiMenu-root')).toHaveCount(0)
    await page.getByTestId('sample-ink').click()
    expect(await violations(page)).toEqual([])
    await page.getByTestId('resolution').click()
    await expect(page.locator('.MuiPopover-paper')).toHaveCSS('opacity', '1')
    expect(await violations(page)).toEqual([])
    await page.keyboard.press('Escape')
    await page.getByTestId('tab-run').click()
    await settled(page)
    expect(await violations(page)).toEqual([])
    await page.goto('/journal')
    await expect(page.getByRole('textbox', { name: 'Find a run' })).toBeVisible()
    expect(await violations(page)).toEqual([])
    await page.goto('/machines')
    await expect(page.getByTestId('profile')).toBeVisible()
    expect(await violations(page)).toEqual([])
  })
}
