/// <reference path="./modules.d.ts" />
import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import decode, { init } from '@jsquash/webp/decode.js'
import type { Decoded } from './take-in.ts'

const require = createRequire(import.meta.url)
let compiled: Promise<WebAssembly.Module> | undefined
let ready: Promise<void> | undefined

/** A damaged picture can leave the decoder's memory in disorder, so that a later one never ends: after each, a fresh decoder starts. */
async function decodeFresh(bytes: Uint8Array): ReturnType<typeof decode> {
  compiled ??= readFile(require.resolve('@jsquash/webp/codec/dec/webp_dec.wasm')).then((file) => WebAssembly.compile(file))
  ready ??= compiled.then((module) => init(module))
  await ready
  try {
    return await decode(new Uint8Array(bytes).buffer)
  } catch (cause) {
    ready = undefined
    throw cause
  }
}

/** WebP, lossy or lossless, its first picture. */
export async function decodeWebp(bytes: Uint8Array): Promise<Decoded> {
  const { width, height, data } = await decodeFresh(bytes)
  return {
    widthPx: width,
    heightPx: height,
    channels: 4,
    samples: new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
    full: 255,
  }
}
