import { onceRound, reachAround, timesRound } from '../edits/around-edits.ts'
import { type Bounds, EMPTY_BOUNDS, isEmptyBounds, unite } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument, mainPiece, sourceOf } from '../job/document/document.ts'
import { isAround } from '../job/document/repeats.ts'
import { difference } from '../job/patches/edit.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { circumferenceMm, slipsAtMmS2 } from '../rotary/device.ts'
import { widestMm } from '../rotary/round-face.ts'
import type { Fix, Found } from './finding.ts'

/** Shorter than this is no overlap, mm. */
const CLOSES_MM = 0.005

/** What leaves less than this share of it free was meant to go all around. */
const NEARLY_ROUND = 0.03

/** What is meant to close around and does not: by how much, and what closes it. @param box of all that is burned, face mm */
function atSeam(job: JobDocument, box: Bounds, around: number): Pick<Found, 'message' | 'fixes'> | undefined {
  const fix = (label: string, after: JobDocument): Fix => ({ label, patches: difference(job, after) })
  for (const [root, rows] of Object.entries(job.repeats ?? {})) {
    if (!job.nodes[root] || isAround(rows)) continue
    const count = Math.ceil(rows.count / rows.columns)
    const off = around - count * rows.pitchYMm
    // So far from closing that it was not meant to.
    if (count < 2 || Math.abs(off) <= CLOSES_MM || Math.abs(off) > rows.pitchYMm / 2) continue
    const often = `${count} times around ${off > 0 ? 'end' : 'go'} ${Math.abs(off).toFixed(2)} mm ${off > 0 ? 'before the first: the gap at the seam is that much wider' : 'too far: at the seam they come that much closer'}.`
    return {
      message: often,
      fixes: [
        fix('Close it by the gaps', timesRound(job, root, 'gap', { count, bands: rows.columns })),
        fix('Close it by the size', timesRound(job, root, 'scale', { count, bands: rows.columns })),
      ],
    }
  }
  const [root, ...others] = Object.keys(job.nodes).filter((id) => sourceOf(job, id) === id)
  const off = around - (box.y1 - box.y0)
  if (root === undefined || job.repeats || others.length > 0 || Math.abs(off) > NEARLY_ROUND * around) return undefined
  // What its picture leaves white at its ends belongs to it.
  if (Math.min(Math.abs(off), Math.abs(reachAround(job, root) - around)) <= CLOSES_MM) return undefined
  return {
    message:
      off > 0
        ? `It goes around and ends ${off.toFixed(2)} mm before it meets itself.`
        : `It goes once around and ${(-off).toFixed(2)} mm over itself.`,
    fixes: [fix('Let it meet itself', onceRound(job, root))],
  }
}

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
  const widest = widestMm(surface)
  if (Math.abs(widest - diameterMm) > CLOSES_MM)
    found.push(stop('rotary-diameter', `The piece is Ø ${widest} mm, and the rotary is set for Ø ${diameterMm} mm.`))
  if (diameterMm < device.smallestMm || diameterMm > device.largestMm)
    found.push(
      stop(
        'rotary-holds',
        `${device.name} holds from Ø ${device.smallestMm} to Ø ${device.largestMm} mm, not Ø ${diameterMm} mm.`,
      ),
    )
  const around = circumferenceMm(diameterMm)
  const burnings = burnOrder(job).flatMap((id) => burningsOf(job, id, supply))
  // Whole dots stand over by less than one of them.
  const slack = Math.max(CLOSES_MM, ...burnings.map((each) => processOf(each.operation).dots?.(each)?.field.pitch ?? 0))
  const box = burnings
    .map(burnedBoundsOf)
    .filter((each) => !isEmptyBounds(each))
    .reduce(unite, EMPTY_BOUNDS)
  const seam = isEmptyBounds(box) ? undefined : atSeam(job, box, around)
  if (seam) found.push({ ...stop('seam', seam.message), severity: 'ask', x: (box.x0 + box.x1) / 2, y: box.y1, fixes: seam.fixes })
  else if (box.y1 - box.y0 - around > slack)
    found.push({
      ...stop('around-overlap', `What is burned goes once around and ${(box.y1 - box.y0 - around).toFixed(2)} mm over itself.`),
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
