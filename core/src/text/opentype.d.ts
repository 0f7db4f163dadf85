/** What is used of the package: it ships without types. */
declare module 'opentype.js/dist/opentype.mjs' {
  export type Command =
    | { readonly type: 'M'; readonly x: number; readonly y: number }
    | { readonly type: 'L'; readonly x: number; readonly y: number }
    | { readonly type: 'Q'; readonly x1: number; readonly y1: number; readonly x: number; readonly y: number }
    | {
        readonly type: 'C'
        readonly x1: number
        readonly y1: number
        readonly x2: number
        readonly y2: number
        readonly x: number
        readonly y: number
      }
    | { readonly type: 'Z' }
  export interface Glyph {
    readonly index: number
    readonly advanceWidth?: number
    readonly getPath: (x: number, y: number, size: number) => { readonly commands: readonly Command[] }
    readonly getBoundingBox: () => { readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number }
  }
  type Names = { readonly fullName?: Record<string, string>; readonly fontFamily?: Record<string, string> }
  export interface Font {
    readonly unitsPerEm: number
    readonly glyphs: { readonly length: number }
    readonly names: { readonly windows?: Names; readonly macintosh?: Names; readonly unicode?: Names }
    readonly tables: { readonly os2?: { readonly sCapHeight?: number } }
    readonly stringToGlyphs: (text: string) => readonly Glyph[]
    readonly charToGlyphIndex: (character: string) => number
    readonly charToGlyph: (character: string) => Glyph
    readonly getKerningValue: (left: Glyph, right: Glyph) => number
  }
  /** @throws where the font is damaged */
  export function parse(buffer: ArrayBuffer): Font
}
