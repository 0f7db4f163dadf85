import { burnOrder, type JobDocument, mainPiece } from '../job/document/document.ts'
import type { Operation } from '../job/document/operation.ts'
import { faceSize } from '../job/document/workpiece.ts'
import { processOf } from '../process/table.ts'
import { diameterOn, narrowestMm, type Round, widestMm } from '../rotary/round-face.ts'
import { type MoveBlock, MoveWriter, type PlanSink } from '../toolpath/moves.ts'

/** On a way in parts the diameter changes by less than this share in each. */
const EVEN = 0.005

/** Parts are no shorter, mm: at a step the diameter jumps. */
const LEAST_MM = 0.1

/** How much its diameter changes for a mm along it at most. */
function steepest(surface: Round, widthMm: number): number {
  if (surface.kind === 'cylinder') return 0
  if (surface.kind === 'cone') return Math.abs(surface.rightMm - surface.leftMm) / widthMm
  const { places } = surface
  return Math.max(
    ...places
      .slice(1)
      .map(({ alongMm, diameterMm }, i) => Math.abs(diameterMm - places[i].diameterMm) / (alongMm - places[i].alongMm)),
  )
}

/** Whether an operation fills: it has as much to give to a mm² as others have to a mm of their line. */
function isFill(operation: Operation): boolean {
  const { dots, strokesTogether } = processOf(operation)
  return dots !== undefined || strokesTogether !== undefined
}

/**
 * Moves as something tapered wants them. The controller counts y around its widest place: where it is thinner, a mm of that is less of its
 * surface, by the share of the diameters q. So that the surface keeps its speed, it is driven faster: v · l / l′, with l as it is counted
 * and l′ = √(dx² + (q·dy)²). A line then gets what it should; rows lie closer by q, and are burned that much weaker, so that every mm² gets
 * the same. Long ways are parted where q changes.
 * @returns the sink itself where nothing tapers
 */
export function tapered(job: JobDocument, sink: PlanSink): PlanSink {
  const piece = mainPiece(job)
  const { surface } = piece
  if (surface.kind === 'flat' || surface.kind === 'cylinder') return sink
  const { widthMm } = faceSize(piece)
  const share = (x: number): number => diameterOn(surface, widthMm, x / 1000 - piece.pose.xMm) / widestMm(surface)
  // As long as the diameter may change within, where it changes most.
  const part = Math.max(LEAST_MM, (EVEN * narrowestMm(surface)) / Math.max(1e-9, steepest(surface, widthMm)))
  const partsOf = (mm: number): number => Math.max(1, Math.ceil(Math.abs(mm) / part))
  const writer = new MoveWriter(sink)
  let fills = false
  return {
    operation: (id, asked, driven) => {
      fills = burnOrder(job).includes(id) && isFill(job.operations[id])
      writer.operation(id, asked, driven)
    },
    event: (event) => writer.event(event),
    moves: (block) => {
      writeTapered(writer, block, { share, partsOf, fills })
      writer.flush()
    },
  }
}

interface Taper {
  /** Its diameter at a place, by its widest. @param x axis µm */
  readonly share: (x: number) => number
  /** In how many parts a way is driven. @param mm along the axis */
  readonly partsOf: (mm: number) => number
  readonly fills: boolean
}

function writeTapered(writer: MoveWriter, { count, x, y, z, a, s, speed }: MoveBlock, { share, partsOf, fills }: Taper): void {
  for (let i = 0; i < count; i++) {
    const [x0, y0] = [writer.x, writer.y]
    const to = (px: number, py: number, beam: number, v: number): void =>
      z && a ? writer.moveAxes(px, py, z[i], a[i], beam, v) : writer.move(px, py, beam, v)
    if (speed[i] === 0) {
      to(x[i], y[i], s[i], 0)
      continue
    }
    const parts = s[i] === 0 ? 1 : partsOf((x[i] - x0) / 1000)
    const [dx, dy] = [(x[i] - x0) / parts, (y[i] - y0) / parts]
    const long = Math.hypot(dx, dy)
    for (let k = 1; k <= parts; k++) {
      const q = share(x0 + (k - 0.5) * dx)
      const faster = long === 0 ? 1 : long / Math.hypot(dx, q * dy)
      const beam = fills ? Math.max(s[i] > 0 ? 1 : 0, Math.round(s[i] * q * faster)) : s[i]
      to(k === parts ? x[i] : Math.round(x0 + k * dx), k === parts ? y[i] : Math.round(y0 + k * dy), beam, speed[i] * faster)
    }
  }
}
