import { EMPTY_BOUNDS, isEmptyBounds, unite } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument, mainPiece } from '../job/document/document.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import { burningsOf } from '../process/table.ts'
import { circumferenceMm, slipsAtMmS2 } from '../rotary/device.ts'
import type { Found } from './finding.ts'

/** Shorter than this is no overlap, mm. */
const CLOSES_MM = 0.005

/** What turns and what holds it must fit each other, and artwork must fit around it. */
export function onRotary(job: JobDocument, supply: Supply): Found[] {
  const { turns } = job.machine
  const { surface } = mainPiece(job)
  if (!turns && surface.kind === 'flat') return []
  const stop = (id: string, message: string): Found => ({ id, kind: id, severity: 'stop', x: 0, y: 0, message, fixes: [] })
  if (!turns) return [stop('rotary-missing', 'This piece is round, and nothing turns in the machine: say what it turns in.')]
  const { device, diameterMm } = turns
  if (surface.kind === 'flat')
    return [
      stop(
        'rotary-flat',
        `${device.name} is plugged in, and this piece is flat: take it out, or say how thick the round piece is.`,
      ),
    ]
  const found: Found[] = []
  if (Math.abs(surface.diameterMm - diameterMm) > CLOSES_MM)
    found.push(stop('rotary-diameter', `The piece is Ø ${surface.diameterMm} mm, and the rotary is set for Ø ${diameterMm} mm.`))
  if (diameterMm < device.smallestMm || diameterMm > device.largestMm)
    found.push(
      stop(
        'rotary-holds',
        `${device.name} holds from Ø ${device.smallestMm} to Ø ${device.largestMm} mm, not Ø ${diameterMm} mm.`,
      ),
    )
  const box = burnOrder(job)
    .flatMap((id) => burningsOf(job, id, supply).map(burnedBoundsOf))
    .filter((each) => !isEmptyBounds(each))
    .reduce(unite, EMPTY_BOUNDS)
  const over = box.y1 - box.y0 - circumferenceMm(diameterMm)
  if (over > CLOSES_MM)
    found.push({
      ...stop('around-overlap', `What is burned goes once around and ${over.toFixed(2)} mm over itself.`),
      x: (box.x0 + box.x1) / 2,
      y: box.y1,
    })
  const most = slipsAtMmS2(false)
  if (device.drive.kind === 'roller' && device.accelerationMmS2 > most)
    found.push({
      ...stop(
        'would-slip',
        `A thin-walled piece slips on the rollers above ${Math.round(most)} mm/s², and ${device.name} is set to ${device.accelerationMmS2} mm/s².`,
      ),
      severity: 'ask',
    })
  return found
}
