import { DrawingError, drawingKind, readDxf, type Typeface, type VectorDrawing, writeSvgDrawing } from '@neotaxis/core'
import { matrixOf, pathsOf } from '@neotaxis/core/formats/svg/path-data'
import { pathData } from '@neotaxis/core/formats/svg/svg-write'
import { readFont } from '@neotaxis/core/text/outline-font'
import { Resvg } from '@resvg/resvg-js'
import { fontsMeant, shippedFontFiles } from './drawing-fonts.ts'
import { importantRules, makeImportant } from './important-rules.ts'
import { shippedFonts } from './shipped-fonts.ts'
import { checkRepeats, mappedTags, textOf } from './svg-tags.ts'

/** A drawing that was resolved already says so. */
const RESOLVED = 'data-resolved="1"'

/** What stands for an address that nobody follows. */
const NOWHERE = 'data:,'

/**
 * An SVG in plain terms: what its styles say as attributes, what `use`, markers and nested pages repeat as paths, text as outlines, units as
 * user units. Beside that stands what its layers are called, and what is to be told. Anything else is handed back as it is.
 * Nothing is fetched: neither files, nor fonts, nor pages of others.
 * @throws DrawingError with a sentence
 */
export function resolvedDrawing(bytes: Uint8Array): Uint8Array {
  const kind = drawingKind(bytes)
  if (kind === 'dxf') return writtenDxf(bytes)
  if (kind !== 'svg') return bytes
  const text = textOf(bytes)
  if (text.includes(RESOLVED)) return bytes
  checkRepeats(text)
  const told: string[] = []
  const { svg, layers, isForeign } = prepared(text)
  if (isForeign) told.push('A picture from elsewhere was left out: nothing is fetched.')
  const meant = fontsMeant(text)
  if (meant) told.push(meant)
  let plain: string
  try {
    const font = {
      loadSystemFonts: false,
      ...(meant ? { fontFiles: [...shippedFontFiles()], defaultFontFamily: DEFAULT_FONT } : { fontFiles: [] }),
    }
    plain = new Resvg(svg, { font, logLevel: 'off' }).toString()
  } catch (cause) {
    throw new DrawingError(sentenceOf(cause), { cause })
  }
  const beside = `${RESOLVED} data-layers="${inAttribute(layers)}" data-told="${inAttribute(told)}"`
  return new TextEncoder().encode(withItsSize(plain, text).replace('<svg ', `<svg ${beside} `))
}

/** A DXF that has text becomes a plain drawing with that as outlines; any other is handed back as it is. */
function writtenDxf(bytes: Uint8Array): Uint8Array {
  if (!/^\s*(?:M?TEXT|ATTRIB)\s*$/m.test(new TextDecoder('latin1').decode(bytes))) return bytes
  let drawing: VectorDrawing
  try {
    drawing = readDxf(bytes, plainFace())
  } catch {
    // What is wrong with it is said by whoever reads it.
    return bytes
  }
  const svg = writeSvgDrawing(drawing)
  return new TextEncoder().encode(svg.replace('<svg ', `<svg ${RESOLVED} data-told="${inAttribute(drawing.notices)}" `))
}

let plain: Typeface | undefined

/** The first of the fonts that ship: texts of drawings are set in it. */
function plainFace(): Typeface {
  plain ??= readFont(shippedFonts()[0].bytes)
  return plain
}

/** The page as wide and high as its file says to the last digit, where it says so in units. */
function withItsSize(plain: string, text: string): string {
  const root = /<(?:[\w.-]+:)?svg\b[^>]*>/i.exec(text)?.[0] ?? ''
  const said = (name: string): string | undefined =>
    new RegExp(`\\s${name}\\s*=\\s*["']\\s*([\\d.]+(?:mm|cm|in|pt|pc|px|))\\s*["']`).exec(root)?.[1]
  const [width, height] = [said('width'), said('height')]
  if (!width || !height) return plain
  return plain.replace(/^<svg width="[^"]*" height="[^"]*"/, `<svg width="${width}" height="${height}"`)
}

/** Fonts that are not here are set in this one. */
const DEFAULT_FONT = 'Atkinson Hyperlegible Next'

const inAttribute = (value: unknown): string => JSON.stringify(value).replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`)

/** What is wrong with a drawing. */
function sentenceOf(cause: unknown): string {
  const said = cause instanceof Error ? cause.message : String(cause)
  if (/size|zero|dimension/i.test(said)) return 'The SVG has no size that could be drawn.'
  return 'The SVG is damaged and cannot be read.'
}

const LENGTH = /^(-?[\d.]+(?:e[-+]?\d+)?)(px|mm|cm|in|pt|pc)?$/i
const PX: Readonly<Record<string, number>> = { '': 1, px: 1, mm: 96 / 25.4, cm: 96 / 2.54, in: 96, pt: 96 / 72, pc: 16 }
const DEGREES: Readonly<Record<string, number>> = { '': 1, deg: 1, grad: 0.9, rad: 180 / Math.PI, turn: 360 }

/** A CSS transform as the attribute has it (CSS Transforms 1, 7): units as numbers, one-axis functions in full. */
export function transformAttribute(css: string): string {
  const px = (word = '0'): number => {
    const found = LENGTH.exec(word.trim())
    return found ? Number(found[1]) * PX[(found[2] ?? '').toLowerCase()] : 0
  }
  const deg = (word = '0'): number => {
    const found = /^(-?[\d.]+(?:e[-+]?\d+)?)(deg|grad|rad|turn)?$/i.exec(word.trim())
    return found ? Number(found[1]) * DEGREES[(found[2] ?? '').toLowerCase()] : 0
  }
  const share = (word = '1'): number => (word.trim().endsWith('%') ? Number.parseFloat(word) / 100 : Number(word))
  return [...css.matchAll(/([a-zA-Z]+)\s*\(([^)]*)\)/g)]
    .map(([, name, list]) => {
      const v = list.split(/[\s,]+/).filter(Boolean)
      switch (name.toLowerCase()) {
        case 'translate':
          return `translate(${px(v[0])} ${px(v[1])})`
        case 'translatex':
          return `translate(${px(v[0])} 0)`
        case 'translatey':
          return `translate(0 ${px(v[0])})`
        case 'scale':
          return `scale(${share(v[0])} ${share(v[1] ?? v[0])})`
        case 'scalex':
          return `scale(${share(v[0])} 1)`
        case 'scaley':
          return `scale(1 ${share(v[0])})`
        case 'rotate':
          return v.length >= 3 ? `rotate(${deg(v[0])} ${px(v[1])} ${px(v[2])})` : `rotate(${deg(v[0])})`
        case 'skewx':
          return `skewX(${deg(v[0])})`
        case 'skewy':
          return `skewY(${deg(v[0])})`
        case 'skew':
          return `skewX(${deg(v[0])})${v[1] ? ` skewY(${deg(v[1])})` : ''}`
        case 'matrix':
          return `matrix(${v.slice(0, 6).map(Number).join(' ')})`
        default:
          return ''
      }
    })
    .join(' ')
}

const NO_STROKE = /^\s*none\s*$/i

/** A map that makes things smaller than this, by area, is taken for nothing by what resolves drawings. */
const SHRUNK = 1e-6

/** A path that is drawn huge and shown small is drawn as small as it is shown. */
function unshrunk(attributes: Record<string, string>): void {
  const { transform, d } = attributes
  if (!transform || !d) return
  const matrix = matrixOf(transform)
  const [a, b, c, e] = matrix
  const area = Math.abs(a * e - b * c)
  if (!(area > 0 && area < SHRUNK)) return
  try {
    attributes.d = pathsOf(d, matrix)
      .map((path) => pathData(path, DIGITS))
      .join('')
    delete attributes.transform
    const width = Number.parseFloat(attributes['stroke-width'] ?? '')
    if (Number.isFinite(width)) attributes['stroke-width'] = String(width * Math.sqrt(area))
  } catch {
    // What is damaged is seen to by whoever resolves it.
  }
}

const DIGITS = 6

const NAMED: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }

/** Text of an attribute as it is read. */
const unescaped = (text: string): string =>
  text.replace(/&(?:#(\d+)|#x([\da-f]+)|(\w+));/gi, (whole, decimal?: string, hex?: string, name?: string) =>
    decimal || hex
      ? String.fromCodePoint(Number.parseInt(decimal ?? hex ?? '', decimal ? 10 : 16))
      : (NAMED[name ?? ''] ?? whole),
  )

/** The drawing as it is handed to be resolved: nothing points elsewhere, layers have ids, transforms of styles are attributes. */
function prepared(text: string): { svg: string; layers: Record<string, string>; isForeign: boolean } {
  const layers: Record<string, string> = {}
  let isForeign = false
  let nameless = 0
  const important = importantRules(text)
  const handsStrokeDown = /<(?:[\w.-]+:)?(?:g|svg|a)\s[^>]*\bstroke\b|\bstroke\s*:/.test(text)
  const svg = mappedTags(text, (tag) => {
    const { name, attributes } = tag
    if (important.length > 0) makeImportant(tag, important)
    const at = (ending: string): string | undefined =>
      Object.keys(attributes).find((key) => key === ending || key.endsWith(`:${ending}`))
    if (name === 'image' || name === 'feImage') {
      const href = at('href')
      const to = href && attributes[href].trim()
      if (href && to && !/^(data:|#)/i.test(to)) {
        isForeign = true
        attributes[href] = NOWHERE
      }
    }
    if (name === 'g' && at('groupmode') && attributes[at('groupmode')!] === 'layer' && at('label')) {
      if (!attributes.id) attributes.id = `layer-of-drawing-${++nameless}`
      layers[attributes.id] = unescaped(attributes[at('label')!])
    }
    if (name === 'path') unshrunk(attributes)
    if (
      Object.keys(attributes).some((key) => key.startsWith('marker')) &&
      !handsStrokeDown &&
      NO_STROKE.test(attributes.stroke ?? 'none')
    ) {
      // Markers of a line that is not stroked are drawn all the same.
      attributes.stroke = '#000'
      attributes['stroke-opacity'] = '0'
    }
    const { style } = attributes
    const css = style && /(?:^|;)\s*transform\s*:\s*([^;]+)/i.exec(style)?.[1]
    if (css) {
      attributes.transform = transformAttribute(css)
      attributes.style = style.replace(/(^|;)\s*transform\s*:[^;]*/i, '$1')
    }
  })
  return { svg, layers, isForeign }
}
