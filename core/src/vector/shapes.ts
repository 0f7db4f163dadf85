/** How often something is drawn. Lengths in mm. */
export type Repeat =
  | {
      readonly kind: 'grid'
      readonly columns: number
      readonly rows: number
      readonly pitchXMm: number
      readonly pitchYMm: number
    }
  | { readonly kind: 'round'; readonly count: number; readonly diameterMm: number }

/** A shape that is drawn by its numbers. Lengths in mm. */
export type ShapeSpec =
  | { readonly kind: 'rectangle'; readonly widthMm: number; readonly heightMm: number; readonly radiusMm: number }
  | { readonly kind: 'ellipse'; readonly widthMm: number; readonly heightMm: number }
  | { readonly kind: 'polygon'; readonly sides: number; readonly diameterMm: number }
  | { readonly kind: 'star'; readonly points: number; readonly diameterMm: number; readonly innerShare: number }
  | { readonly kind: 'line'; readonly lengthMm: number; readonly angleDeg: number }
  /** Part of a circle, clockwise; 0° points right. */
  | { readonly kind: 'arc'; readonly diameterMm: number; readonly fromDeg: number; readonly sweepDeg: number }
  /** Drawn by hand: SVG path data, mm. */
  | { readonly kind: 'path'; readonly data: string }

const n = (v: number): string => String(Number(v.toFixed(4)))

/** A shape around its middle, as SVG path data, mm. */
export function shapeData(spec: ShapeSpec): string {
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
    case 'arc': {
      const r = spec.diameterMm / 2
      const at = (deg: number): string => `${n(r * Math.cos((deg * Math.PI) / 180))} ${n(r * Math.sin((deg * Math.PI) / 180))}`
      const [from, half, to] = [0, 0.5, 1].map((t) => at(spec.fromDeg + t * spec.sweepDeg))
      // In two halves, so that each is told by its ends.
      return `M${from}A${n(r)} ${n(r)} 0 0 1 ${half}A${n(r)} ${n(r)} 0 0 1 ${to}`
    }
    case 'path':
      return spec.data
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
