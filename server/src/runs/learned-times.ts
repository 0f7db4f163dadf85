import { type LearnedTimes, learnTimes, type OperationReport } from '@neotaxis/core'
import { MachineRow } from '../models/index.ts'
import { Run } from '../models/runs.ts'

/** The newest runs say how the machine is now. */
const NEWEST = 300

/** What the journal says of how long a machine really takes; null while too few of its runs came to their end. */
export async function learnedTimes(machineId: string): Promise<LearnedTimes | null> {
  const machine = await MachineRow.findByPk(machineId, { attributes: ['id'] })
  if (!machine) return null
  const runs = await Run.findAll({
    where: { machineId, phase: 'done' },
    attributes: ['seconds', 'operations'],
    order: [['startedAt', 'DESC']],
    limit: NEWEST,
  })
  const timed = runs.map(({ seconds, operations }) => ({
    seconds,
    operations: (JSON.parse(operations) as OperationReport[]).map(({ kind, seconds: told }) => ({
      process: kind,
      seconds: told,
    })),
  }))
  return learnTimes(timed) ?? null
}
