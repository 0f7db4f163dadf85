import { type ReadProgram, readProgram } from '../formats/gcode-read.ts'
import type { Machine } from '../machine/machine.ts'
import type { Material } from '../material/material.ts'
import type { Bench } from './bench.ts'
import { JOB_VERSION, type JobDocument, type Workpiece } from './document.ts'

/** A program of a job, read once and kept by content. */
export function programOfNode(job: JobDocument, nodeId: string, bench: Bench): ReadProgram {
  const node = job.nodes[nodeId]
  if (node?.kind !== 'program') throw new Error(`“${nodeId}” is no program.`)
  const { program } = bench
  if (!program) throw new Error('Programs cannot be read here.')
  return bench.cache.get(
    `program ${node.asset}`,
    () => readProgram(program(node.asset)),
    ({ moves }) => moves.count * 14,
  )
}

/** From a program's own mm to the job's: moved and scaled as it is placed. */
export function programFrame(
  job: JobDocument,
  nodeId: string,
  read: ReadProgram,
): { x(x: number): number; y(y: number): number } {
  const place = job.placements[nodeId]
  const [x0, y0, x1, y1] = read.box ?? [0, 0, 1, 1]
  const sx = x1 > x0 ? place.widthMm / (x1 - x0) : 1
  const sy = y1 > y0 ? place.heightMm / (y1 - y0) : 1
  const flips = job.machine.zero === 'front-left'
  return {
    x: (x) => place.xMm + (x - x0) * sx,
    y: (y) => place.yMm + (flips ? y1 - y : y - y0) * sy,
  }
}

const micro = (mm: number): number => Math.round(mm * 1000) / 1000

/** A job that runs a program as it is written, at the place on the bed where it is written for. */
export function programJob(
  name: string,
  asset: string,
  read: ReadProgram,
  { workpiece, material, machine }: { readonly workpiece: Workpiece; readonly material: Material; readonly machine: Machine },
): JobDocument {
  const [x0, y0, x1, y1] = read.box ?? [0, 0, 1, 1]
  // The workpiece lies under it, as far as the bed reaches.
  const top = machine.zero === 'front-left' ? machine.bed.heightMm - y1 : y0
  const under = (low: number, high: number, size: number, bed: number): number =>
    micro(Math.min(Math.max(0, (low + high - size) / 2), Math.max(0, bed - size)))
  const onBed = {
    xMm: under(x0, x1, workpiece.widthMm, machine.bed.widthMm),
    yMm: under(top, top + y1 - y0, workpiece.heightMm, machine.bed.heightMm),
  }
  return {
    format: 'neotaxis-job',
    version: JOB_VERSION,
    name,
    workpiece,
    onBed,
    material,
    machine,
    nodes: { program: { kind: 'program', name, asset } },
    placements: {
      program: {
        xMm: micro(x0 - onBed.xMm),
        yMm: micro(top - onBed.yMm),
        widthMm: Math.max(0.5, micro(x1 - x0)),
        heightMm: Math.max(0.5, micro(y1 - y0)),
      },
    },
    operations: {
      program: {
        kind: 'program',
        node: 'program',
        power: 1,
        speedMmS: Math.max(0.1, read.topSpeedMmS),
        passes: 1,
        air: read.air,
      },
    },
    runOrder: ['program'],
    meant: {},
  }
}
