import type { RawPicture } from '@neotaxis/core'
import { after, type Matrix } from '@neotaxis/core/formats/svg/path-data'

/** What a PDF's painting stands at (ISO 32000-1, 8.4). */
interface State {
  matrix: Matrix
  fill: string
  stroke: string
  fillOpacity: number
  strokeOpacity: number
  width: number
  cap: number
  join: number
  mitre: number
  dashes: readonly number[]
  dashOffset: number
  /** Id of the clip path in force. */
  clip: string | undefined
  font: FontFace | undefined
  fontSize: number
  textMatrix: Matrix
  x: number
  y: number
  lineX: number
  lineY: number
  charSpacing: number
  wordSpacing: number
  hScale: number
  leading: number
  rise: number
  mode: number
}

interface FontFace {
  readonly loadedName: string
  readonly fontMatrix?: readonly number[]
  readonly vertical?: boolean
  readonly isType3Font?: boolean
}

interface Glyph {
  readonly fontChar: string
  readonly width: number
  readonly isSpace: boolean
  readonly isInFont?: boolean
}

interface Image {
  readonly width: number
  readonly height: number
  /** 1: grey of 1 bit, 2: RGB, 3: RGBA. */
  readonly kind: number
  readonly data?: Uint8Array | Uint8ClampedArray
}

export interface PdfObjects {
  readonly font: (name: string) => FontFace
  readonly glyph: (name: string) => Float32Array | undefined
  readonly image: (name: string) => Image | undefined
}

/** What a page shows. */
interface Painted {
  readonly svg: string
  /** How many paths and letters. */
  readonly drawn: number
  readonly images: readonly { readonly raw: RawPicture; readonly pixelsPerMm: number }[]
  /** What was left out or taken otherwise, a sentence each. */
  readonly notices: readonly string[]
}

interface Operators {
  readonly fnArray: readonly number[]
  readonly argsArray: readonly unknown[]
}

const CAPS = ['butt', 'round', 'square']
const JOINS = ['miter', 'round', 'bevel']
const number = (v: number): string => String(Math.round(v * 1e5) / 1e5)

/** Path data from what the reader gives: 0 move, 1 line, 2 cubic, 3 quadratic, 4 close. */
function dataOf(path: ArrayLike<number>): string {
  let d = ''
  for (let i = 0; i < path.length; ) {
    const kind = path[i++]
    const count = kind === 2 ? 6 : kind === 3 ? 4 : kind === 4 ? 0 : 2
    d += 'MLCQZ'[kind] ?? ''
    for (let k = 0; k < count; k++) d += `${k ? ' ' : ''}${number(path[i++])}`
  }
  return d
}

/**
 * What the operators of a page paint, as an SVG of its size (1 pt = 1/72 in).
 * @param view its box, pt @param rotate how it is turned to be read, degrees clockwise
 */
export function pdfCanvas(
  ops: Readonly<Record<string, number>>,
  { fnArray, argsArray }: Operators,
  objects: PdfObjects,
  view: readonly number[],
  rotate: number,
  userUnit: number,
): Painted {
  const [x0, y0, x1, y1] = view
  const [w, h] = [x1 - x0, y1 - y0]
  const turned = ((rotate % 360) + 360) % 360
  const [width, height] = turned % 180 === 0 ? [w, h] : [h, w]
  // y points up in a PDF; the page is turned to be read.
  const toPage: Matrix =
    turned === 90
      ? [0, 1, 1, 0, -y0, -x0]
      : turned === 180
        ? [-1, 0, 0, 1, x1, -y0]
        : turned === 270
          ? [0, -1, -1, 0, y1, x1]
          : [1, 0, 0, -1, -x0, y1]
  let state: State = {
    matrix: toPage,
    fill: '#000000',
    stroke: '#000000',
    fillOpacity: 1,
    strokeOpacity: 1,
    width: 1,
    cap: 0,
    join: 0,
    mitre: 10,
    dashes: [],
    dashOffset: 0,
    clip: undefined,
    font: undefined,
    fontSize: 0,
    textMatrix: [1, 0, 0, 1, 0, 0],
    x: 0,
    y: 0,
    lineX: 0,
    lineY: 0,
    charSpacing: 0,
    wordSpacing: 0,
    hScale: 1,
    leading: 0,
    rise: 0,
    mode: 0,
  }
  const stack: State[] = []
  const defs: string[] = []
  const body: string[] = []
  const images: { raw: RawPicture; pixelsPerMm: number }[] = []
  const told = new Set<string>()
  let drawn = 0
  let clips = 0
  /** The rule by which the next path clips, once it is painted. */
  let clipsBy: 'nonzero' | 'evenodd' | undefined

  const paint = (d: string, matrix: Matrix, fills: 'nonzero' | 'evenodd' | undefined, strokes: boolean): void => {
    if (d === '') return
    drawn++
    const fill = fills
      ? `fill="${state.fill}" fill-rule="${fills}"${state.fillOpacity < 1 ? ` fill-opacity="${state.fillOpacity}"` : ''}`
      : 'fill="none"'
    const dash =
      state.dashes.length > 0
        ? ` stroke-dasharray="${state.dashes.map(number).join(' ')}" stroke-dashoffset="${number(state.dashOffset)}"`
        : ''
    // A width of 0 is the thinnest line there is.
    const stroke = strokes
      ? ` stroke="${state.stroke}" stroke-width="${number(state.width || 0.1)}" stroke-linecap="${CAPS[state.cap] ?? 'butt'}" stroke-linejoin="${JOINS[state.join] ?? 'miter'}" stroke-miterlimit="${number(Math.max(1, state.mitre))}"${dash}${state.strokeOpacity < 1 ? ` stroke-opacity="${state.strokeOpacity}"` : ''}`
      : ''
    const path = `<path transform="matrix(${matrix.map(number).join(' ')})" ${fill}${stroke} d="${d}"/>`
    body.push(state.clip ? `<g clip-path="url(#${state.clip})">${path}</g>` : path)
  }
  const clipTo = (d: string, rule: 'nonzero' | 'evenodd'): void => {
    const id = `clip${++clips}`
    const outer = state.clip ? ` clip-path="url(#${state.clip})"` : ''
    defs.push(
      `<clipPath id="${id}"${outer}><path transform="matrix(${state.matrix.map(number).join(' ')})" clip-rule="${rule}" d="${d || 'M0 0'}"/></clipPath>`,
    )
    state.clip = id
  }
  const showText = (glyphs: readonly (Glyph | number)[]): void => {
    const { font, fontSize } = state
    if (!font || fontSize === 0) return
    if (font.isType3Font) {
      told.add('type3')
      return
    }
    const scale = (font.fontMatrix?.[0] ?? 0.001) * fontSize
    for (const glyph of glyphs) {
      if (typeof glyph === 'number') {
        state.x -= ((glyph * fontSize) / 1000) * state.hScale
        continue
      }
      // What a font does not have, and a space, is a box in many of them.
      const path =
        glyph.isSpace || glyph.isInFont === false ? undefined : objects.glyph(`${font.loadedName}_path_${glyph.fontChar}`)
      const fills = state.mode === 0 || state.mode === 2 || state.mode === 4 || state.mode === 6
      const strokes = state.mode === 1 || state.mode === 2 || state.mode === 5 || state.mode === 6
      if (path && path.length > 0 && (fills || strokes)) {
        const placed = after(after(state.matrix, state.textMatrix), [
          fontSize * state.hScale,
          0,
          0,
          fontSize,
          state.x,
          state.y + state.rise,
        ])
        const kept = state.width
        // The width of a stroke is in the units of the page, not of the letter.
        state.width = kept / (Math.abs(fontSize) || 1)
        paint(dataOf(path), placed, fills ? 'nonzero' : undefined, strokes)
        state.width = kept
      }
      const spacing = state.charSpacing + (glyph.isSpace ? state.wordSpacing : 0)
      state.x += (glyph.width * scale + spacing) * state.hScale
    }
  }
  const image = (found: Image | undefined): void => {
    const raw = found && rawOf(found)
    if (!raw) return
    const [a, b] = state.matrix
    const mm = (Math.hypot(a, b) * userUnit * 25.4) / 72
    images.push({ raw, pixelsPerMm: mm > 0 ? raw.widthPx / mm : 4 })
  }
  const change = (to: Partial<State>): void => {
    state = { ...state, ...to }
  }
  const put =
    (key: keyof State) =>
    ([value]: [never]): void =>
      change({ [key]: value })
  const handlers: Readonly<Record<string, (args: never) => void>> = {
    save: () => void stack.push({ ...state }),
    restore: () => {
      state = stack.pop() ?? state
    },
    transform: (m: number[]) => {
      state.matrix = after(state.matrix, m as unknown as Matrix)
    },
    setLineWidth: put('width'),
    setLineCap: put('cap'),
    setLineJoin: put('join'),
    setMiterLimit: put('mitre'),
    setDash: ([list, offset]: [number[], number]) => {
      state.dashes = list.some((each) => each > 0) ? list : []
      state.dashOffset = offset
    },
    setGState: ([pairs]: [readonly (readonly [string, unknown])[]]) => {
      for (const [key, value] of pairs) {
        if (key === 'ca') state.fillOpacity = Number(value)
        else if (key === 'CA') state.strokeOpacity = Number(value)
        else if (key === 'LW') state.width = Number(value)
        else if (key === 'LC') state.cap = Number(value)
        else if (key === 'LJ') state.join = Number(value)
        else if (key === 'ML') state.mitre = Number(value)
        else if (key === 'SMask' && value) told.add('mask')
      }
    },
    setFillRGBColor: put('fill'),
    setStrokeRGBColor: put('stroke'),
    setFillTransparent: () => change({ fill: 'none' }),
    setStrokeTransparent: () => change({ stroke: 'none' }),
    setFillColorN: () => {
      state.fill = '#808080'
      told.add('pattern')
    },
    setStrokeColorN: () => {
      state.stroke = '#808080'
      told.add('pattern')
    },
    clip: () => {
      clipsBy = 'nonzero'
    },
    eoClip: () => {
      clipsBy = 'evenodd'
    },
    constructPath: ([op, [data]]: [number, [ArrayLike<number> | null]]) => {
      const d = data ? dataOf(data) : ''
      const closed = op === ops.closeStroke || op === ops.closeFillStroke || op === ops.closeEOFillStroke
      const fills = [ops.fill, ops.fillStroke, ops.closeFillStroke].includes(op)
        ? 'nonzero'
        : [ops.eoFill, ops.eoFillStroke, ops.closeEOFillStroke].includes(op)
          ? 'evenodd'
          : undefined
      const strokes = [
        ops.stroke,
        ops.closeStroke,
        ops.fillStroke,
        ops.closeFillStroke,
        ops.eoFillStroke,
        ops.closeEOFillStroke,
      ].includes(op)
      if (fills || strokes) paint(closed && !d.endsWith('Z') ? `${d}Z` : d, state.matrix, fills, strokes)
      if (clipsBy) clipTo(d, clipsBy)
      clipsBy = undefined
    },
    shadingFill: () => void told.add('shading'),
    beginText: () => {
      state.textMatrix = [1, 0, 0, 1, 0, 0]
      change({ x: 0, y: 0, lineX: 0, lineY: 0 })
    },
    setTextMatrix: (args: [ArrayLike<number>] | number[]) => {
      const m = (typeof args[0] === 'number' ? args : args[0]) as ArrayLike<number>
      state.textMatrix = [m[0], m[1], m[2], m[3], m[4], m[5]]
      change({ x: 0, y: 0, lineX: 0, lineY: 0 })
    },
    moveText: ([dx, dy]: [number, number]) => {
      state.lineX += dx
      state.lineY += dy
      state.x = state.lineX
      state.y = state.lineY
    },
    setLeadingMoveText: ([dx, dy]: [number, number]) => {
      state.leading = -dy
      handlers.moveText([dx, dy] as never)
    },
    nextLine: () => handlers.moveText([0, -state.leading] as never),
    setCharSpacing: put('charSpacing'),
    setWordSpacing: put('wordSpacing'),
    setHScale: ([v]: [number]) => change({ hScale: v / 100 }),
    setLeading: ([v]: [number]) => change({ leading: -v }),
    setTextRise: put('rise'),
    setTextRenderingMode: put('mode'),
    setFont: ([name, size]: [string, number]) => {
      state.font = objects.font(name)
      state.fontSize = size
    },
    showText: ([glyphs]: [readonly (Glyph | number)[]]) => showText(glyphs),
    showSpacedText: ([glyphs]: [readonly (Glyph | number)[]]) => showText(glyphs),
    paintFormXObjectBegin: ([matrix, box]: [number[] | null, number[] | null]) => {
      stack.push({ ...state })
      if (matrix) state.matrix = after(state.matrix, matrix as unknown as Matrix)
      if (box) clipTo(`M${box[0]} ${box[1]}H${box[2]}V${box[3]}H${box[0]}Z`, 'nonzero')
    },
    paintFormXObjectEnd: () => {
      state = stack.pop() ?? state
    },
    paintImageXObject: ([name]: [string]) => image(objects.image(name)),
    paintInlineImageXObject: ([found]: [Image]) => image(found),
    paintImageMaskXObject: () => void told.add('picture'),
  }
  const names = new Map(Object.entries(ops).map(([name, op]) => [op, name]))
  fnArray.forEach((op, i) => {
    const handle = handlers[names.get(op) ?? '']
    if (handle) handle((argsArray[i] ?? []) as never)
  })
  const pt = (v: number): string => number(v * userUnit)
  const beside = drawn > 0 ? images.length : images.length - 1
  const notices = [
    ...[...told].map((what) => TOLD[what]),
    ...(beside > 0 ? [`${beside} picture${beside === 1 ? '' : 's'} left out.`] : []),
  ]
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${pt(width)}pt" height="${pt(height)}pt" viewBox="0 0 ${number(width)} ${number(height)}"><defs>${defs.join('')}</defs>${body.join('')}</svg>`
  return { svg, drawn, images, notices }
}

/** What is told of what a page has and a drawing does not take. */
const TOLD: Readonly<Record<string, string>> = {
  type3: 'Text in a font made of drawings was left out.',
  mask: 'A soft mask was left out.',
  pattern: 'A pattern was taken as one tone.',
  shading: 'A shading was left out.',
  picture: 'A picture that is a mask was left out.',
}

/** The pixels of a picture; undefined where it is kept in a way that is not known. */
function rawOf({ width, height, kind, data }: Image): RawPicture | undefined {
  if (!data || !(width > 0 && height > 0)) return undefined
  const n = width * height
  if (kind === 2 && data.length >= 3 * n)
    return { widthPx: width, heightPx: height, channels: 3, samples: Uint8Array.from(data.subarray(0, 3 * n)), full: 255 }
  if (kind === 3 && data.length >= 4 * n)
    return { widthPx: width, heightPx: height, channels: 4, samples: Uint8Array.from(data.subarray(0, 4 * n)), full: 255 }
  if (kind !== 1) return undefined
  const stride = (width + 7) >> 3
  const samples = Uint8Array.from({ length: n }, (_, i) =>
    (data[Math.floor(i / width) * stride + ((i % width) >> 3)] >> (7 - ((i % width) & 7))) & 1 ? 255 : 0,
  )
  return { widthPx: width, heightPx: height, channels: 1, samples, full: 255 }
}
