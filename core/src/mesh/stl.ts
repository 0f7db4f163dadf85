/** A mesh: nine coordinates a triangle, in the file's own unit (STL names none; mm is meant almost always). */
export interface Triangles {
  readonly count: number
  readonly points: Float32Array
  /** Triangles left out because a coordinate was no number, or endless. */
  readonly dropped: number
}

/** A mesh that cannot be read; `message` is a sentence for the operator. */
export class MeshError extends Error {}

/** Larger meshes are refused before anything is made of them. */
export const MAX_TRIANGLES = 4_000_000

/**
 * Whether bytes are an STL: binary ones tell their length, others begin with “solid” and have facets.
 * Binary files may begin with “solid” too, so the length is looked at first.
 */
export function isStl(bytes: Uint8Array): boolean {
  return binaryCount(bytes) !== undefined || /^\s*solid\b[\s\S]*?\bfacet\b/i.test(latin(bytes.subarray(0, 2000)))
}

/**
 * Reads an STL, binary or ASCII. Normals and colours are not looked at: what lies in front is told by depth.
 * @throws MeshError with a sentence
 */
export function readStl(bytes: Uint8Array): Triangles {
  const count = binaryCount(bytes)
  const points = count === undefined ? asciiPoints(bytes) : binaryPoints(bytes, count)
  let kept = 0
  const whole = points.length / 9
  for (let t = 0; t < whole; t++) {
    let fine = true
    for (let k = 0; k < 9 && fine; k++) fine = Math.abs(points[9 * t + k]) < 1e9
    if (!fine) continue
    if (kept !== t) points.copyWithin(9 * kept, 9 * t, 9 * t + 9)
    kept++
  }
  if (kept === 0) throw new MeshError('The mesh has no triangle that can be used.')
  return { count: kept, points: points.subarray(0, 9 * kept), dropped: whole - kept }
}

const latin = (bytes: Uint8Array): string => {
  let text = ''
  for (const byte of bytes) text += String.fromCharCode(byte)
  return text
}

function binaryCount(bytes: Uint8Array): number | undefined {
  if (bytes.length < 84) return undefined
  const count = new DataView(bytes.buffer, bytes.byteOffset).getUint32(80, true)
  // Some programs leave a few bytes behind the last triangle.
  const rest = bytes.length - 84 - 50 * count
  return count > 0 && rest >= 0 && rest < 50 ? count : undefined
}

const tooMany = (count: number): MeshError =>
  new MeshError(`The mesh has ${count} triangles; at most ${MAX_TRIANGLES} can be read. Thin it out and try again.`)

function binaryPoints(bytes: Uint8Array, count: number): Float32Array {
  if (count > MAX_TRIANGLES) throw tooMany(count)
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const points = new Float32Array(9 * count)
  for (let t = 0; t < count; t++) for (let k = 0; k < 9; k++) points[9 * t + k] = view.getFloat32(84 + 50 * t + 12 + 4 * k, true)
  return points
}

/** Every “vertex x y z”, three a facet, word by word: files of any size, no line too long. */
function asciiPoints(bytes: Uint8Array): Float32Array {
  const head = latin(bytes.subarray(0, 200))
  if (!/^\s*solid\b/i.test(head))
    throw new MeshError(
      bytes.length >= 84
        ? 'The STL does not hold as many triangles as it says: it is cut short or no STL.'
        : 'This is no STL mesh, or it is cut short.',
    )
  const values: number[] = []
  let at = 0
  const word = (): string => {
    while (at < bytes.length && bytes[at] <= 32) at++
    const from = at
    while (at < bytes.length && bytes[at] > 32) at++
    return at - from > 60 ? '' : latin(bytes.subarray(from, at))
  }
  let corners = 0
  let ended = false
  while (at < bytes.length) {
    const next = word().toLowerCase()
    if (next === 'vertex') {
      const [x, y, z] = [word(), word(), word()]
      if (z === '') throw new MeshError('The STL is cut short in the middle of a triangle.')
      values.push(Number(x), Number(y), Number(z))
      corners++
      if (values.length > 9 * MAX_TRIANGLES) throw tooMany(values.length / 9)
    } else if (next === 'endfacet') {
      if (corners !== 3) throw new MeshError('The STL has a facet that is no triangle.')
      corners = 0
    } else if (next === 'endsolid') ended = true
  }
  if (corners !== 0 || (!ended && values.length > 0)) throw new MeshError('The STL is cut short: its end is missing.')
  return Float32Array.from(values)
}
