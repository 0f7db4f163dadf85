import type { CardFacts } from '@neotaxis/contract'
import { QueryTypes } from 'sequelize'
import { Card, Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import type { Work } from '../work/work.ts'

/** The same job asked for by several pages is worked out once; jobs take turns, so that a board full of them holds up nothing else. */
const underway = new Map<string, Promise<Card>>()
let turn: Promise<unknown> = Promise.resolve()

/** What is known of cards without looking: by job, at the revision that it was made of. */
const told = new Map<string, { readonly revision: number; readonly facts: CardFacts }>()

/** What a card tells beside its picture. */
export const factsOf = ({ content, summary }: Card): CardFacts => ({ content, ...JSON.parse(summary) })

/** The cards of some jobs that are made already, by job; what is not known yet is looked up at once for all. */
export async function knownCards(
  jobs: readonly { readonly id: string; readonly revision: number }[],
): Promise<ReadonlyMap<string, CardFacts>> {
  const unknown = jobs.filter(({ id, revision }) => told.get(id)?.revision !== revision)
  if (unknown.length > 0) {
    const rows = await Job.sequelize!.query<{ id: string; revision: number; content: string; summary: string }>(
      'SELECT jobs.id, jobs.revision, cards.content, cards.summary FROM jobs JOIN cards ON cards.content = SHA2(jobs.document, 256) WHERE jobs.id IN (:ids)',
      { replacements: { ids: unknown.map(({ id }) => id) }, type: QueryTypes.SELECT },
    )
    for (const { id, revision, content, summary } of rows) told.set(id, { revision, facts: { content, ...JSON.parse(summary) } })
  }
  return new Map(
    jobs.flatMap(({ id, revision }) => {
      const known = told.get(id)
      return known?.revision === revision ? [[id, known.facts] as const] : []
    }),
  )
}

/** The card of a job's newest document. It is kept by content and made when it is missing. */
export async function cardOf(jobId: string, work: Work): Promise<Card> {
  const [row] = await Job.sequelize!.query<{ content: string; revision: number }>(
    'SELECT revision, SHA2(document, 256) AS content FROM jobs WHERE id = :jobId AND deletedAt IS NULL',
    { replacements: { jobId }, type: QueryTypes.SELECT },
  )
  if (!row) throw new Refusal(404, 'no-job', 'This job is not here any more.')
  const card = await cardBy(jobId, row.content, work)
  told.set(jobId, { revision: row.revision, facts: factsOf(card) })
  return card
}

async function cardBy(jobId: string, content: string, work: Work): Promise<Card> {
  const known = await Card.findByPk(content)
  if (known) return known
  let making = underway.get(content)
  if (!making) {
    making = turn.then(async () => {
      await work.run('makeCard', { jobId, content })
      const card = await Card.findByPk(content)
      if (!card) throw new Refusal(503, 'no-card', 'The picture of this job is not made yet: ask again.')
      return card
    })
    turn = making.catch(() => {})
    underway.set(content, making)
    void making.finally(() => underway.delete(content)).catch(() => {})
  }
  return making
}
