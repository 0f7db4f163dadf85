import type { RunLive } from '@neotaxis/contract'

/** Where somebody is on the way through a first job. */
export interface GuideStep {
  readonly at: number
  readonly says: string
  /** What can be done from here by one press. */
  readonly offers?: 'picture' | 'run' | 'end'
}

export const GUIDE_STEPS = 6

const ENDED = ['done', 'stopped', 'refused', 'lost']

/**
 * What comes next in a first job, by the screen and by what the machine does. @param run of the job that is open @param simulated
 * whether it is known that the machine is a simulated one: of a real one nothing of the kind is said
 */
export function guideStep(path: string, run: RunLive | null, simulated: boolean): GuideStep {
  if (/\/run$/.test(path)) {
    if (!run)
      return {
        at: 4,
        says: `Say who you are, at the top; see to the list, on the left; then press Start.${simulated ? ' This machine is simulated: nothing can happen.' : ' This machine is real: stay with it.'}`,
      }
    if (!ENDED.includes(run.phase))
      return {
        at: 5,
        says: `It burns. Hold waits in its place, Stop ends it.${simulated ? ' Try one; “60 × time” makes it quick.' : ''}`,
      }
    return {
      at: 6,
      says: 'Look before you lift the piece: say what came out, and press Finish. It stands in the journal then.',
      offers: 'end',
    }
  }
  if (/^\/jobs\/[^/]+\/(picture|outline|measure)/.test(path))
    return { at: 3, says: 'A bench: what is changed here is seen in the job at once. Go back to Compose when you have looked.' }
  if (/^\/jobs\/[^/]+\/compose$/.test(path))
    return {
      at: 3,
      says: 'This is the piece after the burn. Press a number on it and type another; look at the times below. Then go to Run.',
      offers: 'run',
    }
  if (/^\/journal/.test(path)) return { at: 6, says: 'Every run is written down here: yours stands first.', offers: 'end' }
  return {
    at: 1,
    says: 'Drop a picture here, or take this one. Say the material and the width, then press what it is to become.',
    offers: 'picture',
  }
}
