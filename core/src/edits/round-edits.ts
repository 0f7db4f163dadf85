import { type JobDocument, mainPiece, mainPieceId, withPiece } from '../job/document/document.ts'
import { type Ends, faceSize, type Workpiece } from '../job/document/workpiece.ts'
import type { RotaryDevice } from '../machine/rotary-device.ts'
import { micro } from '../numeric/micro.ts'
import { circumferenceMm } from '../rotary/device.ts'
import { plugged, unplugged } from '../rotary/plugged.ts'
import { axisMm, narrowestMm, roundOf, type Thick, widestMm } from '../rotary/round-face.ts'
import { shifted } from './workpiece-edits.ts'

/**
 * The job on something round that turns in a device: its face is laid flat, as long as it is and once around high, and what lies on it keeps
 * its place from the middle.
 * @param lengthMm of its face, along its side @throws RangeError with a sentence where the device does not hold it
 */
export function withRound(job: JobDocument, device: RotaryDevice, thick: Thick, lengthMm: number): JobDocument {
  const surface = roundOf(thick)
  const diameterMm = widestMm(surface)
  // A side that is shorter than its ends differ is none.
  axisMm(surface, lengthMm)
  const thinnest = narrowestMm(surface)
  if (surface.kind !== 'cylinder' && thinnest < device.smallestMm)
    throw new RangeError(`${device.name} holds from Ø ${device.smallestMm} mm: Ø ${thinnest} mm is too thin.`)
  if (lengthMm > device.longestMm)
    throw new RangeError(`${device.name} holds what is up to ${device.longestMm} mm long, not ${lengthMm} mm.`)
  const id = mainPieceId(job)
  const before = faceSize(mainPiece(job))
  const machine = plugged(job.machine, device, diameterMm)
  const heightMm = micro(circumferenceMm(diameterMm))
  const xMm = micro(Math.max(0, Math.min(mainPiece(job).pose.xMm, machine.axes.x.travelMm - lengthMm)))
  const round = withPiece(
    { ...job, machine },
    {
      outline: { kind: 'rect', widthMm: lengthMm, heightMm },
      surface: { ...surface, ...endsOf(mainPiece(job)) },
      pose: { xMm, yMm: 0 },
    },
    id,
  )
  return shifted(round, id, (lengthMm - before.widthMm) / 2, (heightMm - before.heightMm) / 2)
}

/** What is known of its ends stays known. */
const endsOf = ({ surface }: Workpiece): Ends => (surface.kind === 'flat' ? {} : { held: surface.held, lip: surface.lip })

/** The job with one of its piece's ends known, or not any more. */
export function withEnds(job: JobDocument, ends: Ends): JobDocument {
  const { surface } = mainPiece(job)
  return surface.kind === 'flat' ? job : withPiece(job, { surface: { ...surface, ...ends } }, mainPieceId(job))
}

/** The job on a flat piece again, as large as its face was. */
export function withFlat(job: JobDocument): JobDocument {
  return withPiece({ ...job, machine: unplugged(job.machine) }, { surface: { kind: 'flat' } }, mainPieceId(job))
}
