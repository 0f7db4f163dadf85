declare module 'bidi-js' {
  interface Bidi {
    /** Levels of a text, one for each of its UTF-16 units. */
    getEmbeddingLevels(text: string, baseDirection?: 'ltr' | 'rtl'): { readonly levels: Uint8Array }
  }
  export default function bidiFactory(): Bidi
}
