import type { JobDocument } from '@neotaxis/core'
import { type CameraReach, takenPhoto } from '../machines/camera.ts'
import { keepPhoto } from '../machines/keep-photo.ts'
import { CameraRow, RunPhotoRow } from '../models/cameras.ts'
import { Run } from '../models/runs.ts'

/** A photo of the bed after a run, where its camera is calibrated; else none. */
export async function photographRun(runId: string, machine: string, cameras: ReadonlyMap<string, CameraReach>): Promise<void> {
  const row = await CameraRow.findByPk(machine)
  const address = row?.address || cameras.get(machine)?.address
  if (!row?.calibration || !address) return
  // What turns is not seen as a face laid flat.
  const run = await Run.findByPk(runId, { attributes: ['document'] })
  if (run && (JSON.parse(run.document) as JobDocument).machine.turns) return
  const { camera } = JSON.parse(row.calibration) as { readonly camera: { readonly widthPx: number } }
  const takenAt = new Date()
  const photo = await keepPhoto(await takenPhoto(address, camera.widthPx))
  await RunPhotoRow.upsert({ runId, photo, calibration: row.calibration, takenAt })
}
