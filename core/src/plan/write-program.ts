import { type ByteSink, GcodeWriter } from '../formats/gcode.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { both, PlanMeter, type PlanReport, planJob } from './plan.ts'
import { programWords } from './program-words.ts'

/** Writes the program of a job and measures it on the way. Same job and assets, same bytes. */
export function writeProgram(job: JobDocument, supply: Supply, out: ByteSink, only?: ReadonlySet<string>): PlanReport {
  const meter = new PlanMeter(job)
  const writer = new GcodeWriter(programWords(job), out)
  planJob(job, supply, both(meter, writer), only)
  writer.end()
  return meter.report()
}
