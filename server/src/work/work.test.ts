// The pool of threads, as it ships: limits, priorities, errors that cross.
import { encodePng } from '@neotaxis/core'
import { sampleJob, squarePicture } from '@neotaxis/core/testing/sample-job'
import { strToU8, type Zippable, zipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Refusal } from '../refusal.ts'
import { openShop, type Shop } from '../testing/shop.ts'
import { Work } from './work.ts'

let shop: Shop
beforeAll(async () => {
  shop = await openShop({ name: 'work' })
})
afterAll(() => shop.end())

const png = (side: number): Uint8Array => {
  const samples = Uint8Array.from({ length: side * side }, (_, i) => (Math.imul(i, 2654435761) >>> 24) & 255)
  return encodePng({ widthPx: side, heightPx: side, channels: 1, samples, full: 255 })
}
/** Writes a size into the last entry of a ZIP's directory: how large it is said to be unpacked. */
function claim(file: Uint8Array, bytes: number): void {
  const view = new DataView(file.buffer, file.byteOffset)
  for (let at = file.length - 46; at >= 0; at--)
    if (view.getUint32(at, true) === 0x02014b50) {
      view.setUint32(at + 24, bytes, true)
      return
    }
}

const refusal = async (work: Promise<unknown>): Promise<Refusal> =>
  work.then(
    () => {
      throw new Error('It was done.')
    },
    (cause) => {
      expect(cause).toBeInstanceOf(Refusal)
      return cause as Refusal
    },
  )

describe('work in threads', () => {
  it('gives back what was made, and sentences of whatever kind of error it was', async () => {
    const { work } = shop
    expect(await work.run('takeIn', png(20))).toMatchObject({ widthPx: 20, heightPx: 20 })
    expect(await refusal(work.run('takeIn', Buffer.from('no picture')))).toMatchObject({ status: 422, code: 'no-picture' })
    expect(await refusal(work.run('openJob', 'gone'))).toMatchObject({ status: 404, code: 'no-job' })
    expect(await refusal(work.run('createJob', Buffer.from('{"job":{"format":"other"}}')))).toMatchObject({
      status: 422,
      code: 'bad-job',
      message: 'This is not a Neotaxis job.',
    })
    expect(await refusal(work.run('createJob', Buffer.from('{"job":')))).toMatchObject({ status: 400 })
  })

  it('takes bytes without copying them, where they are handed over', async () => {
    const bytes = new Uint8Array(png(20))
    await shop.work.run('takeIn', bytes, { transfer: [bytes.buffer] })
    expect(bytes.byteLength).toBe(0)
  })

  it('ends when it is called off, and the thread is there for the next', async () => {
    const abort = new AbortController()
    const slow = shop.work.run('takeIn', png(3000), { signal: abort.signal })
    await new Promise((resolve) => setTimeout(resolve, 30))
    abort.abort()
    await expect(slow).rejects.toMatchObject({ name: 'AbortError' })
    expect(await shop.work.run('takeIn', png(24))).toMatchObject({ widthPx: 24 })
  })

  it('of a save is not held up by pictures that wait', async () => {
    const picture = squarePicture(20, 5)
    const { body } = await shop.ask
      .post('/api/assets')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(png(30)))
    const sample = sampleJob({ picture })
    const job = { ...sample, nodes: { ...sample.nodes, source: { ...sample.nodes.source, asset: body.asset } } }
    const { id } = (await shop.ask.post('/api/jobs').send({ job }).expect(201)).body
    let pictures = 0
    const busy = Array.from({ length: 12 }, (_, i) => shop.work.run('takeIn', png(1500 + i)).then(() => pictures++))
    await shop.ask.get(`/api/jobs/${id}`).expect(200)
    const edit = { id: 'e', name: 'name', kind: 'edit', patches: [{ path: ['name'], value: 'Quick' }] }
    await shop.ask
      .post(`/api/jobs/${id}/edits`)
      .send({ base: 0, edits: [edit] })
      .expect(200)
    expect(pictures).toBeLessThan(12)
    await Promise.all(busy)
  })

  it('that unpacks to more than can be used is refused before it is unpacked, whatever its header says', async () => {
    const job = strToU8(JSON.stringify(sampleJob({ picture: squarePicture(10, 5) })))
    const asset = `assets/${'a'.repeat(64)}.png`
    const refused = async (files: Zippable, claims?: number): Promise<string> => {
      const file = zipSync(files)
      if (claims !== undefined) claim(file, claims)
      return (await refusal(shop.work.run('openFile', file))).message
    }
    expect(await refused({ 'job.json': job, [asset]: new Uint8Array(100) }, 900_000_000)).toContain('more than can be used')
    expect(await refused({ 'job.json': [new Uint8Array(21_000_000), { level: 1 }] })).toContain('more than can be used')
    // It claims to be small and is not.
    expect(await refused({ 'job.json': job, [asset]: [new Uint8Array(5_000_000), { level: 6 }] }, 10)).toMatch(/damaged/)
  })

  it('is told to come again where too much waits', async () => {
    const crowded = new Work({ host: '127.0.0.1', port: 1, user: 'root', password: '', name: 'none' })
    const all = Array.from({ length: 300 }, () => crowded.run('openJob', 'x').catch((cause: unknown) => cause))
    const busy = (await Promise.race([
      Promise.all(all.slice(290)),
      new Promise<never[]>((resolve) => setTimeout(resolve, 5000, [])),
    ])) as {
      code?: string
    }[]
    expect(busy.map(({ code }) => code)).toEqual(Array(10).fill('busy'))
    await crowded.close()
  })
})
