import type { Bench } from '../job/bench.ts'
import type { JobDocument } from '../job/document.ts'
import { both, PlanMeter, type PlanReport, planJob } from '../plan/plan.ts'
import { type ByteSink, GcodeWriter } from './gcode.ts'

/** Writes the program of a job and measures it on the way. Same job and assets, same bytes. */
export function writeProgram(job: JobDocument, bench: Bench, out: ByteSink, only?: ReadonlySet<string>): PlanReport {
  const meter = new PlanMeter(job)
  const writer = new GcodeWriter(job, out)
  planJob(job, bench, both(meter, writer), only)
  writer.end()
  return meter.report()
}
