import {
  burnedBounds,
  type FillFacts,
  type FillName,
  filledAs,
  fillFacts,
  forecastScene,
  given,
  isEmptyBounds,
  type JobDocument,
  type MoveBlock,
  mainPieceId,
  materialOf,
  measureJob,
  type PlanSink,
  type ProcessName,
  paintForecast,
  planJob,
  type Supply,
  withOperation,
} from '@neotaxis/core'

/** A small picture, as pixels. */
export interface SmallPicture {
  readonly rgba: Uint8ClampedArray
  readonly widthPx: number
  readonly heightPx: number
}

/** What a process would make of some artwork. */
export interface Offer {
  readonly seconds: number
  /** Absent where nothing would be seen of it. */
  readonly picture?: SmallPicture
}

/** The longer side of an offer's picture, px: sharp on a fine screen. */
const OFFER_PX = 96
/** What is shown around what is burned, share of its longer side. */
const AROUND = 0.06

/** What some artwork would look like and take with a process more. @throws Error with a sentence where it cannot have it */
export function offerView(job: JobDocument, nodes: readonly string[], process: ProcessName, supply: Supply): Offer {
  const { job: made, operation } = given(job, nodes, process)
  const only = new Set([operation])
  const { seconds } = measureJob(made, supply, only).operations[0]
  const box = burnedBounds(made, operation, supply)
  if (isEmptyBounds(box)) return { seconds }
  const [wide, high] = [box.x1 - box.x0, box.y1 - box.y0]
  const side = Math.max(wide, high, 1) * (1 + 2 * AROUND)
  const pxPerMm = OFFER_PX / side
  const [widthPx, heightPx] = [wide, high].map((mm) => Math.max(8, Math.round((mm + 2 * AROUND * side) * pxPerMm)))
  const view = {
    x: (box.x0 + box.x1) / 2 - widthPx / 2 / pxPerMm,
    y: (box.y0 + box.y1) / 2 - heightPx / 2 / pxPerMm,
    pxPerMm,
    widthPx,
    heightPx,
  }
  return {
    seconds,
    picture: { rgba: paintForecast(forecastScene(made, supply, only, mainPieceId(made)), view), widthPx, heightPx },
  }
}

/** A way to fill an area: what it costs, and its path. */
export interface FillView extends FillFacts {
  readonly picture: SmallPicture
}

const PATH_PX = { wide: 300, high: 200 }
/** So many lines are drawn across the shorter side: more would be one dark spot. */
const DRAWN_LINES = 26

/** What one way to fill an area costs, and a picture of its path, with fewer lines than are burned. @throws Error with a sentence */
export function fillView(job: JobDocument, id: string, name: FillName, supply: Supply): FillView {
  const facts = fillFacts(job, id, name, supply)
  const box = burnedBounds(job, id, supply)
  const across = Math.min(box.x1 - box.x0, box.y1 - box.y0)
  const now = (job.operations[id] as { readonly intervalMm?: number }).intervalMm ?? 0
  const drawn = withOperation(filledAs(job, id, name), id, {
    intervalMm: Math.max(now, Math.min(5, across / DRAWN_LINES)),
    passes: 1,
  })
  return { ...facts, picture: pathPicture(drawn, id, supply) }
}

interface Stretch {
  readonly x0: number
  readonly y0: number
  readonly x1: number
  readonly y1: number
  readonly burns: boolean
}

/** The moves of one operation, axes µm. */
function movesOf(job: JobDocument, id: string, supply: Supply): Stretch[] {
  const moves: Stretch[] = []
  let [x, y] = [0, 0]
  let own = false
  const sink: PlanSink = {
    operation: (operation) => {
      own = operation === id
    },
    event: () => {},
    moves: (block: MoveBlock) => {
      for (let i = 0; i < block.count; i++) {
        if (own) moves.push({ x0: x, y0: y, x1: block.x[i], y1: block.y[i], burns: block.s[i] > 0 })
        ;[x, y] = [block.x[i], block.y[i]]
      }
    },
  }
  planJob(job, supply, sink, new Set([id]))
  return moves
}

/** The way of the head as it is seen from above: dark where it burns, thin where it travels. */
function pathPicture(job: JobDocument, id: string, supply: Supply): SmallPicture {
  const moves = movesOf(job, id, supply)
  const burns = moves.filter((move) => move.burns)
  const { wide, high } = PATH_PX
  const xs = burns.flatMap(({ x0, x1 }) => [x0, x1])
  const ys = burns.flatMap(({ y0, y1 }) => [y0, y1])
  const least = (values: readonly number[]): number => values.reduce((low, value) => Math.min(low, value), Infinity)
  const most = (values: readonly number[]): number => values.reduce((top, value) => Math.max(top, value), -Infinity)
  const [left, right, near, far] = [least(xs), most(xs), least(ys), most(ys)]
  const scale = Math.min((0.86 * wide) / Math.max(1, right - left), (0.86 * high) / Math.max(1, far - near))
  const canvas = new OffscreenCanvas(wide, high)
  const context = canvas.getContext('2d')!
  const { look } = materialOf(job)
  context.fillStyle = `rgb(${look.surface.join(' ')})`
  context.fillRect(0, 0, wide, high)
  // Someone in front of the machine sees its y grow away from them where its zero lies in front.
  const up = job.machine.zero === 'front-left' ? -1 : 1
  const at = (x: number, y: number): [number, number] => [
    wide / 2 + (x - (left + right) / 2) * scale,
    high / 2 + up * (y - (near + far) / 2) * scale,
  ]
  const draw = (some: readonly Stretch[], style: string, width: number, dash: number[]): void => {
    context.beginPath()
    for (const { x0, y0, x1, y1 } of some) {
      context.moveTo(...at(x0, y0))
      context.lineTo(...at(x1, y1))
    }
    context.strokeStyle = style
    context.lineWidth = width
    context.setLineDash(dash)
    context.stroke()
  }
  // Its first way comes from elsewhere.
  draw(
    moves.slice(1).filter((move) => !move.burns),
    'rgb(20 90 100 / 50%)',
    0.8,
    [3, 3],
  )
  draw(burns, `rgb(${look.edge.join(' ')})`, 2, [])
  const { data } = context.getImageData(0, 0, wide, high)
  return { rgba: data, widthPx: wide, heightPx: high }
}
