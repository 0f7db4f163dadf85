import { Op } from 'sequelize'
import { Run } from '../models/runs.ts'

/** When each of some jobs was last run to its end, here or elsewhere. */
export async function lastRuns(jobs: readonly string[]): Promise<ReadonlyMap<string, Date>> {
  const runs = await Run.findAll({
    where: { jobId: { [Op.in]: [...jobs] }, phase: { [Op.in]: ['done', 'carried'] }, endedAt: { [Op.ne]: null } },
    attributes: ['jobId', 'endedAt'],
    order: [['endedAt', 'ASC']],
  })
  // The last of each stays.
  return new Map(runs.map(({ jobId, endedAt }) => [jobId!, endedAt!]))
}
