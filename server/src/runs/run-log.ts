import { encodePng, type JobDocument } from '@neotaxis/core'
import type { RunNow } from '@neotaxis/link'
import type { Logger } from 'pino'
import { atPanel } from '../machines/panel-client.ts'
import { Run, RunBurn, RunEvent } from '../models/runs.ts'

/** Phases after which nothing more happens. */
export const ENDED = ['done', 'refused', 'stopped', 'lost', 'carried']

/** The place is written down at most so often while nothing else happens, ms. */
const PLACE_MS = 1000
/** A picture of the burn has at most so many pixels, and none smaller than this, mm. */
const MAX_PIXELS = 5_000_000
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
    const { workpiece, onBed, machine } = JSON.parse(run.document) as JobDocument
    const { widthMm, heightMm } = workpiece
    const cellMm = Math.max(FINEST_MM, Math.sqrt((widthMm * heightMm) / MAX_PIXELS))
    const columns = Math.max(1, Math.round(widthMm / cellMm))
    const rows = Math.max(1, Math.round(heightMm / cellMm))
    const y = machine.zero === 'front-left' ? machine.bed.heightMm - onBed.yMm - heightMm : onBed.yMm
    try {
      const answer = await atPanel<{ tone: string; through: string }>(panel, {
        do: 'burned',
        x: onBed.xMm,
        y,
        columns,
        rows,
        cell: cellMm,
      })
      const tone = Buffer.from(answer.tone, 'base64')
      const through = Buffer.from(answer.through, 'base64')
      const samples = new Uint8Array(columns * rows * 3)
      for (let r = 0; r < rows; r++) {
        // The picture comes from the rear to the front; a job's first row lies at the zero's far side.
        const from = machine.zero === 'front-left' ? r : rows - 1 - r
        for (let c = 0; c < columns; c++) {
          samples[3 * (r * columns + c)] = tone[from * columns + c]
          samples[3 * (r * columns + c) + 1] = through[from * columns + c]
        }
      }
      const picture = Buffer.from(encodePng({ widthPx: columns, heightPx: rows, channels: 3, samples, full: 255 }))
      await RunBurn.upsert({ runId: id, cellMm, picture })
    } catch (cause) {
      this.log.warn({ err: cause }, 'the burn could not be looked at')
    }
  }
}
