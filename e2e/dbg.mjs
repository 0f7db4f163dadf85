import { chromium } from '@playwright/test'

const b = await chromium.launch({ executablePath: '/usr/bin/chromium', chromiumSandbox: false })
const p = await b.newPage({ viewport: { width: 1280, height: 800 } })
await p.goto('http://127.0.0.1:4400/jobs')
await p.getByText('compass rose').first().click({ timeout: 60000 })
await p.waitForURL(/compose/)
await p.locator('[data-testid=stage][data-settled=true]').waitFor({ timeout: 90000 })
await p.waitForTimeout(1000)
await p.screenshot({ path: '/tmp/w/shots/b1.png' })
console.log(await p.getByTestId('finding-outside-workpiece').first().innerHTML())
await b.close()
