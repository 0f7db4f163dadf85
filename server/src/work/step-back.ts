import { readlinkSync } from 'node:fs'
import { setPriority } from 'node:os'

/** How much this thread steps back behind others, as `nice` counts it. */
const NICE = 10

/**
 * Lets the server's own thread go first where there are fewer cores than work: on Linux each thread has a priority of its own, by a
 * number that the kernel tells it. Elsewhere nothing happens.
 */
export function stepBack(): void {
  try {
    // `PID/task/TID`, as seen by the thread that asks.
    const thread = Number(readlinkSync('/proc/thread-self').split('/').at(-1))
    if (Number.isInteger(thread)) setPriority(thread, NICE)
  } catch {
    // No such thing here: it works all the same.
  }
}
