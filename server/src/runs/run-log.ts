import type { RunNow } from '@neotaxis/link'
import type { Logger } from 'pino'
import { Run, RunEvent } from '../models/runs.ts'
import type { Work } from '../work/work.ts'

/** Phases after which nothing more happens. */
export const ENDED = ['done', 'refused', 'stopped', 'lost', 'carried']

/** The phase under which it is written down that speed or power was shifted at the machine. */
export const SHIFTED = 'shifted'

/** The place is written down at most so often while nothing else happens, ms. */
const PLACE_MS = 1000

/** Writes runs down as they happen, each in its order; what is slow about one delays no other. */
export class RunLog {
  /** A run is over and written down. */
  onEnded: (id: string) => void = () => {}
  private readonly log: Logger
  private readonly work: Work
  private readonly last = new Map<string, { phase: string; reason: string; at: number }>()
  private readonly writing = new Map<string, Promise<unknown>>()
  /** By machine: what its last run burned is being looked at. */
  private readonly looks = new Map<string, Promise<unknown>>()
  /** The outside of a machine where it is simulated. */
  private readonly panelOf: (machine: string) => number | undefined

  private readonly photograph: (run: string, machine: string) => Promise<void>

  constructor(
    log: Logger,
    work: Work,
    panelOf: (machine: string) => number | undefined,
    photograph: (run: string, machine: string) => Promise<void> = async () => {},
  ) {
    this.photograph = photograph
    this.log = log
    this.work = work
    this.panelOf = panelOf
  }

  /** All that was handed over so far is in the database. */
  async settled(): Promise<void> {
    await Promise.all(this.writing.values())
  }

  /** What the last run of a machine burned was looked at: before that nothing else is laid in. */
  async looked(machine: string): Promise<void> {
    await this.looks.get(machine)
  }

  private write(id: string, work: () => Promise<unknown>): Promise<unknown> {
    const before = this.writing.get(id) ?? Promise.resolve()
    const all = before.then(work).catch((cause) => this.log.error({ err: cause }, 'a run could not be written down'))
    this.writing.set(id, all)
    void all.then(() => {
      if (this.writing.get(id) === all) this.writing.delete(id)
    })
    return all
  }

  /** @param instruction at a planned pause: what is to be done there */
  changed(id: string, now: RunNow, instruction: string | null, machine: string): void {
    const last = this.last.get(id)
    const news = !last || last.phase !== now.phase || last.reason !== now.reason
    if (!news && Date.now() - last.at < PLACE_MS) return
    this.last.set(id, { phase: now.phase, reason: now.reason, at: Date.now() })
    const at = new Date()
    const kept = this.write(id, () => this.keep(id, now, news ? (instruction ?? now.reason) : undefined, at))
    if (!ENDED.includes(now.phase)) return
    const looked = kept.then(() => this.writing.get(`burn ${id}`))
    this.looks.set(machine, looked)
    void looked.then(() => {
      if (this.looks.get(machine) === looked) this.looks.delete(machine)
    })
  }

  private async keep(id: string, now: RunNow, told: string | undefined, at: Date): Promise<void> {
    const ended = ENDED.includes(now.phase)
    await Run.update(
      {
        phase: now.phase,
        reason: now.reason.slice(0, 500),
        place: now.place ? JSON.stringify(now.place) : null,
        seconds: now.seconds,
        ...(ended && { endedAt: at }),
      },
      { where: { id } },
    )
    if (told !== undefined) await this.event(id, now.phase, told, now.place?.driven ?? 0, now.seconds, at)
    if (!ended) return
    this.last.delete(id)
    this.onEnded(id)
    // Looking at what was burned takes its time: other runs go on being written down meanwhile.
    this.write(`burn ${id}`, () => this.keepBurn(id))
    // One after the other: a simulated machine shows what it burned to both.
    if (now.phase === 'done' || now.phase === 'stopped') this.write(`burn ${id}`, () => this.keepPhoto(id))
    if (now.phase === 'done') this.write(`use ${id}`, () => this.work.run('writeUse', { runId: id }))
  }

  /** Speed or power was shifted while it ran. @param shares of the program's, 1 = as it says */
  shifted(id: string, shares: { readonly speed: number; readonly power: number }, { place, seconds }: RunNow): void {
    const text = `speed ${Math.round(shares.speed * 100)} %, power ${Math.round(shares.power * 100)} %`
    this.write(id, () => this.event(id, SHIFTED, text, place?.driven ?? 0, seconds))
  }

  async event(runId: string, phase: string, text: string, line: number, seconds: number, at = new Date()): Promise<void> {
    const number = Number((await RunEvent.max('number', { where: { runId } })) ?? 0)
    await RunEvent.create({ runId, number: number + 1, phase, text: text.slice(0, 500), line, seconds, at })
  }

  /** The bed as its camera sees it now. */
  private async keepPhoto(id: string): Promise<void> {
    const run = await Run.findByPk(id, { attributes: ['machineId'] })
    if (!run) return
    try {
      await this.photograph(id, run.machineId)
    } catch (cause) {
      this.log.warn({ err: cause }, 'no photo was taken after a run')
    }
  }

  /** What a simulated machine burned, seen from above. */
  private async keepBurn(id: string): Promise<void> {
    const run = await Run.findByPk(id, { attributes: ['machineId'] })
    const panel = run ? this.panelOf(run.machineId) : undefined
    if (panel === undefined) return
    try {
      await this.work.run('burnPicture', { runId: id, panel })
    } catch (cause) {
      this.log.warn({ err: cause }, 'the burn could not be looked at')
    }
  }
}
