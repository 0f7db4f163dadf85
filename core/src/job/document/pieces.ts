import type { Material } from '../../material/material.ts'
import { type Chart, flatChart } from '../../space/chart.ts'
import type { Pose } from '../../space/pose.ts'
import { type JobDocument, mainPieceId, materialOf, type Placement, placesOf, sourceOf } from './document.ts'
import type { Operation } from './operation.ts'
import { faceSize, type Workpiece } from './workpiece.ts'

/** Some artwork in one of its places, as an operation burns it. */
export interface BurnedPiece {
  readonly node: string
  /** Id of its placement. */
  readonly place: string
  readonly placement: Placement
  readonly workpieceId: string
  readonly workpiece: Workpiece
  readonly material: Material
  /** How the workpiece lies while this is burned. */
  readonly pose: Pose
}

/**
 * What an operation burns, piece by piece: its artwork in the order in which it names it, each in all places that are meant.
 * @param id the operation's own, where a set-up before it may have laid a workpiece anew
 */
export function burnedPieces(job: JobDocument, operation: Pick<Operation, 'of' | 'at'>, id?: string): BurnedPiece[] {
  const { of, at } = operation
  return of.flatMap((node) =>
    placesOf(job, sourceOf(job, node))
      .filter((place) => at === undefined || at.includes(place))
      .map((place) => burnedPieceAt(job, node, place, id)),
  )
}

/** Some artwork in one place. @param operation while it burns */
export function burnedPieceAt(job: JobDocument, node: string, place: string, operation?: string): BurnedPiece {
  const placement = job.placements[place]
  const workpiece = job.workpieces[placement.on]
  return {
    node,
    place,
    placement,
    workpieceId: placement.on,
    workpiece,
    material: materialOf(job, placement.on),
    pose: poseAt(job, placement.on, operation),
  }
}

/** The material that an operation's settings are for: that of its first piece, else of the main workpiece. */
export const operationMaterial = (job: JobDocument, operation: Pick<Operation, 'of' | 'at'>): Material =>
  burnedPieces(job, operation)[0]?.material ?? materialOf(job)

/** How a workpiece lies while an operation burns: a set-up before it may have laid it anew. @param operation absent: at first */
export function poseAt(job: JobDocument, workpieceId: string, operation?: string): Pose {
  let { pose } = job.workpieces[workpieceId]
  if (operation === undefined) return pose
  for (const id of job.order) {
    const step = job.steps[id]
    if (step.kind === 'set-up') pose = step.poses?.[workpieceId] ?? pose
    if (step.kind === 'burn' && step.operation === operation) break
  }
  return pose
}

/** From a workpiece's face to the machine's axes. @param operation while it burns; absent: as it lies at first */
export function chartOf(job: JobDocument, workpieceId = mainPieceId(job), operation?: string): Chart {
  return flatChart(job.machine, poseAt(job, workpieceId, operation), faceSize(job.workpieces[workpieceId]))
}

/** The chart of the workpiece that a piece lies on. */
export const pieceChart = (
  { machine }: Pick<JobDocument, 'machine'>,
  { pose, workpiece }: Pick<BurnedPiece, 'pose' | 'workpiece'>,
): Chart => flatChart(machine, pose, faceSize(workpiece))
