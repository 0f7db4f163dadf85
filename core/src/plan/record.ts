import { type ByteSink, GcodeWriter } from '../formats/gcode.ts'
import type { JobDocument } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { type Track, TrackRecorder } from '../motion/track.ts'
import { both, PlanMeter, type PlanReport, planJob } from './plan.ts'
import { programWords } from './program-words.ts'

/** A planned job with every move in time. */
export interface Recorded {
  readonly track: Track
  readonly report: PlanReport
  /** Lines of the program, comments not counted. */
  readonly lines: number
}

/** Plans a job and keeps every move with its time. @param out takes the program, where it is wanted */
export function recordJob(job: JobDocument, supply: Supply, out: ByteSink = () => {}): Recorded {
  const writer = new GcodeWriter(programWords(job), out)
  const recorder = new TrackRecorder(job.machine, () => writer.lines)
  const meter = new PlanMeter(job)
  planJob(job, supply, both(both(writer, recorder), meter))
  writer.end()
  return { track: recorder.track(), report: meter.report(), lines: writer.lines }
}
