// A hand that does whatever comes to it: keys, presses, numbers, drags, commands, by a seed. Nothing of it may break the page, and all of
// it can be undone. `NEOTAXIS_SEED` and `NEOTAXIS_HANDS` say which and how many; a campaign has more of them.
import { expect, type Locator, type Page, test } from '@playwright/test'
import { dropFile, saved, serverJob, settled } from './hands.ts'
import { discPicture, wavesPicture } from './pictures.ts'

const SEED = Number(process.env.NEOTAXIS_SEED ?? 1)
const HANDS = Number(process.env.NEOTAXIS_HANDS ?? 1)
const DEEDS = HANDS > 1 ? 90 : 40

const KEYS = (
  'Control+d Control+a Control+g Control+Shift+g Delete x s h i w c r a + - m q Alt+ArrowLeft Alt+ArrowRight . , t b o l f [ ] u p ' +
  'Escape Escape ArrowLeft ArrowUp Shift+ArrowRight Tab Enter 1 2 3 4 5 6 Control+z Control+z Control+Shift+z Shift+V v Shift+B Shift+R ' +
  'Shift+W Control+c Control+v Control+x Home End ?'
).split(' ')
const TYPED = ['0', '1', '12.5', '-3', '1e9', 'abc', '', '40', '0.001', '99999', '7 mm', '1 in', '50%', '12,5']
const SOUGHT =
  'cut turn align cent grid step add mir rep group copy fit size text around fill lens order piece second bridge clean'.split(' ')
const PRESSED = ['button:enabled', ...['checkbox', 'combobox', 'option', 'menuitem', 'switch'].map((role) => `[role=${role}]`)]
  .map((each) => `${each}:visible`)
  .join(', ')
/** What leaves the job, lights the beam, or ends what burns elsewhere meanwhile: another test's. */
const NOT_HERE =
  /start\b|stop|hold\b|board|jobs|journal|library|stock|machines|people|materials|who are you|save|file|download|choose files|jig/i

/** Numbers from 0 to 1 by a seed (xorshift). */
function chances(seed: number): () => number {
  let s = Math.imul(seed, 2654435761) >>> 0 || 1
  return () => {
    s ^= s << 13
    s ^= s >>> 17
    s ^= s << 5
    s >>>= 0
    return s / 2 ** 32
  }
}

class AnyHand {
  readonly did: string[] = []
  private readonly page: Page
  private readonly at: string
  private readonly chance: () => number
  constructor(page: Page, seed: number) {
    this.page = page
    this.at = new URL(page.url()).pathname
    this.chance = chances(seed)
  }
  private pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.chance() * list.length)]
  }
  private async one(among: Locator): Promise<Locator | undefined> {
    const count = await among.count()
    return count === 0 ? undefined : among.nth(Math.floor(this.chance() * count))
  }
  private nameOf(of: Locator): Promise<string> {
    return of.evaluate((it) =>
      `${it.dataset?.testid ?? ''} ${it.getAttribute('aria-label') ?? it.textContent ?? ''}`.slice(0, 60),
    )
  }
  private async press(): Promise<void> {
    const it = await this.one(this.page.locator(PRESSED))
    const name = it && (await this.nameOf(it))
    if (!it || NOT_HERE.test(name!)) return
    this.did.push(`press ${name}`)
    await it.click({ timeout: 1500 })
  }
  private async type(): Promise<void> {
    const it = await this.one(this.page.locator('input[type=text]:visible:enabled, input:not([type]):visible:enabled'))
    if (!it) return
    const text = this.pick(TYPED)
    this.did.push(`type ${await this.nameOf(it)} = ${text}`)
    await it.fill(text, { timeout: 1500 })
    await this.page.keyboard.press(this.chance() < 0.7 ? 'Enter' : 'Escape')
  }
  private async onStage(): Promise<void> {
    const box = await this.page.locator('[data-testid$=stage]:visible').first().boundingBox({ timeout: 1500 })
    const place = () => [box!.x + this.chance() * box!.width, box!.y + this.chance() * box!.height] as const
    const [from, to] = [place(), place()]
    const { mouse } = this.page
    if (this.chance() < 0.4) {
      const how = { button: this.pick(['left', 'left', 'right'] as const), clickCount: this.pick([1, 1, 1, 2]) }
      this.did.push(`${how.button} × ${how.clickCount} at ${from.map(Math.round)}`)
      await mouse.click(...from, how)
      return
    }
    this.did.push(`drag ${from.map(Math.round)} to ${to.map(Math.round)}`)
    await mouse.move(...from)
    await mouse.down()
    await mouse.move(...to, { steps: 4 })
    if (this.chance() < 0.15) await this.page.keyboard.press('Escape')
    await mouse.up()
  }
  private async command(): Promise<void> {
    const { keyboard } = this.page
    await keyboard.press('Escape')
    await keyboard.press('Control+k')
    await this.page.locator('[role=option]:visible').first().waitFor({ timeout: 2000 })
    await keyboard.type(this.pick(SOUGHT))
    const it = await this.one(this.page.locator('[role=option]:visible'))
    const name = it && (await this.nameOf(it))
    if (!it || NOT_HERE.test(name!)) {
      await keyboard.press('Escape')
      return
    }
    this.did.push(`command ${name}`)
    await it.click({ timeout: 1500 })
  }
  private async bench(): Promise<void> {
    const bench = this.pick(['compose', 'compose', 'picture', 'outline', 'measure'])
    this.did.push(`to ${bench}`)
    await this.page.goto(this.at.replace(/[^/]+$/, bench))
  }
  /** One deed. What is gone by the time that it is pressed is no fault. */
  async deed(): Promise<void> {
    const chance = this.chance()
    try {
      if (!this.page.url().includes(this.at.replace(/[^/]+$/, ''))) await this.bench()
      else if (chance < 0.22) {
        const key = this.pick(KEYS)
        this.did.push(`key ${key}`)
        await this.page.keyboard.press(key)
      } else if (chance < 0.48) await this.press()
      else if (chance < 0.64) await this.type()
      else if (chance < 0.78) await this.onStage()
      else if (chance < 0.96) await this.command()
      else await this.bench()
    } catch (cause) {
      this.did.push(`   not done: ${String(cause).split('\n')[0].slice(0, 80)}`)
    }
    // A hand's pace: it waits for nothing.
    await this.page.waitForTimeout(this.chance() < 0.5 ? 40 : 250)
  }
}

/** The same value with its keys in order: where an undo puts something back, it comes last. */
const inOrder = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(inOrder)
    : value && typeof value === 'object'
      ? Object.fromEntries(
          Object.entries(value)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([key, each]) => [key, inOrder(each)]),
        )
      : value

for (let hand = 0; hand < HANDS; hand++) {
  const seed = SEED + hand
  test(`whatever a hand does, nothing breaks, and all of it can be undone (seed ${seed})`, async ({ page }) => {
    test.setTimeout(400_000)
    const troubles: string[] = []
    page.on('pageerror', ({ message }) => troubles.push(`error: ${message}`))
    page.on('console', (told) => {
      if (told.type() === 'error' && !/status of 4/.test(told.text())) troubles.push(`console: ${told.text().slice(0, 300)}`)
    })
    page.on('response', (response) => {
      if (response.status() >= 500) troubles.push(`${response.status()} ${response.url()}`)
    })
    page.on('dialog', (dialog) => dialog.dismiss().catch(() => {}))
    const [picture, proposal] =
      seed % 2 === 0 ? [discPicture(240, 80, 12).png, 'engrave-cut-around'] : [wavesPicture(400, 260), 'cut-shape']
    await page.goto('/jobs')
    await dropFile(page, 'any.png', picture)
    await page.getByTestId(`proposal-${proposal}`).click({ timeout: 60_000 })
    await page.waitForURL(/compose/)
    await settled(page)
    const begun = inOrder((await serverJob(page)).document)
    const at = page.url()
    const any = new AnyHand(page, seed)
    for (let i = 0; i < DEEDS; i++) {
      await any.deed()
      const shown = await page.evaluate(() => document.body.innerText).catch(() => '')
      const odd = /.{0,60}(went wrong|undefined|NaN|\[object|Infinity).{0,60}/.exec(shown)
      if (odd) troubles.push(`shown: ${odd[0]}`)
      expect(troubles, any.did.slice(-12).join('\n')).toEqual([])
    }
    const did = any.did.join('\n')
    await page.goto(at)
    // Whatever it became, and however much there is to work out: in the end it is shown, and saved.
    await expect(page.locator('[data-testid=stage][data-settled=true]')).toBeVisible({ timeout: 150_000 })
    await saved(page)
    const undo = page.getByTestId('undo')
    for (let i = 0; i < 3 * DEEDS; i++) {
      const { document } = await serverJob(page)
      if (JSON.stringify(inOrder(document)) === JSON.stringify(begun) || !(await undo.isEnabled())) break
      await undo.click()
      await saved(page)
    }
    expect(inOrder((await serverJob(page)).document), did).toEqual(begun)
    expect(troubles, did).toEqual([])
  })
}
