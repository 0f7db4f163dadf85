import type { JobDocument } from '../job/document.ts'

/** Job coordinates → machine coordinates, the only place where the machine's axes count. */
export interface MachineFrame {
  /** @param x job mm @returns machine µm */
  x(x: number): number
  /** @param y job mm @returns machine µm */
  y(y: number): number
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
