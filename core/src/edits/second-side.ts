import { reversed } from '../geometry/ring.ts'
import { type JobDocument, mainPieceId } from '../job/document/document.ts'
import {
  faceSize,
  type KeepOut,
  outlineOfFace,
  outlineSize,
  type PieceOutline,
  type TurnedOver,
  type Workpiece,
} from '../job/document/workpiece.ts'
import { micro } from '../numeric/micro.ts'
import type { Affine } from '../space/affine.ts'
import { readDeg } from '../space/pose.ts'
import { freeName } from './free-name.ts'
import { stepAdded } from './steps-edits.ts'

/** What is asked when a piece is turned over. */
const ASKED: Readonly<Record<TurnedOver, string>> = {
  'left-right': 'Turn it over like a page, left to right',
  'top-bottom': 'Turn it over away from you, rear to front',
}

/** From one side of a piece to the other, mm of both faces; the same way back. */
export function throughPiece(piece: Pick<Workpiece, 'outline'>, way: TurnedOver): Affine {
  const { widthMm, heightMm } = faceSize(piece)
  return way === 'left-right' ? [-1, 0, 0, 1, widthMm, 0] : [1, 0, 0, -1, 0, heightMm]
}

/** An outline as it is seen from the other side; the box around it stays. */
export function mirroredOutline(outline: PieceOutline, way: TurnedOver): PieceOutline {
  if (outline.kind !== 'rings') return outline
  const { widthMm, heightMm } = outlineSize(outline)
  const rings = outlineOfFace(outline).map((ring) => {
    const turned = ring.map((v, i) => (way === 'left-right' ? (i % 2 === 0 ? widthMm - v : v) : i % 2 === 0 ? v : heightMm - v))
    return Array.from(reversed(turned), micro)
  })
  return { kind: 'rings', rings }
}

/**
 * The job with the second side of a workpiece: a face of its own, with its outline, keep-outs and marks as they are seen from there, that
 * comes up when the piece is turned over in a set-up. It lies in the same place of the bed then, until it is found to lie otherwise.
 * @returns the job, and the id of that side
 */
export function withSecondSide(
  job: JobDocument,
  way: TurnedOver,
  id = mainPieceId(job),
): { readonly job: JobDocument; readonly side: string } {
  const known = Object.keys(job.workpieces).find((each) => job.workpieces[each].back?.of === id)
  if (known !== undefined) return { job, side: known }
  const piece = job.workpieces[id]
  const { stock: _, ...front } = piece
  const size = faceSize(piece)
  const across = (xMm: number, widthMm: number): number => (way === 'left-right' ? micro(size.widthMm - xMm - widthMm) : xMm)
  const down = (yMm: number, heightMm: number): number => (way === 'top-bottom' ? micro(size.heightMm - yMm - heightMm) : yMm)
  const keepOuts = Object.fromEntries(
    Object.entries(piece.keepOuts).map(([key, { outline, pose, name }]): [string, KeepOut] => {
      const box = outlineSize(outline)
      const deg = readDeg(-(pose.deg ?? 0))
      const at = { xMm: across(pose.xMm, box.widthMm), yMm: down(pose.yMm, box.heightMm) }
      return [key, { name, outline: mirroredOutline(outline, way), pose: deg === 0 ? at : { ...at, deg } }]
    }),
  )
  const marks = Object.fromEntries(
    Object.entries(piece.marks).map(([key, { xMm, yMm }]) => [key, { xMm: across(xMm, 0), yMm: down(yMm, 0) }]),
  )
  const back: Workpiece = {
    ...front,
    name: `${piece.name}, back`,
    outline: mirroredOutline(piece.outline, way),
    keepOuts,
    marks,
    ...(piece.grainDeg === undefined ? {} : { grainDeg: readDeg(-piece.grainDeg) }),
    back: { of: id, way },
  }
  const side = freeName(job.workpieces, `${id.slice(0, 30)}-back`)
  const more = { ...job, workpieces: { ...job.workpieces, [side]: back } }
  const isAsked = Object.values(job.steps).some((step) => step.kind === 'set-up' && step.name === ASKED[way])
  return { job: isAsked ? more : stepAdded(more, { kind: 'set-up', name: ASKED[way], poses: {} }).job, side }
}
