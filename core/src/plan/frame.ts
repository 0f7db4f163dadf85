import type { JobDocument } from '../job/document.ts'

/** Job coordinates → machine coordinates, the only place where the machine's axes count. */
export interface MachineFrame {
  /** @param x job mm @returns machine µm */
  x(x: number): number
  /** @param y job mm @returns machine µm */
  y(y: number): number
}

/** Machine coordinates → job coordinates: the way back. */
export interface JobFrame {
  /** @param x machine µm @returns job mm */
  x(x: number): number
  /** @param y machine µm @returns job mm */
  y(y: number): number
}

/** The way back from the machine to the job. */
export function jobFrame(job: Pick<JobDocument, 'onBed' | 'machine'>): JobFrame {
  const { onBed, machine } = job
  return {
    x: (x) => x / 1000 - onBed.xMm,
    y: machine.zero === 'front-left' ? (y) => machine.bed.heightMm - onBed.yMm - y / 1000 : (y) => y / 1000 - onBed.yMm,
  }
}

/** The frame of a job: where its workpiece lies on the bed, and where the controller has its zero. */
export function machineFrame(job: Pick<JobDocument, 'onBed' | 'machine'>): MachineFrame {
  const { onBed, machine } = job
  return {
    x: (x) => Math.round((onBed.xMm + x) * 1000),
    y:
      machine.zero === 'front-left'
        ? (y) => Math.round((machine.bed.heightMm - onBed.yMm - y) * 1000)
        : (y) => Math.round((onBed.yMm + y) * 1000),
  }
}
