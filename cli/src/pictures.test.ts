import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  assetsSupply,
  decodePng,
  encodePng,
  type PictureOperation,
  picturedRoot,
  pictureNode,
  unpackJob,
  withFraming,
  withNode,
} from '@neotaxis/core'
import { marksOf } from '@neotaxis/core/testing/sample-job'
import sharp from 'sharp'
import { afterAll, describe, expect, it } from 'vitest'
import { main } from './main.ts'

const folder = mkdtempSync(join(tmpdir(), 'neotaxis-pictures-'))
const at = (name: string): string => join(folder, name)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

async function run(...args: string[]): Promise<{ code: number; out: string; err: string; told: Record<string, never> }> {
  const said = { out: '', err: '' }
  const code = await main(args, {
    out: (text) => {
      said.out += text
    },
    err: (text) => {
      said.err += text
    },
  })
  return { code, ...said, told: said.out.startsWith('{') ? JSON.parse(said.out) : {} }
}

/** A soft picture with some noise, as a photograph has them: a lamp over water. */
function photo(width: number, height: number): string {
  const samples = new Uint8Array(width * height)
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const lamp = 190 * Math.exp(-Math.hypot(x - width * 0.6, y - height * 0.3) / (width * 0.2))
      samples[y * width + x] = Math.min(255, 30 + lamp + 20 * Math.sin(y / 5) + ((x * 7919 + y * 104729) % 13))
    }
  }
  const file = at(`photo-${width}.png`)
  writeFileSync(file, encodePng({ widthPx: width, heightPx: height, channels: 1, samples, full: 255 }))
  return file
}

const STEPS = {
  framing: [
    { kind: 'crop', x: 10, y: 20, width: 150, height: 100 },
    { kind: 'mirror', way: 'left-right' },
  ],
  steps: [
    { kind: 'levels', black: 20, white: 230, gamma: 1.2, ink: [], paper: [{ x: 120, y: 50, radius: 4 }] },
    { kind: 'sharpen', radius: 1, amount: 60, threshold: 2, mask: 'm' },
    { kind: 'clean', below: 0.05, specksMm2: 0 },
    { kind: 'clear', mask: 'm', outside: true },
  ],
  masks: {
    m: {
      name: 'lamp',
      feather: 6,
      order: ['a'],
      parts: { a: { kind: 'rectangle', add: true, x: 40, y: 30, width: 90, height: 70 } },
    },
  },
  dots: { kernel: 'stucki', serpentine: true, linesPerInch: 45, angleDeg: 45, gain: false, asPrepared: false },
}

describe('neotaxis picture', () => {
  it('does with a file of steps what the job does: the same bytes', async () => {
    const source = photo(200, 140)
    writeFileSync(at('steps.json'), JSON.stringify(STEPS))
    const { code, told } = await run(
      ...[
        'picture',
        source,
        '--steps',
        at('steps.json'),
        '--width-mm',
        '30',
        '--interval-mm',
        '0.1',
        '-o',
        at('dots.png'),
        '--json',
      ],
    )
    expect(code).toBe(0)
    expect(told).toMatchObject({ widthPx: 300, heightPx: 200, widthMm: 30, heightMm: 20 })
    expect(Math.abs(told.meanTone - told.wantedTone)).toBeLessThan(0.01)

    await run('propose', source, '--proposal', 'engrave', '--size', '30x', '-o', at('job.neotaxis'))
    const { job, assets } = unpackJob(readFileSync(at('job.neotaxis')))
    const { steps, masks, dots, framing } = STEPS
    const on = <T>(list: readonly T[]): T[] => list.map((step) => ({ on: true, ...step }))
    const treated = withNode(job, 'dots', {
      ...pictureNode(job, 'dots'),
      steps: Object.fromEntries(on(steps).map((step, i) => [`k${i}`, step])),
      order: steps.map((_, i) => `k${i}`),
      masks,
      dots,
    } as never)
    const framed = withFraming(treated, 'dots', on(framing) as never)
    const placed = { ...framed, placements: { source: { ...framed.placements.source, widthMm: 30, heightMm: 20 } } }
    const operation = { ...(job.operations.engrave as PictureOperation), intervalMm: 0.1 }
    const { levels } = marksOf(
      placed,
      operation,
      assetsSupply((name) => assets.get(name)),
    )
    expect([...decodePng(readFileSync(at('dots.png'))).samples]).toEqual([...levels].map((v) => 255 - v))
    expect(picturedRoot(placed, 'dots').framing).toHaveLength(2)
  })

  it('takes one plain list as well, and says what is wrong with others', async () => {
    const source = photo(80, 60)
    writeFileSync(at('list.json'), JSON.stringify([{ kind: 'invert' }, { kind: 'crop', x: 0, y: 0, width: 40, height: 30 }]))
    expect((await run('picture', source, '--steps', at('list.json'), '--json')).told.widthPx).toBeGreaterThan(20)
    for (const [wrong, sentence] of [
      ['[{"kind":"polish"}]', 'does not know'],
      ['{"steps":[{"kind":"levels","black":9,"white":3,"gamma":1,"ink":[],"paper":[]}]}', 'white'],
      ['{"steps":[{"kind":"invert","mask":"gone"}]}', 'missing'],
      ['{', 'no JSON'],
    ]) {
      writeFileSync(at('wrong.json'), wrong)
      const { code, err } = await run('picture', source, '--steps', at('wrong.json'))
      expect([code, err.split('\n').length]).toEqual([1, 2])
      expect(err).toContain(sentence)
    }
  })

  it('knows every short option', async () => {
    const source = photo(160, 120)
    const tell = async (...more: string[]) => (await run('picture', source, '--interval-mm', '0.2', '--json', ...more)).told
    const plain = await tell()
    expect((await tell('--posterise', '2', '--dither', 'none')).coverage).not.toBe(plain.coverage)
    expect((await tell('--flatten')).wantedTone).toBeLessThan(plain.wantedTone)
    expect(Math.abs((await tell('--sharpen', '1.5,120,2')).wantedTone - plain.wantedTone)).toBeLessThan(0.02)
    expect((await tell('--invert')).wantedTone).toBeCloseTo(1 - plain.wantedTone, 2)
    for (const kernel of ['atkinson', 'bayer-8', 'clustered', 'blue-noise', 'jarvis-judice-ninke']) {
      const { meanTone, wantedTone } = await tell('--dither', kernel)
      expect(Math.abs(meanTone - wantedTone)).toBeLessThan(kernel === 'atkinson' ? 0.1 : 0.03)
    }
    expect((await run('picture', source, '--sharpen', '1,2', '--json')).code).toBe(2)
  })

  it('burns dots as they are, and nothing else', async () => {
    const samples = Uint8Array.from({ length: 60 * 40 }, (_, i) => ((i * 7) % 5 < 2 ? 0 : 255))
    writeFileSync(
      at('dots-in.png'),
      encodePng({ widthPx: 60, heightPx: 40, channels: 1, samples, full: 255 }, { pixelsPerMm: 8 }),
    )
    writeFileSync(at('as.json'), JSON.stringify({ steps: [], dots: { ...STEPS.dots, kernel: 'threshold', asPrepared: true } }))
    const done = await run('picture', at('dots-in.png'), '--steps', at('as.json'), '-o', at('dots-out.png'), '--json')
    expect(done.told).toMatchObject({ widthPx: 60, heightPx: 40, intervalMm: 0.125 })
    expect([...decodePng(readFileSync(at('dots-out.png'))).samples]).toEqual([...samples])
    const other = await run('picture', at('dots-in.png'), '--steps', at('as.json'), '--width-mm', '9', '--json')
    expect(other.code).toBe(1)
    expect(other.err).toContain('as prepared it cannot have another size')
  })
})

describe('neotaxis convert', () => {
  const pyramid = (): Uint8Array => {
    const corners = [
      [0, 0, 0],
      [20, 0, 0],
      [20, 10, 0],
      [0, 10, 0],
    ]
    const bytes = new Uint8Array(84 + 4 * 50)
    const view = new DataView(bytes.buffer)
    view.setUint32(80, 4, true)
    corners.forEach((corner, i) => {
      const faces = [corner, corners[(i + 1) % 4], [10, 5, 6]].flat()
      for (const [k, v] of faces.entries()) view.setFloat32(84 + 50 * i + 12 + 4 * k, v, true)
    })
    return bytes
  }

  it('makes a 16-bit height map of a mesh, with its pitch', async () => {
    writeFileSync(at('roof.stl'), pyramid())
    const { code, told } = await run('convert', at('roof.stl'), '--axis', 'z', '--dpi', '254', '-o', at('roof.png'), '--json')
    expect(code).toBe(0)
    expect(told).toMatchObject({ widthPx: 200, heightPx: 100, widthMm: 20, heightMm: 10, depthMm: 6, triangles: 4, dropped: 0 })
    const { samples, full, pixelsPerMm } = decodePng(readFileSync(at('roof.png')))
    expect(full).toBe(65_535)
    expect(pixelsPerMm).toBeCloseTo(10, 3)
    expect(samples[50 * 200 + 100]).toBeGreaterThan(64_000)
    expect(samples[50 * 200 + 2]).toBeLessThan(2500)
    expect((await run('convert', at('roof.stl'), '--axis', 'w', '--json')).code).toBe(2)
    writeFileSync(at('cut.stl'), pyramid().subarray(0, 150))
    expect((await run('convert', at('cut.stl'), '--json')).err).toContain('cut short')
  })

  it('leads on to a job: a mesh is proposed as a relief, and as dots', async () => {
    writeFileSync(at('roof.stl'), pyramid())
    const { told } = await run('propose', at('roof.stl'), '--list', '--json', '--material', 'lime-wood-12')
    expect((told.proposals as { id: string }[]).map(({ id }) => id)).toEqual(['carve-relief', 'relief-dots'])
    const made = await run(
      'propose',
      at('roof.stl'),
      '--proposal',
      'carve-relief',
      '--material',
      'lime-wood-12',
      '-o',
      at('roof.neotaxis'),
    )
    expect(made.code).toBe(0)
    expect((await run('check', at('roof.neotaxis'), '--json')).code).toBe(0)
    expect((await run('plan', at('roof.neotaxis'), '-o', at('roof.gcode'), '--json')).told.burnMm).toBeGreaterThan(1000)
  })
})

describe('proposals', () => {
  const proposed = async (file: string): Promise<string[]> =>
    ((await run('propose', file, '--list', '--json')).told.proposals as { id: string }[]).map(({ id }) => id)

  it('follow from what a picture is', async () => {
    expect((await proposed(photo(240, 180)))[0]).toBe('engrave')
    const dots = Uint8Array.from({ length: 90 * 90 }, (_, i) => ((i * 37 + Math.floor(i / 90) * 11) % 3 ? 255 : 0))
    writeFileSync(at('dotted.png'), encodePng({ widthPx: 90, heightPx: 90, channels: 1, samples: dots, full: 255 }))
    expect((await proposed(at('dotted.png')))[0]).toBe('burn-dots')
    const hill = Uint16Array.from({ length: 200 * 200 }, (_, i) =>
      Math.round(65_535 * Math.max(0, 1 - Math.hypot((i % 200) - 100, Math.floor(i / 200) - 100) / 90)),
    )
    writeFileSync(at('hill.png'), encodePng({ widthPx: 200, heightPx: 200, channels: 1, samples: hill, full: 65_535 }))
    expect((await proposed(at('hill.png')))[0]).toBe('carve-relief')
    const clear = Uint8Array.from({ length: 80 * 80 * 4 }, (_, i) =>
      i % 4 === 3 ? (Math.hypot(((i >> 2) % 80) - 40, Math.floor((i >> 2) / 80) - 40) < 30 ? 255 : 0) : 90,
    )
    writeFileSync(at('clear.png'), encodePng({ widthPx: 80, heightPx: 80, channels: 4, samples: clear, full: 255 }))
    expect(await proposed(at('clear.png'))).toEqual([
      'engrave',
      'engrave-cut-around',
      'cut-shape',
      'fill-shape',
      'engrave-cut-elsewhere',
    ])
  })
})

describe('awkward pictures', () => {
  it('give a correct result or one clear sentence', { timeout: 60_000 }, async () => {
    const prepare = (file: string, ...more: string[]) => run('picture', file, '--json', ...more)
    const save = async (name: string, image: Buffer | { toBuffer(): Promise<Buffer> }): Promise<string> => {
      writeFileSync(at(name), Buffer.isBuffer(image) ? image : await image.toBuffer())
      return at(name)
    }
    const flat = (width: number, height: number, v: number) =>
      sharp({ create: { width, height, channels: 3, background: { r: v, g: v, b: v } } })
    expect((await prepare(await save('dot.png', flat(1, 1, 0).png()), '--width-mm', '5')).told.coverage).toBe(1)
    expect((await prepare(await save('white.png', flat(50, 50, 255).png()))).told.coverage).toBe(0)
    expect((await prepare(await save('black.png', flat(50, 50, 0).png()))).told.coverage).toBe(1)
    expect((await prepare(await save('wide.png', flat(30_000, 4, 128).png()), '--width-mm', '300')).told.meanTone).toBeCloseTo(
      0.5,
      1,
    )
    const cmyk = await save('cmyk.jpg', flat(40, 40, 200).toColourspace('cmyk').jpeg())
    const print = await prepare(cmyk)
    expect(print.code).toBe(0)
    expect(print.told.meanTone).toBeCloseTo(1 - 200 / 255, 1)
    const frames = await sharp(Buffer.from([...new Array(20 * 40 * 3)].map((_, i) => (i < 1200 ? 0 : 255))), {
      raw: { width: 20, height: 40, channels: 3, pageHeight: 20 },
    })
      .gif()
      .toBuffer()
    expect((await prepare(await save('moving.gif', frames))).told.coverage).toBe(1)
    for (const kind of ['jpeg', 'png', 'webp', 'tiff', 'gif'] as const) {
      const whole = await flat(90, 70, 99).toFormat(kind).toBuffer()
      const short = await prepare(await save(`short.${kind}`, whole.subarray(0, Math.floor(whole.length * 0.6))))
      expect([kind, short.code, short.err.trim().split('\n').length]).toEqual([kind, 1, 1])
    }
  })
})
