import { type Camera, type JobDocument, mainPiece, middleOf, slotPlaces } from '@neotaxis/core'
import { cameraWork } from '../camera/camera-work.ts'
import { nearPhoto } from '../camera/near-photo.ts'

/** How wide the slots of a card are, mm by cell, and which cells show none. */
export interface SlotsRead {
  readonly widths: ReadonlyMap<string, number>
  readonly missed: number
}

/**
 * Drives the camera at the head from cell to cell of a card that lies as it was burned, and measures the slot of each.
 * @param progress the how-manieth of how many
 */
export async function slotsOfCard(
  job: JobDocument,
  camera: Camera,
  progress: (n: number, of: number) => void,
): Promise<SlotsRead> {
  const [mx, my] = middleOf(camera)
  const places = slotPlaces(job)
  const widths = new Map<string, number>()
  for (const [i, { cell, at, along }] of places.entries()) {
    progress(i + 1, places.length)
    const { head } = await nearPhoto(
      job.machine,
      [at[0] - mx, at[1] - my],
      job.machine.axes.z ? mainPiece(job).thicknessMm : undefined,
    )
    const seen = await cameraWork().nearSlot(camera, [at[0] - head[0], at[1] - head[1]], along)
    if (seen) widths.set(cell, Number(seen.widthMm.toFixed(3)))
  }
  return { widths, missed: places.length - widths.size }
}
