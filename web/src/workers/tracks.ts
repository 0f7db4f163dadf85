import type { JobDocument, Track } from '@neotaxis/core'
import { track } from './engine.ts'

const KEEP = 2

let made: { readonly job: JobDocument; readonly track: Track }[] = []
let wanted: JobDocument | null = null
let running = false
const listeners = new Set<() => void>()

async function work(): Promise<void> {
  if (running) return
  running = true
  try {
    while (wanted && !made.some(({ job }) => job === wanted)) {
      const job = wanted
      const found = await track(job)
      if (found) made = [{ job, track: found }, ...made].slice(0, KEEP)
      else if (wanted === job) wanted = null
      for (const listener of listeners) listener()
    }
  } catch {
    // The evaluation of the same job tells what is wrong with it.
    wanted = null
  } finally {
    running = false
  }
}

/** Every move of a job with its time, if it is worked out; else that begins. */
export function trackOf(job: JobDocument): Track | undefined {
  const known = made.find((one) => one.job === job)
  if (known) return known.track
  wanted = job
  void work()
  return undefined
}

/** Told when a track is there. @returns the way to stop listening */
export function onTrack(listener: () => void): () => void {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
