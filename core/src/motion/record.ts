import { type ByteSink, GcodeWriter } from '../formats/gcode.ts'
import type { JobDocument } from '../job/document.ts'
import type { Bench } from '../job/evaluate.ts'
import { both, planJob } from '../plan/plan.ts'
import { type Track, TrackRecorder } from './track.ts'

/** Plans a job and keeps every move with its time. @param out takes the program, where it is wanted */
export function recordTrack(job: JobDocument, bench: Bench, out: ByteSink = () => {}): Track {
  const writer = new GcodeWriter(job, out)
  const recorder = new TrackRecorder(job.machine, () => writer.lines)
  planJob(job, bench, both(writer, recorder))
  writer.end()
  return recorder.track()
}
