import { execFileSync } from 'node:child_process'
import { checkStock, focusMm, type JobDocument, mainPieceId, preflight, withStock } from '@neotaxis/core'

/** What the shop ran in the last weeks: on the simulated machine, one after the other, each so many days ago. */
interface Ran {
  readonly name: string
  readonly days: number
  /** The time of that day. */
  readonly at: string
  readonly operator: string
  readonly rating: number | null
  readonly note: string
  /** On a sheet of the shelf with this name, which it takes its piece from. */
  readonly sheet?: string
}
const RAN: readonly Ran[] = [
  {
    name: 'Storm shutter',
    days: 58,
    at: '10:20',
    operator: 'Tobin',
    rating: 4,
    note: 'The first one, to try: it fits the frame.',
    sheet: 'birch ply sheet',
  },
  {
    name: 'Boat shed labels',
    days: 27,
    at: '9:40',
    operator: 'Ebba',
    rating: 5,
    note: 'For the south shed.',
    sheet: 'birch ply sheet',
  },
  { name: 'Soundings sketch', days: 26, at: '14:05', operator: 'Mara', rating: 4, note: 'Lines a little pale in the shoals.' },
  { name: 'Storm shutter', days: 23, at: '16:30', operator: 'Tobin', rating: 5, note: 'Four of them for the harbour office.' },
  { name: 'Heron', days: 19, at: '11:15', operator: 'Mara', rating: 4, note: '' },
  { name: 'Boat shed labels', days: 15, at: '10:10', operator: 'Ebba', rating: 5, note: 'One sheet, all berths on N.' },
  { name: 'Tide-clock face', days: 9, at: '8:50', operator: 'Mara', rating: 5, note: 'The one in the window.' },
  {
    name: 'Wedge for the island relief',
    days: 6,
    at: '15:25',
    operator: 'Tobin',
    rating: null,
    note: 'Measured with the depth gauge at the bench.',
  },
  {
    name: 'Tide-clock face',
    days: 2,
    at: '13:40',
    operator: 'Ebba',
    rating: 3,
    note: 'Smoke marks at the rear edge: mask it next time.',
  },
]

const MACHINE = 'bench-60'
/** The simulated machine is this many times as quick as a real one, while it does so. */
const QUICK = 1000
const EVERY_MS = 150
const LONGEST_MS = 60_000

/** Asks the server, as somebody. @returns its answer; undefined where it has none */
type Asked = (method: string, path: string, operator: string, body?: object) => Promise<unknown>

const waiting = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, EVERY_MS))

/**
 * Runs what the shop ran in the last weeks on its simulated machine, and writes it down as people do. What cannot be run is left out.
 * @param pace how quick the machine is afterwards @returns runs, with when each is to have been
 */
export async function runMonth(ask: Asked, pace: number): Promise<readonly Dated[]> {
  const made: Dated[] = []
  const { jobs } = (await ask('GET', '/jobs', '')) as { jobs: { id: string; name: string }[] }
  await ask('POST', `/machines/${MACHINE}/check`, 'Mara')
  await ask('POST', `/machines/${MACHINE}/panel`, 'Mara', { do: 'pace', times: QUICK })
  try {
    for (const { name, days, at, operator, rating, note, sheet } of RAN) {
      const job = jobs.find((each) => each.name === name)
      if (!job) continue
      try {
        const on = sheet === undefined ? undefined : await onSheet(ask, job.id, sheet, operator)
        const id = await ran(ask, on ?? job.id, operator)
        await ask('PATCH', `/runs/${id}`, operator, { rating, note, closing: { finished: true } })
        made.push({ id, at: dayAgo(days, at) })
        if (on) await ask('DELETE', `/jobs/${on}`, operator)
      } catch (cause) {
        process.stderr.write(`“${name}” was not run: ${cause instanceof Error ? cause.message : cause}\n`)
      }
    }
  } finally {
    await ask('POST', `/machines/${MACHINE}/panel`, 'Mara', { do: 'pace', times: pace })
  }
  return made
}

/** A copy of a job whose workpiece is a sheet of the shelf, in the corner of the bed. @returns its id */
async function onSheet(ask: Asked, jobId: string, sheet: string, operator: string): Promise<string> {
  const { document } = (await ask('GET', `/jobs/${jobId}`, '')) as { document: JobDocument }
  const piece = checkStock(await ask('GET', '/stock', '')).find((item) => item.count > 0 && item.piece.name === sheet)?.piece
  if (!piece) throw new Error(`there is no “${sheet}” on the shelf`)
  const laid = withStock(document, piece)
  const on = mainPieceId(laid)
  const job = { ...laid, workpieces: { ...laid.workpieces, [on]: { ...laid.workpieces[on], pose: { xMm: 0, yMm: 0 } } } }
  return ((await ask('POST', '/jobs', operator, { job })) as { id: string }).id
}

/** One job run to its end. @returns the run's id */
async function ran(ask: Asked, jobId: string, operator: string): Promise<string> {
  const { document, revision } = (await ask('GET', `/jobs/${jobId}`, '')) as { document: JobDocument; revision: number }
  await ask('POST', `/machines/${MACHINE}/ready`, operator, { z: focusMm(document), speedMmS: 8 })
  const answers = preflight(document, []).map(({ id }) => id)
  const wish = { jobId, revision, armed: false, answers, parentId: null }
  const { id } = (await ask('POST', `/machines/${MACHINE}/runs`, operator, wish)) as { id: string }
  const end = Date.now() + LONGEST_MS
  for (;;) {
    const { phase } = (await ask('GET', `/runs/${id}`, '')) as { phase: string }
    if (phase === 'done') {
      const burned = Object.values(document.steps).flatMap((step) => (step.kind === 'burn' && !step.off ? [step.operation] : []))
      await ask('PATCH', `/runs/${id}`, operator, { looks: Object.fromEntries(burned.map((each) => [each, { answer: 'yes' }])) })
      return id
    }
    if (phase === 'paused') await ask('POST', `/runs/${id}/resume`, operator, { answers })
    if (Date.now() > end || ['stopped', 'refused', 'lost'].includes(phase)) {
      await ask('POST', `/machines/${MACHINE}/stop`, operator)
      throw new Error(`it ended as ${phase}`)
    }
    await waiting()
  }
}

/** A run, and when it is to have been, as the database writes it (UTC). */
interface Dated {
  readonly id: string
  readonly at: string
}

/** A time of a day some days ago, by the clock of the shop. */
function dayAgo(days: number, at: string): string {
  const [hours, minutes] = at.split(':').map(Number)
  const then = new Date()
  then.setDate(then.getDate() - days)
  then.setHours(hours, minutes, 0, 0)
  return then.toISOString().slice(0, 19).replace('T', ' ')
}

/** From one job of the shop to the next. */
const HOURS_BETWEEN = 9

/** Puts runs to the days on which they are to have been, and their jobs to when they were ready for the last of them. @param port of the database */
export function daysAgo(runs: readonly Dated[], port: string, database: string): void {
  const statements = runs.map(
    ({ id, at }) =>
      `SELECT TIMESTAMPDIFF(SECOND, '${at}', startedAt) INTO @back FROM runs WHERE id = '${id}';` +
      `UPDATE runs SET startedAt = startedAt - INTERVAL @back SECOND, endedAt = endedAt - INTERVAL @back SECOND WHERE id = '${id}';` +
      `UPDATE stock_uses SET at = at - INTERVAL @back SECOND WHERE runId = '${id}';` +
      `UPDATE run_events SET at = at - INTERVAL @back SECOND WHERE runId = '${id}';`,
  )
  statements.push(
    // Nobody draws all of them in one minute.
    'UPDATE jobs JOIN (SELECT id, ROW_NUMBER() OVER (ORDER BY updatedAt DESC) AS place FROM jobs) AS line ON line.id = jobs.id ' +
      `SET jobs.updatedAt = jobs.updatedAt - INTERVAL ((line.place - 1) * ${HOURS_BETWEEN}) HOUR;`,
    'UPDATE jobs JOIN (SELECT jobId, MAX(startedAt) AS begun FROM runs GROUP BY jobId) AS last ON last.jobId = jobs.id ' +
      'SET jobs.updatedAt = LEAST(jobs.updatedAt, last.begun - INTERVAL 20 MINUTE);',
  )
  execFileSync('mariadb', ['-h', '127.0.0.1', '-P', port, '-u', 'root', database, '-e', statements.join('\n')])
}
