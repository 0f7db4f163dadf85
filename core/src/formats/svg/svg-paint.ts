import type { StrokeEnds } from '../../geometry/stroke-area.ts'
import type { Element } from './svg-elements.ts'

/** How an element is painted, most of it handed down. Colours are as the file has them. */
export interface Paint {
  readonly fill: string
  readonly stroke: string
  readonly fillOpacity: number
  readonly strokeOpacity: number
  /** In units of the element. */
  readonly strokeWidth: number
  readonly rule: 'nonzero' | 'evenodd'
  readonly clipRule: 'nonzero' | 'evenodd'
  readonly cap: string
  readonly join: string
  readonly mitreLimit: number
  readonly dashes: readonly number[]
  readonly dashOffset: number
  readonly isVisible: boolean
}

export const FIRST_PAINT: Paint = {
  fill: '#000000',
  stroke: 'none',
  fillOpacity: 1,
  strokeOpacity: 1,
  strokeWidth: 1,
  rule: 'nonzero',
  clipRule: 'nonzero',
  cap: 'butt',
  join: 'miter',
  mitreLimit: 4,
  dashes: [],
  dashOffset: 0,
  isVisible: true,
}

/** What attributes of an element change. */
export function paintOf(element: Element, handed: Paint): Paint {
  const said = (name: string): string | undefined => {
    const value = element.getAttribute(name)?.trim()
    return value ? value : undefined
  }
  const number = (name: string, otherwise: number): number => {
    const value = Number.parseFloat(said(name) ?? '')
    return Number.isFinite(value) && value >= 0 ? value : otherwise
  }
  const rule = (name: string, otherwise: Paint['rule']): Paint['rule'] => {
    const value = said(name)
    return value === 'evenodd' || value === 'nonzero' ? value : otherwise
  }
  const dashes = said('stroke-dasharray')
  const visibility = said('visibility')
  return {
    fill: said('fill') ?? handed.fill,
    stroke: said('stroke') ?? handed.stroke,
    fillOpacity: number('fill-opacity', handed.fillOpacity),
    strokeOpacity: number('stroke-opacity', handed.strokeOpacity),
    strokeWidth: number('stroke-width', handed.strokeWidth),
    rule: rule('fill-rule', handed.rule),
    clipRule: rule('clip-rule', handed.clipRule),
    cap: said('stroke-linecap') ?? handed.cap,
    join: said('stroke-linejoin') ?? handed.join,
    mitreLimit: number('stroke-miterlimit', handed.mitreLimit),
    dashes: dashes === undefined ? handed.dashes : dashes === 'none' ? [] : dashes.split(/[\s,]+/).map(Number),
    dashOffset: Number.parseFloat(said('stroke-dashoffset') ?? '') || (said('stroke-dashoffset') ? 0 : handed.dashOffset),
    isVisible: visibility === undefined ? handed.isVisible : visibility === 'visible',
  }
}

/** How strokes end, as shapes keep it. */
export const endsOf = ({ cap, join, mitreLimit }: Paint): StrokeEnds => ({
  ...(cap === 'round' ? {} : { cap: cap === 'square' ? ('square' as const) : ('butt' as const) }),
  ...(join === 'round' ? {} : join === 'bevel' ? { join: 'bevel' as const } : { join: 'mitre' as const, mitreLimit }),
})

/** What is fainter than this is not seen. */
export const UNSEEN = 1 / 255

type Rgb = readonly [number, number, number]

/** A colour of the file, 0–255 each; undefined for none, or where it is a name of something else. */
export function rgbOf(text: string): Rgb | undefined {
  const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])$/i.exec(text)
  if (short) return [short[1], short[2], short[3]].map((digit) => Number.parseInt(digit + digit, 16)) as unknown as Rgb
  const long = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(text)
  return long ? ([long[1], long[2], long[3]].map((pair) => Number.parseInt(pair, 16)) as unknown as Rgb) : undefined
}

/** A colour as it is seen on white, #rrggbb; undefined where it is not seen. @param opacity 0–1 */
export function seenOnWhite(rgb: Rgb, opacity: number): string | undefined {
  if (opacity < UNSEEN) return undefined
  const mixed = rgb.map((v) => Math.round(255 + (v - 255) * Math.min(1, opacity)))
  return `#${mixed.map((v) => v.toString(16).padStart(2, '0')).join('')}`
}

/** How light a colour is, 0–1, as masks take it (SVG 1.1, 14.4: linear coefficients on sRGB). */
export const luminanceOf = ([r, g, b]: Rgb): number => (0.2125 * r + 0.7154 * g + 0.0721 * b) / 255
