/** The first colours of the index. */
const FIRST = ['#000000', '#ff0000', '#ffff00', '#00ff00', '#00ffff', '#0000ff', '#ff00ff', '#000000', '#808080', '#c0c0c0']

const hex = (r: number, g: number, b: number): string => `#${[r, g, b].map((v) => v.toString(16).padStart(2, '0')).join('')}`

/**
 * A colour of the index as #rrggbb: 1 to 9 by name, 10 to 249 around the wheel in 24 hues of five brightnesses, full and pale,
 * then greys. White is for dark screens; on paper it is black. (DXF Reference, colour numbers)
 */
export function indexColour(index: number): string {
  if (index < 10) return FIRST[Math.max(0, index)]
  if (index >= 250) {
    const v = [51, 80, 105, 130, 190, 0][Math.min(5, index - 250)]
    return hex(v, v, v)
  }
  const hue = Math.floor((index - 10) / 10) * 15
  const value = [1, 0.65, 0.5, 0.3, 0.15][Math.floor((index % 10) / 2)]
  const pale = index % 2 === 1
  const channel = (shift: number): number => {
    const k = ((hue + shift) % 360) / 60
    const full = Math.min(1, Math.max(0, 2 - Math.abs(k - 2)))
    return Math.round(255 * value * (pale ? 0.5 + full / 2 : full))
  }
  return hex(channel(120), channel(0), channel(240))
}
