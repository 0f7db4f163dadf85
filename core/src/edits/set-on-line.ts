import { mapPath, type Path } from '../geometry/path.ts'
import { type JobDocument, placeOf } from '../job/document/document.ts'
import { mapped } from '../space/affine.ts'
import { lineUnder } from '../text/line-under.ts'
import type { TextSpec } from '../text/text-spec.ts'
import { type Follower, middleOfPlace, sharesOf } from './follow-line.ts'

/**
 * The text on its line as that is now, with its own origin where it was. @param paths the line's outlines, mm of the face
 * @returns undefined where there is no line any more
 */
export function setOnLine(job: JobDocument, { spec }: Follower, paths: readonly Path[]): TextSpec | undefined {
  const { on } = spec.along
  const place = placeOf(job, on.node)
  const [x, y] = mapped(sharesOf(place), on.x, on.y)
  const [midX, midY] = middleOfPlace(place)
  const [dx, dy] = [on.midXMm - midX, on.midYMm - midY]
  const under = lineUnder(
    paths.map((path) => mapPath(path, 1, 1, dx, dy)),
    x + dx,
    y + dy,
  )
  return under && { ...spec, along: { ...spec.along, data: under.data } }
}
