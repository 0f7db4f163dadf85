import { checkFindings, encodePng, jobPicture, measureJob } from '@neotaxis/core'
import { jobSupply } from '../assets/job-assets.ts'
import { storedJob } from '../jobs/stored-job.ts'
import { Card, Job } from '../models/index.ts'
import { Refusal } from '../refusal.ts'

/** What the board tells of a job beside its picture. */
export interface CardSummary {
  readonly seconds: number
  readonly stop: number
  readonly ask: number
  readonly note: number
}

const WIDTH_PX = 420

/** Plans a job, checks it, and paints its picture for the board: in a thread. Kept by the content of its document. */
export async function makeCard({ jobId, content }: { jobId: string; content: string }): Promise<void> {
  const row = await Job.findByPk(jobId)
  if (!row) throw new Refusal(404, 'no-job', 'This job is not here any more.')
  const job = storedJob(row)
  const supply = await jobSupply(job)
  const report = measureJob(job, supply)
  const findings = checkFindings(job, supply).filter(({ meant }) => !meant)
  const { samples, ...size } = jobPicture(job, supply, WIDTH_PX)
  const picture = encodePng({ ...size, channels: 4, samples: new Uint8Array(samples.buffer), full: 255 })
  const count = (severity: string): number => findings.filter((finding) => finding.severity === severity).length
  const summary: CardSummary = { seconds: report.seconds, stop: count('stop'), ask: count('ask'), note: count('note') }
  await Card.findOrCreate({
    where: { content },
    defaults: { content, summary: JSON.stringify(summary), picture: Buffer.from(picture) },
  })
}
