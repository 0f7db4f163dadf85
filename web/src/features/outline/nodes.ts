import { type Affine, mapped, type Path } from '@neotaxis/core'

/** Nodes are shown where there are fewer in view. */
export const MOST_NODES = 4000

/** Every node of the paths, with whether it is the first of a closed one. */
export function* nodesOf(paths: readonly Path[]): Generator<readonly [x: number, y: number, begins: boolean]> {
  for (const { kinds, points, closed } of paths) {
    let at = 0
    for (let k = 0; k <= kinds.length - (closed ? 1 : 0); k++) {
      yield [points[at], points[at + 1], closed && k === 0]
      if (k < kinds.length) at += kinds[k] === 0 ? 2 : 6
    }
  }
}

/** The node nearest to a place, not farther than `reach`; undefined where there is none. */
export function nodeNear(paths: readonly Path[], x: number, y: number, reach: number): readonly [number, number] | undefined {
  let best: readonly [number, number] | undefined
  let least = reach
  for (const [nx, ny] of nodesOf(paths)) {
    const far = Math.hypot(nx - x, ny - y)
    if (far < least) {
      least = far
      best = [nx, ny]
    }
  }
  return best
}

/** Paints the nodes that are in view, where they are not too many. @returns whether they are painted */
export function paintNodes(
  context: CanvasRenderingContext2D,
  paths: readonly Path[],
  { map, size }: { readonly map: Affine; readonly size: { readonly width: number; readonly height: number } },
  { ink, paper }: { readonly ink: string; readonly paper: string },
): boolean {
  const inView: (readonly [number, number, boolean])[] = []
  for (const [nx, ny, begins] of nodesOf(paths)) {
    const [x, y] = mapped(map, nx, ny)
    if (x < -5 || y < -5 || x > size.width + 5 || y > size.height + 5) continue
    if (inView.length === MOST_NODES) return false
    inView.push([x, y, begins])
  }
  context.lineWidth = 1.4
  context.strokeStyle = ink
  for (const [x, y, begins] of inView) {
    context.fillStyle = begins ? ink : paper
    context.beginPath()
    context.arc(x, y, begins ? 4.2 : 3.2, 0, 7)
    context.fill()
    context.stroke()
  }
  return true
}
