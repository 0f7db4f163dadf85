import { crc32, deflateSync } from 'node:zlib'
import { counted, DrawingError, encodePng, type RawPicture } from '@neotaxis/core'
import { pdfCanvas } from './pdf-canvas.ts'
import type { Operators } from './pdf-inks.ts'

/** A page of a PDF, as a drawing or, where it holds nothing but a picture, as that. */
export interface PdfPage {
  /** The drawing as SVG text; absent where the page is a picture. */
  readonly svg?: string
  readonly picture?: Uint8Array
  /** How many pages there are. */
  readonly pages: number
  /** What is told of it. */
  readonly notices: readonly string[]
}

/** Larger files are refused unread. */
const MAX_BYTES = 100_000_000

export const isPdf = (bytes: Uint8Array): boolean => {
  const head = String.fromCharCode(...bytes.subarray(0, 1024))
  return head.includes('%PDF-')
}

/** Stand-ins for what a browser has: nothing is painted here, paths are only carried on. */
function standIns(): void {
  const here = globalThis as Record<string, unknown>
  here.DOMMatrix ??= class {}
  here.ImageData ??= class {}
  here.Path2D ??= class {}
}

let library: Promise<typeof import('pdfjs-dist/legacy/build/pdf.mjs')> | undefined

function pdfLibrary() {
  standIns()
  // It tells on the console what it misses of a browser; nothing of that is needed.
  const { warn } = console
  console.warn = () => {}
  library ??= import('pdfjs-dist/legacy/build/pdf.mjs')
  return library.finally(() => {
    console.warn = warn
  })
}

/**
 * One page of a PDF: its paths with their looks, text as outlines of its own fonts, clipped as they are. Pictures beside drawings are left out
 * and told by whoever reads the drawing.
 * @param number of the page, from 1 @throws DrawingError with a sentence
 */
export async function pdfPage(bytes: Uint8Array, number = 1): Promise<PdfPage> {
  if (bytes.length > MAX_BYTES)
    throw new DrawingError(`The PDF has ${Math.round(bytes.length / 1e6)} MB; at most ${MAX_BYTES / 1e6} MB can be read.`)
  const { getDocument, OPS } = await pdfLibrary()
  const task = getDocument({
    // A copy, as it is handed over; and plain bytes, whatever kind of buffer they came in.
    data: new Uint8Array(bytes),
    isEvalSupported: false,
    useSystemFonts: false,
    disableFontFace: true,
    fontExtraProperties: true,
    isOffscreenCanvasSupported: false,
    isImageDecoderSupported: false,
    useWorkerFetch: false,
    stopAtErrors: false,
    verbosity: 0,
  })
  try {
    const document = await task.promise
    if (number < 1 || number > document.numPages)
      throw new DrawingError(`The PDF has ${counted(document.numPages, 'page')}: there is no page ${number}.`)
    const page = await document.getPage(number)
    const list = await page.getOperatorList()
    const images = await objectsOf(page, namedBy(list, [OPS.paintImageXObject]))
    const shadings = await objectsOf(page, namedBy(list, [OPS.shadingFill, OPS.setFillColorN, OPS.setStrokeColorN]))
    const layers = await document.getOptionalContentConfig()
    const objects = {
      font: (name: string) => page.commonObjs.get(name) as never,
      glyph: (name: string) =>
        page.commonObjs.has(name) ? (page.commonObjs.get(name) as { path: Float32Array }).path : undefined,
      image: (name: string) => images.get(name) as never,
      shading: (name: string) => shadings.get(name) as never,
      isShown: (layer: unknown) => layers.isVisible(layer as never),
    }
    const { svg, drawn, images: pictures, notices } = pdfCanvas(OPS, list, objects, page.view, page.rotate, page.userUnit ?? 1)
    const pages = document.numPages
    const told = [...(pages > 1 ? [`It holds ${pages} pages: page ${number} was taken.`] : []), ...notices]
    const largest = pictures.reduce<(typeof pictures)[number] | undefined>(
      (best, each) => (best && best.raw.widthPx >= each.raw.widthPx ? best : each),
      undefined,
    )
    if (drawn === 0 && largest) return { picture: pngOf(largest.raw, largest.pixelsPerMm), pages, notices: told }
    return { svg, pages, notices: told }
  } catch (cause) {
    if (cause instanceof DrawingError) throw cause
    const { name } = cause as Error
    if (name === 'PasswordException')
      throw new DrawingError('The PDF is locked with a password. Save it without one and bring it in again.', { cause })
    throw new DrawingError('The PDF is damaged and cannot be read.', { cause })
  } finally {
    await task.destroy().catch(() => {})
  }
}

/** What operators name comes after them: so long it is waited for, ms. */
const PATIENCE_MS = 20_000

interface Objects {
  get(name: string, then: (data: unknown) => void): unknown
}

/** What some operators of a page name, in what its patterns are made of as well. */
function namedBy(list: Operators, wanted: readonly number[]): ReadonlySet<string> {
  const names = new Set<string>()
  const look = ({ fnArray, argsArray }: Operators): void =>
    fnArray.forEach((fn, i) => {
      const args = (argsArray[i] ?? []) as readonly unknown[]
      if (args[0] === 'TilingPattern') look(args[2] as Operators)
      else if (wanted.includes(fn)) names.add(String(args[0] === 'Shading' ? args[1] : args[0]))
    })
  look(list)
  return names
}

/** The things of a page that have these names. */
async function objectsOf(
  { commonObjs, objs }: { readonly commonObjs: Objects; readonly objs: Objects },
  names: ReadonlySet<string>,
): Promise<ReadonlyMap<string, unknown>> {
  const found = new Map<string, unknown>()
  for (const name of names)
    await Promise.race([
      new Promise<void>((done) => {
        ;(name.startsWith('g_') ? commonObjs : objs).get(name, (data) => {
          found.set(name, data)
          done()
        })
      }),
      new Promise<void>((done) => setTimeout(done, PATIENCE_MS).unref()),
    ])
  return found
}

const pngOf = (raw: RawPicture, pixelsPerMm: number): Uint8Array =>
  encodePng(raw, { pixelsPerMm, crc32, deflate: (body) => deflateSync(body, { level: 3 }) })
