// Runs in a worker thread: plans the job, checks it, and paints the picture for the board.
import { parentPort, workerData } from 'node:worker_threads'
import { checkFindings, encodePng, forecastScene, type JobDocument, measureJob, paintForecast } from '@neotaxis/core'
import { benchFor } from '../runs/bench.ts'
import type { CardSummary } from './card.ts'

const { job, assets } = workerData.data as { job: JobDocument; assets: Record<string, Uint8Array> }
const WIDTH_PX = 420

const bench = benchFor(assets)
const report = measureJob(job, bench)
const findings = checkFindings(job, bench).filter(({ meant }) => !meant)
const pxPerMm = WIDTH_PX / job.workpiece.widthMm
const heightPx = Math.max(1, Math.round(job.workpiece.heightMm * pxPerMm))
const samples = paintForecast(forecastScene(job, bench), { x: 0, y: 0, pxPerMm, widthPx: WIDTH_PX, heightPx })
const picture = encodePng({ widthPx: WIDTH_PX, heightPx, channels: 4, samples: new Uint8Array(samples.buffer), full: 255 })
const count = (severity: string): number => findings.filter((finding) => finding.severity === severity).length
const summary: CardSummary = { seconds: report.seconds, stop: count('stop'), ask: count('ask'), note: count('note') }
parentPort!.postMessage({ summary, picture })
