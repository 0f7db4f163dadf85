import { type MachineLink, standsStill } from './machine-link.ts'
import type { Report } from './report.ts'
import { LinkError } from './wire.ts'

/** A machine that obeys says within this that it does not run any more, ms; else it is reset. */
const OBEY_MS = 800
/** Braking takes no longer than this, however heavy it is, ms. */
const BRAKE_MS = 8000
/** A reset that shows nothing is sent again, ms. */
const AGAIN_MS = 500
/** How long one answer is waited for, and when it is asked again, ms. */
const ANSWER_MS = 400
const LOST_MS = 150
const LOOK_MS = 20

/** It stands, and has nothing left that a button at the machine could set off: armed or held it would. */
const hasLetGo = ({ state, queue }: Report): boolean =>
  queue === 0 && (state === 'idle' || state === 'alarm' || state === 'lid' || state === 'emergency')

/** How a machine came to rest. */
export interface Halted {
  /** Where it stood when it had braked, or what it said last before it was reset; undefined where it said nothing. */
  readonly report: Report | undefined
  /** It braked when it was told to; else only the reset ended it, and its place may be lost. */
  readonly obeyed: boolean
}

/**
 * Ends whatever a machine does: a hold first, so that it brakes along its path; one that does not obey within a second is reset
 * (Ctrl-X), again and again until it says that it stands. Then its plan is dropped.
 * @param say told what the operator should know meanwhile, when there is something
 * @throws LinkError where the connection ends before the machine has said that it stands
 */
export async function halt(link: MachineLink, say: (trouble: string) => void): Promise<Halted> {
  const start = Date.now()
  let place: Report | undefined
  let resetAt: number | undefined
  let obeyed = true
  const reset = (): void => {
    resetAt = Date.now()
    link.send('\x18')
  }
  link.send('!')
  for (;;) {
    const report = await answer(link)
    const now = Date.now()
    if (report && resetAt !== undefined && hasLetGo(report)) return { report: place ?? report, obeyed }
    if (report && resetAt === undefined && standsStill(report)) {
      place = report
      reset()
      continue
    }
    if (resetAt === undefined) {
      const brakes = report !== undefined && report.state !== 'run' && now - start < BRAKE_MS
      if (!brakes && now - start >= OBEY_MS) {
        obeyed = false
        place = report
        say(
          report
            ? 'The machine did not obey the stop: it is being reset. Be ready to press its emergency stop.'
            : 'The machine does not answer the stop: it is being reset. Press its emergency stop.',
        )
        reset()
      }
    } else if (now - resetAt >= AGAIN_MS) {
      obeyed = false
      say(
        report === undefined
          ? 'The machine does not answer: press its emergency stop now.'
          : standsStill(report)
            ? 'The machine keeps the program in spite of the reset, and may begin it: press its emergency stop now.'
            : 'The machine goes on in spite of stop and reset: press its emergency stop now.',
      )
      link.send('!')
      reset()
    }
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS))
  }
}

async function answer(link: MachineLink): Promise<Report | undefined> {
  try {
    return await link.ask(ANSWER_MS, LOST_MS)
  } catch (cause) {
    if (!(cause instanceof LinkError) || link.gone) throw cause
    return undefined
  }
}
