import {
  checkFindings,
  checkJob,
  decodePng,
  greyFromPng,
  histogram,
  measureJob,
  otsuThreshold,
  ResultCache,
  toGrey,
} from '@neotaxis/core'
import { describe, expect, it } from 'vitest'
import { dropFiles, tideClockFace } from './pictures.ts'
import { tideClockJob } from './tide-clock.ts'

describe('the tide clock', () => {
  const job = tideClockJob({ name: 'tide-clock-face.png', asset: 'e'.repeat(64), widthPx: 1600, heightPx: 1600, hasAlpha: false })
  const picture = toGrey(tideClockFace())
  const bench = { cache: new ResultCache(), picture: () => picture }

  it('is a whole job that is ready to run', () => {
    expect(checkJob(job)).toEqual(job)
    expect(checkFindings(job, bench)).toEqual([])
    expect(job.runOrder).toEqual(['engrave', 'cut'])
  })

  it('takes some minutes, most of them for the picture', () => {
    const { seconds, operations } = measureJob(job, bench)
    expect(seconds).toBeGreaterThan(300)
    expect(seconds).toBeLessThan(1500)
    expect(operations[0].seconds).toBeGreaterThan(operations[1].seconds)
  })
})

describe('the files to drop', () => {
  const files = dropFiles()

  it('are three pictures of the kinds that people have', () => {
    expect(Object.keys(files).sort()).toEqual(['ferry.png', 'harbour-night.png', 'lino-fish.png'])
    const counts = (name: string): Uint32Array => histogram(greyFromPng(files[name]))
    const used = (list: Uint32Array): number => list.filter((n) => n > 0).length
    expect(used(counts('harbour-night.png'))).toBeGreaterThan(150)
    const two = counts('lino-fish.png')
    expect((two[0] + two[255]) / two.reduce((sum, n) => sum + n, 0)).toBeGreaterThan(0.97)
    expect(otsuThreshold(two)).toBeCloseTo(0.5, 1)
  })

  it('tell transparency and size where they have them', () => {
    const ferry = decodePng(files['ferry.png'])
    expect(ferry.pixelsPerMm).toBeCloseTo(12, 3)
    expect(greyFromPng(files['ferry.png']).alpha).toBeDefined()
    expect(greyFromPng(files['lino-fish.png']).alpha).toBeUndefined()
  })

  it('are the same bytes every time', () => {
    for (const [name, bytes] of Object.entries(dropFiles()))
      expect(Buffer.compare(Buffer.from(bytes), Buffer.from(files[name]))).toBe(0)
  })
})
