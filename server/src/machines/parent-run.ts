import { checkJob } from '@neotaxis/core'
import { Run } from '../models/runs.ts'
import { Refusal } from '../refusal.ts'
import { type Laid, laidFor } from './lay-in.ts'

/** What an operator ticks when the piece is lifted; nothing goes on in the same place after that. */
export const FINISHED = 'finished'

/**
 * Whether a part of a job may run again without the whole list: after a run of the same job on the same machine, with the piece where it
 * was, nothing else run there meanwhile, and nobody having lifted it. @throws Refusal that says what is different
 */
export async function samePlace(parentId: string, machineId: string, jobId: string, laid: Laid): Promise<void> {
  const parent = await Run.findByPk(parentId)
  const refuse = (why: string): never => {
    throw new Refusal(409, 'not-confirmed', `${why}: go through the whole list before the start.`)
  }
  if (!parent) return refuse('The run before this one is not in the journal')
  if (!['done', 'stopped'].includes(parent.phase)) return refuse('The run before this one did not end in a known place')
  if (parent.jobId !== jobId || parent.machineId !== machineId)
    return refuse('The run before this one was another job, or elsewhere')
  if ((JSON.parse(parent.closing) as string[]).includes(FINISHED)) return refuse('The piece was lifted after the run before')
  const last = await Run.findOne({ where: { machineId }, order: [['startedAt', 'DESC']], attributes: ['id', 'parentId'] })
  if (last && last.id !== parentId && last.parentId !== parentId) return refuse('Something else ran on this machine meanwhile')
  if (JSON.stringify(laidFor(checkJob(JSON.parse(parent.document)))) !== JSON.stringify(laid))
    return refuse('The piece lies elsewhere, or is another one')
}
