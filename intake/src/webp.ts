/// <reference path="./modules.d.ts" />
import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import decode, { init } from '@jsquash/webp/decode.js'
import type { Decoded } from './take-in.ts'

const require = createRequire(import.meta.url)
let ready: Promise<void> | undefined

async function start(): Promise<void> {
  const file = require.resolve('@jsquash/webp/codec/dec/webp_dec.wasm')
  await init(await WebAssembly.compile(await readFile(file)))
}

/** WebP, lossy or lossless, its first picture. */
export async function decodeWebp(bytes: Uint8Array): Promise<Decoded> {
  ready ??= start()
  await ready
  const { width, height, data } = await decode(new Uint8Array(bytes).buffer)
  return {
    widthPx: width,
    heightPx: height,
    channels: 4,
    samples: new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
    full: 255,
  }
}
