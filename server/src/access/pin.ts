import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'

/** Work that one try costs: about 50 ms and 32 MB, beside the server's own thread. */
const N = 1 << 15
const KEY_BYTES = 32

const derived = (pin: string, salt: Buffer): Promise<Buffer> =>
  new Promise((resolve, reject) =>
    scrypt(pin, salt, KEY_BYTES, { N, r: 8, p: 1, maxmem: 64 << 20 }, (error, key) => (error ? reject(error) : resolve(key))),
  )

/** A PIN as it is kept: scrypt with a salt of its own. */
export async function hashPin(pin: string): Promise<string> {
  const salt = randomBytes(16)
  return `scrypt:${salt.toString('base64')}:${(await derived(pin, salt)).toString('base64')}`
}

/** Whether a PIN is the one that was kept. */
export async function isPin(pin: string, kept: string): Promise<boolean> {
  const [, salt, key] = kept.split(':')
  const expected = Buffer.from(key ?? '', 'base64')
  const found = await derived(pin, Buffer.from(salt ?? '', 'base64'))
  return expected.length === found.length && timingSafeEqual(expected, found)
}
