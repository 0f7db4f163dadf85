import type { DotLayer } from '../forecast/layers.ts'
import { type Bounds, isEmptyBounds, unite } from '../geometry/bounds.ts'
import { burnOrder, type JobDocument } from '../job/document/document.ts'
import { isOutline } from '../job/document/nodes.ts'
import type { Sparing } from '../lineage/spared.ts'
import type { Supply } from '../lineage/supply.ts'
import { burnedBoundsOf } from '../process/extent.ts'
import type { Burning } from '../process/process.ts'
import { burningsOf, processOf } from '../process/table.ts'
import { inverseOf, mapped, SAME } from '../space/affine.ts'
import type { Fix, Found } from './finding.ts'

/** So many places of an operation are looked at for another. */
const MOST_PLACES = 30_000
/** Weaker marks do no harm twice. */
const MARKED = 12
/** Less than this is the edge of two neighbours, mm² and share of the smaller. */
const LEAST = { mm2: 3, share: 0.03 }
/** More pairs than this are not looked at. */
const MOST_PAIRS = 60

interface Marked {
  readonly id: string
  readonly place: number
  readonly burnings: readonly Burning[]
  readonly box: Bounds
}

/** Two operations that mark the same ground: it gets both doses. What is the same artwork by the same process is meant: a further pass. */
export function burnedTwice(job: JobDocument, supply: Supply): Found[] {
  // Only what is burned line by line covers ground.
  const covering = burnOrder(job).filter((id) => 'intervalMm' in job.operations[id])
  if (covering.length < 2) return []
  const found: Found[] = []
  for (const workpiece of Object.keys(job.workpieces)) {
    const marked = covering.flatMap((id): Marked[] => {
      const burnings = burningsOf(job, id, supply, workpiece)
      const boxes = burnings.map(burnedBoundsOf).filter((box) => !isEmptyBounds(box))
      if (boxes.length === 0) return []
      return [{ id, place: burnOrder(job).indexOf(id), burnings, box: boxes.reduce(unite) }]
    })
    let pairs = 0
    for (const [i, first] of marked.entries())
      for (const second of marked.slice(i + 1)) {
        if (isFurtherPass(job, first.id, second.id) || !meet(first.box, second.box) || ++pairs > MOST_PAIRS) continue
        const both = overlapOf(layersOf(first), layersOf(second))
        if (!both) continue
        found.push({
          id: `burned-twice:${first.id}:${second.id}`,
          kind: 'burned-twice',
          severity: 'ask',
          operation: second.id,
          x: both.x,
          y: both.y,
          message: `Burned twice: ${both.mm2 < 100 ? `${Math.round(both.mm2)} mm²` : `${(both.mm2 / 100).toFixed(1)} cm²`} of ${second.place + 1} lies on what ${first.place + 1} marks already.`,
          fixes: knockOut(job, first.id, second.id),
        })
      }
  }
  return found
}

const layersOf = ({ burnings }: Marked): DotLayer[] =>
  burnings.flatMap((context) => processOf(context.operation).layers(context)).filter((layer) => layer.kind === 'dots')

const meet = (a: Bounds, b: Bounds): boolean => a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1

export function isFurtherPass(job: JobDocument, first: string, second: string): boolean {
  const [a, b] = [job.operations[first], job.operations[second]]
  return processOf(a) === processOf(b) && a.of.length === b.of.length && a.of.every((node) => b.of.includes(node))
}

/** Where two operations mark the same ground: how much, and a place in it; undefined where it is nothing to speak of. */
function overlapOf(
  first: readonly DotLayer[],
  second: readonly DotLayer[],
): { readonly mm2: number; readonly x: number; readonly y: number } | undefined {
  let both = 0
  let own = 0
  let place: readonly [number, number] | undefined
  for (const layer of second) {
    const { pitch, x0, y0, toFace = SAME } = layer
    const { columns, rows } = sizeOf(layer)
    const step = Math.max(1, Math.floor(Math.sqrt((columns * rows) / MOST_PLACES)))
    const cell = (step * pitch) ** 2
    for (let r = step >> 1; r < rows; r += step)
      for (let c = step >> 1; c < columns; c += step) {
        if (layer.dark[r * columns + c] < MARKED) continue
        own += cell
        const [x, y] = mapped(toFace, x0 + (c + 0.5) * pitch, y0 + (r + 0.5) * pitch)
        if (!first.some((other) => isMarked(other, x, y))) continue
        both += cell
        place ??= [x, y]
      }
  }
  if (!place || both < LEAST.mm2 || both < LEAST.share * own) return undefined
  return { mm2: both, x: place[0], y: place[1] }
}

const sizeOf = ({ pyramid }: DotLayer) => pyramid.levels[0]

/** Whether a layer has a mark at a place or right beside it: dots stand apart. */
function isMarked(layer: DotLayer, x: number, y: number): boolean {
  const { columns, rows } = sizeOf(layer)
  const [u, v] = layer.toFace ? mapped(inverseOf(layer.toFace), x, y) : [x, y]
  const c = Math.floor((u - layer.x0) / layer.pitch)
  const r = Math.floor((v - layer.y0) / layer.pitch)
  for (let dr = -1; dr <= 1; dr++)
    for (let dc = -1; dc <= 1; dc++) {
      const [column, row] = [c + dc, r + dr]
      if (column >= 0 && row >= 0 && column < columns && row < rows && layer.dark[row * columns + column] >= MARKED) return true
    }
  return false
}

/** One of them without what the other has: an area is taken out of a picture, else the first one's area out of the second. */
function knockOut(job: JobDocument, first: string, second: string): Fix[] {
  const isArea = (id: string): boolean => job.operations[id].of.every((node) => isOutline(job.nodes[node]))
  const [area, other] = isArea(first) ? [first, second] : [second, first]
  if (!isArea(area)) return []
  const places = burnOrder(job)
  const { spares = [] } = job.operations[other] as Sparing
  const all = [...new Set([...spares, ...job.operations[area].of])]
  return [
    {
      label: `Take ${places.indexOf(area) + 1} out of ${places.indexOf(other) + 1}`,
      patches: [{ path: ['operations', other, 'spares'], value: all }],
    },
  ]
}
