import { counted, type RawPicture } from '@neotaxis/core'
import { after, type Matrix } from '@neotaxis/core/formats/svg/path-data'
import { boxData, dataOf, matrixData, number } from './pdf-data.ts'
import { type Image, rawOf } from './pdf-image.ts'
import {
  type Gradient,
  gradientElement,
  type Ink,
  type Mesh,
  meshElements,
  type Operators,
  shadingOf,
  type Tiling,
  tilingOf,
  towards,
} from './pdf-inks.ts'
import { type FontFace, FRESH, type Glyph, SAME, type State } from './pdf-state.ts'

/** Something that is painted for itself first. */
interface Group {
  readonly matrix?: readonly number[] | null
  readonly bbox?: readonly number[]
  readonly smask?: {
    readonly subtype: string
    readonly backdrop?: string | readonly number[] | null
    readonly transferMap?: unknown
  } | null
}

export interface PdfObjects {
  readonly font: (name: string) => FontFace
  readonly glyph: (name: string) => Float32Array | undefined
  readonly image: (name: string) => Image | undefined
  readonly shading: (name: string) => readonly unknown[] | undefined
  /** Whether something that belongs to a layer is shown. */
  readonly isShown: (layer: unknown) => boolean
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

const CAPS = ['butt', 'round', 'square']
const JOINS = ['miter', 'round', 'bevel']

/** The colour around what a mask by light shows, where it is not black. */
function lightGround(backdrop: string | readonly number[] | null | undefined): string | undefined {
  if (!backdrop) return undefined
  const colour = typeof backdrop === 'string' ? backdrop : `rgb(${[...backdrop].map((v) => Math.round(v)).join(' ')})`
  return /^#0+$|^rgb\(0 0 0\)$/.test(colour) ? undefined : colour
}

/**
 * What the operators of a page paint, as an SVG of its size (1 pt = 1/72 in).
 * @param view its box, pt @param rotate how it is turned to be read, degrees clockwise
 */
export function pdfCanvas(
  ops: Readonly<Record<string, number>>,
  operators: Operators,
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
  let state: State = { ...FRESH, matrix: toPage }
  const stack: State[] = []
  const defs: string[] = []
  /** What is painted, and what is painted for itself first, the innermost last. */
  const outs: string[][] = [[]]
  const groups: { readonly opacity: number; readonly mask: string | undefined; readonly clip: string | undefined }[] = []
  /** The mask that comes into force next. */
  let nextMask: string | undefined
  /** Layers around what comes, whether each is shown. */
  const layers: boolean[] = []
  /** The space of patterns: that of the page, or of the form in it. */
  let base = toPage
  const bases: Matrix[] = []
  const images: { raw: RawPicture; pixelsPerMm: number }[] = []
  const told = new Set<string>()
  let drawn = 0
  let ids = 0
  /** Inks that were written already, by how they lie in the path that they paint. */
  const inks = new Map<Ink, Map<string, string>>()
  /** The rule by which the next path clips, once it is painted. */
  let clipsBy: 'nonzero' | 'evenodd' | undefined

  const isHidden = (): boolean => layers.includes(false)
  const lay = (element: string): void => {
    if (isHidden()) return
    const clipped = state.clip ? `<g clip-path="url(#${state.clip})">${element}</g>` : element
    outs.at(-1)!.push(state.mask ? `<g mask="url(#${state.mask})">${clipped}</g>` : clipped)
  }
  /** A paint as SVG names it, for a path in its own space; undefined: nothing is painted. */
  const paintOf = (ink: Ink, path: Matrix): string | undefined => {
    if (typeof ink === 'string') return ink
    const transform = towards(ink, path)
    if (!transform) return undefined
    if (ink.kind === 'mesh') {
      told.add('mesh')
      return '#808080'
    }
    const written = inks.get(ink) ?? new Map<string, string>()
    inks.set(ink, written)
    const key = transform.map(number).join(' ')
    const known = written.get(key)
    if (known) return `url(#${known})`
    const id = `ink${++ids}`
    written.set(key, id)
    if (ink.kind === 'gradient') defs.push(gradientElement(ink, id, transform))
    else defs.push(tile(ink, id, transform))
    return `url(#${id})`
  }
  const paint = (d: string, matrix: Matrix, fills: 'nonzero' | 'evenodd' | undefined, strokes: boolean): void => {
    if (d === '' || isHidden()) return
    drawn++
    if (fills && typeof state.fill !== 'string' && state.fill.kind !== 'tiling') {
      const { fill } = state
      const box = fill.kind === 'gradient' ? fill.box : null
      if (fill.kind === 'mesh' || box) {
        // Its triangles, or a gradient that ends at its box, seen through the path.
        within(() => {
          clipTo(d, fills, matrix)
          shade(fill)
        })
        if (strokes) paint(d, matrix, undefined, true)
        return
      }
    }
    const filled = fills && paintOf(state.fill, matrix)
    const fill = filled
      ? `fill="${filled}" fill-rule="${fills}"${state.fillOpacity < 1 ? ` fill-opacity="${state.fillOpacity}"` : ''}`
      : 'fill="none"'
    const dash =
      state.dashes.length > 0
        ? ` stroke-dasharray="${state.dashes.map(number).join(' ')}" stroke-dashoffset="${number(state.dashOffset)}"`
        : ''
    const line = strokes ? paintOf(state.stroke, matrix) : undefined
    // A width of 0 is the thinnest line there is.
    const stroke = line
      ? ` stroke="${line}" stroke-width="${number(state.width || 0.1)}" stroke-linecap="${CAPS[state.cap] ?? 'butt'}" stroke-linejoin="${JOINS[state.join] ?? 'miter'}" stroke-miterlimit="${number(Math.max(1, state.mitre))}"${dash}${state.strokeOpacity < 1 ? ` stroke-opacity="${state.strokeOpacity}"` : ''}`
      : ''
    lay(`<path transform="${matrixData(matrix)}" ${fill}${stroke} d="${d}"/>`)
  }
  const clipTo = (d: string, rule: 'nonzero' | 'evenodd', matrix = state.matrix): void => {
    const id = `clip${++ids}`
    const outer = state.clip ? ` clip-path="url(#${state.clip})"` : ''
    defs.push(
      `<clipPath id="${id}"${outer}><path transform="${matrixData(matrix)}" clip-rule="${rule}" d="${d || 'M0 0'}"/></clipPath>`,
    )
    state.clip = id
  }
  /** What is done in between changes nothing of how it stands. */
  const within = (work: () => void): void => {
    const kept = { ...state }
    work()
    state = kept
  }
  /** A shading over all that is not clipped away. */
  const shade = (shading: Gradient | Mesh): void => {
    const { matrix } = shading
    if (shading.kind === 'mesh') {
      drawn++
      const opacity = state.fillOpacity < 1 ? ` opacity="${state.fillOpacity}"` : ''
      lay(`<g${opacity}>${meshElements(shading)}</g>`)
      return
    }
    const { box } = shading
    within(() => {
      if (box) clipTo(boxData(box), 'nonzero', matrix)
      state.fill = { ...shading, box: null }
      paint(`M0 0H${number(width)}V${number(height)}H0Z`, SAME, 'nonzero', false)
    })
  }
  /** What a tile of a pattern shows, as SVG's element. */
  const tile = ({ list, colour, box, step }: Tiling, id: string, transform: Matrix): string => {
    const kept = state
    const keptBase = base
    outs.push([])
    state = { ...FRESH, matrix: SAME, ...(colour ? { fill: colour, stroke: colour } : {}) }
    base = SAME
    clipTo(boxData(box), 'nonzero')
    perform(list)
    state = kept
    base = keptBase
    return `<pattern id="${id}" patternUnits="userSpaceOnUse" patternTransform="${matrixData(transform)}" x="${number(box[0])}" y="${number(box[1])}" width="${number(step[0])}" height="${number(step[1])}">${outs.pop()!.join('')}</pattern>`
  }
  const showText = (glyphs: readonly (Glyph | number)[]): void => {
    const { font, fontSize } = state
    if (!font || fontSize === 0) return
    const letters = font.isType3Font ? font.charProcOperatorList : undefined
    const scale = (font.fontMatrix?.[0] ?? 0.001) * fontSize
    for (const glyph of glyphs) {
      if (typeof glyph === 'number') {
        state.x -= ((glyph * fontSize) / 1000) * state.hScale
        continue
      }
      // What a font does not have, and a space, is a box in many of them.
      const path =
        letters || glyph.isSpace || glyph.isInFont === false
          ? undefined
          : objects.glyph(`${font.loadedName}_path_${glyph.fontChar}`)
      const drawing = letters?.[glyph.operatorListId ?? '']
      if (font.isType3Font && !drawing && !glyph.isSpace) told.add('type3')
      if (drawing && state.mode !== 3)
        within(() => {
          const [a, b, c, d, e, g] = font.fontMatrix ?? [0.001, 0, 0, 0.001, 0, 0]
          const placed = after(after(state.matrix, state.textMatrix), [
            fontSize * state.hScale,
            0,
            0,
            fontSize,
            state.x,
            state.y + state.rise,
          ])
          state.matrix = after(placed, [a, b, c, d, e, g])
          perform(drawing)
        })
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
  const inkOf = (args: readonly unknown[]): Ink => {
    if (args[0] === 'TilingPattern') return tilingOf(args, base)
    const [, name, matrix] = args as [string, string, Matrix | null]
    const shading = shadingOf(objects.shading(name), matrix ? after(base, matrix) : base)
    if (!shading) told.add('pattern')
    return shading ?? '#808080'
  }
  const image = (found: Image | undefined): void => {
    if (isHidden()) return
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
        else if (key === 'SMask') {
          state.mask = value ? nextMask : undefined
          nextMask = undefined
        } else if (key === 'BM' && value !== 'source-over' && value !== 'normal' && value !== 'Normal') told.add('mix')
        else if (key === 'TR' && value) told.add('transfer')
      }
    },
    setFillRGBColor: put('fill'),
    setStrokeRGBColor: put('stroke'),
    setFillTransparent: () => change({ fill: 'none' }),
    setStrokeTransparent: () => change({ stroke: 'none' }),
    setFillColorN: (args: unknown[]) => change({ fill: inkOf(args) }),
    setStrokeColorN: (args: unknown[]) => change({ stroke: inkOf(args) }),
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
    shadingFill: ([name]: [string]) => {
      const shading = shadingOf(objects.shading(name), state.matrix)
      if (shading) shade(shading)
      else told.add('shading')
    },
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
      bases.push(base)
      if (matrix) state.matrix = after(state.matrix, matrix as unknown as Matrix)
      base = state.matrix
      if (box) clipTo(boxData(box), 'nonzero')
    },
    paintFormXObjectEnd: () => {
      state = stack.pop() ?? state
      base = bases.pop() ?? base
    },
    beginGroup: ([{ matrix, bbox, smask }]: [Group]) => {
      stack.push({ ...state })
      groups.push({ opacity: state.fillOpacity, mask: state.mask, clip: state.clip })
      outs.push([])
      if (matrix) state.matrix = after(state.matrix, matrix as unknown as Matrix)
      // All of it is seen through what is in force outside, once.
      change({ fillOpacity: 1, strokeOpacity: 1, mask: undefined, clip: undefined })
      if (bbox) clipTo(boxData(bbox), 'nonzero')
      if (smask?.transferMap) told.add('transfer')
    },
    endGroup: ([{ smask }]: [Group]) => {
      const inside = outs.pop()!.join('')
      const { opacity, mask, clip } = groups.pop()!
      state = stack.pop() ?? state
      if (!smask) {
        if (inside === '') return
        const seen = opacity < 1 ? `<g opacity="${opacity}">${inside}</g>` : inside
        within(() => {
          change({ mask, clip })
          lay(seen)
        })
        return
      }
      nextMask = `mask${++ids}`
      const isLight = smask.subtype !== 'Alpha'
      const ground = isLight ? lightGround(smask.backdrop) : undefined
      const all = `x="0" y="0" width="${number(width)}" height="${number(height)}"`
      defs.push(
        `<mask id="${nextMask}" maskUnits="userSpaceOnUse" ${all}${isLight ? '' : ' mask-type="alpha"'}>${ground ? `<rect ${all} fill="${ground}"/>` : ''}${inside}</mask>`,
      )
    },
    beginMarkedContent: () => void layers.push(true),
    beginMarkedContentProps: ([tag, layer]: [string, unknown]) => void layers.push(tag !== 'OC' || objects.isShown(layer)),
    endMarkedContent: () => void layers.pop(),
    paintImageXObject: ([name]: [string]) => image(objects.image(name)),
    paintInlineImageXObject: ([found]: [Image]) => image(found),
    paintImageMaskXObject: () => void told.add('picture'),
  }
  const names = new Map(Object.entries(ops).map(([name, op]) => [op, name]))
  function perform(list: Operators): void {
    list.fnArray.forEach((op, i) => {
      const handle = handlers[names.get(op) ?? '']
      if (handle) handle((list.argsArray[i] ?? []) as never)
    })
  }
  perform(operators)
  const pt = (v: number): string => number(v * userUnit)
  const beside = drawn > 0 ? images.length : images.length - 1
  const notices = [...[...told].map((what) => TOLD[what]), ...(beside > 0 ? [`${counted(beside, 'picture')} left out.`] : [])]
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${pt(width)}pt" height="${pt(height)}pt" viewBox="0 0 ${number(width)} ${number(height)}"><defs>${defs.join('')}</defs>${outs[0].join('')}</svg>`
  return { svg, drawn, images, notices }
}

/** What is told of what a page has and a drawing does not take. */
const TOLD: Readonly<Record<string, string>> = {
  type3: 'A letter that its font should draw was left out.',
  mesh: 'A line painted with a shading was taken as one tone.',
  mix: 'Layers that are mixed with what is under them were laid over it.',
  transfer: 'Tones that the file changes by a curve were taken as they are.',
  pattern: 'A pattern was taken as one tone.',
  shading: 'A shading was left out.',
  picture: 'A picture that is a mask was left out.',
}
