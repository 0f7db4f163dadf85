import { closeSync, mkdirSync, openSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { workerData } from 'node:worker_threads'
import {
  askedBefore,
  checkFindings,
  checkJob,
  type JobDocument,
  preflight,
  type RunScope,
  recordJob,
  jobForRun as scopedJob,
  setUpList,
  timeOfLines,
  trackSeconds,
} from '@neotaxis/core'
import { MarkMaker } from '@neotaxis/link'
import { jobSupply } from '../assets/job-assets.ts'
import { jobForRun } from '../jobs/job-text.ts'
import { type Laid, laidFor } from '../machines/lay-in.ts'
import { Run } from '../models/runs.ts'
import { Refusal } from '../refusal.ts'
import { LINES_A_STEP, type Prepared, withWaits } from './prepared.ts'

/** Whose program is made: of a job as it is now, or of a run that was begun already. */
export interface RunToPrepare {
  readonly id: string
  readonly job: { readonly id: string; readonly revision: number } | null
  readonly scope: RunScope
}

export interface PreparedRun {
  readonly prepared: Prepared
  /** The job as it is run, as JSON. */
  readonly document: string
  readonly name: string
  readonly machineId: string
  readonly machineName: string
  readonly laid: Laid
}

/**
 * Checks a job, writes its program to a file, and tells what of it takes how long: in a thread. The same job and scope give the same
 * program, whoever prepares it.
 */
export async function prepareRun({ id, job: asked, scope }: RunToPrepare): Promise<PreparedRun> {
  const job = asked ? await jobForRun({ jobId: asked.id, revision: asked.revision }) : await begun(id)
  const supply = await jobSupply(job)
  const run = scopedJob(job, scope)
  const findings = checkFindings(run, supply)
  const stops = findings.filter(({ severity }) => severity === 'stop').map(({ message }) => message)
  const folder = (workerData[1] ?? workerData).runs as string
  mkdirSync(folder, { recursive: true })
  const file = join(folder, `${id}.gcode`)
  const out = openSync(file, 'w')
  const marks = new MarkMaker()
  let recorded: ReturnType<typeof recordJob>
  try {
    recorded = recordJob(run, supply, (bytes) => {
      writeSync(out, bytes)
      marks.take(bytes)
    })
  } finally {
    closeSync(out)
  }
  const { track, report, lines } = recorded
  const marked = marks.done()
  if (marked.lines !== lines) throw new Error(`The program has ${marked.lines} lines, and ${lines} were counted.`)
  const askedFor = askedBefore(run)
  const prepared: Prepared = {
    file,
    stops,
    lines,
    marks: marked.marks,
    seconds: trackSeconds(track),
    times: Float64Array.from({ length: Math.ceil(lines / LINES_A_STEP) + 1 }, (_, i) => timeOfLines(track, i * LINES_A_STEP)),
    parts: withWaits(
      track.parts.map((part) => ({
        id: part.id,
        linesBefore: part.linesBefore,
        pause: askedFor.get(part.id)?.join(' · ') ?? null,
        list: setUpList(run, part.id, findings),
      })),
      track.waits,
    ),
    operations: report.operations,
    bounds: report.bounds,
    preflight: preflight(run, findings).map((item) => item.id),
  }
  const { machine } = job
  const laid = laidFor(job)
  return { prepared, document: JSON.stringify(job), name: job.name, machineId: machine.id, machineName: machine.name, laid }
}

async function begun(id: string): Promise<JobDocument> {
  const run = await Run.findByPk(id, { attributes: ['document'] })
  if (!run) throw new Refusal(404, 'no-run', 'This run is not in the journal.')
  return checkJob(JSON.parse(run.document))
}
