import { addressOf, HEAD_STOOD } from '@neotaxis/contract/paths'
import { bedToAxes, inverseOf, type Machine, mapped } from '@neotaxis/core'
import { call } from '../../api/call.ts'
import { cameraWork } from './camera-work.ts'

type Point = readonly [number, number]

/** Dark ways between photos, mm/s. */
const SPEED_MM_S = 120
/** Photos from near are as wide as this, px: finer ones show no more of a mark. */
const WIDTH_PX = 1296

/**
 * A photo of the camera at the head, taken when the head stands at a place, mm of the bed.
 * @param z how high its lens is to stand @returns where it stood, and the size of the photo
 */
export async function nearPhoto(
  machine: Machine,
  place: Point,
  z?: number,
): Promise<{ readonly head: Point; readonly size: { readonly widthPx: number; readonly heightPx: number } }> {
  const [x, y] = mapped(bedToAxes(machine), ...place)
  const at = { x, y, ...(z !== undefined && { z }), speedMmS: SPEED_MM_S }
  const response = await call(addressOf('takePhoto', { id: `${machine.id}@head` }), {
    method: 'POST',
    body: JSON.stringify({ widthPx: WIDTH_PX, at }),
  })
  const [mx, my] = (response.headers.get(HEAD_STOOD) ?? '').split(' ').map(Number)
  if (!Number.isFinite(mx) || !Number.isFinite(my)) throw new Error('The server did not tell where the head stood.')
  const size = await cameraWork().takeNear(await response.blob())
  return { head: mapped(inverseOf(bedToAxes(machine)), mx, my), size }
}
