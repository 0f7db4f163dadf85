import { chartOf, type JobDocument, mapped, momentsAt, trackSeconds } from '@neotaxis/core'
import { trackOf } from '../../workers/tracks.ts'
import { momentNow, setMoment } from './moment.ts'

/** So near a place counts as there, mm. */
const NEAR_MM = 0.6

/** To the end of the next moment in which a place is burned; after the last the first again. Nothing where none burns it. */
export function goToMoment(job: JobDocument, x: number, y: number): void {
  const track = trackOf(job)
  if (!track) {
    // Worked out now: the second try finds it.
    setMoment({ seconds: 0, playing: false })
    return
  }
  const moments = momentsAt(track, ...mapped(chartOf(job).toAxes, x, y), NEAR_MM)
  if (moments.length === 0) return
  const now = momentNow().seconds ?? trackSeconds(track)
  const next = moments.find(({ to }) => to > now + 0.01) ?? moments[0]
  setMoment({ seconds: next.to, playing: false })
}
