import {
  type Camera,
  cornerWays,
  type FoundMark,
  faceSize,
  type Machine,
  mapped,
  middleOf,
  poseFound,
  poseMap,
  type Workpiece,
} from '@neotaxis/core'
import { cameraWork } from './camera-work.ts'
import { nearPhoto } from './near-photo.ts'

type Point = readonly [number, number]

/** Marks are looked for so far around where they should be: what the camera at the head sees at once, mm. */
const REACH_MM = 7
/** So many corners tell more than enough. */
const MOST_CORNERS = 4

/**
 * Goes to the marks of a workpiece, or to its corners where it has less than two, and looks for each with the camera at the head. What was
 * found tells where the next is.
 * @param places of its face: its marks first @param onFound told after each, by the place's number @returns what was not found, as a sentence
 */
export async function lookedFor(
  machine: Machine,
  camera: Camera,
  piece: Workpiece,
  places: readonly Point[],
  progress: (n: number, of: number) => void,
  onFound: (found: Readonly<Record<number, Point>>) => void,
): Promise<string> {
  const count = Object.keys(piece.marks).length
  const byMarks = count >= 2
  const all = places.map((_, i) => i)
  const wanted = byMarks
    ? all.slice(0, count)
    : all
        .slice(count)
        .filter((i) => cornerWays(piece, places[i]))
        .slice(0, MOST_CORNERS)
  if (wanted.length === 0)
    return 'It has neither marks nor straight corners that a camera could find: touch places of it by hand.'
  const [mx, my] = middleOf(camera)
  const found: Record<number, Point> = {}
  const missed: number[] = []
  for (const [n, i] of wanted.entries()) {
    progress(n + 1, wanted.length)
    const marks = Object.keys(found).map((k): FoundMark => ({ known: places[Number(k)], found: found[Number(k)] }))
    const made = marks.length > 0 ? poseFound(piece, marks) : undefined
    const pose = made && !('not' in made) ? made.pose : piece.pose
    const map = poseMap(pose, faceSize(piece))
    const [x, y] = mapped(map, ...places[i])
    const { head } = await nearPhoto(machine, [x - mx, y - my], machine.axes.z ? piece.thicknessMm : undefined)
    const expected: Point = [x - head[0], y - head[1]]
    const turned = ([u, v]: Point): Point => [map[0] * u + map[2] * v, map[1] * u + map[3] * v]
    const ways = byMarks ? undefined : cornerWays(piece, places[i])!
    const at = ways
      ? await cameraWork().nearCorner(camera, expected, [turned(ways[0]), turned(ways[1])])
      : await cameraWork().nearMark(camera, expected, REACH_MM)
    if (at) {
      found[i] = [head[0] + at[0], head[1] + at[1]]
      onFound({ ...found })
    } else missed.push(i + 1)
  }
  if (missed.length === 0) return ''
  return `Place${missed.length === 1 ? '' : 's'} ${missed.join(', ')} ${missed.length === 1 ? 'is' : 'are'} not seen: bring the workpiece nearer to where the job has it, or touch ${missed.length === 1 ? 'it' : 'them'} by hand.`
}
