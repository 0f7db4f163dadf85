import { flattenPath, type Path } from './path.ts'
import { ringLength } from './ring.ts'

/** Numbers of a set of outlines. */
export interface OutlineNumbers {
  readonly paths: number
  readonly nodes: number
  readonly length: number
}

/** Paths, nodes (one a segment of a closed path) and length, in the units of the paths. */
export function measureOutlines(paths: readonly Path[], tolerance: number): OutlineNumbers {
  let nodes = 0
  let length = 0
  for (const path of paths) {
    nodes += path.kinds.length + (path.closed ? 0 : 1)
    const flat = flattenPath(path, tolerance)
    const last = flat.length - 2
    length += ringLength(flat)
    // An open path does not go back to where it began.
    if (!path.closed) length -= Math.hypot(flat[last] - flat[0], flat[last + 1] - flat[1])
  }
  return { paths: paths.length, nodes, length }
}
