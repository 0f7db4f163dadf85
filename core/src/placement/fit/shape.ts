import { filledBy } from '../../geometry/clip.ts'
import { type Ring, ringsBounds } from '../../geometry/ring.ts'
import { simplified } from '../../geometry/simplify.ts'

/** The edges and corners of a filled shape, as contacts are looked for between two of them. */
export interface Edges {
  /** Of edge i: from (ax, ay) by (dx, dy); (nx, ny) of length 1 points into the shape. */
  readonly ax: Float64Array
  readonly ay: Float64Array
  readonly dx: Float64Array
  readonly dy: Float64Array
  readonly nx: Float64Array
  readonly ny: Float64Array
  /** The edge that ends where edge i begins. */
  readonly before: Int32Array
  /** Whether the shape is less than half a turn wide at the corner where edge i begins. */
  readonly pointed: Uint8Array
}

/** @param rings simple, outer ones with positive area, holes with negative */
export function edgesOf(rings: readonly Ring[]): Edges {
  const n = rings.reduce((sum, ring) => sum + ring.length / 2, 0)
  const out: Edges = {
    ax: new Float64Array(n),
    ay: new Float64Array(n),
    dx: new Float64Array(n),
    dy: new Float64Array(n),
    nx: new Float64Array(n),
    ny: new Float64Array(n),
    before: new Int32Array(n),
    pointed: new Uint8Array(n),
  }
  let base = 0
  for (const ring of rings) {
    const count = ring.length / 2
    for (let i = 0; i < count; i++) {
      const j = (i + 1) % count
      const [dx, dy] = [ring[2 * j] - ring[2 * i], ring[2 * j + 1] - ring[2 * i + 1]]
      const long = Math.hypot(dx, dy) || 1
      const at = base + i
      out.ax[at] = ring[2 * i]
      out.ay[at] = ring[2 * i + 1]
      out.dx[at] = dx
      out.dy[at] = dy
      // With a positive area what is filled lies to the left.
      out.nx[at] = -dy / long
      out.ny[at] = dx / long
      out.before[at] = base + ((i + count - 1) % count)
    }
    for (let i = base; i < base + count; i++) {
      const k = out.before[i]
      out.pointed[i] = out.dx[k] * out.dy[i] - out.dy[k] * out.dx[i] > 0 ? 1 : 0
    }
    base += count
  }
  return out
}

/** More corners than this are more than a fit can tell apart. */
const MOST_CORNERS = 90

/** A filled shape by even-odd as simple rings with few corners: nearly itself. @returns the whole of it as well */
export function fewCorners(rings: readonly Ring[]): { readonly whole: Ring[]; readonly few: Ring[] } {
  const whole = filledBy('evenodd', rings)
  const { x0, y0, x1, y1 } = ringsBounds(whole)
  const size = Math.hypot(x1 - x0, y1 - y0)
  const corners = (of: readonly Ring[]): number => of.reduce((sum, ring) => sum + ring.length / 2, 0)
  let few = whole
  for (let tolerance = size / 20_000; corners(few) > MOST_CORNERS && tolerance < size / 100; tolerance *= 2)
    few = whole.map((ring) => simplified(ring, tolerance)).filter((ring) => ring.length >= 6)
  // What was made simpler may cross itself now.
  return { whole, few: few === whole ? whole : filledBy('evenodd', few) }
}
