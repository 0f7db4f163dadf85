import { inverseOf } from '@neotaxis/core'
import { after, type Matrix } from '@neotaxis/core/formats/svg/path-data'
import { matrixData, number } from './pdf-data.ts'

/** What a page paints with: a colour, or something that changes from place to place. */
export type Ink = string | Gradient | Mesh | Tiling

/** Colours along a line or between two circles (ISO 32000-1, 8.7.4.5.3 and .4). */
export interface Gradient {
  readonly kind: 'gradient'
  readonly type: 'axial' | 'radial'
  readonly box: readonly number[] | null
  readonly stops: readonly (readonly [at: number, colour: string])[]
  readonly from: readonly number[]
  readonly to: readonly number[]
  readonly fromRadius: number
  readonly toRadius: number
  /** From its own space to that of the page. */
  readonly matrix: Matrix
}

/** Triangles whose corners have colours (8.7.4.5.5 and on; what a function gives comes as them, too). */
export interface Mesh {
  readonly kind: 'mesh'
  readonly coords: ArrayLike<number>
  readonly colors: ArrayLike<number>
  readonly figures: readonly Figure[]
  readonly matrix: Matrix
}

interface Figure {
  readonly type: number
  readonly coords: ArrayLike<number>
  readonly colors: ArrayLike<number>
  readonly verticesPerRow?: number
}

export interface Operators {
  readonly fnArray: readonly number[]
  readonly argsArray: readonly unknown[]
}

/** A small picture of its own, laid beside itself over all of an area (8.7.3). */
export interface Tiling {
  readonly kind: 'tiling'
  readonly list: Operators
  /** Its colour, where it has none of its own. */
  readonly colour: string | null
  readonly box: readonly number[]
  readonly step: readonly [number, number]
  readonly matrix: Matrix
}

/** A shading as the reader hands it over; undefined where it is none that is known. */
export function shadingOf(ir: readonly unknown[] | undefined, matrix: Matrix): Gradient | Mesh | undefined {
  if (ir?.[0] === 'RadialAxial') {
    const [, type, box, stops, from, to, r0, r1] = ir as never as [
      string,
      Gradient['type'],
      Gradient['box'],
      Gradient['stops'],
      number[],
      number[],
      number | null,
      number | null,
    ]
    return { kind: 'gradient', type, box, stops, from, to, fromRadius: r0 ?? 0, toRadius: r1 ?? 0, matrix }
  }
  if (ir?.[0] === 'Mesh') {
    const [, , coords, colors, figures] = ir as never as [string, number, Mesh['coords'], Mesh['colors'], Mesh['figures']]
    return { kind: 'mesh', coords, colors, figures, matrix }
  }
  return undefined
}

/** A pattern as the reader hands it over. @param base from its space to that of the page */
export function tilingOf(args: readonly unknown[], base: Matrix): Tiling {
  const [, colour, operators, matrix, box, xstep, ystep] = args as never as [
    string,
    string | null,
    Operators,
    number[] | null,
    number[],
    number,
    number,
  ]
  return {
    kind: 'tiling',
    list: operators,
    colour,
    box,
    step: [Math.abs(xstep) || box[2] - box[0], Math.abs(ystep) || box[3] - box[1]],
    matrix: matrix ? after(base, matrix as unknown as Matrix) : base,
  }
}

/** The way from the space of an ink to that of a path, for SVG; undefined where the path lies on a line. */
export function towards(ink: { readonly matrix: Matrix }, path: Matrix): Matrix | undefined {
  const [a, b, c, d] = path
  if (Math.abs(a * d - b * c) < 1e-12) return undefined
  return after(inverseOf(path) as Matrix, ink.matrix)
}

/** A gradient as SVG has it. @param transform from its space to that of the path */
export function gradientElement(gradient: Gradient, id: string, transform: Matrix): string {
  const { type, from, to, fromRadius, toRadius } = gradient
  const shared = `id="${id}" gradientUnits="userSpaceOnUse" gradientTransform="${matrixData(transform)}"`
  if (type === 'axial')
    return `<linearGradient ${shared} x1="${number(from[0])}" y1="${number(from[1])}" x2="${number(to[0])}" y2="${number(to[1])}">${stops(gradient.stops)}</linearGradient>`
  // From the smaller circle to the larger one.
  const grows = toRadius >= fromRadius
  const [inner, outer, r0, r1] = grows ? [from, to, fromRadius, toRadius] : [to, from, toRadius, fromRadius]
  const along = grows ? gradient.stops : gradient.stops.map(([at, colour]) => [1 - at, colour] as const).reverse()
  // Around one middle what is within the smaller circle is its colour: older readers of SVG know no inner circle.
  const isRound = Math.hypot(inner[0] - outer[0], inner[1] - outer[1]) < 1e-6 * r1
  const moved = isRound && r0 > 0 ? along.map(([at, colour]) => [(r0 + at * (r1 - r0)) / r1, colour] as const) : along
  const focus = isRound ? '' : ` fx="${number(inner[0])}" fy="${number(inner[1])}"${r0 > 0 ? ` fr="${number(r0)}"` : ''}`
  return `<radialGradient ${shared} cx="${number(outer[0])}" cy="${number(outer[1])}" r="${number(r1)}"${focus}>${stops(moved)}</radialGradient>`
}

const stops = (all: readonly (readonly [number, string])[]): string =>
  all
    .map(([at, colour]) =>
      colour === 'transparent'
        ? `<stop offset="${number(at)}" stop-color="#000" stop-opacity="0"/>`
        : `<stop offset="${number(at)}" stop-color="${colour}"/>`,
    )
    .join('')

/** Rows of a mesh hang together; else three corners each are a triangle. */
const LATTICE = 2

/** The triangles of a mesh, each in the middle of its colours, a hair over its neighbours. @param matrix from its space to that of the page */
export function meshElements({ coords, colors, figures, matrix }: Mesh): string {
  const out: string[] = []
  const [a, b, c, d] = matrix
  const hair = 0.3 / Math.max(1e-9, Math.sqrt(Math.abs(a * d - b * c)))
  const triangle = (points: readonly number[], tones: readonly number[]): void => {
    const mean = [0, 1, 2].map((k) => Math.round(tones.reduce((sum, t) => sum + colors[t + k], 0) / 3))
    const colour = `rgb(${mean.join(' ')})`
    const d = points.map((p, i) => `${i ? 'L' : 'M'}${number(coords[p])} ${number(coords[p + 1])}`).join('')
    out.push(`<path fill="${colour}" stroke="${colour}" stroke-width="${number(hair)}" d="${d}Z"/>`)
  }
  for (const { type, coords: ps, colors: cs, verticesPerRow = 0 } of figures) {
    if (type === LATTICE) {
      const rows = Math.floor(ps.length / verticesPerRow) - 1
      for (let r = 0; r < rows; r++)
        for (let c = 0; c + 1 < verticesPerRow; c++) {
          const q = r * verticesPerRow + c
          for (const three of [
            [q, q + 1, q + verticesPerRow],
            [q + verticesPerRow + 1, q + 1, q + verticesPerRow],
          ])
            triangle(
              three.map((i) => ps[i]),
              three.map((i) => cs[i]),
            )
        }
    } else for (let i = 0; i + 2 < ps.length; i += 3) triangle([ps[i], ps[i + 1], ps[i + 2]], [cs[i], cs[i + 1], cs[i + 2]])
  }
  return `<g transform="${matrixData(matrix)}">${out.join('')}</g>`
}
