import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { heightMap, meshExtent } from './height-map.ts'
import { isStl, MeshError, readStl } from './stl.ts'

type Corner = readonly [number, number, number]

function binary(triangles: readonly (readonly [Corner, Corner, Corner])[]): Uint8Array {
  const bytes = new Uint8Array(84 + 50 * triangles.length)
  const view = new DataView(bytes.buffer)
  view.setUint32(80, triangles.length, true)
  for (const [t, corners] of triangles.entries())
    for (const [k, v] of corners.flat().entries()) view.setFloat32(84 + 50 * t + 12 + 4 * k, v, true)
  return bytes
}

const ascii = (triangles: readonly (readonly [Corner, Corner, Corner])[]): Uint8Array =>
  new TextEncoder().encode(
    `solid island\n${triangles.map((corners) => `facet normal 0 0 1\n outer loop\n${corners.map((c) => `  vertex ${c.join(' ')}\n`).join('')} endloop\nendfacet\n`).join('')}endsolid island\n`,
  )

/** A ramp 20 × 10, from height 0 at the left to 5 at the right, and a floor under it. */
const ramp: readonly (readonly [Corner, Corner, Corner])[] = [
  [
    [0, 0, 0],
    [20, 0, 5],
    [20, 10, 5],
  ],
  [
    [0, 0, 0],
    [20, 10, 5],
    [0, 10, 0],
  ],
  [
    [0, 0, -1],
    [20, 0, -1],
    [20, 10, -1],
  ],
]

describe('STL', () => {
  it('reads the same from binary and ASCII', () => {
    expect(isStl(binary(ramp)) && isStl(ascii(ramp))).toBe(true)
    expect([...readStl(ascii(ramp)).points]).toEqual([...readStl(binary(ramp)).points])
    expect(isStl(new TextEncoder().encode('solid ground is no mesh'))).toBe(false)
  })

  it('reads binary files that begin with “solid”, and leaves triangles out that are no numbers', () => {
    const bytes = binary([
      ...ramp,
      [
        [0, 0, Number.NaN],
        [1, 1, 1],
        [2, 2, 2],
      ],
    ])
    bytes.set(new TextEncoder().encode('solid'), 0)
    const mesh = readStl(bytes)
    expect([mesh.count, mesh.dropped]).toEqual([3, 1])
  })

  it('refuses what is cut short or none, with a sentence', () => {
    expect(() => readStl(binary(ramp).subarray(0, 150))).toThrow(MeshError)
    expect(() => readStl(ascii(ramp).subarray(0, 200))).toThrow('cut short')
    expect(() => readStl(new Uint8Array(10))).toThrow('no STL')
    expect(() =>
      readStl(
        binary([
          [
            [0, 0, Number.NaN],
            [0, 0, 0],
            [0, 0, 0],
          ],
        ]),
      ),
    ).toThrow('no triangle')
  })

  it('answers any change of a file with a mesh or a sentence', () => {
    const files = [binary(ramp), ascii(ramp)]
    fc.assert(
      fc.property(
        fc.constantFrom(...files),
        fc.array(fc.tuple(fc.double({ min: 0, max: 0.999, noNaN: true }), fc.integer({ min: 0, max: 255 })), { maxLength: 6 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (file, changes, keep) => {
          const bytes = file.slice(0, Math.ceil(file.length * keep))
          for (const [at, value] of changes) if (bytes.length) bytes[Math.floor(at * bytes.length)] = value
          try {
            readStl(bytes)
          } catch (cause) {
            expect(cause).toBeInstanceOf(MeshError)
          }
        },
      ),
      { numRuns: 10_000 },
    )
  })
})

describe('the height map of a mesh', () => {
  const mesh = readStl(binary(ramp))
  const all = { widthPx: 40, heightPx: 20, near: 0, far: 1 }

  it('is white where it is near, and sees only what lies in front', () => {
    expect(meshExtent(mesh, '+z')).toEqual({ width: 20, height: 10, depth: 6 })
    const { samples, alpha } = heightMap(mesh, '+z', all)
    expect(alpha).toBeUndefined()
    for (let x = 0; x < 40; x++) expect(samples[10 * 40 + x] / 65_535).toBeCloseTo((((x + 0.5) / 40) * 5 + 1) / 6, 3)
  })

  it('can be looked at along any axis, and is cut in depth', () => {
    const under = heightMap(mesh, '-z', all)
    // From below the floor hides half the ramp; the other half shows its own underside, seen from the left.
    expect(new Set(under.samples).size).toBeGreaterThan(2)
    expect(meshExtent(mesh, '+x')).toEqual({ width: 10, height: 6, depth: 20 })
    const cut = heightMap(mesh, '+z', { ...all, near: 0.5, far: 0.75 })
    expect([cut.samples[10 * 40 + 39], cut.samples[10 * 40]]).toEqual([65_535, 0])
  })

  it('is transparent where there is no mesh, and has no seam between triangles', () => {
    const hole = readStl(binary(ramp.slice(0, 1)))
    const { alpha } = heightMap(hole, '+z', all)
    const seen = alpha!.reduce((sum, a) => sum + a / 255, 0)
    expect(Math.abs(seen - 400)).toBeLessThan(30)
    expect(alpha![0]).toBe(0)
  })

  it('refuses a mesh without depth or width', () => {
    const flat = readStl(
      binary([
        [
          [0, 0, 1],
          [5, 0, 1],
          [5, 5, 1],
        ],
      ]),
    )
    expect(() => heightMap(flat, '+z', all)).toThrow('no depth')
    expect(() => heightMap(flat, '+x', all)).toThrow('only a line')
  })
})
