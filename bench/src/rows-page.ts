import { type ChildProcess, spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { gzipSync } from 'node:zlib'
import { encodePng, greyFromPng, MACHINES, MATERIALS, propose, ResultCache } from '@neotaxis/core'
import { chromium, type Page } from '@playwright/test'
import { freePort, startDatabase } from '../../scripts/database.mjs'
import type { Row } from './measure.ts'
import { randomFrom } from './random.ts'
import { glyphPicture, type KnownPicture, simplePicture } from './shapes.ts'

const root = join(fileURLToPath(import.meta.url), '../../..')
const ARGS = [
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--no-first-run',
  '--disable-quic',
]

async function listening(child: ChildProcess): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    child.once('message', () => resolve())
    child.once('exit', () => reject(new Error('The server did not start.')))
  })
}

/** A job of a picture that is engraved at 0.1 mm and cut around, made on the server. @returns its id */
async function jobOf(url: string, { picture }: KnownPicture, widthMm = 380): Promise<string> {
  const side = picture.widthPx
  const png = encodePng({ widthPx: side, heightPx: side, channels: 1, samples: picture.samples, full: 255 })
  const post = async <T>(path: string, type: string, body: Uint8Array<ArrayBuffer> | string): Promise<T> =>
    (await (
      await fetch(`${url}/api${path}`, { method: 'POST', headers: { 'Content-Type': type, Connection: 'close' }, body })
    ).json()) as T
  const facts = await post<{ asset: string; widthPx: number; heightPx: number; hasAlpha: boolean }>(
    '/assets',
    'application/octet-stream',
    new Uint8Array(png),
  )
  const grey = greyFromPng(png)
  const settings = {
    workpiece: { widthMm: 400, heightMm: 400, thicknessMm: 3 },
    material: MATERIALS[0],
    machine: MACHINES[0],
    size: { widthMm },
  }
  const proposals = propose({ ...facts, name: 'page.png' }, grey, settings, { cache: new ResultCache(), picture: () => grey })
  const found = proposals.find(({ id }) => id === 'engrave-cut-around')
  if (!found) throw new Error('The picture has no edge to be cut around.')
  const { job } = found
  return (await post<{ id: string }>('/jobs', 'application/json', JSON.stringify({ job }))).id
}

const settled = (page: Page, stage = 'stage'): Promise<void> =>
  page.locator(`[data-testid=${stage}][data-settled=true]`).waitFor({ timeout: 120_000 })

/** Median of what the browser spent on script for one wheel step over the stage, ms, and of a whole frame's main-thread time. */
async function perFrame(page: Page): Promise<{ script: number; task: number }> {
  const cdp = await page.context().newCDPSession(page)
  await cdp.send('Performance.enable')
  const now = async (): Promise<Record<string, number>> =>
    Object.fromEntries((await cdp.send('Performance.getMetrics')).metrics.map(({ name, value }) => [name, value]))
  const box = (await page.getByTestId('stage').boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  const script: number[] = []
  const task: number[] = []
  for (let i = 0; i < 21; i++) {
    const before = await now()
    await page.mouse.wheel(0, i % 2 ? 120 : -120)
    await page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))))
    const after = await now()
    script.push(1000 * (after.ScriptDuration - before.ScriptDuration))
    task.push(1000 * (after.TaskDuration - before.TaskDuration))
  }
  const median = (list: number[]): number => list.sort((a, b) => a - b)[list.length >> 1]
  return { script: median(script), task: median(task) }
}

/** From a step of the threshold to the outline on screen, and how often the page stood still meanwhile. */
async function thresholdRow(page: Page, address: string, what: string, target: number | undefined): Promise<Row> {
  const traces = address.includes('/outline')
  const still = (): Promise<void> => (traces ? settled(page, 'outline-stage') : settled(page))
  await page.goto(address)
  await still()
  await (traces ? page.getByText('Trace', { exact: true }) : page.getByTestId('block-cut')).click()
  await still()
  await page.getByRole('slider', { name: 'Threshold' }).focus()
  await page.evaluate(() => Object.assign((window as never as { seen: object }).seen, { long: [], outline: [] }))
  // Always one way: nothing that was worked out before is shown again.
  for (let i = 0; i < 12; i++) {
    await page.keyboard.press('ArrowLeft')
    await still()
  }
  const { outline, long } = await page.evaluate(() => (window as never as { seen: { outline: number[]; long: number[] } }).seen)
  outline.sort((a, b) => a - b)
  return {
    what: `threshold step → outline, ${what}`,
    ours: outline[outline.length >> 1],
    reference: 100,
    unit: 'ms',
    target,
    note: `reference: the time allowed; ${long.length} main-thread tasks over 50 ms in 12 steps, the longest ${Math.max(0, ...long).toFixed(0)} ms`,
  }
}

/** From a step of a slider on the picture bench to its dots, and how often the page stood still meanwhile. */
async function benchRow(
  page: Page,
  address: string,
  what: string,
  steps: readonly string[],
  slider: string,
  target: number | undefined,
): Promise<Row> {
  await page.goto(address)
  const still = (): Promise<void> => page.locator('[data-testid=bench-stage][data-settled=true]').waitFor({ timeout: 60_000 })
  await still()
  for (const step of steps) {
    await page.getByTestId('add-step').click()
    await page.getByTestId(`add-${step}`).click()
    await page.locator('.MuiMenu-root').waitFor({ state: 'detached' })
  }
  await still()
  await page.getByRole('slider', { name: slider }).focus()
  await page.evaluate(() => Object.assign((window as never as { seen: object }).seen, { long: [], burn: [] }))
  for (let i = 0; i < 12; i++) {
    await page.keyboard.press('ArrowRight')
    await page.waitForFunction((n) => (window as never as { seen: { burn: number[] } }).seen.burn.length > n, i)
    await still()
  }
  const { burn, long } = await page.evaluate(() => (window as never as { seen: { burn: number[]; long: number[] } }).seen)
  burn.sort((a, b) => a - b)
  return {
    what: `slider step → dots, ${what}`,
    ours: burn[burn.length >> 1],
    reference: 100,
    unit: 'ms',
    target,
    note: `reference: the time allowed; ${long.length} main-thread tasks over 50 ms in 12 steps, the longest ${Math.max(0, ...long).toFixed(0)} ms`,
  }
}

/** What a person at the page waits for, in headless Chromium without a graphics card. */
export async function pageRows(seed: number): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'neotaxis-bench-'))
  const database = await startDatabase(join(folder, 'data'))
  const port = await freePort()
  const url = `http://127.0.0.1:${port}`
  const server = spawn(process.execPath, ['--import', 'tsx', join(root, 'server/src/main.ts')], {
    env: { ...process.env, NEOTAXIS_DB_PORT: String(database.port), NEOTAXIS_PORT: String(port), NEOTAXIS_LOG: 'silent' },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  })
  const rows: Row[] = []
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', chromiumSandbox: false, args: ARGS })
  try {
    await listening(server)
    const small = await jobOf(url, glyphPicture(1414, randomFrom(seed)))
    const few = await jobOf(url, simplePicture(1414, randomFrom(seed)))
    const large = await jobOf(url, simplePicture(4472, randomFrom(seed)))
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
    const scripts: Promise<number>[] = []
    page.on('response', (response) => {
      // Later loads are left before all of them is there: only the first is counted.
      if (response.url().endsWith('.js'))
        scripts.push(
          response.body().then(
            (body) => gzipSync(body).length,
            () => 0,
          ),
        )
    })
    const usable: number[] = []
    for (let i = 0; i < 6; i++) {
      const started = performance.now()
      await page.goto(`${url}/jobs`)
      await page.locator('[data-testid^=card-]').first().waitFor()
      usable.push((performance.now() - started) / 1000)
      if (i > 0) continue
      const needed = scripts.length
      await page.waitForLoadState('networkidle')
      const sizes = await Promise.all(scripts)
      const kB = (some: readonly number[]): number => some.reduce((sum, size) => sum + size, 0) / 1000
      const note = `${kB(sizes.slice(needed)).toFixed(0)} kB more are fetched ahead when nothing else is to do`
      rows.push({ what: 'board: script, gzipped', ours: kB(sizes.slice(0, needed)), reference: 350, unit: 'kB', target: 1, note })
    }
    const middle = usable.slice(1).sort((a, b) => a - b)[2]
    rows.push({
      what: 'board: to usable',
      ours: middle * 1000,
      reference: 1500,
      unit: 'ms',
      target: 1,
      note: 'reference: the time allowed',
    })

    await page.addInitScript(() => {
      const seen = { long: [] as number[], outline: [] as number[], burn: [] as number[] }
      Object.assign(window, { seen })
      new PerformanceObserver((list) => seen.long.push(...list.getEntries().map((entry) => entry.duration))).observe({
        entryTypes: ['longtask'],
      })
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries())
          if (entry.name === 'outline' || entry.name === 'burn') seen[entry.name].push(entry.duration)
      }).observe({ entryTypes: ['measure'] })
    })
    rows.push(await thresholdRow(page, `${url}/jobs/${few}/outline`, '2 MP, a few shapes', 1))
    rows.push(await thresholdRow(page, `${url}/jobs/${few}/compose`, '2 MP, a few shapes, a cut around', 1))
    rows.push(await thresholdRow(page, `${url}/jobs/${small}/outline`, '2 MP, a page of glyphs', 1))
    rows.push(await thresholdRow(page, `${url}/jobs/${small}/compose`, '2 MP, a page of glyphs, a cut around', undefined))

    // A pixel a dot.
    const own = `${url}/jobs/${await jobOf(url, simplePicture(1414, randomFrom(seed)), 141.4)}/picture`
    const treated = ['sharpen', 'clean'] as const
    rows.push(await benchRow(page, own, '2 MP, tone', ['contrast'], 'Contrast', 1))
    rows.push(await benchRow(page, own, '2 MP, sharpened before and cleaned after', treated, 'Marks under', 1))
    rows.push(await benchRow(page, `${url}/jobs/${few}/picture`, '14 MP of dots, tone', ['contrast'], 'Contrast', undefined))

    await page.goto(`${url}/jobs/${large}/compose`)
    await settled(page)
    await page.getByTestId('block-cut').click()
    await settled(page)
    const full = await perFrame(page)
    await page.goto(`${url}/jobs/${small}/compose`)
    await settled(page)
    const empty = await perFrame(page)
    rows.push({
      what: 'pan and zoom over 20 MP: script a frame',
      ours: full.script,
      reference: empty.script,
      unit: 'ms',
      target: 2,
      note: `main thread in all ${full.task.toFixed(0)} ms against ${empty.task.toFixed(0)} ms`,
    })
    return rows
  } finally {
    await browser.close()
    server.kill('SIGTERM')
    await database.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
