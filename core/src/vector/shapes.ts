/** A shape that is drawn by its numbers. Lengths in mm. */
export type ShapeSpec = {
  /** In rows and columns, from middle to middle; or around a circle, turned outwards. Absent: once. */
  readonly repeat?:
    | {
        readonly kind: 'grid'
        readonly columns: number
        readonly rows: number
        readonly pitchXMm: number
        readonly pitchYMm: number
      }
    | { readonly kind: 'round'; readonly count: number; readonly diameterMm: number }
} & (
  | { readonly kind: 'rectangle'; readonly widthMm: number; readonly heightMm: number; readonly radiusMm: number }
  | { readonly kind: 'ellipse'; readonly widthMm: number; readonly heightMm: number }
  | { readonly kind: 'polygon'; readonly sides: number; readonly diameterMm: number }
  | { readonly kind: 'star'; readonly points: number; readonly diameterMm: number; readonly innerShare: number }
  | { readonly kind: 'line'; readonly lengthMm: number; readonly angleDeg: number }
)

/** More copies than this are not drawn. */
const MOST_COPIES = 5000

const n = (v: number): string => String(Number(v.toFixed(4)))

/** A shape around its middle, as SVG path data. */
function data(spec: ShapeSpec): string {
  switch (spec.kind) {
    case 'rectangle': {
      const [w, h] = [spec.widthMm / 2, spec.heightMm / 2]
      const r = Math.max(0, Math.min(spec.radiusMm, w, h))
      if (r === 0) return `M${n(-w)} ${n(-h)}H${n(w)}V${n(h)}H${n(-w)}Z`
      const corner = (dx: number, dy: number): string => `a${n(r)} ${n(r)} 0 0 1 ${n(dx * r)} ${n(dy * r)}`
      return `M${n(r - w)} ${n(-h)}H${n(w - r)}${corner(1, 1)}V${n(h - r)}${corner(-1, 1)}H${n(r - w)}${corner(-1, -1)}V${n(r - h)}${corner(1, -1)}Z`
    }
    case 'ellipse': {
      const [w, h] = [spec.widthMm / 2, spec.heightMm / 2]
      return `M${n(-w)} 0A${n(w)} ${n(h)} 0 1 1 ${n(w)} 0A${n(w)} ${n(h)} 0 1 1 ${n(-w)} 0Z`
    }
    case 'polygon':
      return corners(spec.sides, () => spec.diameterMm / 2)
    case 'star':
      return corners(2 * spec.points, (i) => (spec.diameterMm / 2) * (i % 2 ? spec.innerShare : 1))
    case 'line': {
      const a = (spec.angleDeg * Math.PI) / 180
      const [x, y] = [(spec.lengthMm / 2) * Math.cos(a), (spec.lengthMm / 2) * Math.sin(a)]
      return `M${n(-x)} ${n(-y)}L${n(x)} ${n(y)}`
    }
  }
}

/** Corners at equal angles, the first one up. */
function corners(count: number, radius: (i: number) => number): string {
  const points = Array.from({ length: count }, (_, i) => {
    const a = (2 * Math.PI * i) / count - Math.PI / 2
    return `${n(radius(i) * Math.cos(a))} ${n(radius(i) * Math.sin(a))}`
  })
  return `M${points.join('L')}Z`
}

/**
 * A shape as an SVG drawing, thin black lines without a fill. @throws RangeError with a sentence where its numbers make no shape
 */
export function shapeSvg(spec: ShapeSpec): string {
  const d = data(spec)
  const { repeat } = spec
  const places: string[] = []
  if (!repeat) places.push('')
  else if (repeat.kind === 'grid') {
    if (repeat.columns * repeat.rows > MOST_COPIES) throw new RangeError(`At most ${MOST_COPIES} copies are drawn.`)
    for (let row = 0; row < repeat.rows; row++)
      for (let column = 0; column < repeat.columns; column++)
        places.push(` transform="translate(${n(column * repeat.pitchXMm)} ${n(row * repeat.pitchYMm)})"`)
  } else {
    if (repeat.count > MOST_COPIES) throw new RangeError(`At most ${MOST_COPIES} copies are drawn.`)
    for (let i = 0; i < repeat.count; i++)
      places.push(` transform="rotate(${n((360 * i) / repeat.count)}) translate(0 ${n(-repeat.diameterMm / 2)})"`)
  }
  const paths = places.map((transform) => `<path d="${d}"${transform}/>`)
  return `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"><g fill="none" stroke="#000" stroke-width="0.1">${paths.join('')}</g></svg>`
}

/** What a shape is called. */
export const SHAPE_NAMES: Readonly<Record<ShapeSpec['kind'], string>> = {
  rectangle: 'rectangle',
  ellipse: 'ellipse',
  polygon: 'polygon',
  star: 'star',
  line: 'line',
}
