// Runs in a worker thread: checks a job, writes its program to a file, and tells what of it takes how long.
import { closeSync, openSync, writeSync } from 'node:fs'
import { parentPort, workerData } from 'node:worker_threads'
import {
  checkFindings,
  type JobDocument,
  jobForRun,
  preflight,
  type RunScope,
  recordJob,
  timeOfLines,
  trackSeconds,
} from '@neotaxis/core'
import { benchFor } from './bench.ts'
import { LINES_A_STEP, type Prepared } from './prepare.ts'

const { job, scope, assets, file } = workerData.data as {
  job: JobDocument
  scope: RunScope
  assets: Record<string, Uint8Array>
  file: string
}
const bench = benchFor(assets)
const run = jobForRun(job, scope)
const findings = checkFindings(run, bench)
const stops = findings.filter(({ severity }) => severity === 'stop').map(({ message }) => message)
const out = openSync(file, 'w')
const { track, report, lines } = recordJob(run, bench, (bytes) => writeSync(out, bytes))
closeSync(out)
const times = Float64Array.from({ length: Math.ceil(lines / LINES_A_STEP) + 1 }, (_, i) => timeOfLines(track, i * LINES_A_STEP))
const prepared: Prepared = {
  file,
  stops,
  lines,
  seconds: trackSeconds(track),
  times,
  parts: track.parts.map(({ id, linesBefore }) => ({ id, linesBefore })),
  operations: report.operations,
  bounds: report.bounds,
  preflight: preflight(run, findings).map(({ id }) => id),
}
parentPort!.postMessage(prepared)
