import { QueryTypes } from 'sequelize'
import { Card, Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'
import type { Work } from '../work/work.ts'

/** The same job asked for by several pages is worked out once; jobs take turns, so that a board full of them holds up nothing else. */
const underway = new Map<string, Promise<Card>>()
let turn: Promise<unknown> = Promise.resolve()

/** The card of a job's newest document. It is kept by content and made when it is missing. */
export async function cardOf(jobId: string, work: Work): Promise<Card> {
  const [row] = await Job.sequelize!.query<{ content: string }>(
    'SELECT SHA2(document, 256) AS content FROM jobs WHERE id = :jobId AND deletedAt IS NULL',
    { replacements: { jobId }, type: QueryTypes.SELECT },
  )
  if (!row) throw new Refusal(404, 'no-job', 'This job is not here any more.')
  const { content } = row
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
