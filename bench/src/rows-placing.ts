import { convexHull } from '@neotaxis/core/geometry/hull'
import type { Ring } from '@neotaxis/core/geometry/ring'
import { fit } from '@neotaxis/core/placement/fit/fit'
import { nestPieces } from '@neotaxis/core/placement/nest/nest'
import { whichFit } from '@neotaxis/core/stock/which-fits'
import { boxesUsed, largestAtAngle } from '@neotaxis/core/testing/placing-references'
import { greyPicture, onRectangle, sampleJob, supplyWith } from '@neotaxis/core/testing/sample-job'
import { type Row, seconds, timeRow } from './measure.ts'
import { randomFrom } from './random.ts'

const ALLOWED_S = 0.2
const SEARCHED = 12

type Random = () => number

/** A shape of so many corners around a middle, some standing out and some in. */
function irregular(corners: number, size: number, random: Random): Ring {
  const radii = Array.from({ length: corners }, () => size * (0.55 + 0.45 * random()))
  return Float64Array.from({ length: 2 * corners }, (_, k) => {
    const a = (2 * Math.PI * (k >> 1)) / corners
    return 100 + radii[k >> 1] * (k % 2 ? Math.sin(a) : Math.cos(a))
  })
}
const pointsOf = (ring: Ring) => Array.from({ length: ring.length / 2 }, (_, i) => [ring[2 * i], ring[2 * i + 1]] as const)

/** A search of every tenth of a degree against the fit, in convex rooms: the worst of some. */
function searched(random: Random): number {
  let worst = 0
  for (let k = 0; k < SEARCHED; k++) {
    const [shape, around] = [
      irregular(4 + Math.floor(10 * random()), 30, random),
      irregular(4 + Math.floor(12 * random()), 80, random),
    ]
    const room = convexHull(pointsOf(around))
    const found = fit([shape], [Float64Array.from(room.flat())])
    const hull = convexHull(pointsOf(shape))
    let best = 0
    for (let deg = 0; deg < 360; deg += 0.1) best = Math.max(best, largestAtAngle(hull, room, deg))
    worst = Math.max(worst, 'fits' in found ? Number.POSITIVE_INFINITY : best / found.scale)
  }
  return worst
}

export function placingRows(seed: number): Row[] {
  const random = randomFrom(seed)
  const rows: Row[] = []
  for (const corners of [20, 40, 80]) {
    const [shape, room] = [irregular(corners, 30, random), irregular(corners, 80, random)]
    rows.push(
      timeRow(
        `best pose, irregular in irregular, ${corners} corners each`,
        [seconds(() => void fit([shape], [room], { marginMm: 1 })), ALLOWED_S],
        1,
        'reference: the time allowed',
      ),
    )
  }
  rows.push({
    what: `scale by a search of every 0.1° over that of the fit, the worst of ${SEARCHED}`,
    ours: searched(random),
    reference: 1,
    unit: '',
    target: 1.005,
  })
  const kinds = Array.from({ length: 5 }, () => irregular(4 + Math.floor(6 * random()), 26, random))
  for (const times of [1, 2, 4]) {
    const wanted = kinds.map((ring) => ({ rings: [ring], count: 20 * times }))
    const side = 300 * Math.sqrt(times)
    const sheet = [Float64Array.of(0, 0, side, 0, side, 0.7 * side, 0, 0.7 * side)]
    const settings = { spacingMm: 2, marginMm: 3 }
    let used = 0
    const time = seconds(() => {
      used = nestPieces(wanted, sheet, settings).used
    }, 1)
    rows.push({
      what: `nest of ${100 * times} pieces, more than fit: share of the sheet in boxes, over ours`,
      ours: boxesUsed(wanted, side - 6, 0.7 * side - 6, 2) * (((side - 6) * (0.7 * side - 6)) / (0.7 * side * side)),
      reference: used,
      unit: '',
      target: 1,
      note: `${(100 * used).toFixed(1)} % used, ${time.toFixed(1)} s`,
    })
  }
  rows.push(...shelfRows(random))
  return rows
}

/** Which pieces of a shelf take a job: each tried on its true outline, those that do not take it at every angle. */
function shelfRows(random: Random): Row[] {
  const picture = greyPicture(160, 120, (x, y) => (Math.hypot((x - 80) / 1.4, y - 60) < 52 ? 20 : 255))
  const supply = supplyWith(picture)
  const job = onRectangle(sampleJob({ picture, widthMm: 90, xMm: 10, yMm: 10 }), { widthMm: 300, heightMm: 200 })
  const { material, thicknessMm } = job.workpieces.piece
  return [1, 2, 4].map((times): Row => {
    const stock = Array.from({ length: 15 * times }, (_, i) => ({
      id: `s${i}`,
      name: `offcut ${i}`,
      material,
      thicknessMm,
      keepOuts: {},
      marks: {},
      cents: 0,
      outline: { kind: 'rings', rings: [[...irregular(12 + Math.floor(20 * random()), 60 + 80 * random(), random)]] } as const,
    }))
    let found = 0
    const time = seconds(() => {
      found = whichFit(job, supply, stock, 3).length
    }, 3)
    return timeRow(`which of ${stock.length} offcuts take a job`, [time, undefined], undefined, `${found} do`)
  })
}
