import { isEmptyBounds } from '../geometry/bounds.ts'
import { JOB_VERSION, type JobDocument, type Placement } from '../job/document/document.ts'
import type { LineageNode } from '../job/document/nodes.ts'
import type { Operation } from '../job/document/operation.ts'
import { faceSize, type PieceOutline } from '../job/document/workpiece.ts'
import type { Supply } from '../lineage/supply.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import { familyBounds } from '../process/extent.ts'
import type { Pose } from '../space/pose.ts'

/** A workpiece as it is spoken of before there is a job: a rectangle, or any outline, and how thick it is. */
export interface Blank {
  readonly widthMm: number
  readonly heightMm: number
  readonly thicknessMm: number
  /** Its edge, where it is no rectangle: the box around it is as wide and high as said. */
  readonly outline?: PieceOutline
  /** How it lies on the bed; default in the middle. */
  readonly pose?: Pose
}

/** What a job is begun on. */
export interface Setting {
  readonly workpiece: Blank
  readonly material: Material
  readonly machine: Machine
}

/** Id of the workpiece of a job that begins. */
const PIECE = 'piece'

/** A workpiece of a job that begins, in the middle of the bed where nothing else is said. */
export function newPiece({ workpiece, material, machine }: Setting): Pick<JobDocument, 'workpieces' | 'materials' | 'machine'> {
  const { widthMm, heightMm, thicknessMm, outline = { kind: 'rect', widthMm, heightMm }, pose } = workpiece
  const size = faceSize({ outline })
  return {
    workpieces: {
      [PIECE]: {
        name: 'workpiece',
        material: material.id,
        outline,
        surface: { kind: 'flat' },
        thicknessMm,
        keepOuts: {},
        marks: {},
        pose: pose ?? {
          xMm: Math.max(0, (machine.axes.x.travelMm - size.widthMm) / 2),
          yMm: Math.max(0, (machine.axes.y.travelMm - size.heightMm) / 2),
        },
      },
    },
    materials: { [material.id]: material },
    machine,
  }
}

/** A job that begins with one piece of artwork: named after its file, in the middle of the bed. */
export function newJob(
  fileName: string,
  settings: Setting,
  nodes: Readonly<Record<string, LineageNode>>,
  source: Omit<Placement, 'of' | 'on'>,
  operations: Readonly<Record<string, Operation>>,
  burned: readonly string[],
): JobDocument {
  return {
    format: 'neotaxis-job',
    version: JOB_VERSION,
    name:
      fileName
        .replace(/\.[^.]+$/, '')
        .replace(/[-_]+/g, ' ')
        .trim() || 'New job',
    ...newPiece(settings),
    nodes,
    placements: { source: { of: 'source', on: PIECE, ...source } },
    operations,
    steps: Object.fromEntries(burned.map((id) => [id, { kind: 'burn', operation: id }])),
    order: burned,
    meant: {},
  }
}

/** A job that holds nothing yet: only what it lies on and runs on. */
export function emptyJob(name: string, settings: Setting): JobDocument {
  const job = newJob(name, settings, {}, { xMm: 0, yMm: 0, widthMm: 1, heightMm: 1 }, {}, [])
  return { ...job, placements: {} }
}

/** In the middle of the workpiece, to a micrometre. */
export function placed(
  size: { readonly widthMm: number; readonly heightMm: number },
  workpiece: Blank,
): Omit<Placement, 'of' | 'on'> {
  const widthMm = Math.round(size.widthMm * 1000) / 1000
  const heightMm = Math.round(size.heightMm * 1000) / 1000
  return {
    widthMm,
    heightMm,
    xMm: Math.round(500 * (workpiece.widthMm - widthMm)) / 500 / 2,
    yMm: Math.round(500 * (workpiece.heightMm - heightMm)) / 500 / 2,
  }
}

/** What the job burns, in the middle of the workpiece. */
export function centred(job: JobDocument, supply: Supply): JobDocument {
  const burned = familyBounds(job, 'source', supply)
  if (isEmptyBounds(burned)) return job
  const { source } = job.placements
  const { widthMm, heightMm } = faceSize(job.workpieces[source.on])
  const shift = (low: number, high: number, length: number): number => Math.round(1000 * (length / 2 - (low + high) / 2)) / 1000
  return {
    ...job,
    placements: {
      source: {
        ...source,
        xMm: source.xMm + shift(burned.x0, burned.x1, widthMm),
        yMm: source.yMm + shift(burned.y0, burned.y1, heightMm),
      },
    },
  }
}
