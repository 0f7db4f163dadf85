import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'

const { resolve } = createRequire(import.meta.url)

/** The fonts of outlines that ship with Neotaxis, all under the SIL Open Font License. */
const FILES = [
  { id: 'plain', file: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff' },
  { id: 'plain-bold', file: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff' },
  { id: 'slab', file: '@fontsource/besley/files/besley-latin-400-normal.woff' },
  { id: 'slab-bold', file: '@fontsource/besley/files/besley-latin-700-normal.woff' },
  { id: 'hand', file: '@fontsource/caveat/files/caveat-latin-700-normal.woff' },
  { id: 'stencil', file: '@fontsource/saira-stencil-one/files/saira-stencil-one-latin-400-normal.woff' },
] as const

const NAMES: Readonly<Record<(typeof FILES)[number]['id'], string>> = {
  plain: 'Plain',
  'plain-bold': 'Plain, bold',
  slab: 'Slab',
  'slab-bold': 'Slab, bold',
  hand: 'Handwriting',
  stencil: 'Stencil, islands held',
}

export interface ShippedFont {
  readonly id: string
  /** What it is like; its own name stands in its file. */
  readonly name: string
  readonly bytes: Uint8Array
}

/** The fonts that ship, read from their packages. */
export const shippedFonts = (): ShippedFont[] =>
  FILES.map(({ id, file }) => ({ id, name: NAMES[id], bytes: new Uint8Array(readFileSync(resolve(file))) }))
