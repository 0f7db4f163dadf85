// Layouts at 1024, 1280 and 1920 px, at 200 %, and by touch: nothing leaves the window, nothing lies over another, a finger finds it.
import { type Browser, expect, type Page, test } from '@playwright/test'
import { dropFile, settled } from './hands.ts'
import { discPicture } from './pictures.ts'

const SIZES = {
  '1024 px': { viewport: { width: 1024, height: 768 } },
  '1280 px': { viewport: { width: 1280, height: 800 } },
  '1920 px': { viewport: { width: 1920, height: 1080 } },
  // A screen of 1280 × 800 at 200 %.
  '200 %': { viewport: { width: 640, height: 400 }, deviceScaleFactor: 2 },
} as const

/** What can be pressed and leaves the window, unless it lies in something that is moved; and how wide the page became. */
const leaving = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const moves = (element: Element): boolean => {
      for (let at = element.parentElement; at; at = at.parentElement)
        if (/auto|scroll/.test(getComputedStyle(at).overflowX)) return true
      return false
    }
    const found = [...document.querySelectorAll('button, a[href], input, select, [role=button]')]
      .filter((element) => element.checkVisibility({ opacityProperty: true, visibilityProperty: true }))
      .flatMap((element) => {
        const { left, right, width } = element.getBoundingClientRect()
        const out = width > 2 && (left < -1 || right > innerWidth + 1) && !moves(element)
        return out
          ? [`${element.getAttribute('aria-label') ?? element.textContent} ${Math.round(left)} to ${Math.round(right)}`]
          : []
      })
    const { scrollWidth } = document.documentElement
    return scrollWidth > innerWidth ? [...found, `the page is ${scrollWidth} px wide`] : found
  })

/** Buttons of which another one covers the middle. */
const covered = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll('button')]
      .filter((element) => element.checkVisibility({ opacityProperty: true, visibilityProperty: true }))
      // Pins lie on the stage, which moves under what floats over it.
      .filter((element) => !element.getAttribute('aria-label')?.startsWith('Finding '))
      .flatMap((element) => {
        const { left, top, width, height } = element.getBoundingClientRect()
        const [x, y] = [left + width / 2, top + height / 2]
        // What is scrolled out of its column is not there.
        const isSeen = (at: Element | null): boolean => {
          if (!at) return x >= 0 && y >= 0 && x <= innerWidth && y <= innerHeight
          const box = at.getBoundingClientRect()
          const clips = getComputedStyle(at).overflow !== 'visible'
          return (!clips || (x >= box.left && x <= box.right && y >= box.top && y <= box.bottom)) && isSeen(at.parentElement)
        }
        if (!isSeen(element.parentElement)) return []
        const over = document.elementFromPoint(x, y)
        const other = over?.closest('button')
        return other && other !== element && !element.contains(other) && !other.contains(element)
          ? [
              `${element.getAttribute('aria-label') ?? element.textContent} under ${other.getAttribute('aria-label') ?? other.textContent}`,
            ]
          : []
      }),
  )

async function makeJob(page: Page): Promise<string> {
  await page.goto('/jobs')
  await dropFile(page, 'capstan.png', discPicture(200, 60).png)
  await page.getByTestId('proposal-engrave-cut-around').click({ timeout: 30_000 })
  await page.waitForURL(/compose/)
  await settled(page)
  return new URL(page.url()).pathname.replace(/compose$/, '')
}

async function fresh(browser: Browser, options: object, baseURL: string | undefined): Promise<Page> {
  return (await browser.newContext({ ...options, ...(baseURL ? { baseURL } : {}) })).newPage()
}

test('every screen keeps within the window, and no button lies over another', async ({ browser, page, baseURL }) => {
  test.setTimeout(240_000)
  const job = await makeJob(page)
  const screens = ['/jobs', '/library', '/stock', '/journal', '/machines', `${job}compose`, `${job}run`]
  for (const [size, options] of Object.entries(SIZES)) {
    const small = await fresh(browser, options, baseURL)
    for (const screen of screens) {
      await small.goto(screen)
      await small.waitForLoadState('networkidle').catch(() => {})
      await expect(small.getByRole('main').first()).toBeVisible()
      if (screen.endsWith('compose')) await settled(small)
      await expect.poll(() => leaving(small), { message: `${screen} at ${size}` }).toEqual([])
      await expect.poll(() => covered(small), { message: `${screen} at ${size}` }).toEqual([])
    }
    await small.context().close()
  }
})

test('at 200 % Stop and Start stay in reach while the run screen scrolls, and panels open one at a time', async ({
  browser,
  page,
  baseURL,
}) => {
  const job = await makeJob(page)
  const small = await fresh(browser, SIZES['200 %'], baseURL)
  await small.goto(`${job}run`)
  const start = small.getByTestId('start')
  await expect(start).toBeInViewport()
  await small.getByText('Eyewear on').scrollIntoViewIfNeeded()
  await expect(start).toBeInViewport()
  await small.goto(`${job}compose`)
  await settled(small)
  await expect(small.getByTestId('fold-artwork')).toHaveAttribute('aria-expanded', 'false')
  await small.getByTestId('fold-artwork').click()
  await expect(small.getByTestId('fold-artwork')).toHaveAttribute('aria-expanded', 'true')
  await small.getByTestId('fold-details').click()
  await expect(small.getByTestId('fold-artwork')).toHaveAttribute('aria-expanded', 'false')
  await small.context().close()
})

test('by touch everything on run and placing is as large as a finger needs', async ({ browser, page, baseURL }) => {
  const job = await makeJob(page)
  const tablet = await fresh(browser, { viewport: { width: 1024, height: 768 }, hasTouch: true }, baseURL)
  for (const screen of ['run', 'compose']) {
    await tablet.goto(`${job}${screen}`)
    await expect(tablet.getByRole('main').first()).toBeVisible()
    if (screen === 'compose') {
      await settled(tablet)
      await tablet.getByTestId('node-source').tap()
    } else await expect(tablet.getByTestId('start')).toBeVisible()
    const small = (): Promise<string[]> =>
      tablet.evaluate(() =>
        [...document.querySelectorAll('main button, main [role=button], main a[href]')]
          .filter((element) => element.checkVisibility({ opacityProperty: true, visibilityProperty: true }))
          .flatMap((element) => {
            const { width, height } = element.getBoundingClientRect()
            return width > 2 && height < 43.5
              ? [`${element.getAttribute('aria-label') ?? element.textContent} ${Math.round(width)} × ${Math.round(height)}`]
              : []
          }),
      )
    await expect.poll(small, { message: screen }).toEqual([])
  }
  await tablet.context().close()
})
