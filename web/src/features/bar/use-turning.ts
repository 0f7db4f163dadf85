import { faceSize, type JobDocument, mainPiece, ROTARIES, withRound } from '@neotaxis/core'
import { useEdit } from '../use-edit.ts'

const DEVICE = ROTARIES.rollers
/** A cup, until somebody says how thick it is. */
const FIRST_ROUND_MM = 73

/** What is said where an edit cannot be made; undefined where it was. */
export function troubleOf(edit: () => void): string | undefined {
  try {
    edit()
    return undefined
  } catch (cause) {
    return cause instanceof Error ? cause.message : 'It cannot turn there.'
  }
}

/** Lets the workpiece turn in a rotary, as thick as a cup until somebody says otherwise. */
export function useTurning(job: JobDocument) {
  const edit = useEdit()
  const { machine } = job
  return {
    // Mirrors turn nothing; several workpieces lie flat.
    canTurn: machine.head.kind === 'gantry' && Object.keys(job.workpieces).length === 1,
    /** @returns why it cannot turn; undefined where it does */
    turning: (): string | undefined => {
      const diameterMm = Math.max(DEVICE.smallestMm, Math.min(DEVICE.largestMm, FIRST_ROUND_MM))
      const lengthMm = Math.min(faceSize(mainPiece(job)).widthMm, DEVICE.longestMm, machine.axes.x.travelMm)
      return troubleOf(() => edit('a round workpiece, turning', (base) => withRound(base, DEVICE, diameterMm, lengthMm)))
    },
  }
}
