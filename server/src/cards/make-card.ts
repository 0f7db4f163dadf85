import { checkFindings, encodePng, faceSize, forecastScene, mainPiece, measureJob, paintForecast } from '@neotaxis/core'
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
  const size = faceSize(mainPiece(job))
  const pxPerMm = WIDTH_PX / size.widthMm
  const heightPx = Math.max(1, Math.round(size.heightMm * pxPerMm))
  const samples = paintForecast(forecastScene(job, supply), { x: 0, y: 0, pxPerMm, widthPx: WIDTH_PX, heightPx })
  const picture = encodePng({ widthPx: WIDTH_PX, heightPx, channels: 4, samples: new Uint8Array(samples.buffer), full: 255 })
  const count = (severity: string): number => findings.filter((finding) => finding.severity === severity).length
  const summary: CardSummary = { seconds: report.seconds, stop: count('stop'), ask: count('ask'), note: count('note') }
  await Card.findOrCreate({
    where: { content },
    defaults: { content, summary: JSON.stringify(summary), picture: Buffer.from(picture) },
  })
}
