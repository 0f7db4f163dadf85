import type { ReadProgram } from '../formats/gcode-read.ts'
import type { JobDocument } from '../job/document/document.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { inverseOf, mapped } from '../space/affine.ts'
import { bedToAxes } from '../space/chart.ts'
import { newJob, newPiece, type Setting } from './new-job.ts'

const micro = (mm: number): number => Math.round(mm * 1000) / 1000

/** A job that runs a program as it is written, at the place on the bed where it is written for. */
export function programJob(name: string, asset: string, read: ReadProgram, settings: Setting): JobDocument {
  const { machine } = settings
  const [x0, y0, x1, y1] = read.box ?? [0, 0, 1, 1]
  const toBed = inverseOf(bedToAxes(machine))
  const [left, one] = mapped(toBed, x0, y0)
  const [, other] = mapped(toBed, x1, y1)
  const top = Math.min(one, other)
  // The workpiece lies under it, as far as the bed reaches.
  const { widthMm, heightMm } = faceSize(Object.values(newPiece(settings).workpieces)[0])
  const under = (low: number, high: number, size: number, bed: number): number =>
    micro(Math.min(Math.max(0, (low + high - size) / 2), Math.max(0, bed - size)))
  const pose = {
    xMm: under(left, left + x1 - x0, widthMm, machine.axes.x.travelMm),
    yMm: under(top, top + y1 - y0, heightMm, machine.axes.y.travelMm),
  }
  const lies = {
    xMm: micro(left - pose.xMm),
    yMm: micro(top - pose.yMm),
    widthMm: Math.max(0.5, micro(x1 - x0)),
    heightMm: Math.max(0.5, micro(y1 - y0)),
  }
  const job = newJob(
    name,
    { ...settings, workpiece: { ...settings.workpiece, pose } },
    { source: { kind: 'program', name, asset } },
    lies,
    {
      program: {
        process: 'program',
        of: ['source'],
        power: 1,
        speedMmS: Math.max(0.1, read.topSpeedMmS),
        passes: 1,
        air: read.air,
      },
    },
    ['program'],
  )
  return { ...job, name }
}
