import type { JobDocument } from '@neotaxis/core'
import type { RunNow } from '@neotaxis/link'
import type { Logger } from 'pino'
import { atPanel } from '../machines/panel-client.ts'
import { Run, RunBurn, RunEvent } from '../models/runs.ts'
import { inThread } from '../thread.ts'

/** Phases after which nothing more happens. */
export const ENDED = ['done', 'refused', 'stopped', 'lost', 'carried']

/** The place is written down at most so often while nothing else happens, ms. */
const PLACE_MS = 1000
/** A picture of the burn has at most so many pixels, and none smaller than this, mm. */
const MAX_PIXELS = 16_000_000
/** Looked at around what was burned, mm. */
const AROUND_MM = 2
const BURN_SECONDS = 60
const FINEST_MM = 0.05

/** Writes runs down as they happen, in order. */
export class RunLog {
  private readonly log: Logger
  private readonly last = new Map<string, { phase: string; reason: string; at: number }>()
  private writing: Promise<unknown> = Promise.resolve()
  /** The outside of a machine where it is simulated. */
  private readonly panelOf: (machine: string) => number | undefined

  constructor(log: Logger, panelOf: (machine: string) => number | undefined) {
    this.log = log
    this.panelOf = panelOf
  }

  /** All that was handed over so far is in the database. */
  settled(): Promise<unknown> {
    return this.writing
  }

  private write(work: () => Promise<unknown>): void {
    this.writing = this.writing.then(work).catch((cause) => this.log.error({ err: cause }, 'a run could not be written down'))
  }

  changed(id: string, now: RunNow): void {
    const last = this.last.get(id)
    const news = !last || last.phase !== now.phase || last.reason !== now.reason
    if (!news && Date.now() - last.at < PLACE_MS) return
    this.last.set(id, { phase: now.phase, reason: now.reason, at: Date.now() })
    const at = new Date()
    this.write(() => this.keep(id, now, news, at))
  }

  private async keep(id: string, now: RunNow, news: boolean, at: Date): Promise<void> {
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
    if (news) await this.event(id, now.phase, now.reason, now.place?.driven ?? 0, now.seconds, at)
    if (!ended) return
    this.last.delete(id)
    await this.keepBurn(id)
  }

  async event(runId: string, phase: string, text: string, line: number, seconds: number, at = new Date()): Promise<void> {
    const number = Number((await RunEvent.max('number', { where: { runId } })) ?? 0)
    await RunEvent.create({ runId, number: number + 1, phase, text: text.slice(0, 500), line, seconds, at })
  }

  /** What a simulated machine burned, seen from above: in the orientation of the job. */
  private async keepBurn(id: string): Promise<void> {
    const run = await Run.findByPk(id)
    const panel = run ? this.panelOf(run.machineId) : undefined
    if (!run || panel === undefined) return
    if (run.bounds === null) return
    const { onBed, machine } = JSON.parse(run.document) as JobDocument
    const [x0, y0, x1, y1] = JSON.parse(run.bounds) as [number, number, number, number]
    const width = x1 - x0 + 2 * AROUND_MM
    const height = y1 - y0 + 2 * AROUND_MM
    const cellMm = FINEST_MM * Math.max(1, Math.ceil(Math.sqrt((width * height) / MAX_PIXELS) / FINEST_MM))
    const columns = Math.ceil(width / cellMm)
    const rows = Math.ceil(height / cellMm)
    // On the grid of the simulated bed, so that nothing is sampled between its cells.
    const x = Math.max(0, Math.floor((x0 - AROUND_MM) / FINEST_MM) * FINEST_MM)
    const y = Math.max(0, Math.floor((y0 - AROUND_MM) / FINEST_MM) * FINEST_MM)
    try {
      const answer = await atPanel<{ tone: string; through: string }>(panel, { do: 'burned', x, y, columns, rows, cell: cellMm })
      const png = await inThread<Uint8Array>(
        new URL('./burn-thread.ts', import.meta.url),
        {
          tone: new Uint8Array(Buffer.from(answer.tone, 'base64')),
          through: new Uint8Array(Buffer.from(answer.through, 'base64')),
          columns,
          rows,
          flip: machine.zero !== 'front-left',
        },
        BURN_SECONDS,
      )
      const picture = Buffer.from(png)
      await RunBurn.upsert({
        runId: id,
        cellMm,
        x: x - onBed.xMm,
        y: machine.zero === 'front-left' ? machine.bed.heightMm - onBed.yMm - y - rows * cellMm : y - onBed.yMm,
        picture,
      })
    } catch (cause) {
      this.log.warn({ err: cause }, 'the burn could not be looked at')
    }
  }
}
