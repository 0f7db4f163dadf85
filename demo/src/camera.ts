import {
  bedSize,
  boardFor,
  boardSpots,
  type Calibration,
  calibrated,
  firstDot,
  framePlaces,
  lightOf,
  type Machine,
  type MarksView,
  type Photo,
  photoOf,
  type SeenBlank,
  seenBlanks,
  seenMarks,
} from '@neotaxis/core'
import { readPhoto } from '@neotaxis/intake'
import { DRIFTWOOD_MM } from './driftwood.ts'

/** What hands do at a camera, by the server. */
export interface CameraHands {
  lay(what: string, heightMm?: number): Promise<void>
  photo(): Promise<Uint8Array>
  keep(calibration: Calibration): Promise<void>
  /** Keeps what is seen as the empty bed. */
  empty(): Promise<void>
}

/** The heights at which the board is photographed, mm. */
const HEIGHTS = [0.3, 15]

const looked = async (hands: CameraHands): Promise<Photo> => photoOf(await readPhoto(await hands.photo()))

/** Calibrates the simulated camera over a machine as its operator would, and leaves a slab of driftwood under it. @returns what is seen then */
export async function setUpCamera(hands: CameraHands, machine: Machine): Promise<SeenBlank[]> {
  const bed = bedSize(machine)
  const board = boardFor(bed)
  const [x0, y0] = firstDot(bed, board)
  const views: MarksView[] = []
  let size = { widthPx: 0, heightPx: 0 }
  for (const heightMm of HEIGHTS) {
    await hands.lay('board', heightMm)
    const photo = await looked(hands)
    size = photo
    const spots = boardSpots(lightOf(photo), board)
    views.push({ heightMm, spots: spots.map((spot) => ({ ...spot, x: spot.x + x0, y: spot.y + y0 })) })
  }
  const { widthPx, heightPx } = size
  const made = calibrated({ widthPx, heightPx }, views)
  await hands.lay('nothing')
  const bare = await looked(hands)
  const fixed = seenMarks(bare, made.camera, framePlaces(bed), { heightMm: 0 }).flatMap(({ found }) => (found ? [found] : []))
  await hands.keep({ ...made, fixed })
  await hands.empty()
  await hands.lay('driftwood')
  return seenBlanks(await looked(hands), made.camera, { bed, thicknessMm: DRIFTWOOD_MM, empty: bare }).filter(
    ({ cutOff }) => !cutOff,
  )
}
