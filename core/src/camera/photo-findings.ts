import { type JobDocument, mainPieceId } from '../job/document/document.ts'
import { faceSize, type Workpiece } from '../job/document/workpiece.ts'
import { poseBounds } from '../space/pose.ts'
import type { Calibration } from './calibrate.ts'
import type { SeenAt } from './marks.ts'
import { isTrusted, TRUSTED_MM } from './trust.ts'

/** What a photo of the bed is and how it came to be. */
export interface PhotoFacts {
  readonly bed: { readonly widthMm: number; readonly heightMm: number }
  readonly calibration: Calibration
  /** Moments, ms. */
  readonly calibratedAt: number
  readonly takenAt: number
  readonly now: number
  /** When the lid was opened last, the head or the bed was driven last; absent: never since the photo, as far as is known. */
  readonly movedAt?: number
  /** The marks of the frame, as this photo shows them. */
  readonly fixed?: readonly SeenAt[]
  /** How the workpieces lay when it was taken. */
  readonly laid: Readonly<Record<string, Workpiece['pose']>>
}

export interface PhotoFinding {
  readonly kind:
    | 'outside-trusted'
    | 'calibration-old'
    | 'calibration-poor'
    | 'thickness-unlike'
    | 'camera-moved'
    | 'photo-old'
    | 'workpiece-moved'
  readonly severity: 'ask' | 'note'
  readonly message: string
}

const DAY_MS = 86_400_000
const OLD_DAYS = 120
/** Heights so far beyond those that were calibrated with are guessed, mm. */
const BEYOND_MM = 8
/** Marks of the frame that lie farther from where they were: the camera hangs otherwise, mm. */
const MOVED_MM = 0.5
/** Workpieces that were moved by more since lie elsewhere than the photo shows, mm and degrees. */
const SAME_PLACE = { mm: 0.05, deg: 0.05 }

/** How far the marks of the frame moved, mm: the middle one of them; undefined where none is seen. */
export function movedBy(fixed: readonly SeenAt[]): number | undefined {
  const offs = fixed
    .flatMap(({ known, found }) => (found ? [Math.hypot(found[0] - known[0], found[1] - known[1])] : []))
    .sort((a, b) => a - b)
  return offs.length === 0 ? undefined : offs[offs.length >> 1]
}

/** What is to be thought of before a photo of the bed is believed. */
export function photoFindings(job: JobDocument, facts: PhotoFacts): PhotoFinding[] {
  const { bed, calibration, calibratedAt, takenAt, now, movedAt, fixed, laid } = facts
  const out: PhotoFinding[] = []
  const say = (kind: PhotoFinding['kind'], severity: PhotoFinding['severity'], message: string): void =>
    void out.push({ kind, severity, message })
  const moved = fixed && movedBy(fixed)
  if (moved !== undefined && moved > MOVED_MM)
    say(
      'camera-moved',
      'ask',
      `The marks on the frame are seen ${moved.toFixed(1)} mm from where they were: the camera was knocked. Calibrate it anew before you burn by it.`,
    )
  else if (fixed && fixed.length > 0 && moved === undefined)
    say(
      'camera-moved',
      'ask',
      'No mark of the frame is seen where it was: look whether the camera was moved, or something hides them.',
    )
  if (movedAt !== undefined && movedAt > takenAt)
    say('photo-old', 'ask', 'The lid was opened or the bed was moved since this photo: take it again.')
  if (calibration.p95Mm > TRUSTED_MM)
    say(
      'calibration-poor',
      'ask',
      `The camera is calibrated to ${calibration.p95Mm.toFixed(1)} mm only: calibrate it again, with the board flat and well lit.`,
    )
  const days = Math.floor((now - calibratedAt) / DAY_MS)
  if (days > OLD_DAYS)
    say(
      'calibration-old',
      'note',
      `The camera was calibrated ${days} days ago: check it with a small mark, or calibrate it again.`,
    )
  const [low, high] = [Math.min(...calibration.heights), Math.max(...calibration.heights)]
  for (const [id, piece] of Object.entries(job.workpieces)) {
    const words = Object.keys(job.workpieces).length > 1 ? `“${piece.name}”` : 'The workpiece'
    if (piece.thicknessMm > high + BEYOND_MM || piece.thicknessMm < low - BEYOND_MM)
      say(
        'thickness-unlike',
        'note',
        `${words} is ${piece.thicknessMm} mm thick, the camera was calibrated up to ${high} mm: photograph the board at that height as well.`,
      )
    const box = poseBounds(piece.pose, faceSize(piece))
    if (!isTrusted(calibration, bed, box))
      say(
        'outside-trusted',
        'note',
        `${words} reaches to where the camera is not to be trusted: find it by a corner with the head, too.`,
      )
    const then = laid[id]
    if (!then) continue
    const off = Math.hypot(then.xMm - piece.pose.xMm, then.yMm - piece.pose.yMm)
    const turn = Math.abs((then.deg ?? 0) - (piece.pose.deg ?? 0))
    if (off > SAME_PLACE.mm || turn > SAME_PLACE.deg)
      say(
        'workpiece-moved',
        id === mainPieceId(job) ? 'ask' : 'note',
        `${words} lies elsewhere in the job than when the photo was taken: take it again, or move it back.`,
      )
  }
  return out
}
