import { open } from './zz-look.mjs'

const { browser, page, shot, go, job } = await open({})
await go(`/jobs/${await job('Rolling pin, waves')}/compose`)
await page.waitForTimeout(7000)
await page.locator('[data-testid^=block-engrave]').first().click()
await page.waitForTimeout(1500)
await shot('pin')
await page.getByTestId('as-it-turns').click()
await page.waitForTimeout(5000)
await shot('pin3d')
await browser.close()
