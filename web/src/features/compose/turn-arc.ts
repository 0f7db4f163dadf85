/** How far outside the corner the arc runs, and half its length, px. */
const BESIDE = 22
const HALF_ARC = 20

/** Room that the buttons at the top of the stage take, and findings at its bottom, px. */
const TOOLS_PX = 110
const FINDINGS_PX = 40

/** The arc by which a box is turned, CSS px and radians. */
export interface TurnArc {
  readonly x: number
  readonly y: number
  readonly radius: number
  readonly from: number
  readonly to: number
}

/** An arc around the middle of a box, beside the corner where it is in reach: the upper right one where nothing hides it. */
export function turnArc(
  { x, y, w, h }: { readonly x: number; readonly y: number; readonly w: number; readonly h: number },
  size: { readonly width: number; readonly height: number },
): TurnArc {
  const corners = [
    [x + w, y, 1, -1],
    [x + w, y + h, 1, 1],
    [x, y + h, -1, 1],
    [x, y, -1, -1],
  ] as const
  const [tx, ty] =
    corners.find(([cx, cy, right, down]) => {
      const [ax, ay] = [cx + right * BESIDE, cy + down * BESIDE]
      return ax > 12 && ax < size.width - 12 && ay > TOOLS_PX && ay < size.height - FINDINGS_PX
    }) ?? corners[0]
  const [cx, cy] = [x + w / 2, y + h / 2]
  const radius = Math.hypot(tx - cx, ty - cy) + BESIDE
  const middle = Math.atan2(ty - cy, tx - cx)
  const half = Math.min(0.6, HALF_ARC / radius)
  return { x: cx, y: cy, radius, from: middle - half, to: middle + half }
}

/** The arc as a path of SVG. */
export function arcPath({ x, y, radius, from, to }: TurnArc): string {
  const at = (angle: number): string => `${x + radius * Math.cos(angle)} ${y + radius * Math.sin(angle)}`
  return `M${at(from)}A${radius} ${radius} 0 0 1 ${at(to)}`
}
