import { BufferAttribute, BufferGeometry } from 'three'

/** Around, a round thing is made of so many flat strips. */
const STRIPS = 96

/**
 * The outside of something round, its axis along x and its middle at the origin. Seen from the front, its face lies as it does on the
 * stage: x to the right, y down, the middle of the face towards the eye, the seam behind.
 * @param radii half a diameter at even distances along the axis, mm @param lengthMm from its first to its last
 */
export function roundGeometry(radii: readonly number[], lengthMm: number): BufferGeometry {
  const columns = radii.length
  const [places, uvs, faces]: [number[], number[], number[]] = [[], [], []]
  for (let k = 0; k <= STRIPS; k++) {
    const angle = (2 * Math.PI * k) / STRIPS - Math.PI
    for (let i = 0; i < columns; i++) {
      const u = columns > 1 ? i / (columns - 1) : 0
      places.push((u - 0.5) * lengthMm, -radii[i] * Math.sin(angle), radii[i] * Math.cos(angle))
      uvs.push(u, 1 - k / STRIPS)
      if (k === STRIPS || i === columns - 1) continue
      const a = k * columns + i
      // Anticlockwise seen from outside.
      faces.push(a, a + columns, a + 1, a + 1, a + columns, a + columns + 1)
    }
  }
  const geometry = new BufferGeometry()
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(places), 3))
  geometry.setAttribute('uv', new BufferAttribute(Float32Array.from(uvs), 2))
  geometry.setIndex(faces)
  geometry.computeVertexNormals()
  return geometry
}
