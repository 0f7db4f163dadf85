/// <reference path="../modules.d.ts" />
import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import encode, { init } from '@jsquash/jpeg/encode.js'

const require = createRequire(import.meta.url)
let ready: Promise<void> | undefined

/** A photo as JPEG, as good as cameras make them. @param rgba red, green, blue and opacity of each pixel */
export async function jpegOf(rgba: Uint8ClampedArray, widthPx: number, heightPx: number, quality = 88): Promise<Uint8Array> {
  ready ??= readFile(require.resolve('@jsquash/jpeg/codec/enc/mozjpeg_enc.wasm'))
    .then((file) => WebAssembly.compile(file))
    .then((module) => init(module))
  await ready
  return new Uint8Array(await encode({ data: rgba, width: widthPx, height: heightPx } as never, { quality }))
}
