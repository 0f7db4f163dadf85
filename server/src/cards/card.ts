import { createHash } from 'node:crypto'
import { assetsOf, type JobDocument } from '@neotaxis/core'
import { assetBytes } from '../assets/store.ts'
import { Card, Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import { inThread } from '../thread.ts'

/** What the board tells of a job beside its picture. */
export interface CardSummary {
  readonly seconds: number
  readonly stop: number
  readonly ask: number
  readonly note: number
}

const CARD_SECONDS = 120
/** The same job asked for by several pages is worked out once; jobs take turns, so that the server stays answering. */
const underway = new Map<string, Promise<Card>>()
let turn: Promise<unknown> = Promise.resolve()

/** The card of a job's newest document. It is kept by content and made when it is missing. */
export async function cardOf(jobId: string): Promise<Card> {
  const job = await Job.findByPk(jobId)
  if (!job) throw new Refusal(404, 'no-job', 'This job is not here any more.')
  const content = createHash('sha256').update(job.document).digest('hex')
  const known = await Card.findByPk(content)
  if (known) return known
  let making = underway.get(content)
  if (!making) {
    making = turn.then(() => makeCard(content, JSON.parse(job.document) as JobDocument))
    turn = making.catch(() => {})
    underway.set(content, making)
    void making.finally(() => underway.delete(content)).catch(() => {})
  }
  return making
}

async function makeCard(content: string, job: JobDocument): Promise<Card> {
  const assets: Record<string, Uint8Array> = {}
  for (const name of assetsOf(job)) assets[name] = await assetBytes(name)
  const made = await inThread<{ summary: CardSummary; picture: Uint8Array }>(
    new URL('./card-thread.ts', import.meta.url),
    { job, assets },
    CARD_SECONDS,
  )
  const [card] = await Card.findOrCreate({
    where: { content },
    defaults: { content, summary: JSON.stringify(made.summary), picture: Buffer.from(made.picture) },
  })
  return card
}
