import express, { type RequestHandler } from 'express'
import { Refusal } from '../refusal.ts'

/** So many files are read at once, and so many bytes of them are in memory at most, on their way to a thread. */
const MOST_FILES = 4
const MOST_BYTES = 600e6

let files = 0
let taken = 0
const waiting: (() => void)[] = []

function next(): void {
  waiting.shift()?.()
}

/**
 * A file as bytes. Bodies are not read before there is room for them: many large uploads at once wait for each other instead of
 * filling the memory. @param mostMb of one file
 */
export function fileBody(mostMb: number): RequestHandler[] {
  const most = mostMb * 1e6
  const room: RequestHandler = async (request, response, done) => {
    const told = Number(request.get('Content-Length'))
    const bytes = Math.min(Number.isFinite(told) && told >= 0 ? told : most, most)
    while (files >= MOST_FILES || (files > 0 && taken + bytes > MOST_BYTES))
      await new Promise<void>((resolve) => waiting.push(resolve))
    // Who gave up while waiting takes no room: it would never be given back. The next one may have it.
    if (response.closed || request.destroyed) return next()
    files++
    taken += bytes
    response.once('close', () => {
      files--
      taken -= bytes
      next()
      // A small one may go beside the one that was let in.
      next()
    })
    done()
  }
  const raw = express.raw({ type: () => true, limit: most })
  const some: RequestHandler = (request, _response, done) => {
    if (!Buffer.isBuffer(request.body) || request.body.length === 0) throw new Refusal(400, 'empty', 'The file is empty.')
    done()
  }
  return [room, raw, some]
}

/** The bytes of a body in memory of their own, so that they can be handed to a thread without being copied. */
export function handedOver(body: Buffer): { readonly bytes: Uint8Array<ArrayBuffer>; readonly transfer: [ArrayBuffer] } {
  const bytes =
    body.byteOffset === 0 && body.byteLength === body.buffer.byteLength && body.buffer instanceof ArrayBuffer
      ? new Uint8Array(body.buffer)
      : new Uint8Array(body)
  return { bytes, transfer: [bytes.buffer] }
}
