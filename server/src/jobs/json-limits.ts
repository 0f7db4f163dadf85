import { Refusal } from '../refusal.ts'

/** No job nests deeper; reading deeper ones would end in an overflow of the stack. */
const DEEPEST = 64

const QUOTE = 34
const BACKSLASH = 92

/**
 * Reads JSON from outside. @param bytes UTF-8 @param most bytes it may have
 * @throws Refusal where it is too large, nests too deep, or is no JSON: before anything is built from it
 */
export function readJson(bytes: Uint8Array, most: number, what: string): unknown {
  if (bytes.length > most)
    throw new Refusal(413, 'too-large', `${what} is larger than ${Math.round(most / 1e6)} MB: that is more than can be used.`)
  let depth = 0
  let inText = false
  for (let i = 0; i < bytes.length; i++) {
    const code = bytes[i]
    if (inText) {
      if (code === BACKSLASH) i++
      else if (code === QUOTE) inText = false
    } else if (code === QUOTE) inText = true
    else if (code === 123 || code === 91) {
      if (++depth > DEEPEST) throw new Refusal(422, 'too-deep', `${what} nests deeper than anything that belongs in it.`)
    } else if (code === 125 || code === 93) depth--
  }
  try {
    return JSON.parse(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length).toString('utf8'))
  } catch {
    throw new Refusal(400, 'bad-request', `${what} is not JSON.`)
  }
}
