// Pages and a server that talk over a network with faults, in a time of their own: for tests of saving.
import { applyPatches, type Edit, type JobDocument, putAside, withOperation } from '@neotaxis/core'
import { EditKeeper } from '@neotaxis/core/testing/edit-keeper'
import { ServerAway } from '../api/call.ts'
import { changing, closed, edited, editRefused, jobReducer, redone, undone } from '../store/job-slice.ts'
import { type JobState, NO_JOB } from '../store/job-state.ts'
import { openJob, Saver, type SaverSetting } from '../store/saver.ts'
import { browserDrawers } from '../store/unsent.ts'
import { randomFrom } from './random.ts'

/** Time that passes only when it is told to: what is due is called in order. */
class SimulatedTime {
  at = 0
  private due: { readonly at: number; readonly number: number; readonly call: () => void }[] = []
  private number = 0

  after(ms: number, call: () => void): () => void {
    const entry = { at: this.at + ms, number: this.number++, call }
    this.due.push(entry)
    return () => {
      this.due = this.due.filter((one) => one !== entry)
    }
  }

  /** Lets time pass; what is called may wait for promises in between. */
  async pass(ms: number): Promise<void> {
    const end = this.at + ms
    await settle()
    for (;;) {
      const next = this.due.reduce<(typeof this.due)[number] | undefined>(
        (first, one) => (!first || one.at < first.at || (one.at === first.at && one.number < first.number) ? one : first),
        undefined,
      )
      if (!next || next.at > end) break
      this.due = this.due.filter((one) => one !== next)
      this.at = next.at
      next.call()
      await settle()
    }
    this.at = end
  }
}

/** All promises that can go on have gone on. */
const settle = (): Promise<void> => new Promise((resolve) => setImmediate(resolve))

/** The store of a browser: keys are properties, as the drawers expect them. */
class FakeStorage {
  static full = false
  getItem(key: string): string | null {
    return ((this as unknown as Record<string, string>)[key] as string | undefined) ?? null
  }
  setItem(key: string, text: string): void {
    if (FakeStorage.full) throw new Error('QuotaExceededError')
    ;(this as unknown as Record<string, string>)[key] = text
  }
  removeItem(key: string): void {
    delete (this as unknown as Record<string, string>)[key]
  }
}

interface Faults {
  /** Shares of requests that never arrive, of answers that are lost, and of requests that arrive twice. */
  lost: number
  silent: number
  twice: number
  slowestMs: number
}

export interface HistorySetting {
  readonly document: JobDocument
  readonly seed: number
  readonly steps: number
}

/** What a history came to. */
export interface HistoryEnd {
  readonly jobs: number
  readonly edits: number
  readonly refused: number
}

const JOB = 'job'

class Page {
  state: JobState = NO_JOB
  saver: Saver | undefined
  job = JOB
  alive = true
  readonly setting: SaverSetting
  private readonly world: World
  private readonly locks = new Set<string>()
  private opening = 0

  constructor(world: World) {
    this.world = world
    world.locks.add(this.locks)
    const manager = {
      request: (name: string) => {
        this.locks.add(name)
        return new Promise(() => {})
      },
      query: async () => ({ held: [...world.locks].flatMap((held) => [...held].map((name) => ({ name }))) }),
    }
    this.setting = {
      server: world.server(this),
      drawers: browserDrawers(world.storage as unknown as Storage, manager as unknown as LockManager),
      read: () => this.state,
      dispatch: (action) => this.dispatch(action),
      after: (ms, call) => world.time.after(ms, () => this.alive && call()),
      now: () => world.time.at,
      isSeen: () => true,
    }
  }

  dispatch(action: Parameters<typeof jobReducer>[1]): void {
    if (!this.alive) return
    const before = this.state
    this.state = jobReducer(this.state, action)
    // What the page takes out with a sentence is told, not lost.
    if (editRefused.match(action) && this.state.notDone) {
      const left = new Set(this.state.pending.map(({ id }) => id))
      for (const { id } of before.pending) if (!left.has(id)) this.world.given.add(id)
    }
    if (this.state !== before) this.saver?.changed()
  }

  async open(id: string): Promise<void> {
    this.job = id
    this.saver?.end()
    this.saver = undefined
    const mine = ++this.opening
    this.dispatch(closed())
    const onBranch = ({ id: branch }: { id: string }): void => void this.open(branch)
    for (;;) {
      try {
        await openJob(id, this.setting, {
          onBranch,
          onRefused: (message) => this.world.told(message),
          isWanted: () => this.opening === mine,
        })
        break
      } catch (cause) {
        if (!(cause instanceof ServerAway)) throw cause
        await new Promise<void>((resolve) => this.world.time.after(1000, resolve))
        if (!this.alive || this.opening !== mine) return
      }
    }
    if (!this.alive || this.opening !== mine) return
    this.saver = new Saver(this.setting, onBranch)
    this.saver.changed()
  }

  /** It is gone without a word: only what lies in its drawers stays. */
  kill(): void {
    this.alive = false
    this.world.locks.delete(this.locks)
  }
}

class World {
  readonly time = new SimulatedTime()
  readonly keeper = new EditKeeper()
  readonly storage = new FakeStorage()
  readonly locks = new Set<Set<string>>()
  readonly refusals: string[] = []
  /** Edits of which a page said that they are not made. */
  readonly given = new Set<string>()
  faults: Faults = { lost: 0, silent: 0, twice: 0, slowestMs: 50 }
  private readonly random: ReturnType<typeof randomFrom>

  constructor(random: ReturnType<typeof randomFrom>) {
    this.random = random
  }

  told(message: string): void {
    this.refusals.push(message)
  }

  /** A request over the network: it may never arrive, arrive twice, or its answer be lost. */
  private request<T>(page: Page, work: () => T): Promise<T> {
    const { time, random, faults } = this
    const delay = (): number => random.below(faults.slowestMs)
    return new Promise((resolve, reject) => {
      // Whoever waits gives up after a while.
      time.after(3000, () => reject(new ServerAway()))
      if (random.chance(faults.lost)) return
      const serve = (): void => {
        let answer: T
        try {
          answer = work()
        } catch (cause) {
          reject(cause)
          return
        }
        const text = JSON.stringify(answer)
        if (!random.chance(faults.silent)) time.after(delay(), () => page.alive && resolve(JSON.parse(text) as T))
      }
      time.after(delay(), serve)
      if (random.chance(faults.twice)) time.after(delay() + faults.slowestMs, serve)
    })
  }

  server(page: Page): SaverSetting['server'] {
    return {
      job: (id) => this.request(page, () => this.keeper.open(id)),
      saveEdits: (id, base, edits) => {
        const text = JSON.stringify(edits)
        return this.request(page, () => this.keeper.save(id, base, JSON.parse(text) as Edit[]))
      },
      editsSince: (id, revision) => this.request(page, () => this.keeper.since(id, revision)),
    }
  }
}

/** One change, of few places, so that pages often want the same. */
function changed(job: JobDocument, random: ReturnType<typeof randomFrom>): JobDocument {
  const power = (1 + random.below(90)) / 100
  switch (random.below(7)) {
    case 0:
    case 1:
      return job.operations.cut ? withOperation(job, 'cut', { power }) : job
    case 2:
      return job.operations.engrave ? withOperation(job, 'engrave', { power }) : job
    case 3:
      return { ...job, name: `Gauge ${random.below(5)}` }
    case 4:
      return applyPatches(job, [{ path: ['meant', `finding-${random.below(3)}`], value: `m${random.below(9)}` }])
    case 5: {
      // An operation goes away, or comes back: edits of it lose their place.
      if (!job.operations.cut) return job
      const { cut: _cut, ...operations } = job.operations
      return { ...putAside(job, 'cut'), operations }
    }
    default:
      return { ...job, order: [...job.order].reverse() }
  }
}

/**
 * One random history of two to four pages on one job: edits, changes in progress, undo and redo, pages that die and are opened again, a
 * network with faults. Afterwards the network is well, and all come to rest.
 * @throws Error that says what does not hold
 */
export async function runHistory({ document, seed, steps }: HistorySetting): Promise<HistoryEnd> {
  const random = randomFrom(seed)
  const world = new World(random)
  const { time, keeper } = world
  keeper.add(JOB, document)
  const made = new Set<string>()
  const pages: Page[] = []
  const fresh = async (job: string): Promise<void> => {
    const page = new Page(world)
    pages.push(page)
    void page.open(job)
    await time.pass(1)
  }
  for (let n = 2 + random.below(3); n > 0; n--) await fresh(JOB)
  await time.pass(500)
  const faults = random.chance(0.7)
  if (faults) world.faults = { lost: 0.15, silent: 0.15, twice: 0.2, slowestMs: 50 + random.below(1500) }
  const watch = (page: Page, act: () => void): void => {
    const before = new Set(page.state.pending.map(({ id }) => id))
    act()
    for (const { id } of page.state.pending) if (!before.has(id)) made.add(id)
  }
  for (let step = 0; step < steps; step++) {
    const live = pages.filter(({ alive }) => alive)
    const page = random.pick(live)
    const { document: shown, base } = page.state
    if (shown && base && !page.state.left) {
      const act = random.below(20)
      if (act < 9) watch(page, () => page.dispatch(edited('change', changed(shown, random))))
      else if (act < 11) page.dispatch(changing(changed(base, random)))
      else if (act < 13) watch(page, () => page.dispatch(edited('drag')))
      else if (act < 15) watch(page, () => page.dispatch(undone()))
      else if (act < 16) watch(page, () => page.dispatch(redone()))
      else if (act < 17) {
        page.kill()
        await fresh(page.job)
      }
    }
    await time.pass(random.below(random.chance(0.2) ? 5000 : 150))
  }
  world.faults = { lost: 0, silent: 0, twice: 0, slowestMs: 50 }
  for (const page of pages)
    if (page.alive && page.state.document !== page.state.base) watch(page, () => page.dispatch(edited('drag')))
  // What dead pages left is found when their jobs are opened; branches may come of it, and are opened too.
  await time.pass(60_000)
  for (let round = 0; round < 4; round++) {
    for (const id of [...keeper.jobs.keys()]) await fresh(id)
    await time.pass(30_000)
  }
  check(world, pages, made)
  return { jobs: keeper.jobs.size, edits: made.size, refused: world.refusals.length }
}

function check({ keeper, storage, refusals, given }: World, pages: readonly Page[], made: ReadonlySet<string>): void {
  for (const id of keeper.jobs.keys()) {
    const { document, branchOf } = keeper.open(id)
    const replayed = keeper.replayed(id)
    const expected = branchOf === null ? replayed : { ...replayed, name: document.name }
    if (!isSame(document, expected)) throw new Error(`${id} is not what its edits make.`)
  }
  for (const page of pages.filter(({ alive }) => alive)) {
    const { state, job } = page
    const { document, revision } = keeper.open(job)
    if (state.save === 'refused') throw new Error(`A page is stuck: ${state.refusal}`)
    if (state.id !== job || state.pending.length > 0 || state.news.length > 0)
      throw new Error(`A page of ${job} did not come to rest: ${state.id}, ${state.pending.length} pending, ${state.save}.`)
    if (state.revision !== revision || !isSame(state.document, document))
      throw new Error(`A page shows ${job} at revision ${state.revision} other than the server has it at ${revision}.`)
  }
  const left = Object.keys(storage).filter((key) => key.startsWith('neotaxis.unsent.'))
  if (left.length > 0) throw new Error(`${left.length} drawers were never emptied.`)
  const everywhere = new Set([...keeper.jobs.values()].flatMap(({ edits }) => edits.map(({ id }) => id)))
  const lost = [...made].filter((id) => !everywhere.has(id) && !given.has(id))
  // Each edit that stands nowhere was refused with a sentence.
  if (lost.length > refusals.length) throw new Error(`${lost.length} edits are lost, and ${refusals.length} were refused.`)
  for (const { id, branchOf, edits } of keeper.jobs.values()) {
    if (branchOf === null) continue
    const main = new Set(keeper.open(branchOf).edits.map((edit) => edit.id))
    const own = new Set(edits.map((edit) => edit.id).filter((edit) => !main.has(edit)))
    for (const other of keeper.jobs.values())
      if (other.branchOf === branchOf && other.id !== id && other.edits.some((edit) => own.has(edit.id)))
        throw new Error(`${id} and ${other.id} are one branch made twice.`)
  }
}

/** Equal but for the order of keys. */
function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null || Array.isArray(a) !== Array.isArray(b))
    return false
  const keys = Object.keys(a)
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => isSame((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]))
  )
}
